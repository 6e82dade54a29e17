/** What is intended, as far as a target's files carry it, in the form of snapshots. */

import { entryOf, fitting } from "../checked.js";
import type { TargetView } from "../catalogue/catalogue.js";
import type { HeldBack } from "../build/hold-back.js";
import type { Target, TargetFile } from "../target/target.js";
import { intendedSnapshot, type Intended } from "./intended.js";
import { intendedRecords } from "./intended-records.js";

/** Whether the files of a target's imports are of records by themselves, not of grouped rows. */
export function isOfRecords(target: Target): boolean {
  return target.slots.some(({ file }) => !entryOf(target.files, file).grouped);
}

/** What is intended, as far as the target's creating files carry it. @param files only what these say, where each says its own. */
export function intendedByTarget(
  catalogue: TargetView,
  target: Target,
  heldBack: HeldBack,
  files?: readonly TargetFile[],
): Intended {
  if (isOfRecords(target)) return intendedRecords(catalogue, target, heldBack, files);
  const slot = fitting(target.slots, (one) => one.mode === "create");
  return intendedSnapshot(catalogue, target, entryOf(target.files, slot.file), heldBack);
}
