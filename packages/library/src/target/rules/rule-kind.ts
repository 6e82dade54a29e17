/** What a rule of columns has to say for itself. A new rule is a file in this folder, a line in the table, and a judge in the rehearsal. */

import type { CellValue } from "../../codecs/codec.js";
import type { Finding } from "../../findings/finding.js";
import type { Feed } from "../../layout/layout.js";
import type { Phrase } from "../../phrases/phrase.js";
import type { ColumnRule } from "../schema.js";

/** The column that a rule is of. */
export interface RulePlace {
  readonly header: string;
  readonly feed: Feed;
  /** As findings name it. */
  readonly target: string;
}

/** A filled cell, as it is written. */
export interface CellView {
  readonly text: string;
  /** Undefined where the codec does not read it: that is reported elsewhere. */
  readonly value: () => CellValue | undefined;
}

/** A row as it is written, and the product that it is of. */
export interface RowView {
  /** Blank where the file has no such column. */
  readonly text: (header: string) => string;
  readonly value: (header: string) => CellValue | undefined;
  /** The cell's value, or what its column starts as where it is blank. */
  readonly stored: (header: string) => CellValue | undefined;
  /** What the platform then has in a field of the product. */
  readonly ofProduct: (field: string) => string | undefined;
}

/** What holds of a filled cell by itself. */
export type CellCheck = (cell: CellView) => Finding | undefined;
/** What holds of a cell and others of its row. @returns nothing where the cell is blank, unless blanks are what it is about. */
export type RowCheck = (row: RowView) => Finding | undefined;

export interface RuleKind {
  /** @returns undefined where the column has no such rule. */
  readonly cell?: (rule: ColumnRule, place: RulePlace) => CellCheck | undefined;
  readonly row?: (rule: ColumnRule, place: RulePlace) => RowCheck | undefined;
  /** For whoever fills the column in. */
  readonly describe?: (rule: ColumnRule) => Phrase | undefined;
  /** As a constraint of a Frictionless Table Schema. */
  readonly constraints?: (rule: ColumnRule) => Readonly<Record<string, unknown>>;
}
