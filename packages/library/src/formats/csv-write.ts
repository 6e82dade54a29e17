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
  if (quote !== '"') {
    const how = { delimiter, newline: lineEnd, quoteChar: quote };
    return (cells) =>
      (cells.join("") === "" && cells.length === 1 ? quote + quote : Papa.unparse([[...cells]], how)) + lineEnd;
  }
  const format = dsvFormat(options.delimiter);
  return (cells) => {
    const line = format.formatRow(cells);
    // A row of one blank cell would be a line of nothing, which reads as no row.
    return (line === "" ? '""' : line) + options.lineEnd;
  };
}
