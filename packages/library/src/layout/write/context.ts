/** What writing a cell needs: where values come from, and how it says what cannot be written. */

import type { ResolvedCatalogue } from "../../catalogue/catalogue.js";
import type { CellValue } from "../../codecs/codec.js";
import type { Findings } from "../../findings/finding.js";
import type { Column } from "../layout.js";
import type { AxisReader } from "./axes.js";

/** @param parent the row that contains the record; the record itself where it is not contained. */
export type ToCell = (record: number, parent: number) => string;
export type ToValue = (record: number, parent: number) => CellValue | undefined;

export interface CellContext {
  readonly catalogue: ResolvedCatalogue;
  readonly columns: readonly Column[];
  readonly findings: Findings;
  readonly axes: AxisReader;
  /** Records that are not written, and to which nothing is to refer. */
  readonly isLeftOut?: ((kind: string, row: number) => boolean) | undefined;
}
