/** Rows that name another row by its line: the line in the file that is written, which is known only when the rows come. */

import { unwritable, type Unwritable } from "../../codecs/codec.js";
import { phrase } from "../../phrases/phrase.js";
import type { Layout } from "../layout.js";
import type { WrittenRow } from "./context.js";

/** Why a row cannot name its parent's by the line. */
export const noLine: Unwritable = unwritable("", phrase("the line of a row of this file"));

/** Whether rows of a layout name others of their file by the line. */
const namesLines = ({ shape }: Layout): boolean =>
  shape.is === "own-row" && shape.joined.by === "reference" && shape.joined.names === "line";

export class WrittenLines {
  #line = 1;
  readonly #ownLines = new Map<number, number>();
  /** Undefined where no row names a line: then none is counted. */
  readonly #linesOf: ((cells: readonly string[]) => number) | undefined;

  /** @param layouts those of the file. @param linesOf how many lines a row takes. @param above the rows above the first: notes, a header. */
  constructor(
    layouts: readonly Layout[],
    linesOf: (cells: readonly string[]) => number,
    above: readonly (readonly string[])[],
  ) {
    this.#linesOf = layouts.some(namesLines) ? linesOf : undefined;
    for (const cells of above) this.#line += linesOf(cells);
  }

  /** The cells of the next row, as they are so far. @param lacks is called where the row that it names is not in the file. */
  filled({ parent, lineOf }: WrittenRow, cells: readonly string[], lacks: (column: number) => void): readonly string[] {
    if (typeof lineOf !== "number") return cells;
    const line = this.#ownLines.get(parent);
    if (line === undefined) lacks(lineOf);
    return line === undefined ? cells : cells.with(lineOf, String(line));
  }

  /** That row has been written. */
  next({ parent, lineOf }: WrittenRow, written: readonly string[]): void {
    if (!this.#linesOf) return;
    if (lineOf === "named") this.#ownLines.set(parent, this.#line);
    this.#line += this.#linesOf(written);
  }
}
