/**
 * Filling axes and values: which axes a product has, by number or by the headers of columns, and which value a variant has on each.
 *
 * State of one block: the axes of the product whose rows are being read.
 */

import { present } from "../../checked.js";
import { eachOnce } from "../../lists.js";
import type { Header, Lang } from "../../nominal.js";
import { noReference } from "../../catalogue/reference-pool.js";
import type { ReferenceColumn } from "../../catalogue/reference-column.js";
import type { Table } from "../../catalogue/table.js";
import type { CellValue, Codec, Problem } from "../../codecs/codec.js";
import { textCodec } from "../../codecs/scalars.js";
import { phrase } from "../../phrases/phrase.js";
import { finding } from "../../findings/finding.js";
import { markCell, type BlockRow } from "../read/block-row.js";
import type { FillContext } from "./context.js";
import type { Column, Feed } from "../layout.js";
import { cellMark } from "../read/tally.js";
import { shorten } from "../../shorten.js";

interface AxisColumn {
  readonly index: number;
  readonly header: Header;
  readonly codec: Codec;
  /** Which place of a list in the cell it is. */
  readonly place: number | undefined;
  readonly target: AxisTarget;
  /** Numbers of the specs by which the column names axes and values. */
  readonly axisSpec: number;
  readonly valueSpec: number;
}

type AxisTarget = Extract<Feed, { is: "axis" | "named-axis" }>;
type AxesTarget = Extract<Feed, { is: "axes" }>;

/** A cell with all axes stands for as many columns of one. */
const mostInList = 20;
const columnsOf = (target: AxisTarget | AxesTarget): readonly AxisTarget[] => {
  if (target.is !== "axes") return [target];
  const { lang, leads } = target;
  const holds = target.holds === "names" ? "name" : "value";
  return Array.from({ length: mostInList }, (_, at) => ({ is: "axis", number: at + 1, holds, lang, leads }) as const);
};

const none: readonly number[] = [];

export class AxisFill {
  /** Columns of axes' names, of values by number, of values by header; those in the leading language before the others. */
  readonly #names: readonly AxisColumn[];
  readonly #values: readonly AxisColumn[];
  /** Whether values are named in several languages. */
  readonly #isNamedAgain: boolean;
  readonly #axesColumn: ReferenceColumn | undefined;
  readonly #valuesColumn: ReferenceColumn | undefined;
  /** The references of the axes of the product whose rows are being read, by number from 1. */
  byNumber: readonly (number | undefined)[] = [];
  #axes: readonly number[] = [];
  /** The list that was parsed last. */
  #list: { readonly cell: string; readonly codec: Codec; readonly value: CellValue | Problem } | undefined;

  constructor(
    readonly context: FillContext,
    parents: Table,
    readonly children: Table | undefined,
    columns: readonly Column[],
  ) {
    const all = columns.flatMap(({ header, bindings }) =>
      bindings.flatMap(({ feed, codec }): AxisColumn[] => {
        if (feed.is !== "axis" && feed.is !== "axes" && feed.is !== "named-axis") return [];
        if (feed.is !== "axes" && feed.holds === "values") return [];
        return columnsOf(feed).map((target, at) => {
          const axisLang = target.is === "axis" ? target.lang : target.axisLang;
          const specs = { axisSpec: this.#spec("axis", axisLang), valueSpec: this.#spec("value", target.lang) };
          const place = feed.is === "axes" ? at : undefined;
          return { index: context.indexOf(header), header, codec, place, target, ...specs };
        });
      }),
    );
    const isName = ({ target }: AxisColumn) => target.is === "axis" && target.holds === "name";
    this.#names = leadersFirst(all.filter(isName));
    this.#values = leadersFirst(all.filter((column) => !isName(column)));
    this.#isNamedAgain = this.#values.some(({ target }) => !target.leads);
    this.#axesColumn = all.length > 0 ? parents.referenceColumn("axes") : undefined;
    this.#valuesColumn = all.length > 0 ? children?.referenceColumn("values") : undefined;
  }

  #spec(to: string, lang: Lang): number {
    return this.context.catalogue.pool.specNumber({ to, by: "name", lang, missing: "create", inTree: false });
  }

  isBlank(row: BlockRow): boolean {
    return [...this.#names, ...this.#values].every(({ index }) => (row.cells[index] ?? "") === "");
  }

  /** Begins a block: the axes that its first row names. Rows that come back to a product go on with the axes it has. */
  parent(parent: number, row: BlockRow): void {
    if (!this.#axesColumn) return;
    this.#axes = [...this.#axesColumn.get(parent)];
    const byNumber: (number | undefined)[] = [undefined, ...this.#axes];
    this.byNumber = byNumber;
    const isKnown = this.#axes.length > 0 && this.context.translates;
    for (const column of this.#names) {
      const { target, axisSpec } = column;
      const cell = this.#textOf(column, row);
      if (cell === "" || target.is !== "axis") continue;
      if (!target.leads || isKnown) this.#nameIn(byNumber[target.number], target.lang, cell, column, row);
      else {
        byNumber[target.number] = this.#intern(axisSpec, noReference, cell, row);
        markCell(row, column.index, cellMark.taken);
      }
    }
    const named = byNumber.filter((axis) => axis !== undefined);
    this.#axes = eachOnce([...named, ...this.#axes]);
    if (this.#axes.length > 0) this.#axesColumn.set(parent, this.#axes);
  }

  child(child: number, row: BlockRow, parent: number): void {
    if (!this.#valuesColumn) return;
    /** By the axis, its number or its name, where other columns name it in other languages. */
    const byAxis = this.#isNamedAgain ? new Map<number | string, number>() : undefined;
    const values: number[] = [];
    const known = this.context.merging ? this.#valuesColumn.get(child) : none;
    for (const column of this.#values) {
      const cell = this.#textOf(column, row);
      if (cell === "") continue;
      const { target } = column;
      const knownValue = known.length > 0 ? this.#valueOn(known, target, column, row) : undefined;
      if (knownValue !== undefined) this.#agree(knownValue, column, cell, child, row);
      else if (!target.leads) this.#nameIn(byAxis?.get(axisOf(target)), target.lang, cell, column, row);
      else {
        const axis =
          target.is === "axis" ? this.byNumber[target.number] : this.#namedAxis(column, target.axis, parent, row);
        if (axis === undefined) this.#noAxis(column, target.is === "axis" ? target.number : 0, cell, child, row);
        else {
          const value = this.#intern(column.valueSpec, axis, cell, row);
          byAxis?.set(axisOf(target), value);
          values.push(value);
          markCell(row, column.index, cellMark.taken);
        }
      }
    }
    if (values.length > 0) this.#valuesColumn.set(child, [...known, ...values]);
  }

  #textOf({ index, codec, header, place }: AxisColumn, row: BlockRow): string {
    const cell = row.cells[index] ?? "";
    if (cell === "" || codec === textCodec) return cell;
    const value = place === undefined ? codec.parse(cell) : this.#listIn(codec, cell);
    if (typeof value === "string") return value;
    if (place !== undefined && Array.isArray(value)) {
      if (place === 0 && value.length > mostInList) this.#tooMany(value.length, row, header, index);
      return value.length > mostInList ? "" : String(value[place] ?? "");
    }
    if ((place ?? 0) > 0) return "";
    const { problem, text, wanted } = value as Problem;
    this.context.findings.add(finding(`cell/${problem}`, { text, wanted }, this.context.location(row.line, header)));
    markCell(row, index, cellMark.reported);
    return "";
  }

  /** Of a cell that lists axes, each place asks for the same list. */
  #listIn(codec: Codec, cell: string): CellValue | Problem {
    if (this.#list?.cell !== cell || this.#list.codec !== codec) this.#list = { cell, codec, value: codec.parse(cell) };
    return this.#list.value;
  }

  #tooMany(axes: number, row: BlockRow, header: Header, index: number): void {
    const facts = { text: String(axes), wanted: phrase("at most {0} axes", mostInList) };
    this.context.findings.add(finding("cell/too-many-parts", facts, this.context.location(row.line, header)));
    markCell(row, index, cellMark.reported);
  }

  /** The value that a variant known from before has on a column's axis. */
  #valueOn(
    known: readonly number[],
    target: AxisColumn["target"],
    { axisSpec }: AxisColumn,
    row: BlockRow,
  ): number | undefined {
    const { pool } = this.context.catalogue;
    const axis =
      target.is === "axis" ? this.byNumber[target.number] : this.#intern(axisSpec, noReference, target.axis, row);
    return known.find((value) => pool.within(value) === axis);
  }

  /** The value given again: in another language it is its name, in the same it has to be the same. */
  #agree(value: number, column: AxisColumn, cell: string, child: number, row: BlockRow): void {
    const { target, valueSpec, header, index } = column;
    const { pool } = this.context.catalogue;
    if (pool.text(value) === cell) markCell(row, index, cellMark.taken);
    else if (pool.specs[valueSpec] !== pool.spec(value)) this.#nameIn(value, target.lang, cell, column, row);
    else {
      // Which of the two wins is reported; the value stays what it was.
      this.context.wins(
        present(this.children),
        "values",
        child,
        shorten(cell),
        shorten(pool.text(value)),
        row.line,
        header,
      );
      markCell(row, index, cellMark.reported);
    }
  }

  #namedAxis({ axisSpec }: AxisColumn, name: string, parent: number, row: BlockRow): number {
    const axis = this.#intern(axisSpec, noReference, name, row);
    if (!this.#axes.includes(axis)) present(this.#axesColumn).set(parent, (this.#axes = [...this.#axes, axis]));
    return axis;
  }

  #noAxis({ header, index }: AxisColumn, number: number, cell: string, child: number, row: BlockRow): void {
    markCell(row, index, cellMark.reported);
    const location = this.context.location(row.line, header, this.children, child);
    this.context.findings.add(finding("read/value-without-axis", { value: shorten(cell), axis: number }, location));
  }

  #intern(spec: number, within: number, text: string, { line }: BlockRow): number {
    return this.context.catalogue.pool.intern(spec, within, text, { sheet: this.context.sheet, line });
  }

  #nameIn(reference: number | undefined, lang: Lang, name: string, { index, target }: AxisColumn, row: BlockRow): void {
    if (reference === undefined) {
      // Where the leading language's own cell was reported, this is its consequence.
      const isLead = (one: AxisColumn) =>
        one.target.leads &&
        one.target.holds === target.holds &&
        axisOf(one.target) === axisOf(target) &&
        row.marks[one.index] === cellMark.reported;
      if ([...this.#names, ...this.#values].some(isLead)) markCell(row, index, cellMark.reported);
      return;
    }
    const met = { sheet: this.context.sheet, line: row.line };
    this.context.catalogue.state({ reference, field: `name@${lang}`, value: name, met });
    markCell(row, index, cellMark.taken);
  }
}

const axisOf = (target: AxisColumn["target"]): number | string =>
  target.is === "axis" ? target.number : `${target.axis}@${target.axisLang}`;

/** Numbered axes in their order, whatever that of their columns. */
function leadersFirst(columns: readonly AxisColumn[]): AxisColumn[] {
  const numberOf = ({ target }: AxisColumn) => (target.is === "axis" ? target.number : 0);
  const leads = ({ target }: AxisColumn) => target.leads;
  const inOrder = columns.filter(leads).sort((a, b) => numberOf(a) - numberOf(b));
  return [...inOrder, ...columns.filter((column) => !leads(column))];
}
