/** The fields that a platform tells of, worked out once for all records of a table. */

import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import type { ReadonlyTextColumn } from "../catalogue/text-column.js";
import type { Coverage } from "./coverage.js";

/** A field of both sides. */
export interface ToldText {
  readonly field: string;
  readonly own: ReadonlyTextColumn;
  readonly platform: ReadonlyTextColumn;
}

/** Of two catalogues that do not change meanwhile. */
export class ToldTexts {
  readonly #ofTable = new Map<string, readonly ToldText[]>();

  constructor(readonly coverage: Coverage) {}

  /** @param platform the table of the same kind there. */
  of(own: ReadonlyTable, platform: ReadonlyTable): readonly ToldText[] {
    let known = this.#ofTable.get(own.name);
    if (!known) {
      const fields = [...new Set([...own.texts.keys(), ...platform.texts.keys()])];
      known = fields
        .filter((field) => this.coverage.tells(own.name, field))
        .map((field) => ({ field, own: own.textsOf(field), platform: platform.textsOf(field) }));
      this.#ofTable.set(own.name, known);
    }
    return known;
  }
}
