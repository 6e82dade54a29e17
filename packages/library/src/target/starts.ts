/** What a column starts as, as a cell would say it, and whether the column would take that cell. */

import { firstOf } from "../checked.js";
import type { Column } from "../layout/layout.js";
import { cellJudge } from "./cell-judge.js";
import type { ColumnRule } from "./schema.js";

/** A start in the form of its column's cells; undefined where no cell can say it. */
export function startAsCell({ bindings }: Column, rule: ColumnRule): string | undefined {
  const start = rule["starts as"];
  const text = start === undefined ? undefined : firstOf(bindings).codec.format(start);
  return typeof text === "string" ? text : undefined;
}

/** Whether a column refuses the cell that says what it starts as: a stock of 0 in a column from 1 on. */
export function refusesItsStart(column: Column, rule: ColumnRule): boolean {
  if (rule["starts as"] === undefined) return false;
  const text = startAsCell(column, rule);
  return text === undefined || cellJudge(column, rule, "")(text)?.severity === "error";
}
