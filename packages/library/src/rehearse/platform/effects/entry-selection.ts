/** Which entries of a record columns are about. */

import { present } from "../../../checked.js";
import { entryKeyOf, fieldOf, type KindSpec } from "../../../kind.js";
import type { NamedConstants } from "../../../layout/layout.js";
import type { UseOf } from "../columns.js";
import { sameValue, valueOf, type EntryCells, type HeldEntry, type HeldValue } from "../held-record.js";
import type { RecordPlace } from "./effect.js";

export type EntryUse = UseOf<"entry">;
export type EntriesUse = UseOf<"entries">;

/** Which entries of a record are selected: those of a list with these constants, and with no more to tell them apart than the free fields. */
export interface EntrySelection {
  readonly list: string;
  readonly kind: KindSpec;
  readonly constants: readonly (readonly [field: string, word: string])[];
  readonly named: NamedConstants;
  /** The fields of the key that they do not have. */
  readonly others: readonly string[];
}

export function selectionOf(
  place: RecordPlace,
  { feed }: EntryUse | EntriesUse,
  free: readonly string[],
): EntrySelection {
  const { entries: list, constants, named } = feed;
  const kind = place.kinds.get(present(place.kind.entries)[list]!);
  const shown = free.flatMap((field) => [field, fieldOf(kind, field)?.reference?.otherwise ?? field]);
  const others = entryKeyOf(kind).filter((field) => !shown.includes(field) && !Object.hasOwn(constants, field));
  return { list, kind, constants: Object.entries(constants), named, others };
}

/** The same for the rows of one file: worked out for the first of them. */
export function selectionOnce(
  use: EntryUse | EntriesUse,
  free: readonly string[],
): (place: RecordPlace) => EntrySelection {
  let known: EntrySelection | undefined;
  return (place) => (known ??= selectionOf(place, use, free));
}

/** Whether an entry is one of those that are selected. */
export function selects({ others }: EntrySelection, constants: EntryCells): (entry: HeldEntry) => boolean {
  // Asked of most entries of a rehearsal: where the constants stand is the same in all entries of a kind.
  const places = new Array<number>(constants.size);
  const values = new Array<HeldValue>(constants.size);
  let count = 0;
  constants.each((_field, cell, place) => {
    places[count] = place;
    values[count++] = valueOf(cell);
  });
  return (entry) => {
    for (let nth = 0; nth < count; nth++) {
      const cell = entry.at(places[nth]!);
      if (cell === undefined || !sameValue(valueOf(cell), values[nth])) return false;
    }
    return others.every((field) => !entry.has(field));
  };
}
