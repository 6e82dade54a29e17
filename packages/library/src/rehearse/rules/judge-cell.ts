/** The value of a filled cell as a platform keeps it, or why it refuses it. */

import { isProblem, type CellValue, type Codec } from "../../codecs/codec.js";
import { remembering } from "../../codecs/remembered.js";
import { isFormula } from "../../formats/formulas.js";
import type { Feed, Layout } from "../../layout/layout.js";
import type { ColumnRule } from "../../target/schema.js";
import { isLonger, reasonAgainst } from "./judges.js";

/** A column of a file that is played. */
export interface JudgedColumn {
  readonly header: string;
  readonly feed: Feed;
  readonly codec: Codec;
  readonly rule: ColumnRule | undefined;
  /** Whether its file takes no text that begins like a formula. */
  readonly isWithoutFormulas: boolean;
}

/** Whether a platform takes no text in a file that begins like a formula. */
export const refusesFormulas = ({ format }: Layout): boolean => format.is === "csv" && format.formulas === "refuse";

/** `cut`: a text was shortened. */
export type Judged =
  | { readonly is: "say"; readonly value: CellValue; readonly cut: boolean }
  | { readonly is: "refused"; readonly reason: string };

/** How a column's cells are judged, each different text once. */
export const judging = (column: JudgedColumn): ((text: string) => Judged) =>
  remembering((text) => judged(column, text));

function judged({ header, feed, codec, rule, isWithoutFormulas }: JudgedColumn, text: string): Judged {
  const no = (what: string): Judged => ({ is: "refused", reason: `${header}: ${what}` });
  if (isWithoutFormulas && isFormula(text)) return no("it begins like a formula");
  const value = codec.parse(text);
  if (isProblem(value)) return no(`"${value.text}" is not ${value.wanted}`);
  if (!rule) return { is: "say", value, cut: false };
  const reason = reasonAgainst(rule, { text, value, feed });
  if (reason !== undefined) return no(reason);
  const most = rule["characters at most"];
  const isCut = rule.over === "cut" && most !== undefined && isLonger(text, most);
  return { is: "say", value: isCut ? [...text].slice(0, most).join("") : value, cut: isCut };
}

/** What a cell says; undefined where it is blank, or cannot be read. */
export function cellValue(codec: Codec, text: string): CellValue | undefined {
  const value = text === "" ? undefined : codec.parse(text);
  return value === undefined || isProblem(value) ? undefined : value;
}
