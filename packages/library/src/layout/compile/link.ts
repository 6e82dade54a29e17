/** "found by": how rows name a record that other sheets give, from a layout as given. It goes with every row shape. */

import { splitLanguage } from "../../field-name.js";
import type { KindSpec } from "../../kind.js";
import type { Lang } from "../../nominal.js";
import { phrase, type Text } from "../../phrases/phrase.js";
import { nearestSpelling } from "../../spelling.js";
import type { RowLink } from "../layout.js";
import type { GivenRows } from "../schema.js";

/** @param kind of the records that are named. @param language of texts whose language is not said. @param mistake reports one at a word of `rows`. */
export function linkOf(
  { "found by": found }: GivenRows,
  kind: KindSpec,
  language: Lang,
  mistake: (problem: Text, nearest: string | undefined, ...path: string[]) => void,
): RowLink | undefined {
  if (!found) return undefined;
  const { column, names, sheet, otherwise } = found;
  const all = ["key", "line", ...kind.fields.filter((field) => field.type).map((field) => field.name)];
  const { name, lang } = splitLanguage(names);
  const isInLanguages = kind.fields.some((field) => field.name === name && field.perLanguage);
  if (!all.includes(name) || (lang !== undefined && !isInLanguages)) {
    const problem = phrase('"{0}" does not name a {1}', names, kind.name);
    mistake(problem, nearestSpelling(names, all), "rows", "found by", "names");
  }
  if (names === "line" && sheet === undefined)
    mistake(phrase('lines need "sheet", the file that they are lines of'), undefined, "rows", "found by");
  return {
    column,
    names: isInLanguages ? `${name}@${lang ?? language}` : names,
    sheet,
    isReported: otherwise === "reported",
  };
}
