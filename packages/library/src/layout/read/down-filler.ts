/** Blank cells that stand for the cell above. */

import type { CellTally } from "./tally.js";

export class DownFiller {
  /** By position: the last text of the column. */
  readonly #above = new Map<number, string>();

  /** @param at the positions of the columns; -1 for one that the sheet lacks. */
  constructor(
    readonly at: readonly number[],
    readonly tally: CellTally,
  ) {}

  /** @returns the same cells where none of them is blank. */
  fill(cells: readonly string[], line: number): readonly string[] {
    let filled: string[] | undefined;
    for (const index of this.at) {
      if (index < 0) continue;
      const cell = cells[index] ?? "";
      const above = this.#above.get(index);
      if (cell !== "") this.#above.set(index, cell);
      else if (above !== undefined) {
        filled ??= [...cells];
        filled[index] = above;
        this.tally.filledDown(line, index);
      }
    }
    return filled ?? cells;
  }
}
