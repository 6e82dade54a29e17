/** The entries that records had before the rows of a sheet came to say more of them. */

import { entryKeyOf } from "../../kind.js";
import type { ReadonlyReferenceColumn } from "../../catalogue/reference-column.js";
import { noReference } from "../../catalogue/reference-pool.js";
import type { Table } from "../../catalogue/table.js";
import type { ReadonlyTextColumn } from "../../catalogue/text-column.js";

/** A field of the key of entries. */
interface KeyField {
  readonly name: string;
  readonly texts: ReadonlyTextColumn;
  /** Undefined for a text. */
  readonly references: ReadonlyReferenceColumn | undefined;
}

/** What is wanted in a field of the key: a text, or the number of a reference. */
export type WantedKey = (field: string) => string | number | undefined;

/** One for all that the rows of a sheet fill, in one language. */
export class EntriesBefore {
  readonly #known = new Map<Table, (owner: number) => Int32Array>();

  /** The entries of a table that an owner had when the first was looked for. */
  of(entries: Table): (owner: number) => Int32Array {
    let known = this.#known.get(entries);
    if (!known) this.#known.set(entries, (known = entries.childrenNow()));
    return known;
  }
}

/** Finds the entry of a key among those that an owner had before. */
export class EntryBefore {
  readonly #fields: readonly KeyField[];
  readonly #of: (owner: number) => Int32Array;

  constructor(entries: Table, before: EntriesBefore) {
    this.#of = before.of(entries);
    this.#fields = entryKeyOf(entries.kind).map((name) => ({
      name,
      texts: entries.textsOf(name),
      references: entries.references.get(name),
    }));
  }

  /** @returns -1 where there is none. */
  find(owner: number, wantedOf: () => WantedKey): number {
    const before = this.#of(owner);
    if (before.length === 0) return -1;
    const wantedIn = wantedOf();
    const wanted = this.#fields.map(({ name }) => wantedIn(name));
    for (const entry of before) if (hasKey(entry, this.#fields, wanted)) return entry;
    return -1;
  }
}

/** @param wanted in the fields of the key, in their order. */
function hasKey(entry: number, key: readonly KeyField[], wanted: readonly (string | number | undefined)[]): boolean {
  for (let at = 0; at < key.length; at++) {
    const { texts, references } = key[at]!;
    const isSame = references
      ? references.first(entry) === (wanted[at] ?? noReference)
      : (texts.get(entry) ?? undefined) === wanted[at];
    if (!isSame) return false;
  }
  return true;
}
