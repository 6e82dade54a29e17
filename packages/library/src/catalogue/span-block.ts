/** Cells of a column that stay where they stand in the text of a file: a batch of them, by where each begins and ends. */

import type { CellSpans } from "../formats/cell-spans.js";
import type { Cell } from "./cell.js";

/** A part of a file as text. Many columns have their cells in it. */
export class SheetText {
  /** Made when somebody asks: a text may be one cell. */
  #tested: Map<RegExp, boolean> | undefined;

  constructor(readonly text: string) {}

  /** Whether a pattern may match in a cell, or at what stands between two. */
  mayMatch(pattern: RegExp): boolean {
    this.#tested ??= new Map();
    let known = this.#tested.get(pattern);
    if (known === undefined) {
      known = pattern.test(this.text);
      this.#tested.set(pattern, known);
    }
    return known;
  }
}

/** Cells of a column in the text of a file, one for each row. */
export interface SpansOfColumn {
  readonly text: SheetText;
  /** The cells of that text; a start below 0 is of one that does not stand there as it is. */
  readonly cells: Pick<CellSpans, "starts" | "ends" | "cell" | "isBlank">;
  /** By row the place of its first cell, and how far behind it the column's stands. */
  readonly places: Int32Array;
  readonly index: number;
}

const absent = 0;
const emptied = 1;
/** Smaller numbers are no text's. */
const firstText = 2;
const mostTexts = 254;

export class SpanBlock {
  readonly isLong = true;
  readonly #texts: SheetText[] = [];
  /** Of each cell: its text, or that there is none. */
  readonly #which: Uint8Array;
  readonly #starts: Int32Array;
  readonly #ends: Int32Array;

  constructor(readonly rows: number) {
    this.#which = new Uint8Array(rows);
    this.#starts = new Int32Array(rows);
    this.#ends = new Int32Array(rows);
  }

  /** @returns false where no more texts have room; then nothing is set. */
  set(at: number, cell: Cell): boolean {
    if (typeof cell !== "string") {
      this.#which[at] = cell === null ? emptied : absent;
      return true;
    }
    if (this.#texts.length === mostTexts) return false;
    this.#put(at, this.#texts.push(new SheetText(cell)) - 1, 0, cell.length);
    return true;
  }

  /** Cells from a place on; blank ones are absent. @returns false where no more texts have room: then only some are set. */
  setSpans(at: number, count: number, spans: SpansOfColumn, skipped: number): boolean {
    const { text, cells, places, index } = spans;
    const { starts, ends } = cells;
    let number = this.#texts.lastIndexOf(text);
    if (number < 0 && this.#texts.length === mostTexts) return false;
    if (number < 0) number = this.#texts.push(text) - 1;
    for (let row = 0; row < count; row++) {
      const place = places[skipped + row]! + index;
      const start = starts[place]!;
      if (start >= 0) {
        if (start < ends[place]!) this.#put(at + row, number, start, ends[place]!);
      } else if (!cells.isBlank(place) && !this.set(at + row, cells.cell(place))) return false;
    }
    return true;
  }

  #put(at: number, number: number, start: number, end: number): void {
    this.#which[at] = number + firstText;
    this.#starts[at] = start;
    this.#ends[at] = end;
  }

  get(at: number): Cell {
    const which = this.#which[at]!;
    if (which < firstText) return which === emptied ? null : undefined;
    return this.#texts[which - firstText]!.text.slice(this.#starts[at], this.#ends[at]);
  }

  has(at: number): boolean {
    return this.#which[at]! >= firstText;
  }

  cells(): Cell[] {
    return Array.from({ length: this.rows }, (_, at) => this.get(at));
  }

  mayMatch(pattern: RegExp): boolean {
    return this.#texts.some((text) => text.mayMatch(pattern));
  }
}
