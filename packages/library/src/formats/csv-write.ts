/** Rows to CSV text, by d3-dsv; line ends, and quotes around nothing but what needs them. */

import { dsvFormat } from "d3-dsv";

export interface CsvWriteOptions {
  readonly delimiter: string;
  readonly lineEnd: "\r\n" | "\n";
  /** `none` where the file knows no quotes: then a cell holds neither delimiter nor line end. */
  readonly quote?: string | undefined;
}

/** Turns one row into its line, line end included. */
export function csvLine(options: CsvWriteOptions): (cells: readonly string[]) => string {
  if (options.quote === "none") return (cells) => cells.join(options.delimiter) + options.lineEnd;
  const format = dsvFormat(options.delimiter);
  return (cells) => {
    const line = format.formatRow(cells);
    // A row of one blank cell would be a line of nothing, which reads as no row.
    return (line === "" ? '""' : line) + options.lineEnd;
  };
}
