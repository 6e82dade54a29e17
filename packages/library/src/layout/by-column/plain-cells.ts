/** The cells of some rows of a sheet, looked at column by column: what they hold, and in which rows there is anything unusual. */

import type { Codec } from "../../codecs/codec.js";
import { textCodec } from "../../codecs/scalars.js";
import type { CellSpans } from "../../formats/cell-spans.js";
import type { UnusualColumn } from "./plan.js";

/** By row; undefined for blank cells. */
export type Values = readonly (string | undefined)[];

export class PlainCells {
  /** By row, 1 for those that are not plain. */
  readonly isOdd: Uint8Array;

  /** @param width how many cells each row has. */
  constructor(
    readonly spans: CellSpans,
    width: number,
  ) {
    const { size, firsts } = spans;
    this.isOdd = new Uint8Array(size);
    for (let row = 0; row < size; row++)
      if (firsts[row + 1]! - firsts[row]! !== width || this.#isBlankRow(row)) this.isOdd[row] = 1;
  }

  #isBlankRow(row: number): boolean {
    for (let place = this.spans.firsts[row]!; place < this.spans.firsts[row + 1]!; place++)
      if (!this.spans.isBlank(place)) return false;
    return true;
  }

  cell(row: number, index: number): string {
    return this.spans.cell(this.spans.firsts[row]! + index);
  }

  isBlank(row: number, index: number): boolean {
    return this.spans.isBlank(this.spans.firsts[row]! + index);
  }

  /** Rows whose cell is too long are not plain. @param most how many characters a cell may have. */
  seeLength(index: number, most: number): void {
    const { starts, ends, firsts, size } = this.spans;
    for (let row = 0; row < size; row++) {
      const place = firsts[row]! + index;
      const start = starts[place]!;
      if (this.isOdd[row] === 0 && ends[place]! - (start < 0 ? ~start : start) > most) this.isOdd[row] = 1;
    }
  }

  /** Rows with a cell that says more than it holds are not plain. */
  seeUnusual({ index, isUnusual }: UnusualColumn): void {
    for (let row = 0; row < this.spans.size; row++)
      if (this.isOdd[row] === 0 && isUnusual(this.isBlank(row, index) ? "" : this.cell(row, index)))
        this.isOdd[row] = 1;
  }

  /** The values of a column. Rows whose cell is not in its form are not plain. */
  valuesIn({ index, codec }: { readonly index: number; readonly codec: Codec }): Values {
    const { spans } = this;
    const values = new Array<string | undefined>(spans.size);
    for (let row = 0; row < spans.size; row++) {
      if (this.isOdd[row] !== 0 || this.isBlank(row, index)) continue;
      const cell = this.cell(row, index);
      const value = codec === textCodec ? cell : codec.parse(cell);
      if (typeof value === "string") values[row] = value;
      else this.isOdd[row] = 1;
    }
    return values;
  }

  /** The cells of a row at some places, and nothing else of it; undefined where all of them are blank. */
  cellsAt(row: number, places: readonly (readonly number[])[], width: number): string[] | undefined {
    let cells: string[] | undefined;
    for (const indexes of places)
      for (const index of indexes)
        if (!this.isBlank(row, index)) (cells ??= new Array<string>(width))[index] = this.cell(row, index);
    return cells;
  }
}
