/**
 * Filling one record from the cells of one row: its fields and references. Its entries are filled in `fill-entries.ts`.
 *
 * Each binding is turned once into a function that sets one cell; rows run through them.
 */

import type { Header, Lang } from "../nominal.js";
import { firstOf, present } from "../checked.js";
import { fieldOfColumn } from "../field-name.js";
import { noReference } from "../catalogue/reference-pool.js";
import type { Table } from "../catalogue/table.js";
import type { TextColumn } from "../catalogue/text-column.js";
import { isProblem, type Problem } from "../codecs/codec.js";
import { finding } from "../findings/finding.js";
import { fieldOf } from "../kind.js";
import { markCell, type BlockRow } from "./cut.js";
import type { FillContext } from "./fill-context.js";
import { EntryFills } from "./fill-entries.js";
import { isNumbers, referencesReader } from "./fill-references.js";
import type { Binding, Column, Lane, Feed } from "./layout.js";
import { cellMark, type CellMark } from "./tally.js";

/** Sets a field of a record from a cell that is not blank. @returns what became of the cell. */
type Fill = (row: number, cell: string, line: number) => CellMark;

interface FillColumn {
  readonly index: number;
  readonly header: Header;
  readonly fills: readonly Fill[];
  /** What a blank cell empties. */
  readonly empties: readonly TextColumn[];
  /** What a blank cell stands for. */
  readonly blankMeans: string | undefined;
}

/** How the cells of one scope fill records of one table. */
export class RecordFill {
  readonly #columns: FillColumn[] = [];
  readonly #entries: EntryFills;

  constructor(
    readonly context: FillContext,
    readonly table: Table,
    columns: readonly Column[],
  ) {
    this.#entries = new EntryFills(context, table);
    // What is reported of referenced records comes after the references.
    for (const isLater of [false, true]) for (const column of columns) this.#add(column, isLater);
  }

  #add(column: Column, isLater: boolean): void {
    const { context, table } = this;
    const index = context.indexOf(column.header);
    const fills: Fill[] = [];
    const empties: TextColumn[] = [];
    for (const binding of column.bindings) {
      const { feed: target } = binding;
      if ((target.is === "naming" || target.is === "referred") !== isLater) continue;
      if (target.is === "entry" || target.is === "entries") {
        this.#entries.add(index, column.header, target, binding);
        continue;
      }
      const fill = fillOf(context, table, binding, column.header);
      if (fill) fills.push(fill);
      if (binding.blankEmpties && target.is === "text") empties.push(table.textColumn(target.field));
    }
    if (fills.length > 0)
      this.#columns.push({ index, header: column.header, fills, empties, blankMeans: column.blankMeans });
  }

  fill(record: number, row: BlockRow): void {
    const model = this.context.model.cells;
    for (const { index, header, fills, empties, blankMeans } of this.#columns) {
      let cell = row.cells[index];
      if (cell === undefined) continue;
      if (cell === "") cell = blankMeans ?? model?.[index] ?? "";
      if (cell === "") {
        for (const column of empties) column.set(record, null);
      } else if (this.context.isTooLong(cell, row.line, header)) markCell(row, index, cellMark.reported);
      else for (const set of fills) markCell(row, index, set(record, cell, row.line));
    }
    this.#entries.fill(record, row);
  }
}

function fillOf(context: FillContext, table: Table, binding: Binding, header: Header): Fill | undefined {
  const { feed: target } = binding;
  switch (target.is) {
    case "text":
      return (
        fieldOf(table.kind, fieldOfColumn(target.field)) && textFill(context, table, target.field, binding, header)
      );
    case "reference":
      return fieldOf(table.kind, target.field) && referenceFill(context, table, target, binding, header);
    case "referred":
      return fieldOf(table.kind, target.via) && referredFill(context, table, target, binding, header);
    case "naming":
      return namingFill(context, table, target, binding, header);
    default:
      // Keys, and what contains the record, are read with the block, axes after its cells.
      return undefined;
  }
}

function textFill(context: FillContext, table: Table, field: string, { codec }: Binding, header: Header): Fill {
  const column = table.textColumn(field);
  return (row, cell, line) => {
    const value = codec.parse(cell);
    if (typeof value === "string") return context.setText(table, column, field, row, value, line, header);
    context.problem(value as Problem, table, row, line, header);
    return cellMark.reported;
  };
}

function referenceFill(
  context: FillContext,
  table: Table,
  target: Extract<Feed, { is: "reference" }>,
  binding: Binding,
  header: Header,
): Fill {
  const column = table.referenceColumn(target.field);
  const read = referencesReader(context, target, binding, header);
  const { pool } = context.catalogue;
  return (row, cell, line) => {
    const numbers = read(cell, line);
    if (!isNumbers(numbers)) {
      context.problem(numbers, table, row, line, header);
      return cellMark.reported;
    }
    if (!context.merging || !column.isSet(row)) {
      column.set(row, numbers);
      // A cell of nothing but separators names nothing.
      return numbers.length > 0 ? cellMark.taken : cellMark.untouched;
    }
    const old = column.get(row);
    if (old.join() === numbers.join()) return cellMark.taken;
    if (context.translates && target.spec.by === "name") {
      return nameParallel(
        context,
        old,
        numbers.map((number) => pool.texts(number)),
        present(target.spec.lang),
        {
          table,
          row,
          line,
          header,
          beside: target.field,
        },
      );
    }
    const names = (list: readonly number[]) => list.map((number) => pool.texts(number).join(" / ")).join(", ");
    if (context.wins(table, target.field, row, names(numbers), names(old), line, header)) {
      column.set(row, numbers);
      table.setFieldOrigin(target.field, row, { sheet: context.sheet, line });
      return cellMark.taken;
    }
    return cellMark.reported;
  };
}

/** How the rows of a lane fill a list of references: each row adds one. */
export function listFill(
  context: FillContext,
  table: Table,
  lane: Lane,
  columns: readonly Column[],
): { readonly fill: (record: number, row: BlockRow) => void } | undefined {
  const [column] = columns;
  const binding = column?.bindings[0];
  if (binding?.feed.is !== "reference" || !fieldOf(table.kind, lane.collection)) return undefined;
  const index = context.indexOf(present(column).header);
  const list = table.referenceColumn(lane.collection);
  const read = referencesReader(context, binding.feed, binding, present(column).header);
  const fill = (record: number, row: BlockRow): void => {
    const cell = row.cells[index] ?? "";
    if (cell === "") return;
    const numbers = read(cell, row.line);
    if (isNumbers(numbers)) {
      list.set(record, [...new Set([...list.get(record), ...numbers])]);
      if (numbers.length > 0) markCell(row, index, cellMark.taken);
    } else {
      context.problem(numbers, table, record, row.line, present(column).header);
      markCell(row, index, cellMark.reported);
    }
  };
  return { fill };
}

function referredFill(
  context: FillContext,
  table: Table,
  target: Extract<Feed, { is: "referred" }>,
  { codec }: Binding,
  header: Header,
): Fill {
  const { catalogue, sheet } = context;
  const { pool } = catalogue;
  const column = table.referenceColumn(target.via);
  const nodeOf = (reference: number): number => {
    if (target.node === undefined) return reference;
    const chain: number[] = [];
    for (let at = reference; at !== noReference; at = pool.within(at)) chain.unshift(at);
    return chain[target.node - 1] ?? noReference;
  };
  return (row, cell, line) => {
    const value = codec.parse(cell);
    if (isProblem(value)) {
      context.problem(value, table, row, line, header);
      return cellMark.reported;
    }
    const references = column.get(row);
    const values = (target.list ? value : [value]) as readonly string[];
    if (target.list ? values.length !== references.length : references.length === 0) {
      const location = context.location(line, header, table, row);
      context.findings.add(finding("read/not-parallel", { beside: target.via }, location));
      return cellMark.reported;
    }
    let mark: CellMark = cellMark.untouched;
    values.forEach((one, at) => {
      const reference = nodeOf(references[at]!);
      if (reference === noReference || one === "") return;
      catalogue.state({ reference, field: target.field, value: one, met: { sheet, line } });
      mark = cellMark.taken;
    });
    return mark;
  };
}

function namingFill(
  context: FillContext,
  table: Table,
  target: Extract<Feed, { is: "naming" }>,
  { codec }: Binding,
  header: Header,
): Fill | undefined {
  const lead = context.layout.columns[target.beside]!;
  const beside = firstOf(lead.bindings).feed;
  if (beside.is !== "reference") return undefined;
  const column = table.referenceColumn(beside.field);
  return (row, cell, line) => {
    const value = codec.parse(cell);
    if (isProblem(value)) {
      context.problem(value, table, row, line, header);
      return cellMark.reported;
    }
    const paths = (target.list ? value : [value]) as readonly (readonly string[])[];
    return nameParallel(context, column.get(row), paths, target.lang, {
      table,
      row,
      line,
      header,
      beside: lead.header,
    });
  };
}

/** Names what is referred to in another language, path by path and node by node. */
function nameParallel(
  context: FillContext,
  named: readonly number[],
  paths: readonly (readonly string[])[],
  lang: Lang,
  at: {
    readonly table: Table;
    readonly row: number;
    readonly line: number;
    readonly header: Header;
    readonly beside: string;
  },
): CellMark {
  const { catalogue, sheet, findings } = context;
  const { pool } = catalogue;
  const { table, row, line, header, beside } = at;
  const fits =
    paths.length === named.length &&
    paths.every((path, location) => path.length === pool.texts(named[location]!).length);
  if (!fits) {
    findings.add(finding("read/not-parallel", { beside }, context.location(line, header, table, row)));
    return cellMark.reported;
  }
  paths.forEach((path, location) => {
    let reference = named[location]!;
    for (const name of [...path].reverse()) {
      catalogue.state({ reference, field: `name@${lang}`, value: name, met: { sheet, line } });
      reference = pool.within(reference);
    }
  });
  return paths.length > 0 ? cellMark.taken : cellMark.untouched;
}
