/**
 * Cell codecs: between the text of a cell and its value, in both directions. They compose: a list of paths of texts.
 *
 * A value is canonical text (see `FieldType`) or a list of values. `parse(format(value))` is the value, or `format` says why not.
 */
import type { Text } from "../phrases/phrase.js";

export type CellValue = string | readonly CellValue[];

export type ProblemCode =
  | "not-a-decimal"
  | "not-an-integer"
  | "not-a-word"
  | "not-a-date"
  | "empty-entry"
  | "bad-escape"
  | "no-beginning"
  | "scientific"
  | "thousands"
  | "other-sign"
  | "not-a-measure"
  | "too-many-parts"
  | "other-markup";

/** Why a cell will not do. An object, never a string, so that a value can be told by its type. */
export interface Problem {
  readonly problem: ProblemCode;
  readonly text: string;
  readonly wanted: Text;
}

/** Why a value cannot be written as it is. */
export interface Unwritable {
  readonly text: string;
  readonly wanted: Text;
}

export interface Codec {
  /** How a person would call what the cell takes: "a decimal with a comma". */
  readonly takes: Text;
  /** For cells that a spreadsheet or a document keeps as something else than text. */
  readonly holds?: "date" | "number" | "flag" | undefined;
  /** The words to choose from, where there are only these. */
  readonly choices?: readonly string[];
  /** @param text never empty: blank cells do not reach a codec. */
  readonly parse: (text: string) => CellValue | Problem;
  readonly format: (value: CellValue) => string | Unwritable;
  /**
   * For cells that are kept as a number: the text that `parse` takes as just this number, in this codec's own form (`1.234` is `1,234` where
   * a comma is the decimal sign). Undefined where there is no such text, as it would be cut at a separator. Without it: the number as it is.
   *
   * @param number a decimal with a point, no exponent.
   */
  readonly textOfNumber?: ((number: string) => string | undefined) | undefined;
}

export const textOfNumber = (codec: Codec, number: string): string | undefined =>
  codec.textOfNumber ? codec.textOfNumber(number) : number;

export const isProblem = (value: CellValue | Problem): value is Problem =>
  typeof value === "object" && "problem" in value;

export const problem = (code: ProblemCode, text: string, wanted: Text): Problem => ({
  problem: code,
  ...unwritable(text, wanted),
});

export const isUnwritable = (value: CellValue | Unwritable): value is Unwritable =>
  typeof value === "object" && "wanted" in value;

export const unwritable = (text: string, wanted: Text): Unwritable => ({
  text: text.length > 80 ? `${text.slice(0, 79)}…` : text,
  wanted,
});
