/** Where one field of many records comes from, of those whose field another sheet than their own has set. */

import { IntList } from "./int-list.js";
import type { FieldOrigin } from "./readonly-table.js";

/** So many are kept one by one; of more there are two numbers for each row. */
const mostApart = 1_000;
/** A sheet is kept as its number and this, so that 0 is none; what was made has a sheet of -1. */
const aboveNone = 2;

export class FieldOrigins {
  #few: Map<number, FieldOrigin> | undefined = new Map();
  /** By row. */
  #sheets = new IntList();
  #lines = new IntList();

  /** The same, to be changed; this one is not changed any more. */
  branch(): FieldOrigins {
    const made = new FieldOrigins();
    made.#few = this.#few && new Map(this.#few);
    made.#sheets = this.#sheets.branch();
    made.#lines = this.#lines.branch();
    return made;
  }

  get(row: number): FieldOrigin | undefined {
    if (this.#few) return this.#few.get(row);
    const sheet = this.#sheets.get(row);
    return sheet === 0 ? undefined : { sheet: sheet - aboveNone, line: this.#lines.get(row) };
  }

  set(row: number, origin: FieldOrigin): void {
    if (this.#few) {
      this.#few.set(row, origin);
      if (this.#few.size <= mostApart) return;
      for (const [one, own] of this.#few) this.#put(one, own);
      this.#few = undefined;
    } else this.#put(row, origin);
  }

  #put(row: number, { sheet, line }: FieldOrigin): void {
    this.#sheets.set(row, sheet + aboveNone);
    this.#lines.set(row, line);
  }

  *[Symbol.iterator](): Generator<readonly [row: number, origin: FieldOrigin]> {
    if (this.#few) return yield* this.#few;
    for (let row = 0; row < this.#sheets.length; row++) {
      const origin = this.get(row);
      if (origin) yield [row, origin];
    }
  }
}
