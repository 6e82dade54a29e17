/** Rows of a sheet as they are read, some at a time. */

/** Rows as they stand in the file, with the line each begins on. Lines with nothing on them are left out. */
export interface RowBatch {
  readonly rows: readonly (readonly string[])[];
  readonly lines: readonly number[];
  /** In workbooks, by row of the batch and column: what a cell looks like that is stored otherwise. */
  readonly evidence?: ReadonlyMap<number, ReadonlyMap<number, CellEvidence>>;
  /** In workbooks, by row of the batch: the columns whose cells are stored as numbers. Their text is a decimal with a point. */
  readonly numbers?: ReadonlyMap<number, readonly number[]>;
}

/** A cell of a date, or of a number that is shown otherwise than it is stored. */
export interface CellEvidence {
  readonly is: "date" | "number";
  readonly shown: string;
}
