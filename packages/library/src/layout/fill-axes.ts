/**
 * Filling axes and values: which axes a product has, by number or by the headers of columns, and which value a variant has on each.
 *
 * State of one block: the axes of the product whose rows are being read.
 */

import { noReference } from "../catalogue/reference-pool.js";
import type { ReferenceColumn } from "../catalogue/reference-column.js";
import type { Table } from "../catalogue/table.js";
import { finding } from "../finding.js";
import type { BlockRow } from "./cut.js";
import { shorten, type FillContext } from "./fill-context.js";
import type { Column, Target } from "./layout.js";

interface AxisColumn {
  readonly index: number;
  readonly header: string;
  readonly target: Extract<Target, { feeds: "axis" | "named-axis" }>;
  /** Numbers of the specs by which the column names axes and values. */
  readonly axisSpec: number;
  readonly valueSpec: number;
}

export class AxisFill {
  /** Columns of axes' names, of values by number, of values by header; those in the leading language before the others. */
  readonly #names: readonly AxisColumn[];
  readonly #values: readonly AxisColumn[];
  readonly #axesColumn: ReferenceColumn | undefined;
  readonly #valuesColumn: ReferenceColumn | undefined;
  #byNumber: (number | undefined)[] = [];
  #axes: number[] = [];

  constructor(
    readonly context: FillContext,
    parents: Table,
    readonly children: Table | undefined,
    columns: readonly Column[],
  ) {
    const all = columns.flatMap(({ header, bindings }) =>
      bindings.flatMap(({ target }): AxisColumn[] => {
        if (target.feeds !== "axis" && target.feeds !== "named-axis") return [];
        const specs = { axisSpec: this.#spec("axis", target.lang), valueSpec: this.#spec("value", target.lang) };
        return [{ index: context.indexOf(header), header, target, ...specs }];
      }),
    );
    const isName = ({ target }: AxisColumn) => target.feeds === "axis" && target.holds === "name";
    this.#names = leadersFirst(all.filter(isName));
    this.#values = leadersFirst(all.filter((column) => !isName(column)));
    this.#axesColumn = all.length > 0 ? parents.referenceColumn("axes") : undefined;
    this.#valuesColumn = all.length > 0 ? children?.referenceColumn("values") : undefined;
  }

  #spec(to: string, lang: string): number {
    return this.context.catalogue.pool.specNumber({ to, by: "name", lang, missing: "create", inTree: false });
  }

  isBlank(row: BlockRow): boolean {
    return [...this.#names, ...this.#values].every(({ index }) => (row.cells[index] ?? "") === "");
  }

  /** Begins a block: the axes that its first row names. Rows that come back to a product go on with the axes it has. */
  parent(parent: number, row: BlockRow): void {
    if (!this.#axesColumn) return;
    this.#axes = [...this.#axesColumn.get(parent)];
    this.#byNumber = [undefined, ...this.#axes];
    for (const { index, target, axisSpec } of this.#names) {
      const cell = row.cells[index] ?? "";
      if (cell === "" || target.feeds !== "axis") continue;
      if (target.leads) this.#byNumber[target.number] = this.#intern(axisSpec, noReference, cell, row);
      else this.#nameIn(this.#byNumber[target.number], target.lang, cell, row);
    }
    const named = this.#byNumber.filter((axis) => axis !== undefined);
    this.#axes = [...new Set([...named, ...this.#axes])];
    if (this.#axes.length > 0) this.#axesColumn.set(parent, this.#axes);
  }

  child(child: number, row: BlockRow, parent: number): void {
    if (!this.#valuesColumn) return;
    const byNumber: (number | undefined)[] = [];
    const values: number[] = [];
    for (const column of this.#values) {
      const cell = row.cells[column.index] ?? "";
      if (cell === "") continue;
      const { target } = column;
      if (target.feeds === "named-axis")
        values.push(this.#intern(column.valueSpec, this.#namedAxis(column, target.axis, parent, row), cell, row));
      else if (!target.leads) this.#nameIn(byNumber[target.number], target.lang, cell, row);
      else {
        const axis = this.#byNumber[target.number];
        if (axis === undefined) this.#noAxis(column, target.number, cell, child, row);
        else values.push((byNumber[target.number] = this.#intern(column.valueSpec, axis, cell, row)));
      }
    }
    if (values.length > 0) this.#valuesColumn.set(child, values);
  }

  #namedAxis({ axisSpec }: AxisColumn, name: string, parent: number, row: BlockRow): number {
    const axis = this.#intern(axisSpec, noReference, name, row);
    if (!this.#axes.includes(axis)) this.#axesColumn!.set(parent, (this.#axes = [...this.#axes, axis]));
    return axis;
  }

  #noAxis({ header }: AxisColumn, number: number, cell: string, child: number, row: BlockRow): void {
    const place = this.context.place(row.line, header, this.children, child);
    this.context.findings.add(finding("read/value-without-axis", { value: shorten(cell), axis: number }, place));
  }

  #intern(spec: number, within: number, text: string, { line }: BlockRow): number {
    return this.context.catalogue.pool.intern(spec, within, text, { sheet: this.context.sheet, line });
  }

  #nameIn(reference: number | undefined, lang: string, name: string, { line }: BlockRow): void {
    if (reference !== undefined)
      this.context.catalogue.addNaming({ reference, lang, name, met: { sheet: this.context.sheet, line } });
  }
}

function leadersFirst(columns: readonly AxisColumn[]): AxisColumn[] {
  const leads = ({ target }: AxisColumn) => target.feeds === "named-axis" || target.leads;
  return [...columns.filter(leads), ...columns.filter((column) => !leads(column))];
}
