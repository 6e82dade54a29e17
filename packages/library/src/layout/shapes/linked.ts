/** Rows that say more of records which other sheets give. */

import { phrase } from "../../phrases/phrase.js";
import { nearestSpelling } from "../../spelling.js";
import type { ShapeOf, ShapeOfOne } from "./shape-kind.js";

export const linkedShape: ShapeOfOne<ShapeOf<"linked">> = {
  words: ["found by"],
  isMeant: (rows) => rows["found by"] !== undefined,
  ofOne({ rows, kind, mistake }) {
    const found = rows["found by"];
    if (!found) return undefined;
    const { column, names, sheet, otherwise } = found;
    const all = ["key", "line", ...kind.fields.filter((field) => field.type).map((field) => field.name)];
    if (!all.includes(names))
      return mistake(
        phrase('"{0}" does not name a {1}', names, kind.name),
        nearestSpelling(names, all),
        "found by",
        "names",
      );
    if (names === "line" && sheet === undefined)
      return mistake(phrase('lines need "sheet", the file that they are lines of'), undefined, "found by");
    const how = { column, names, sheet, isReported: otherwise === "reported" };
    return { is: "linked", parent: kind, child: undefined, found: how };
  },
};
