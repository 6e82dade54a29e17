/** Rows to CSV text, by d3-dsv, with other quotes than its own by papaparse; quotes around nothing but what needs them. */

import { dsvFormat } from "d3-dsv";
import Papa from "papaparse";

export interface CsvWriteOptions {
  readonly delimiter: string;
  readonly lineEnd: "\r\n" | "\n";
  /** `"`, if left out. `none` where the file knows no quotes: then a cell holds neither delimiter nor line end. */
  readonly quote?: string | undefined;
}

/** Turns one row into its line, line end included. */
export function csvLine(options: CsvWriteOptions): (cells: readonly string[]) => string {
  if (options.quote === "none") return (cells) => cells.join(options.delimiter) + options.lineEnd;
  const { delimiter, lineEnd, quote = '"' } = options;
  // The first package takes these for a part of its pattern.
  if (quote !== '"' || /[\\\]-]/.test(delimiter)) {
    const how = { delimiter, newline: lineEnd, quoteChar: quote };
    return (cells) =>
      (cells.join("") === "" && cells.length === 1 ? quote + quote : Papa.unparse([[...cells]], how)) + lineEnd;
  }
  const format = dsvFormat(delimiter);
  const special = new RegExp(`["${delimiter}\r\n]`);
  return (cells) => {
    // Most cells need no quotes, and stay as they are.
    let quoted: string[] | undefined;
    for (let at = 0; at < cells.length; at++) {
      const cell = cells[at]!;
      if (cell !== "" && special.test(cell)) (quoted ??= [...cells])[at] = format.formatValue(cell);
    }
    const line = (quoted ?? cells).join(delimiter);
    // A row of one blank cell would be a line of nothing, which reads as no row.
    return (line === "" ? '""' : line) + lineEnd;
  };
}
