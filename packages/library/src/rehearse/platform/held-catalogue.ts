/**
 * What a simulated platform holds, as a catalogue: the same type that sources and exports are read into, to be compared with the goal.
 * What rows named within one product alone is one record with what another product named alike in all languages.
 */

import { Catalogue, referenceFields, type ResolvedCatalogue } from "../../catalogue/catalogue.js";
import { keyWithin } from "../../catalogue/made-key.js";
import type { Table } from "../../catalogue/table.js";
import type { KindSpec } from "../../kind.js";
import { eachOnce } from "../../lists.js";
import { containersFirst } from "../../match/correspondence.js";
import { GatheredTexts } from "./gathered-texts.js";
import type { PlatformState } from "./state.js";
import {
  firstField,
  isOfPlatform,
  recordsIn,
  textIn,
  valueOf,
  type HeldCells,
  type HeldRecord,
} from "./held-record.js";

/** A platform's records as a catalogue. */
export interface HeldCatalogue {
  readonly catalogue: ResolvedCatalogue;
  /** Whether the platform put a field there by itself. @param table a kind, or `kind.entries`. */
  readonly isOfPlatform: (table: string, field: string, row: number) => boolean;
  /** The id that the platform gave to a record; not known, if left out. */
  readonly idOf?: (kind: string, row: number) => string | undefined;
}

export interface HeldOptions {
  /** Whether what has a code is sold by itself: then the one version that a product has on the platform is the product. Without a code it is, if it has no values. */
  readonly isSingle: (code: string) => boolean;
  /** The file that places of records are told in. */
  readonly name: string;
}

export function heldCatalogue(state: PlatformState, options: HeldOptions): HeldCatalogue {
  const maker = new CatalogueMaker(state, options);
  for (const kind of containersFirst(state.kinds.roots)) maker.addRecords(kind);
  for (const kind of state.kinds.roots) maker.fill(kind);
  maker.putTexts();
  return {
    catalogue: maker.catalogue as Catalogue & ResolvedCatalogue,
    isOfPlatform: maker.isOfPlatform,
    idOf: maker.idOf,
  };
}

class CatalogueMaker {
  readonly catalogue: Catalogue;
  /** By the number of the record: its row; -1 for none. */
  readonly #rows: Int32Array;
  /** By the number of what is named within a record: whether something leads to it. Made when it is first asked for. */
  #led: Uint8Array | undefined;
  /** By kind, and what makes records of it one: the row. */
  readonly #merged = new Map<string, number>();
  /** Singles: the one version of a product, and the product. */
  readonly #folded = new Map<HeldRecord, HeldRecord>();
  /** By table and field: the rows. */
  readonly #ofPlatform = new Map<string, Map<string, Set<number>>>();

  constructor(
    readonly state: PlatformState,
    readonly options: HeldOptions,
  ) {
    this.catalogue = new Catalogue(state.kinds);
    this.#rows = new Int32Array(state.store.next).fill(-1);
    this.catalogue.sheets.push({ file: options.name, headers: new Map(), precedence: 0 });
    for (const kind of state.kinds.roots) if (kind.single) this.#foldSingles(kind);
  }

  readonly isOfPlatform = (table: string, field: string, row: number): boolean =>
    this.#ofPlatform.get(table)?.get(field)?.has(row) ?? false;

  /** By `kind row`; made when it is first asked for. */
  #ids: ReadonlyMap<string, string> | undefined;

  readonly idOf = (kind: string, row: number): string | undefined => {
    this.#ids ??= new Map(
      this.state.kinds.roots
        .flatMap(({ name }) => this.state.store.records(name))
        .flatMap((record) => {
          const at = this.#rowOf(record);
          const id = textIn(record.fields, "id");
          return id === undefined || at < 0 ? [] : [[`${record.kind} ${at}`, id] as const];
        }),
    );
    return this.#ids.get(`${kind} ${row}`);
  };

  #rowOf(record: HeldRecord | undefined): number {
    return record === undefined ? -1 : this.#rows[record.number]!;
  }

  /** @throws Error where it has none: what is led to is there. */
  #shownRow(record: HeldRecord): number {
    const row = this.#rowOf(record);
    if (row < 0) throw new Error(`no row of ${record.kind} ${record.number}`);
    return row;
  }

  #foldSingles(kind: KindSpec): void {
    const { store } = this.state;
    for (const record of store.records(kind.name)) {
      const [child, ...others] = store.childrenOf(record);
      if (!child || others.length > 0 || recordsIn(record.fields, "axes").length > 0) continue;
      const code = textIn(child.fields, "code");
      const isSingle = code === undefined ? !child.fields.has("values") : this.options.isSingle(code);
      if (isSingle) this.#folded.set(child, record);
    }
  }

  addRecords(kind: KindSpec): void {
    for (const record of this.state.store.records(kind.name)) {
      if (this.#folded.has(record) || this.#isLeftOver(record)) continue;
      const table = this.catalogue.table(kind.name);
      const same = record.owner && kind.within === undefined ? this.#sameName(record) : undefined;
      const known = same === undefined ? undefined : this.#merged.get(same);
      if (known !== undefined) {
        this.#rows[record.number] = known;
        continue;
      }
      const parent = kind.of === undefined ? -1 : this.#rowOf(record.container);
      const row = table.append(0, record.number + 1, parent);
      table.nameRecord(row, this.#keyOf(record));
      this.#rows[record.number] = row;
      if (same !== undefined) this.#merged.set(same, row);
    }
  }

  /** What was named within a record, and nothing leads to any more. */
  #isLeftOver(record: HeldRecord): boolean {
    const { owner, container } = record;
    if (!owner) return false;
    if (!owner.isThere) return true;
    this.#led ??= ledOwned(this.state);
    return this.#led[record.number] === 0 && !(container?.owner === owner && !this.#isLeftOver(container));
  }

  /** What makes records that were named within others one: the names in all languages, and what they are contained in. */
  #sameName(record: HeldRecord): string {
    const names: string[] = [];
    record.fields.each((field, cell) => {
      if (field.startsWith("name@")) names.push(`${field}\u0000${String(valueOf(cell))}`);
    });
    const container = this.#rowOf(record.container);
    return `${record.kind}\u0001${container}\u0001${names.sort().join("\u0001")}`;
  }

  #keyOf(record: HeldRecord): string {
    const { fields, container, owner } = record;
    const key = textIn(fields, "key") ?? textIn(fields, "code");
    if (key !== undefined) return key;
    const named = firstField(fields, (field) => field.startsWith("name@"));
    const own = (named === undefined ? undefined : textIn(fields, named)) ?? String(record.number);
    const above =
      container ?? (this.state.kinds.get(record.kind).within === undefined ? recordsIn(fields, "parent")[0] : owner);
    const row = this.#rowOf(above);
    return above && row >= 0 ? keyWithin(this.catalogue.table(above.kind).key(row), own) : own;
  }

  readonly #texts = new Map<Table, GatheredTexts>();

  #textsOf(table: Table): GatheredTexts {
    let known = this.#texts.get(table);
    if (!known) this.#texts.set(table, (known = new GatheredTexts(table)));
    return known;
  }

  putTexts(): void {
    for (const texts of this.#texts.values()) texts.put();
  }

  fill(kind: KindSpec): void {
    const table = this.catalogue.table(kind.name);
    for (const record of this.state.store.records(kind.name)) {
      const into = this.#folded.get(record) ?? record;
      const row = this.#rowOf(into);
      if (row < 0) continue;
      const own = into === record ? kind : this.state.kinds.get(into.kind);
      const to = into === record ? table : this.catalogue.table(into.kind);
      this.#fields(to, own, row, record.fields);
      if (record.owner && kind.within !== undefined) this.#refer(to, kind.within, row, [record.owner]);
      record.entries.each((list, entries) => {
        const inner = this.#listOf(own, list);
        if (!inner) return;
        for (const entry of entries) this.#fields(inner, inner.kind, inner.append(0, record.number + 1, row), entry);
      });
    }
  }

  readonly #lists = new Map<KindSpec, Map<string, Table | undefined>>();

  /** The table of a list of entries; none, if the kind does not have it. */
  #listOf(kind: KindSpec, list: string): Table | undefined {
    let known = this.#lists.get(kind);
    if (!known) this.#lists.set(kind, (known = new Map()));
    if (!known.has(list))
      known.set(list, kind.entries?.[list] ? this.catalogue.table(`${kind.name}.${list}`) : undefined);
    return known.get(list);
  }

  #fields(table: Table, kind: KindSpec, row: number, fields: HeldCells): void {
    const texts = this.#textsOf(table);
    const { names } = fields;
    for (let place = 0; place < names.all.length; place++) {
      const cell = fields.at(place);
      if (cell === undefined) continue;
      const field = names.all[place]!;
      const value = valueOf(cell);
      if (field === "key" || field === "id" || value === "") continue;
      if (typeof value === "string") texts.set(names, place, row, value);
      else this.#referTo(table, kind, field, row, recordsIn(fields, field));
      if (isOfPlatform(cell)) this.#noteOfPlatform(table.name, field, row);
    }
  }

  #noteOfPlatform(table: string, field: string, row: number): void {
    let fields = this.#ofPlatform.get(table);
    if (!fields) this.#ofPlatform.set(table, (fields = new Map()));
    const rows = fields.get(field);
    if (rows) rows.add(row);
    else fields.set(field, new Set([row]));
  }

  /** The one version of a single is the product: what names it names that. */
  #referTo(table: Table, kind: KindSpec, field: string, row: number, records: readonly HeldRecord[]): void {
    const reference = this.#referencesOf(kind).get(field);
    if (this.#folded.size === 0 && areOf(records, reference?.to)) return this.#refer(table, field, row, records);
    const led = records.map((record) => this.#folded.get(record) ?? record);
    const own = led.filter(({ kind: of }) => of === reference?.to);
    const others = led.filter(({ kind: of }) => of !== reference?.to);
    if (own.length > 0) this.#refer(table, field, row, own);
    if (others.length > 0 && reference?.otherwise !== undefined) this.#refer(table, reference.otherwise, row, others);
  }

  readonly #references = new Map<KindSpec, ReadonlyMap<string, ReturnType<typeof referenceFields>[number]>>();

  #referencesOf(kind: KindSpec): ReadonlyMap<string, ReturnType<typeof referenceFields>[number]> {
    let known = this.#references.get(kind);
    if (!known) this.#references.set(kind, (known = new Map(referenceFields(kind).map((one) => [one.name, one]))));
    return known;
  }

  #refer(table: Table, field: string, row: number, records: readonly HeldRecord[]): void {
    const { pool } = this.catalogue;
    if (records.length === 0) return;
    const met = { sheet: 0, line: table.line(row) };
    const numbers = records.map((record) => pool.toRow(record.kind, this.#shownRow(record), met));
    table.referenceColumn(field).set(row, eachOnce(numbers));
  }
}

function areOf(records: readonly HeldRecord[], kind: string | undefined): boolean {
  for (const record of records) if (record.kind !== kind) return false;
  return true;
}

/** By the number of what is named within a record: whether a record that is there leads to it. */
function ledOwned({ store, kinds }: PlatformState): Uint8Array {
  const led = new Uint8Array(store.next);
  const see = (cells: HeldCells, fields: readonly string[]): void => {
    for (const field of fields) for (const { owner, number } of recordsIn(cells, field)) if (owner) led[number] = 1;
  };
  /** The fields that may lead to such records. */
  const leading = (kind: KindSpec): string[] =>
    referenceFields(kind).flatMap(({ name, to }) => (store.hasOwned(to) ? [name] : []));
  for (const kind of kinds.roots) {
    const fields = leading(kind);
    const lists = Object.entries(kind.entries ?? {})
      .map(([list, embedded]) => [list, leading(kinds.get(embedded))] as const)
      .filter(([, inner]) => inner.length > 0);
    if (fields.length + lists.length === 0) continue;
    for (const record of store.records(kind.name)) {
      if (record.owner) continue;
      see(record.fields, fields);
      for (const [list, inner] of lists) for (const entry of record.entries.get(list) ?? []) see(entry, inner);
    }
  }
  return led;
}
