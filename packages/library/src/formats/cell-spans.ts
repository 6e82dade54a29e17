/** Rows as they stand in the text of a file: where each cell begins and ends. No cell is taken out of it until somebody asks. */

import type { RowBatch } from "./row-batch.js";

export class CellSpans implements RowBatch {
  #rows: readonly (readonly string[])[] | undefined;

  /**
   * @param quote stands twice in cells for once.
   * @param starts where each cell begins, row by row; of a cell with doubled quotes its complement, below 0.
   * @param ends where it ends.
   * @param firsts the place in `starts` of each row's first cell, and, at the end, of the one behind the last.
   */
  constructor(
    readonly text: string,
    readonly quote: string,
    readonly starts: Int32Array,
    readonly ends: Int32Array,
    readonly firsts: Int32Array,
    readonly lines: readonly number[],
  ) {}

  get size(): number {
    return this.lines.length;
  }

  /** All rows, taken out. */
  get rows(): readonly (readonly string[])[] {
    return (this.#rows ??= this.lines.map((_, row) => this.row(row)));
  }

  row(row: number): readonly string[] {
    const first = this.firsts[row]!;
    const cells = new Array<string>(this.firsts[row + 1]! - first);
    for (let at = 0; at < cells.length; at++) cells[at] = this.cell(first + at);
    return cells;
  }

  /** @param place of the cell in `starts`. */
  cell(place: number): string {
    const start = this.starts[place]!;
    if (start >= 0) return this.text.slice(start, this.ends[place]);
    return this.text.slice(~start, this.ends[place]).replaceAll(this.quote + this.quote, this.quote);
  }

  isBlank(place: number): boolean {
    const start = this.starts[place]!;
    return (start < 0 ? ~start : start) === this.ends[place];
  }
}
