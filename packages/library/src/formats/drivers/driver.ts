/** What a format has to say for itself: one file for each, the table of all in `drivers.ts`. */

import type { Text } from "../../phrases/phrase.js";
import type { Format } from "../format.js";

/** Rows for a file. */
export interface RowsToWrite {
  /** Of the sheet, where the format has sheets. */
  readonly sheet: string;
  readonly rows: Iterable<readonly string[]>;
}

/** What a cell cannot hold, in words of what it can; undefined for what it can. */
export type CellLimit = (cell: string, at: number) => Text | undefined;

/** Of formats whose files are rows of cells. */
export interface RowsDriver<F extends Format> {
  /** How many lines a row takes in the file. */
  readonly linesOf: (cells: readonly string[]) => number;
  /** How many bytes a row takes; undefined where rows are packed together. */
  readonly bytesOf: ((format: F) => (cells: readonly string[]) => number) | undefined;
  /** @param last the position of the last cell of a row. @returns undefined where cells hold any text. */
  readonly limits: (format: F, last: number) => CellLimit | undefined;
  /** Whether a spreadsheet takes a text that begins like a formula for one. */
  readonly isOpenToFormulas: boolean;
  readonly write: (format: F, rows: RowsToWrite) => Promise<Iterable<Uint8Array>>;
}

export interface FormatDriver<F extends Format> {
  /** The ending of its files, without the dot. */
  readonly ending: (format: F) => string;
  /** As a Data Package describes its files: https://specs.frictionlessdata.io/tabular-data-resource. */
  readonly resource: (format: F) => Readonly<Record<string, unknown>>;
  /** Why files of it cannot be written, though they can be read; undefined where they can. */
  readonly unwritten: (format: F) => Text | undefined;
  /** Undefined for documents: their elements are written by the layout. */
  readonly rows: RowsDriver<F> | undefined;
}

export type FormatOf<K extends Format["is"]> = Extract<Format, { readonly is: K }>;
