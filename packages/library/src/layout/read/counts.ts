/** What became of the rows and cells of a file that was read. */

import { noCells, type CellCounts } from "./tally.js";

/** How many rows came, and what became of them. Together they are all rows below the header. */
export interface ReadCounts {
  rows: number;
  blankRows: number;
  reportedRows: number;
  /** Left out because the layout says so: notes, a model row. */
  ignoredRows: number;
  /** Every filled cell, and what became of it. In documents the values of paths that the layout binds. */
  readonly cells: CellCounts;
  /** What the file was found to be: `CSV ";" utf-8`, `workbook`, `XML utf-8`. */
  form: string;
}

export const noRows = (): ReadCounts => ({
  rows: 0,
  blankRows: 0,
  reportedRows: 0,
  ignoredRows: 0,
  cells: noCells(),
  form: "",
});
