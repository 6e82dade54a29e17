/**
 * What an operation touches, as a small catalogue: the records that it writes to, products with all their variants. The balance of an
 * operation is that of these before and after; what it does not write to is as it was.
 *
 * What they refer to beside that stands there too, with its key alone.
 */

import { splitTable } from "../field-name.js";
import { entryOf } from "../checked.js";
import { Catalogue, referenceFields, targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import type { Table } from "../catalogue/table.js";
import type { GoneRows, Workpiece } from "./workpiece.js";
import { pushAll } from "../lists.js";

/** By kind, the rows of records. */
type RowsOf = ReadonlyMap<string, ReadonlySet<number>>;

/** The records that an operation writes to, from when this is made until `end`. */
export class Touched {
  readonly #rows = new Map<string, Set<number>>();
  readonly #tables: readonly Table[];

  constructor(readonly piece: Workpiece) {
    const { catalogue } = piece;
    this.#tables = catalogue.tables;
    for (const table of this.#tables) table.watch((row) => this.#see(catalogue, table.name, row));
  }

  /** No more is watched. What stands in for others is touched too. @returns by kind, the rows of the records. */
  end(dropped: GoneRows): RowsOf {
    for (const table of this.#tables) table.watch();
    for (const [kind, rows] of dropped)
      for (const standIn of rows.values()) if (standIn !== undefined) this.#see(this.piece.catalogue, kind, standIn);
    return this.#rows;
  }

  #see(catalogue: Catalogue, name: string, row: number): void {
    const { kind, collection } = splitTable(name);
    const owner = collection === undefined ? row : catalogue.table(name).parent(row);
    if (owner < 0) return;
    this.#add(kind, owner);
    const product = kind === "variant" ? catalogue.table("variant").parent(owner) : -1;
    if (product >= 0) this.#add("product", product);
  }

  #add(kind: string, row: number): void {
    const rows = this.#rows.get(kind) ?? new Set<number>();
    this.#rows.set(kind, rows.add(row));
  }
}

/** The touched records, before and after, as catalogues of their own. */
export interface TouchedSides {
  readonly before: ResolvedCatalogue;
  readonly after: ResolvedCatalogue;
  /** By line of the balance: how many records count there that are not touched. */
  readonly untouched: ReadonlyMap<string, number>;
}

/** @param before the same rows as `after` has them, where they are there. */
export function touchedSides(before: Workpiece, after: Workpiece, touched: RowsOf): TouchedSides {
  const sides = [before, after].map((side) => ({ side, whole: wholeRows(side, touched) }));
  // A record that one side refers to is there on the other as well, and as it was: else it would be touched.
  const known = new Map<string, Set<number>>();
  for (const { side, whole } of sides) addKnown(side.catalogue, whole, known);
  const [then, now] = sides.map(({ side, whole }) => extract(side, whole, known));
  return { before: then!, after: now!, untouched: countsOf(after.catalogue, known) };
}

/** Lines count records, and in what they are contained: `value`, `value.axis`. */
function countsOf(catalogue: ResolvedCatalogue, known: RowsOf): Map<string, number> {
  const counts = new Map<string, number>();
  for (const [kind, rows] of known) {
    const table = catalogue.table(kind);
    counts.set(kind, rows.size);
    if (table.kind.of !== undefined)
      counts.set(`${kind}.${table.kind.of}`, [...rows].filter((row) => table.parent(row) >= 0).length);
  }
  return counts;
}

/** The touched records that are there, products with their variants. */
function wholeRows(side: Workpiece, touched: RowsOf): RowsOf {
  const { catalogue } = side;
  const whole = new Map<string, Set<number>>();
  for (const [kind, rows] of touched) {
    const { size } = catalogue.table(kind);
    whole.set(kind, new Set([...rows].filter((row) => row < size && !side.isGone(kind, row))));
  }
  const variants = new Set(whole.get("variant"));
  for (const product of whole.get("product") ?? [])
    for (const variant of catalogue.table("variant").childrenOf(product)) variants.add(variant);
  return whole.set("variant", variants);
}

/** Adds what records refer to, or are contained in, and what that is contained in. */
function addKnown(catalogue: ResolvedCatalogue, whole: RowsOf, known: Map<string, Set<number>>): void {
  const add = (kind: string, row: number): void => {
    if (whole.get(kind)?.has(row)) return;
    known.set(kind, (known.get(kind) ?? new Set()).add(row));
    addOwner(kind, row);
  };
  const addOwner = (kind: string, row: number): void => {
    const { of } = catalogue.kinds.get(kind);
    const owner = of === undefined ? -1 : catalogue.table(kind).parent(row);
    if (of !== undefined && owner >= 0) add(of, owner);
  };
  const adderOf = (table: ReadonlyTable) => {
    const fields = referenceFields(table.kind).filter(({ name }) => table.references.has(name));
    return (row: number): void => {
      for (const { name, to } of fields) for (const target of targetsOf(catalogue, table, name, row)) add(to, target);
    };
  };
  for (const [kind, rows] of whole) {
    const addReferred = adderOf(catalogue.table(kind));
    const collections = collectionsOf(catalogue, kind).map((entries) => ({ entries, addFrom: adderOf(entries) }));
    for (const row of rows) {
      addOwner(kind, row);
      addReferred(row);
      for (const { entries, addFrom } of collections) for (const entry of entries.childrenOf(row)) addFrom(entry);
    }
  }
}

/** The tables of the entries of a kind, but for those without any. */
const collectionsOf = (catalogue: ResolvedCatalogue, kind: string): readonly ReadonlyTable[] =>
  Object.keys(catalogue.kinds.get(kind).entries ?? {}).flatMap((name) => {
    const entries = catalogue.table(`${kind}.${name}`);
    return entries.size === 0 ? [] : [entries];
  });

function extract({ catalogue }: Workpiece, whole: RowsOf, known: RowsOf): ResolvedCatalogue {
  const made = new Catalogue(catalogue.kinds);
  const rowsOf = new Map<string, Map<number, number>>();
  const copies: Copy[] = [];
  for (const { name: kind, of } of catalogue.kinds.roots) {
    const own = whole.get(kind) ?? none;
    const rows = [...own, ...[...(known.get(kind) ?? none)].filter((row) => !own.has(row))];
    const places = new Map<number, number>();
    rowsOf.set(kind, places);
    if (rows.length === 0) continue;
    const copy: Copy = { from: catalogue.table(kind), into: made.table(kind), rows: [] };
    const entries = collectionsOf(catalogue, kind).map((from): Copy => ({
      from,
      into: made.table(from.name),
      rows: [],
    }));
    copies.push(copy);
    pushAll(copies, entries);
    for (const row of rows.sort((one, other) => one - other)) {
      const { from, into } = copy;
      const owner = of === undefined || from.parent(row) < 0 ? -1 : (rowsOf.get(of)?.get(from.parent(row)) ?? -1);
      const to = into.append(from.sheet(row), from.line(row), owner);
      into.nameRecord(to, from.key(row));
      places.set(row, to);
      if (!own.has(row)) continue;
      copy.rows.push([row, to]);
      for (const list of entries)
        for (const entry of list.from.childrenOf(row))
          list.rows.push([entry, list.into.append(list.from.sheet(entry), list.from.line(entry), to)]);
    }
  }
  for (const copy of copies) copyCells(catalogue, made, copy, rowsOf);
  return made as Catalogue & ResolvedCatalogue;
}

/** Rows of a table, each with its row in the table that they are copied into. */
interface Copy {
  readonly from: ReadonlyTable;
  readonly into: Table;
  readonly rows: (readonly [row: number, to: number])[];
}

function copyCells(
  catalogue: ResolvedCatalogue,
  made: Catalogue,
  { from, into, rows }: Copy,
  rowsOf: ReadonlyMap<string, ReadonlyMap<number, number>>,
): void {
  if (rows.length === 0) return;
  for (const [field, column] of from.texts) {
    let own: ReturnType<Table["textColumn"]> | undefined;
    for (const [row, to] of rows) {
      const cell = column.get(row);
      if (cell !== undefined) (own ??= into.textColumn(field)).set(to, cell);
    }
  }
  for (const { name, to: kind } of referenceFields(from.kind)) {
    const column = from.references.get(name);
    const places = entryOf(rowsOf, kind);
    for (const [row, to] of rows) {
      if (!column?.isSet(row)) continue;
      const met = { sheet: from.sheet(row), line: from.line(row) };
      const targets = targetsOf(catalogue, from, name, row).map((target) => entryOf(places, target));
      into.referenceColumn(name).set(
        to,
        targets.map((target) => made.pool.toRow(kind, target, met)),
      );
    }
  }
}

const none: ReadonlySet<number> = new Set();
