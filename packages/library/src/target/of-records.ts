/** Of which form the files of a target are. */

import { entryOf } from "../checked.js";
import type { Target } from "./target.js";

/** Whether the files of a target's imports are of records by themselves, not of grouped rows. */
export function isOfRecords(target: Target): boolean {
  return target.slots.some(({ file }) => !entryOf(target.files, file).grouped);
}
