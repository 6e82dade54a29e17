/** Whether a text is a value of a field, in the form in which catalogues keep values. */

import type { FieldSpec } from "./kind.js";
import { phrase, type Text } from "./phrases/phrase.js";

/** What is wrong with a text as the value of a field; undefined where it is one. Dates are ISO 8601, decimals have a point. */
export function fieldValueProblem({ type, among }: FieldSpec, text: string): Text | undefined {
  const isNumber = type === "decimal" || type === "integer";
  if (isNumber && !/^-?\d+(\.\d+)?$/.test(text)) return phrase('"{0}" is not a number', text.slice(0, 40));
  if (type === "integer" && text.includes(".")) return phrase("{0} is not a whole number", text);
  if (type === "flag" && text !== "true" && text !== "false") return phrase('"{0}" is neither true nor false', text);
  if (type === "date" && !/^\d{4}-\d{2}-\d{2}$/.test(text)) return phrase('"{0}" is not a date like 2026-05-31', text);
  if (among && !among.includes(text)) return phrase('"{0}" is not one of {1}', text, among);
  return undefined;
}
