/**
 * Filling the entries of a record from the cells of a row: one entry of all columns with the same constants together, one for each
 * place of lists that run parallel, or whole entries in parts.
 */

import type { Header } from "../../nominal.js";
import { firstOf, present } from "../../checked.js";
import { entryKeyOf } from "../../kind.js";
import type { ReferenceColumn } from "../../catalogue/reference-column.js";
import type { Table } from "../../catalogue/table.js";
import type { TextColumn } from "../../catalogue/text-column.js";
import type { CellValue, Problem } from "../../codecs/codec.js";
import { finding } from "../../findings/finding.js";
import { markCell, type BlockRow } from "../read/block-row.js";
import type { FillContext } from "./context.js";
import { EntryBefore } from "./entries-before.js";
import { outerReference, referencesReader } from "./references.js";
import type { Binding, Column, Constants, Feed, NamedConstants } from "../layout.js";
import { referencesNamed } from "../named-constants.js";
import { cellMark, type CellMark } from "../read/tally.js";

type EntryTarget = Extract<Feed, { is: "entry" }>;
type EntriesTarget = Extract<Feed, { is: "entries" }>;

/** Everything that the columns of one scope fill of a record's entries. */
export class EntryFills {
  readonly #fills: { readonly key: string; readonly parallel: readonly string[]; readonly fill: EntryFill }[] = [];

  constructor(
    readonly context: FillContext,
    readonly owner: Table,
  ) {}

  add(index: number, column: Column, target: EntryTarget | EntriesTarget, binding: Binding): void {
    if (!this.owner.kind.entries?.[target.entries]) return;
    const parallel = target.is === "entry" ? target.parallel : [];
    // Columns with the same constants make one entry together; lists make entries with the lists beside them.
    const key = JSON.stringify([target.entries, target.constants, target.is]);
    let known = this.#fills.find((one) => one.key === key && one.parallel === parallel);
    if (!known || target.is === "entries") {
      const fill = new EntryFill(this.context, this.owner, target.entries, target);
      this.#fills.push((known = { key, parallel, fill }));
    }
    known.fill.add(index, column, target, binding);
  }

  fill(record: number, row: BlockRow): void {
    const { cells } = this.context.model;
    for (const { fill } of this.#fills) fill.fill(record, row, cells);
  }
}

type Set = (entry: number, value: CellValue | number, line: number) => CellMark;

interface EntryColumn {
  readonly index: number;
  readonly header: Header;
  /** What a blank cell stands for. */
  readonly blankMeans: string | undefined;
  /** One value for one entry, a list of values for as many, or a list of whole entries. */
  readonly holds: "one" | "list" | "entries";
  readonly read: (cell: string, line: number, record: number) => CellValue | readonly number[] | Problem;
  readonly field: EntryFieldSetter | undefined;
  /** For whole entries: what each part sets. */
  readonly parts: readonly EntryFieldSetter[];
}

interface EntryFieldSetter {
  readonly name: string;
  readonly references: ReferenceColumn | undefined;
  readonly set: Set;
  /** From a part's text to the reference it makes. */
  readonly refer: ((text: string, line: number, record: number) => number) | undefined;
}

/** One field of an entry to be, with its value (a text, or the number of a reference) and the position of its cell. */
type FieldValue = readonly [EntryFieldSetter, string | number, number];

const none: readonly never[] = [];

export class EntryFill {
  readonly #columns: EntryColumn[] = [];
  readonly #table: Table;
  readonly #constants: readonly { readonly name: string; readonly column: TextColumn; readonly value: string }[];
  readonly #hasNamed: boolean;
  readonly #entriesKey: readonly string[];
  #before: EntryBefore | undefined;

  constructor(
    readonly context: FillContext,
    readonly owner: Table,
    entries: string,
    readonly fixed: { readonly constants: Constants; readonly named: NamedConstants },
  ) {
    this.#table = context.catalogue.table(`${owner.kind.name}.${entries}`);
    this.#entriesKey = entryKeyOf(this.#table.kind);
    this.#hasNamed = Object.keys(fixed.named).length > 0;
    this.#constants = Object.entries(fixed.constants).flatMap(([name, value]) =>
      Object.hasOwn(fixed.named, name) ? [] : [{ name, column: this.#table.textColumn(name), value }],
    );
  }

  add(index: number, { header, blankMeans }: Column, target: EntryTarget | EntriesTarget, binding: Binding): void {
    if (target.is === "entries") {
      const parts = target.parts.map((part) => this.#partSetter(part, header));
      const read = (cell: string) => binding.codec.parse(cell);
      const listed = (cell: string): CellValue | Problem => {
        const value = read(cell);
        return target.list || !Array.isArray(value) ? value : [value as CellValue];
      };
      this.#columns.push({ index, header, blankMeans, holds: "entries", read: listed, field: undefined, parts });
      return;
    }
    const { field } = target;
    const read =
      field.is === "reference"
        ? referencesReader(
            this.context,
            { shape: field.list ? "list" : "one", spec: field.spec, parts: undefined },
            binding,
            header,
          )
        : (cell: string) => binding.codec.parse(cell);
    const setter = this.#setter(field.name, field.is === "reference", header);
    const holds = field.list ? "list" : "one";
    this.#columns.push({ index, header, blankMeans, holds, read, field: setter, parts: [] });
  }

  #setter(name: string, isReference: boolean, header: Header): EntryFieldSetter {
    const table = this.#table;
    const text = isReference ? undefined : table.textColumn(name);
    const references = isReference ? table.referenceColumn(name) : undefined;
    const set: Set = (entry, value, line) => {
      if (!references) return this.context.setText(table, present(text), name, entry, value as string, line, header);
      references.set(entry, [value as number]);
      return cellMark.taken;
    };
    return { name, references, set, refer: undefined };
  }

  #partSetter(part: EntriesTarget["parts"][number], header: Header): EntryFieldSetter {
    if (part.is === "text") return this.#setter(part.field, false, header);
    if (part.is !== "reference") throw new Error(`a ${part.is} is not a part of an entry`);
    const { pool } = this.context.catalogue;
    const spec = pool.specNumber(part.spec);
    const { context } = this;
    const outerOf = outerReference(context, part.spec);
    const refer = (text: string, line: number, record: number) =>
      pool.intern(spec, outerOf(record, line), text, { sheet: context.sheet, line });
    return { ...this.#setter(part.field, true, header), refer };
  }

  /** What a row of its own has for an entry: a blank one has none. */
  fillFromLane(record: number, row: BlockRow): void {
    if (this.#columns.some(({ index }) => (row.cells[index] ?? "") !== "")) this.fill(record, row, undefined);
  }

  /** @param model the cells that blank ones take their texts from. */
  fill(record: number, row: BlockRow, model: readonly string[] | undefined): void {
    let entry = -1;
    let values: FieldValue[] | undefined;
    let lists: (readonly [EntryColumn, readonly CellValue[] | readonly number[]])[] | undefined;
    for (const column of this.#columns) {
      const own = row.cells[column.index];
      const cell = own === "" ? (column.blankMeans ?? model?.[column.index] ?? "") : (own ?? "");
      if (cell === "") continue;
      if (this.context.isTooLong(cell, row.line, column.header)) {
        markCell(row, column.index, cellMark.reported);
        continue;
      }
      const value = column.read(cell, row.line, record);
      if (typeof value === "object" && !Array.isArray(value)) {
        this.context.problem(value as Problem, this.owner, record, row.line, column.header);
        markCell(row, column.index, cellMark.reported);
      } else if (column.holds !== "one") {
        (lists ??= []).push([column, value as readonly CellValue[]]);
      } else {
        const one = present(column.field).references ? firstOf(value as readonly number[]) : (value as string);
        if (this.context.merging) (values ??= []).push([present(column.field), one, column.index]);
        else {
          if (entry < 0) entry = this.#open(record, row.line);
          markCell(row, column.index, present(column.field).set(entry, one, row.line));
        }
      }
    }
    if (values) this.#merge(record, values, row);
    if (lists) this.#fillLists(record, lists, row);
  }

  /** Lists side by side: an entry for each place. Entries in parts: one for each. */
  #fillLists(
    record: number,
    lists: readonly (readonly [EntryColumn, readonly CellValue[] | readonly number[]])[],
    row: BlockRow,
  ): void {
    const [[lead, first]] = lists as [(typeof lists)[number]];
    if (lead.holds === "entries") {
      for (const parts of first as readonly (readonly CellValue[])[]) {
        const values: FieldValue[] = [];
        lead.parts.forEach((setter, at) => {
          const part = parts[at] as string;
          if (part !== "")
            values.push([setter, setter.refer ? setter.refer(part, row.line, record) : part, lead.index]);
        });
        this.#merge(record, values, row);
      }
      return;
    }
    const uneven = lists.find(([, list]) => list.length !== first.length);
    if (uneven) {
      const location = this.context.location(row.line, uneven[0].header, this.owner, record);
      this.context.findings.add(finding("read/not-parallel", { beside: lead.header }, location));
      for (const [{ index }] of lists) markCell(row, index, cellMark.reported);
      return;
    }
    first.forEach((_, at) => {
      const values = lists.flatMap(([{ field, index }, list]): FieldValue[] =>
        list[at] === "" ? [] : [[present(field), list[at] as string | number, index]],
      );
      if (values.length > 0) this.#merge(record, values, row);
    });
  }

  /** Adds the entry; where rows come to a record that was there before, its entry of the same key goes on. */
  #merge(record: number, values: readonly FieldValue[], row: BlockRow): void {
    const { context } = this;
    const known = context.merging ? this.#find(record, values, row) : -1;
    const entry = known >= 0 ? known : this.#open(record, row.line);
    for (const [setter, value, index] of values) {
      // What tells the entry apart is there already.
      const isKnown = known >= 0 && this.#entriesKey.includes(setter.name);
      markCell(row, index, isKnown ? cellMark.taken : setter.set(entry, value, row.line));
    }
  }

  #find(record: number, values: readonly FieldValue[], row: BlockRow): number {
    this.#before ??= new EntryBefore(this.#table, this.context.before);
    return this.#before.find(record, () => {
      const wanted = new Map<string, string | number>();
      for (const { name, value } of this.#constants) wanted.set(name, value);
      for (const [name, reference] of this.#namedConstants(row.line)) wanted.set(name, reference);
      for (const [{ name }, value] of values) wanted.set(name, value);
      return this.#entriesKey.map((name) => wanted.get(name));
    });
  }

  #open(record: number, line: number): number {
    const entry = this.#table.append(this.context.sheet, line, record);
    for (const { column, value } of this.#constants) column.set(entry, value);
    if (this.#hasNamed)
      for (const [field, reference] of this.#namedConstants(line))
        this.#table.referenceColumn(field).set(entry, [reference]);
    return entry;
  }

  #namedConstants(line: number): readonly (readonly [field: string, reference: number])[] {
    const { catalogue, sheet } = this.context;
    if (!this.#hasNamed) return none;
    return referencesNamed(catalogue, this.fixed.constants, this.fixed.named, { sheet, line });
  }
}
