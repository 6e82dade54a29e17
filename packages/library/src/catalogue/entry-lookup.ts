/**
 * Entries by what tells them apart: the plain price of a variant, the stock at a place. Asked here, so that the storage alone decides
 * how such an entry is found.
 */

import { entryKeyOf, fieldOf } from "../kind.js";
import type { ReadonlyTable } from "./readonly-table.js";

export interface EntryLookup {
  /** Whether an entry is one of these. */
  has(entry: number): boolean;
  /** The first of an owner, -1 where it has none. */
  first(owner: number): number;
  /** All of an owner, in the order in which they came. */
  all(owner: number): readonly number[];
}

/** Whether a reference is to the record that a constant names. */
export type IsNamed = (field: string, reference: number) => boolean;

/**
 * The entries whose key is exactly the constants.
 *
 * @param constants fields of the key with their texts; all other fields of the key are empty.
 * @param free fields of the key that may hold anything.
 * @param isNamed tells for the constants that name records; needed where there are such.
 */
export function entryLookup(
  entries: ReadonlyTable,
  constants: Readonly<Record<string, string>>,
  free: readonly string[] = [],
  isNamed: IsNamed = () => false,
): EntryLookup {
  const isReference = (name: string) => fieldOf(entries.kind, name)?.reference !== undefined;
  const given = Object.entries(constants);
  const wanted = given.flatMap(([field, value]) =>
    isReference(field) ? [] : [{ column: entries.textsOf(field), value }],
  );
  const named = given.flatMap(([field]) =>
    isReference(field) ? [{ field, column: entries.referencesOf(field) }] : [],
  );
  // A column of one of two fields that stand in for each other shows both.
  const shown = free.flatMap((field) => [field, fieldOf(entries.kind, field)?.reference?.otherwise ?? field]);
  const others = entryKeyOf(entries.kind).filter((field) => !shown.includes(field) && !Object.hasOwn(constants, field));
  // What no entry says by now need not be asked of each.
  const texts = others.filter((name) => !isReference(name)).flatMap((name) => entries.texts.get(name) ?? []);
  const references = others.filter(isReference).flatMap((name) => entries.references.get(name) ?? []);
  const has = (entry: number): boolean => {
    // By place: it is asked of every entry again and again, and an iterator would be made each time.
    for (let at = 0; at < wanted.length; at++) if (wanted[at]!.column.get(entry) !== wanted[at]!.value) return false;
    for (let at = 0; at < named.length; at++)
      if (!isNamed(named[at]!.field, named[at]!.column.first(entry))) return false;
    for (let at = 0; at < texts.length; at++) if (texts[at]!.get(entry) !== undefined) return false;
    for (let at = 0; at < references.length; at++) if (references[at]!.first(entry) >= 0) return false;
    return true;
  };
  return {
    has,
    first: (owner) => entries.findChild(owner, has),
    all: (owner) => entries.childrenWhere(owner, has),
  };
}
