/** What stands above the rows of a sheet, and where their cells stand without a header. */

import { columnAt } from "../../formats/letters.js";
import type { Layout } from "../layout.js";
import { greatest } from "../../lists.js";

/** What stands above the rows: notes, and the header. Columns without headers are known by their letters. */
export function rowsAbove({ headerLine, notes }: Layout, header: readonly string[]): readonly (readonly string[])[] {
  if (headerLine === undefined) return [];
  return [...Array.from({ length: headerLine - 1 }, (_, at) => [notes[at] ?? ""]), header];
}

/** Cells at the places of their letters. */
export function* byLetters(
  letters: readonly string[],
  rows: Iterable<readonly string[]>,
): Generator<readonly string[]> {
  const width = greatest(letters.map(columnAt)) + 1;
  const places = letters.map(columnAt);
  for (const row of rows) {
    const cells = new Array<string>(width).fill("");
    row.forEach((cell, at) => (cells[places[at]!] = cell));
    yield cells;
  }
}
