/** What writing a cell needs: where values come from, and how it says what cannot be written. */

import type { ResolvedCatalogue } from "../../catalogue/catalogue.js";
import type { CellValue, Unwritable } from "../../codecs/codec.js";
import type { Findings } from "../../findings/finding.js";
import type { Column } from "../layout.js";
import type { AxisReader } from "./axes.js";

/** A row to write, and the records it shows: row numbers of the parent's and the child's table, -1 for none. */
export interface WrittenRow {
  readonly cells: readonly string[];
  readonly parent: number;
  readonly child: number;
  /** Whether the row is a single's in the place of a child's: `child` is the single itself then. */
  readonly isSingles?: boolean | undefined;
  /** The headers of cells that are blank because what is on the platform stays. */
  readonly leftBlank?: ReadonlySet<string> | undefined;
  /** Of rows that others name by their line, or the position of the cell that takes the line of the parent's own row. */
  readonly lineOf?: "named" | number | undefined;
}

/** @param parent the row that contains the record; the record itself where it is not contained. */
export type ToCell = (record: number, parent: number) => string;
/** The value that a cell shows of a record; undefined where it shows none. What no cell shows is unwritable. */
export type ToValue = (record: number, parent: number) => CellValue | Unwritable | undefined;

/** The line of a record's row in another file that is written, by its name; undefined where that has no row of it. */
export type LineElsewhere = (file: string, record: number) => number | undefined;

export interface CellContext {
  readonly catalogue: ResolvedCatalogue;
  readonly columns: readonly Column[];
  readonly findings: Findings;
  readonly axes: AxisReader;
  /** Whether the rows say in another language what others have said. */
  readonly translates: boolean;
  /** Whether a record that belongs to none may be written as the record's own: where each gets its own, whatever there is. */
  readonly copiesShared?: boolean | undefined;
  /** Records that are not written, and to which nothing is to refer. */
  readonly isLeftOut?: ((kind: string, row: number) => boolean) | undefined;
  /** Where rows name the lines of another file that is written; else those of the files that were read. */
  readonly lineElsewhere?: LineElsewhere | undefined;
}
