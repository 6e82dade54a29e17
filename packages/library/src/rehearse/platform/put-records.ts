/** What a platform holds before any file is played: records of a catalogue, as the platform would have made them. */

import { referenceFields, targetsOf, type ResolvedCatalogue } from "../../catalogue/catalogue.js";
import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import { containersFirst } from "../../match/correspondence.js";
import type { PlatformState } from "./state.js";
import type { HeldRecord, HeldValue } from "./held-record.js";

/** @param isThere which records are there; what they name and has no rows of its own comes along. */
export function putRecords(
  state: PlatformState,
  catalogue: ResolvedCatalogue,
  isThere: (kind: string, row: number) => boolean,
): void {
  const putter = new RecordPutter(state, catalogue);
  // What is named within one record alone comes with what names it.
  const isAlone = (table: ReadonlyTable, row: number) => state.hasRows(table.name) || !isOfOne(catalogue, table, row);
  for (const { name } of containersFirst(catalogue.kinds.roots)) {
    const table = catalogue.table(name);
    for (let row = 0; row < table.size; row++) if (isThere(name, row) && isAlone(table, row)) putter.put(name, row);
  }
  putter.fill();
  state.store.keep();
}

/** Whether a record is named within one record alone, where it has no row: an axis and its values, what belongs to a product. */
function isOfOne(catalogue: ResolvedCatalogue, table: ReadonlyTable, row: number): boolean {
  const { name, of, within } = table.kind;
  if (name === "axis" || of === "axis") return true;
  if (within !== undefined) return table.referencesOf(within).first(row) >= 0;
  return of !== undefined && table.parent(row) >= 0 && isOfOne(catalogue, catalogue.table(of), table.parent(row));
}

class RecordPutter {
  readonly #records = new Map<string, HeldRecord>();
  /** Records with the rows that they are made of, in the order in which they were made. */
  readonly #made: { readonly record: HeldRecord; readonly kind: string; readonly row: number }[] = [];

  constructor(
    readonly state: PlatformState,
    readonly catalogue: ResolvedCatalogue,
  ) {}

  put(kind: string, row: number): HeldRecord {
    const table = this.catalogue.table(kind);
    const { of } = table.kind;
    const above = of === undefined ? undefined : this.#records.get(`${of} ${table.parent(row)}`);
    return this.#note(
      `${kind} ${row}`,
      kind,
      row,
      this.state.store.create(kind, { key: table.key(row), container: above }),
    );
  }

  #note(name: string, kind: string, row: number, record: HeldRecord): HeldRecord {
    this.#records.set(name, record);
    this.#made.push({ record, kind, row });
    return record;
  }

  fill(): void {
    // What is named comes to the end of the list while it is filled.
    for (const { record, kind, row } of this.#made) {
      const table = this.catalogue.table(kind);
      for (const [field, value] of this.#values(record, table, row)) this.state.store.set(record, field, value);
      for (const [list, embedded] of Object.entries(table.kind.entries ?? {})) {
        const entries = this.catalogue.table(`${kind}.${list}`);
        const own = [...entries.childrenOf(row)].map((entry) => {
          const cells = this.state.store.newEntry(entries.kind.name);
          for (const [field, value] of this.#values(record, entries, entry)) cells.set(field, value);
          return cells;
        });
        if (own.length > 0 && embedded) this.state.store.setEntries(record, list, own);
      }
    }
  }

  #values(record: HeldRecord, table: ReadonlyTable, row: number): Map<string, HeldValue> {
    const values = new Map<string, HeldValue>();
    for (const [field, column] of table.texts) {
      const value = column.get(row);
      if (typeof value === "string" && field !== "id") values.set(field, value);
    }
    for (const { name, to } of referenceFields(table.kind)) {
      const led = targetsOf(this.catalogue, table, name, row).flatMap(
        (target) => this.#named(record, to, target) ?? [],
      );
      if (led.length > 0) values.set(name, led);
    }
    return values;
  }

  /** What a record names: one that is there, or that was made because it was named. */
  #named(by: HeldRecord, kind: string, row: number): HeldRecord | undefined {
    const table = this.catalogue.table(kind);
    const { of } = table.kind;
    const above =
      of === undefined ? undefined : this.#records.get(`${of} ${table.parent(row)} ${by.container?.number ?? -1}`);
    // What lies in a record that is named within another one is named within that: variants share the values of an axis.
    const owner = above ?? by;
    const known = this.#records.get(`${kind} ${row}`) ?? this.#records.get(`${kind} ${row} ${owner.number}`);
    if (known || this.state.hasRows(kind)) return known;
    if (!isOfOne(this.catalogue, table, row))
      return this.#note(`${kind} ${row}`, kind, row, this.state.store.create(kind));
    const made = this.state.store.create(kind, { owner, container: above });
    const child = table.kind.within === undefined ? undefined : this.catalogue.kinds.childOf(kind);
    for (const inner of child ? this.catalogue.table(child.name).childrenOf(row) : [])
      this.#note(
        `${child!.name} ${inner} ${by.number}`,
        child!.name,
        inner,
        this.state.store.create(child!.name, { owner: by, container: made }),
      );
    return this.#note(`${kind} ${row} ${owner.number}`, kind, row, made);
  }
}
