/** Records as plain values: for pages, and for whoever reads a catalogue without its tables. */

import { referenceFields, targetsOf, type ResolvedCatalogue } from "./catalogue.js";
import type { ReadonlyTable } from "./readonly-table.js";

/** What a record or an entry has: texts by field, as `name@en`; the keys of what it refers to. Fields without anything are left out. */
export interface PlainEntry {
  readonly texts: Readonly<Record<string, string>>;
  readonly references: Readonly<Record<string, readonly string[]>>;
}

/** A record with its entries. */
export interface PlainRecord extends PlainEntry {
  readonly kind: string;
  readonly key: string;
  /** The key of what contains it; undefined for what stands by itself. */
  readonly of: string | undefined;
  /** By list: `prices`, `pictures`. */
  readonly entries: Readonly<Record<string, readonly PlainEntry[]>>;
}

/** All records of a catalogue, kind by kind, in its order. */
export function plainRecords(catalogue: ResolvedCatalogue): PlainRecord[] {
  return catalogue.kinds.roots.flatMap(({ name, of, entries = {} }) => {
    const table = catalogue.table(name);
    const lists = Object.keys(entries).map((list) => [list, catalogue.table(`${name}.${list}`)] as const);
    return Array.from({ length: table.size }, (_, row): PlainRecord => {
      const parent = table.parent(row);
      const filled = lists.flatMap(([list, inList]) => {
        const own = [...inList.childrenOf(row)].map((entry) => plainEntry(catalogue, inList, entry));
        return own.length === 0 ? [] : [[list, own] as const];
      });
      return {
        kind: name,
        key: table.key(row),
        of: of === undefined || parent < 0 ? undefined : catalogue.table(of).key(parent),
        ...plainEntry(catalogue, table, row),
        entries: Object.fromEntries(filled),
      };
    });
  });
}

function plainEntry(catalogue: ResolvedCatalogue, table: ReadonlyTable, row: number): PlainEntry {
  const texts = [...table.texts].flatMap(([field, column]) => {
    const text = column.get(row);
    return typeof text === "string" && text !== "" ? [[field, text] as const] : [];
  });
  const references = referenceFields(table.kind).flatMap(({ name, to }) => {
    const keys = targetsOf(catalogue, table, name, row).map((one) => catalogue.table(to).key(one));
    return keys.length === 0 ? [] : [[name, keys] as const];
  });
  return { texts: Object.fromEntries(texts), references: Object.fromEntries(references) };
}
