/** The door of reading column by column. */

import { isFastPathOn } from "../../fast-path.js";
import type { LinkedRecords } from "../fill/block.js";
import type { FillContext } from "../fill/context.js";
import type { ReadCounts } from "../read/counts.js";
import { linkedRows } from "./linked-rows.js";
import { plainRows } from "./plain-rows.js";
import type { ByColumn } from "./take-rows.js";

/**
 * @param linked how rows find the records that they name, where they do.
 * @param width how many cells each row has.
 * @returns undefined where rows of the layout are read one by one.
 */
export function byColumn(
  context: FillContext,
  linked: LinkedRecords | undefined,
  width: number,
  counts: ReadCounts,
): ByColumn | undefined {
  if (!isFastPathOn()) return undefined;
  return linked ? linkedRows(linked, width, counts) : plainRows(context, width, counts);
}
