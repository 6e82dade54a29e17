/** Delimited text, taken apart piece by piece: others are answered in between. */

import { setImmediate as nextTurn } from "node:timers/promises";
import { parse, type Options } from "csv-parse";

const pieceCharacters = 65_536;

export interface DelimitedRow {
  readonly cells: readonly string[];
  /** How many lines there are up to its end. */
  readonly lines: number;
}

/** @throws Error where the text breaks the rules of `options`. */
export async function readDelimited(text: string, options: Options): Promise<DelimitedRow[]> {
  const rows: DelimitedRow[] = [];
  const parser = parse({ ...options, relax_column_count: true, info: true });
  const ended = new Promise<void>((resolve, reject) => {
    parser.on("readable", () => {
      let row: { readonly record: string[]; readonly info: { readonly lines: number } } | null;
      while ((row = parser.read() as typeof row) !== null) rows.push({ cells: row.record, lines: row.info.lines });
    });
    parser.on("error", reject);
    parser.on("end", resolve);
  });
  const fed = (async () => {
    for (let at = 0; at < text.length && !parser.destroyed; at += pieceCharacters) {
      parser.write(text.slice(at, at + pieceCharacters));
      await nextTurn();
    }
    if (!parser.destroyed) parser.end();
  })();
  await Promise.all([ended, fed]);
  return rows;
}
