/**
 * One field of many records, as text: rows are appended, and packed in batches.
 *
 * A packed batch is one long string with the ends of its cells, or, where few different texts repeat, a dictionary; or its cells stay
 * where they stand in the text of a file. So a million rows are some hundred objects, not twenty million. A cell is a text, `null` (emptied), or undefined (absent).
 */

import type { Cell } from "./cell.js";
import { Seal } from "./seal.js";
import { SpanBlock, type SpansOfColumn } from "./span-block.js";

const batchBits = 11;
const batchRows = 1 << batchBits;
const dictionaryMost = 256;
/** A dictionary is tried where the first cells of a batch hold few different texts. */
const sampled = 64;
const fewInSample = 32;

export interface ReadonlyTextColumn {
  get(row: number): Cell;
  /** Whether a text is there. */
  has(row: number): boolean;
  /** The cells from a row up to another, that one left out. */
  read(from: number, to: number): readonly Cell[];
  /** The rows whose text matches, of so many. A batch in which nothing can match is passed over at once. */
  matching(pattern: RegExp, size: number): Generator<number>;
}

interface Packed {
  readonly isLong: boolean;
  /** Whether a text of the batch, or the seam between two, matches. */
  mayMatch(pattern: RegExp): boolean;
  get(at: number): Cell;
  has(at: number): boolean;
}

/** What matches only at the ends of a cell, or with something beside it, does not match in many cells put together. */
const looksAround = /[\^$]|\\b|\(\?/i;

export class TextColumn implements ReadonlyTextColumn {
  #packed: (Packed | undefined)[] = [];
  /** Of the last batch. It grows until that is full: most columns of small catalogues never need it whole. */
  #open: Cell[] = [];
  /** The same, where its cells stay in the text of a file; then `#open` has none. */
  #openSpans: SpanBlock | undefined;
  #base = 0;
  #isVaried = false;
  /** Changes to rows that are packed already; rare. */
  #changed = new Map<number, Cell>();
  readonly seal = new Seal();
  /** Called with each row that is about to change. */
  watch: ((row: number) => void) | undefined;

  /** The same cells, to be changed; this column is sealed. What is packed is shared. */
  branch(): TextColumn {
    this.seal.close();
    const made = new TextColumn();
    made.#packed = this.#packed.slice();
    made.#open = this.#openSpans?.cells() ?? this.#open.slice();
    made.#base = this.#base;
    made.#isVaried = this.#isVaried;
    made.#changed = new Map(this.#changed);
    return made;
  }

  get(row: number): Cell {
    if (row >= this.#base) return this.#openSpans ? this.#inSpans(row) : this.#open[row - this.#base];
    if (this.#changed.size > 0 && this.#changed.has(row)) return this.#changed.get(row);
    return this.#packed[row >> batchBits]?.get(row & (batchRows - 1));
  }

  has(row: number): boolean {
    if (row >= this.#base) {
      const at = row - this.#base;
      if (this.#openSpans) return at < batchRows && this.#openSpans.has(at);
      return typeof this.#open[at] === "string";
    }
    if (this.#changed.size > 0 && this.#changed.has(row)) return typeof this.#changed.get(row) === "string";
    return this.#packed[row >> batchBits]?.has(row & (batchRows - 1)) ?? false;
  }

  #inSpans(row: number): Cell {
    const at = row - this.#base;
    return at < batchRows ? this.#openSpans?.get(at) : undefined;
  }

  *matching(pattern: RegExp, size: number): Generator<number> {
    const isAround = looksAround.test(pattern.source);
    for (let start = 0; start < size; start += batchRows) {
      const packed = start < this.#base ? this.#packed[start >> batchBits] : undefined;
      const mayMatch = packed !== undefined && (isAround || packed.mayMatch(pattern));
      const isPassed = start < this.#base && this.#changed.size === 0 && !mayMatch;
      if (isPassed) continue;
      for (let row = start; row < Math.min(size, start + batchRows); row++) {
        const cell = this.get(row);
        if (typeof cell === "string" && pattern.test(cell)) yield row;
      }
    }
  }

  read(from: number, to: number): Cell[] {
    const cells = new Array<Cell>(Math.max(0, to - from));
    for (let row = from; row < to; row++) cells[row - from] = this.get(row);
    return cells;
  }

  /** Puts cells into the rows from one on. */
  write(from: number, cells: readonly Cell[]): void {
    for (let at = 0; at < cells.length; at++) this.set(from + at, cells[at]);
  }

  set(row: number, cell: Cell): void {
    this.seal.check();
    this.watch?.(row);
    if (row < this.#base) {
      this.#changed.set(row, cell);
      return;
    }
    while (row - this.#base >= batchRows) this.#pack();
    const at = row - this.#base;
    if (this.#openSpans) {
      if (this.#openSpans.set(at, cell)) return;
      this.#open = this.#openSpans.cells();
      this.#openSpans = undefined;
    }
    // A column that has filled one batch is likely to fill the next.
    if (at >= this.#open.length) this.#open = longer(this.#open, this.#base === 0 ? at : batchRows - 1);
    this.#open[at] = cell;
  }

  /** Gives all its cells to a column that has none yet. The list is kept as it is, and may not be changed any more. */
  hold(cells: readonly Cell[]): void {
    this.seal.check();
    if (this.#base > 0 || this.#open.length > 0 || this.#openSpans) throw new Error("the column has cells");
    for (; this.#base + batchRows <= cells.length; this.#base += batchRows) this.#packed.push(held(cells, this.#base));
    this.#open = cells.slice(this.#base);
  }

  /** Puts cells that stand in the text of a file into as many new rows, from one on. Blank ones are absent. */
  writeSpans(from: number, spans: SpansOfColumn): void {
    this.seal.check();
    const count = spans.places.length;
    for (let done = 0; done < count;) {
      const row = from + done;
      while (row - this.#base >= batchRows) this.#pack();
      const at = row - this.#base;
      if (this.#open.length === 0) this.#openSpans ??= new SpanBlock(batchRows);
      const rows = Math.min(count - done, batchRows - at);
      if (!this.#openSpans?.setSpans(at, rows, spans, done))
        for (let next = 0; next < rows; next++) this.set(row + next, cellIn(spans, done + next));
      done += rows;
    }
    if (this.watch) for (let row = from; row < from + count; row++) this.watch(row);
  }

  #pack(): void {
    if (this.#openSpans) {
      this.#packed.push(this.#openSpans);
      this.#openSpans = undefined;
      this.#base += batchRows;
      return;
    }
    // A column of many different texts goes on so: the search for a dictionary is not begun again with each batch.
    this.#isVaried ||= new Set(this.#open.slice(0, sampled)).size > fewInSample;
    const packed = this.#isVaried ? packLong(this.#open) : packCells(this.#open);
    this.#isVaried ||= packed?.isLong ?? false;
    this.#packed.push(packed);
    this.#open = [];
    this.#base += batchRows;
  }
}

/** A batch of a list. */
const held = (cells: readonly Cell[], base: number): Packed => ({
  isLong: true,
  mayMatch: (pattern) =>
    cells.slice(base, base + batchRows).some((cell) => typeof cell === "string" && pattern.test(cell)),
  get: (at) => cells[base + at],
  has: (at) => typeof cells[base + at] === "string",
});

function cellIn({ cells, places, index }: SpansOfColumn, number: number): Cell {
  const place = places[number]! + index;
  return cells.isBlank(place) ? undefined : cells.cell(place);
}

/** The same cells with room for another. An array that is filled with gaps, one by one, would turn into a slow one. */
function longer(cells: readonly Cell[], place: number): Cell[] {
  let size = 32;
  while (size <= place) size *= 2;
  const made = new Array<Cell>(size);
  for (let at = 0; at < cells.length; at++) made[at] = cells[at];
  return made;
}

function packCells(cells: readonly Cell[]): Packed | undefined {
  const places = new Map<Cell, number>();
  const codes = new Uint8Array(batchRows);
  for (let at = 0; at < batchRows; at++) {
    const cell = cells[at];
    let code = places.get(cell);
    if (code === undefined) {
      if (places.size === dictionaryMost) return packLong(cells);
      places.set(cell, (code = places.size));
    }
    codes[at] = code;
  }
  const dictionary = [...places.keys()];
  if (dictionary.length === 1) {
    const only = dictionary[0];
    const mayMatch = (pattern: RegExp) => typeof only === "string" && pattern.test(only);
    const has = () => typeof only === "string";
    return only === undefined ? undefined : { isLong: false, mayMatch, get: () => only, has };
  }
  const mayMatch = (pattern: RegExp) => dictionary.some((cell) => typeof cell === "string" && pattern.test(cell));
  const has = (at: number) => typeof dictionary[codes[at]!] === "string";
  return { isLong: false, mayMatch, get: (at) => dictionary[codes[at]!], has };
}

function packLong(cells: readonly Cell[]): Packed {
  const ends = new Uint32Array(batchRows);
  let states: Uint8Array | undefined;
  let end = 0;
  const parts: string[] = [];
  for (let at = 0; at < batchRows; at++) {
    const cell = cells[at];
    if (typeof cell === "string") {
      parts.push(cell);
      end += cell.length;
    } else {
      states ??= new Uint8Array(batchRows);
      states[at] = cell === null ? 2 : 1;
    }
    ends[at] = end;
  }
  // Joining copies: the cells no longer hold on to the chunk of the file that they were cut from.
  const long = parts.join("");
  return {
    isLong: true,
    mayMatch: (pattern) => pattern.test(long),
    get: (at) => {
      if (states && states[at] !== 0) return states[at] === 2 ? null : undefined;
      return long.slice(at === 0 ? 0 : ends[at - 1], ends[at]);
    },
    has: (at) => !states || states[at] === 0,
  };
}
