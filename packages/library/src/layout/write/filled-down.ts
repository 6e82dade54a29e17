/** Cells that are written blank, and would be read as the cell above. */

import type { Header } from "../../nominal.js";
import type { Layout } from "../layout.js";
import type { WrittenRow } from "./context.js";

export class FilledDown {
  readonly #at: readonly (readonly [header: Header, index: number])[];
  readonly #above = new Map<number, string>();
  #parent = -1;

  /** @param headers of the sheet. */
  constructor({ filledDown }: Layout, headers: readonly Header[]) {
    this.#at = filledDown.map((header) => [header, headers.indexOf(header)] as const).filter(([, index]) => index >= 0);
  }

  /** The columns in which the next row says something else than it is to. Rows below the first of a record only repeat it. */
  *misread({ parent }: WrittenRow, cells: readonly string[]): Generator<Header> {
    const isFirst = parent !== this.#parent;
    this.#parent = parent;
    for (const [header, index] of this.#at) {
      const cell = cells[index] ?? "";
      if (cell !== "") this.#above.set(index, cell);
      else if (isFirst && this.#above.has(index)) yield header;
    }
  }
}
