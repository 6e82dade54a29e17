/** The entries that records had before the rows of a sheet came to say more of them. */

import { entryKeyOf } from "../../kind.js";
import type { ReadonlyReferenceColumn } from "../../catalogue/reference-column.js";
import { noReference } from "../../catalogue/reference-pool.js";
import type { ChildrenThen } from "../../catalogue/readonly-table.js";
import type { Table } from "../../catalogue/table.js";
import type { ReadonlyTextColumn } from "../../catalogue/text-column.js";

/** A field of the key of entries. */
interface KeyField {
  readonly texts: ReadonlyTextColumn;
  /** Undefined for a text. */
  readonly references: ReadonlyReferenceColumn | undefined;
}

/** What is wanted in the fields of the key, in their order: a text, or the number of a reference. */
export type WantedKey = readonly (string | number | undefined)[];

/** One for all that the rows of a sheet fill, in one language. */
export class EntriesBefore {
  readonly #known = new Map<Table, ChildrenThen>();

  /** The entries of a table that an owner had when the first was looked for. */
  of(entries: Table): ChildrenThen {
    let known = this.#known.get(entries);
    if (!known) this.#known.set(entries, (known = entries.childrenNow()));
    return known;
  }
}

/** Finds the entry of a key among those that an owner had before. */
export class EntryBefore {
  /** The fields by which entries are told apart. */
  readonly key: readonly string[];
  readonly #fields: readonly KeyField[];
  readonly #before: ChildrenThen;
  #wanted: WantedKey = [];
  /** One for all entries that are asked. */
  readonly #isWanted = (entry: number): boolean => hasKey(entry, this.#fields, this.#wanted);

  constructor(entries: Table, before: EntriesBefore) {
    this.#before = before.of(entries);
    this.key = entryKeyOf(entries.kind);
    this.#fields = this.key.map((name) => ({
      texts: entries.textsOf(name),
      references: entries.references.get(name),
    }));
  }

  /** @returns -1 where there is none. */
  find(owner: number, wantedOf: () => WantedKey): number {
    if (this.#before.count(owner) === 0) return -1;
    this.#wanted = wantedOf();
    return this.#before.find(owner, this.#isWanted);
  }
}

function hasKey(entry: number, key: readonly KeyField[], wanted: WantedKey): boolean {
  for (let at = 0; at < key.length; at++) {
    const { texts, references } = key[at]!;
    const isSame = references
      ? references.first(entry) === (wanted[at] ?? noReference)
      : (texts.get(entry) ?? undefined) === wanted[at];
    if (!isSame) return false;
  }
  return true;
}
