/**
 * Filling one record from the cells of one row: its fields, its references, and its entries.
 *
 * Each binding is turned once into a function that sets one cell; rows run through them.
 */

import { noReference, type ReferenceSpec } from "../catalogue/reference-pool.js";
import type { ReferenceColumn } from "../catalogue/reference-column.js";
import type { Table } from "../catalogue/table.js";
import type { TextColumn } from "../catalogue/text-column.js";
import { isProblem, type CellValue, type Problem } from "../codecs/codec.js";
import { finding } from "../finding.js";
import { fieldOf } from "../kind.js";
import type { BlockRow } from "./cut.js";
import { shorten, type FillContext } from "./fill-context.js";
import type { Binding, Column, Constants, EntryField, Lane, Target } from "./layout.js";

const cachedCells = 20_000;

/** Sets a field of a record from a cell that is not blank. */
type Fill = (row: number, cell: string, line: number) => void;

interface FillColumn {
  readonly index: number;
  readonly header: string;
  readonly fills: readonly Fill[];
  /** What a blank cell empties. */
  readonly empties: readonly TextColumn[];
}

/** How the cells of one scope fill records of one table. */
export class RecordFill {
  readonly #columns: FillColumn[] = [];
  readonly #entries: EntryFill[] = [];

  constructor(
    readonly context: FillContext,
    readonly table: Table,
    columns: readonly Column[],
  ) {
    for (const column of columns) this.#add(column);
  }

  #add(column: Column): void {
    const { context, table } = this;
    const index = context.indexOf(column.header);
    const fills: Fill[] = [];
    const empties: TextColumn[] = [];
    for (const binding of column.bindings) {
      const { target } = binding;
      if (target.feeds === "entry") {
        if (table.kind.entries?.[target.entries])
          this.#entryFill(target.entries, target.constants).add(index, column.header, target.field, binding);
        continue;
      }
      const fill = fillOf(context, table, binding, column.header);
      if (fill) fills.push(fill);
      if (binding.blankEmpties && target.feeds === "text") empties.push(table.textColumn(target.field));
    }
    if (fills.length > 0) this.#columns.push({ index, header: column.header, fills, empties });
  }

  /** Columns with the same constants make one entry together. */
  #entryFill(entries: string, constants: Constants): EntryFill {
    const known = this.#entries.find((one) => one.isFor(entries, constants));
    if (known) return known;
    const made = new EntryFill(this.context, this.table, entries, constants);
    this.#entries.push(made);
    return made;
  }

  fill(record: number, row: BlockRow): void {
    for (const { index, header, fills, empties } of this.#columns) {
      const cell = row.cells[index] ?? "";
      if (cell === "") {
        for (const column of empties) column.set(record, null);
      } else if (!this.context.isTooLong(cell, row.line, header)) {
        for (const set of fills) set(record, cell, row.line);
      }
    }
    for (const entry of this.#entries) entry.fill(record, row);
  }
}

function fillOf(context: FillContext, table: Table, binding: Binding, header: string): Fill | undefined {
  const { target } = binding;
  switch (target.feeds) {
    case "text":
      return (
        fieldOf(table.kind, target.field.split("@")[0]!) && textFill(context, table, target.field, binding, header)
      );
    case "reference":
      return fieldOf(table.kind, target.field) && referenceFill(context, table, target, binding, header);
    case "naming":
      return namingFill(context, table, target, binding, header);
    default:
      // Keys are read with the block, axes after its cells.
      return undefined;
  }
}

function textFill(context: FillContext, table: Table, field: string, { codec }: Binding, header: string): Fill {
  const column = table.textColumn(field);
  return (row, cell, line) => {
    const value = codec.parse(cell);
    if (typeof value !== "string") {
      context.problem(value as Problem, table, row, line, header);
      return;
    }
    const old = context.merging ? column.get(row) : undefined;
    if (old === undefined || old === value) column.set(row, value);
    else {
      const first = context.catalogue.place(table, row, field);
      context.findings.add(
        finding(
          "read/cells-disagree",
          { here: shorten(value), first: shorten(old ?? "") },
          context.place(line, header, table, row),
          [first],
        ),
      );
    }
  };
}

function referenceFill(
  context: FillContext,
  table: Table,
  target: Extract<Target, { feeds: "reference" }>,
  binding: Binding,
  header: string,
): Fill {
  const column = table.referenceColumn(target.field);
  const isPath = target.shape === "path" || target.shape === "paths";
  const isList = target.shape === "list" || target.shape === "paths";
  const read = referencesReader(context, target.spec, isPath, isList, binding);
  return (row, cell, line) => {
    const numbers = read(cell, line);
    if (isNumbers(numbers)) column.set(row, numbers);
    else context.problem(numbers, table, row, line, header);
  };
}

type ReadReferences = (cell: string, line: number) => readonly number[] | Problem;

/** The references that a cell names. The same cell is taken apart once. */
function referencesReader(
  { catalogue: { pool }, sheet }: FillContext,
  spec: ReferenceSpec,
  isPath: boolean,
  isList: boolean,
  { codec }: Binding,
): ReadReferences {
  const number = pool.specNumber(spec);
  const cache = new Map<string, readonly number[]>();
  return (cell, line) => {
    const known = cache.get(cell);
    if (known) return known;
    const value = codec.parse(cell);
    if (isProblem(value)) return value;
    const met = { sheet, line };
    const one = (entry: CellValue): number =>
      isPath
        ? (entry as readonly string[]).reduce((within, name) => pool.intern(number, within, name, met), noReference)
        : pool.intern(number, noReference, entry as string, met);
    const numbers = isList ? [...new Set((value as readonly CellValue[]).map(one))] : [one(value)];
    if (cache.size >= cachedCells) cache.clear();
    cache.set(cell, numbers);
    return numbers;
  };
}

/** Takes what a row holds for a record. */
export interface RowFill {
  readonly fill: (record: number, row: BlockRow) => void;
}

/** How the rows of a lane fill a list of references: each row adds one. */
export function listFill(
  context: FillContext,
  table: Table,
  lane: Lane,
  columns: readonly Column[],
): RowFill | undefined {
  const [column] = columns;
  const binding = column?.bindings[0];
  if (binding?.target.feeds !== "reference" || !fieldOf(table.kind, lane.collection)) return undefined;
  const index = context.indexOf(column!.header);
  const list = table.referenceColumn(lane.collection);
  const read = referencesReader(context, binding.target.spec, binding.target.shape === "path", false, binding);
  const fill = (record: number, row: BlockRow): void => {
    const cell = row.cells[index] ?? "";
    if (cell === "") return;
    const numbers = read(cell, row.line);
    if (isNumbers(numbers)) list.set(record, [...new Set([...list.get(record), ...numbers])]);
    else context.problem(numbers, table, record, row.line, column!.header);
  };
  return { fill };
}

function namingFill(
  context: FillContext,
  table: Table,
  target: Extract<Target, { feeds: "naming" }>,
  { codec }: Binding,
  header: string,
): Fill | undefined {
  const lead = context.layout.columns[target.beside]!;
  const beside = lead.bindings[0]!.target;
  if (beside.feeds !== "reference") return undefined;
  const column = table.referenceColumn(beside.field);
  const { catalogue, sheet } = context;
  const { pool } = catalogue;
  return (row, cell, line) => {
    const value = codec.parse(cell);
    if (isProblem(value)) {
      context.problem(value, table, row, line, header);
      return;
    }
    const paths = (target.list ? value : [value]) as readonly (readonly string[])[];
    const named = column.get(row);
    const fits =
      paths.length === named.length && paths.every((path, at) => path.length === pool.texts(named[at]!).length);
    if (!fits) {
      context.findings.add(
        finding("read/not-parallel", { beside: lead.header }, context.place(line, header, table, row)),
      );
      return;
    }
    paths.forEach((path, at) => {
      let reference = named[at]!;
      for (const name of [...path].reverse()) {
        catalogue.addNaming({ reference, lang: target.lang, name, met: { sheet, line } });
        reference = pool.within(reference);
      }
    });
  };
}

interface EntryColumn {
  readonly index: number;
  readonly header: string;
  readonly isList: boolean;
  readonly read: (cell: string, line: number) => CellValue | readonly number[] | Problem;
  readonly text: TextColumn | undefined;
  readonly references: ReferenceColumn | undefined;
}

/** How the cells of a row make entries: one of all its columns together, or one for each element of a list. */
export class EntryFill {
  readonly #columns: EntryColumn[] = [];
  readonly #table: Table;
  readonly #constants: readonly (readonly [TextColumn, string])[];
  readonly #key: string;

  constructor(
    readonly context: FillContext,
    readonly owner: Table,
    entries: string,
    constants: Constants,
  ) {
    this.#table = context.catalogue.table(`${owner.kind.name}.${entries}`);
    this.#constants = Object.entries(constants).map(([field, value]) => [this.#table.textColumn(field), value]);
    this.#key = entryKey(entries, constants);
  }

  isFor(entries: string, constants: Constants): boolean {
    return this.#key === entryKey(entries, constants);
  }

  add(index: number, header: string, field: EntryField, binding: Binding): void {
    const isReference = field.is === "reference";
    this.#columns.push({
      index,
      header,
      isList: field.list,
      read: isReference
        ? referencesReader(this.context, field.spec, false, field.list, binding)
        : (cell) => binding.codec.parse(cell),
      text: isReference ? undefined : this.#table.textColumn(field.name),
      references: isReference ? this.#table.referenceColumn(field.name) : undefined,
    });
  }

  fill(record: number, row: BlockRow): void {
    let entry = -1;
    for (const { index, header, isList, read, text, references } of this.#columns) {
      const cell = row.cells[index] ?? "";
      if (cell === "" || this.context.isTooLong(cell, row.line, header)) continue;
      const value = read(cell, row.line);
      if (typeof value === "object" && !Array.isArray(value)) {
        this.context.problem(value as Problem, this.owner, record, row.line, header);
      } else if (isList) {
        for (const one of value as readonly (string | number)[]) {
          const own = this.#open(record, row.line);
          if (references) references.set(own, [one as number]);
          else text!.set(own, one as string);
        }
      } else {
        if (entry < 0) entry = this.#open(record, row.line);
        if (references) references.set(entry, value as readonly number[]);
        else text!.set(entry, value as string);
      }
    }
  }

  #open(record: number, line: number): number {
    const entry = this.#table.append(this.context.sheet, line, record);
    for (const [column, value] of this.#constants) column.set(entry, value);
    return entry;
  }
}

const entryKey = (entries: string, constants: Constants): string => JSON.stringify([entries, constants]);
const isNumbers = (value: readonly number[] | Problem): value is readonly number[] => Array.isArray(value);
