/** Entries that records share: an entry never changes, so what rows say alike is made once. */

import { present } from "../../../checked.js";
import { remembering } from "../../../codecs/remembered.js";
import type { EntryCells, HeldEntry } from "../held-record.js";
import type { Act, RecordPlace } from "./effect.js";
import { selects, type EntrySelection, type EntryUse } from "./entry-selection.js";

const none: readonly HeldEntry[] = [];

/** Stands between the texts of two columns. */
const between = "\u0000";

/** What all entries of some columns have, and which of a record's they go on with. */
interface FixedCells {
  readonly constants: EntryCells;
  readonly isSelected: (entry: HeldEntry) => boolean;
}

/** Entries of columns that name nothing: records whose rows say the same texts of them share one, and the list of it alone. */
export class SharedEntries {
  #fixed: FixedCells | undefined;
  /** By the texts of the columns. */
  readonly #listOf = remembering((texts: string) => this.#made(texts));

  constructor(readonly uses: readonly EntryUse[]) {}

  /** Whether what cells say is all that an entry is made of. */
  static isFor(uses: readonly EntryUse[]): boolean {
    return uses.every(
      ({ feed: { field, named }, rule, list }) =>
        field.is === "text" && Object.keys(named).length === 0 && !rule?.picture && list === undefined,
    );
  }

  /** @returns undefined where cells ask for anything but their texts. */
  of(
    place: RecordPlace,
    selection: EntrySelection,
    actOf: (use: EntryUse) => Act,
  ): (Pick<FixedCells, "isSelected"> & { readonly entries: readonly HeldEntry[] }) | undefined {
    let texts: string | undefined;
    for (const use of this.uses) {
      const act = actOf(use);
      const text = act.is === "say" ? act.value : act.is === "clear" ? "" : undefined;
      if (typeof text !== "string" || (this.uses.length > 1 && text.includes(between))) return undefined;
      texts = texts === undefined ? text : texts + between + text;
    }
    this.#fixed ??= this.#fixedOf(place, selection);
    return { entries: this.#listOf(texts ?? ""), isSelected: this.#fixed.isSelected };
  }

  #fixedOf({ store }: RecordPlace, selection: EntrySelection): FixedCells {
    const constants = store.newEntry(selection.kind.name);
    for (const [field, word] of selection.constants) constants.set(field, word);
    return { constants, isSelected: selects(selection, constants) };
  }

  /** A list of the entry, or of none where no text says anything. */
  #made(texts: string): readonly HeldEntry[] {
    const entry = present(this.#fixed).constants.copy();
    const { size } = entry;
    const each = this.uses.length > 1 ? texts.split(between) : [texts];
    this.uses.forEach(({ feed }, at) => entry.set(feed.field.name, each[at] === "" ? undefined : each[at]));
    return entry.size > size ? [entry] : none;
  }
}
