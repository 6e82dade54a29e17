/** When two values of a field count as the same. A new way to compare is one more entry in the table here. */

import Big from "big.js";
import { splitLanguage } from "../field-name.js";
import { fieldOf, type FieldSpec, type KindSpec } from "../kind.js";

const amountOf = (text: string): string => {
  try {
    return new Big(text).toFixed();
  } catch {
    return text;
  }
};

const normalForms = {
  exactly: (value: string) => value,
  "by amount": amountOf,
  trimmed: (value: string) => value.trim().replace(/\s+/g, " "),
  "without case": (value: string) => value.toLowerCase(),
  "not at all": () => "",
} satisfies Record<string, (value: string) => string>;

/** How a field is compared: the text as it is, as an amount, without spaces around it, without case, or never. */
export type Comparing = keyof typeof normalForms;

/** What of a value counts. */
export const counted = (value: string, comparing: Comparing): string => normalForms[comparing](value);

/** Whether a record may have a field from what contains it. */
export function isInherited(above: KindSpec, kind: KindSpec, field: string): boolean {
  const { name } = splitLanguage(field);
  const own: FieldSpec | undefined = fieldOf(kind, name);
  return own !== undefined && own.own !== true && fieldOf(above, name) !== undefined;
}
