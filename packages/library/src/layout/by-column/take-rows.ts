/** How the rows of a sheet are shared out: some are taken by column, the others go one by one to who reads row by row. */

import type { CellSpans } from "../../formats/cell-spans.js";

/** Takes rows of a sheet, from one on: those about which there is nothing to say by column, all others through who reads row by row. */
export interface ByColumn {
  readonly take: (spans: CellSpans, from: number, rowByRow: RowByRow) => void;
}

/** Who reads row by row. */
export interface RowByRow {
  readonly readRow: (row: number) => void;
  /** The word of the record whose rows may go on; undefined where there is none. */
  readonly openWord: () => string | undefined;
  /** That record has no more rows. */
  readonly endOpen: () => void;
}
