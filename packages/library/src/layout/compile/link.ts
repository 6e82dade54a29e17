/** "found by": how rows name a record that other sheets give, from a layout as given. It goes with every row shape. */

import type { KindSpec } from "../../kind.js";
import { phrase, type Text } from "../../phrases/phrase.js";
import { nearestSpelling } from "../../spelling.js";
import type { RowLink } from "../layout.js";
import type { GivenRows } from "../schema.js";

/** @param kind of the records that are named. @param mistake reports one at a word of `rows`. */
export function linkOf(
  { "found by": found }: GivenRows,
  kind: KindSpec,
  mistake: (problem: Text, nearest: string | undefined, ...path: string[]) => void,
): RowLink | undefined {
  if (!found) return undefined;
  const { column, names, sheet, otherwise } = found;
  const all = ["key", "line", ...kind.fields.filter((field) => field.type).map((field) => field.name)];
  if (!all.includes(names)) {
    const problem = phrase('"{0}" does not name a {1}', names, kind.name);
    mistake(problem, nearestSpelling(names, all), "rows", "found by", "names");
  }
  if (names === "line" && sheet === undefined)
    mistake(phrase('lines need "sheet", the file that they are lines of'), undefined, "rows", "found by");
  return { column, names, sheet, isReported: otherwise === "reported" };
}
