/** The door of reading column by column. */

import { isFastPathOn } from "../../fast-path.js";
import type { FillContext } from "../fill/context.js";
import type { ReadCounts } from "../read/counts.js";
import type { RecordIndex } from "../read/record-index.js";
import { linkedRows } from "./linked-rows.js";
import { plainRows } from "./plain-rows.js";
import type { ByColumn } from "./take-rows.js";

/**
 * @param index of the records that rows name; undefined where they give their own.
 * @param width how many cells each row has.
 * @returns undefined where rows of the layout are read one by one.
 */
export function byColumn(
  context: FillContext,
  index: RecordIndex | undefined,
  width: number,
  counts: ReadCounts,
): ByColumn | undefined {
  if (!isFastPathOn()) return undefined;
  return index ? linkedRows(context, index, width, counts) : plainRows(context, width, counts);
}
