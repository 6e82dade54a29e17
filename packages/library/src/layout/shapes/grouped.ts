/** Rows of what a record contains, with a column that names the record. */

import { phrase } from "../../phrases/phrase.js";
import type { ShapeOf, ShapeOfTwo } from "./shape-kind.js";

export const groupedShape: ShapeOfTwo<ShapeOf<"grouped">> = {
  words: ["grouped by", "groups", "shared cells"],
  isMeant: () => true,
  ofTwo({ rows: { "grouped by": column, groups, "shared cells": shared }, kind, parent, mistake }) {
    if (column === undefined)
      return mistake(
        phrase(
          'rows of {0} records need "grouped by", the column that names the {1} of a row',
          parent.name,
          parent.name,
        ),
      );
    const everyRow = shared === "every row";
    return { is: "grouped", parent, child: kind, column, scattered: groups === "scattered", everyRow };
  },
};
