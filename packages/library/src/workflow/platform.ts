/** After the last upload: what the platform shows, compared with what is intended. */

import type { Prepared } from "../build/prepare.js";
import { intendedByTarget } from "../rehearse/intended-by-target.js";
import { locateDifference, type LocatedDifference } from "../verdict/rehearse.js";
import { readbackSnapshot } from "../rehearse/readback.js";
import { compareSnapshots, type Snapshot } from "../rehearse/snapshot.js";
import type { OpenedTarget } from "./open.js";

/** What a platform shows, against what is intended. */
export interface CheckedPlatform {
  /** What is intended, as far as the target can store it. */
  readonly intended: Snapshot;
  readonly differences: readonly LocatedDifference[];
}

/**
 * Compares the whole catalogue of a platform with what is intended.
 *
 * @param json the platform's whole catalogue, as its endpoint answers.
 */
export function checkPlatform(
  { catalogue, target }: OpenedTarget,
  { heldBack }: Pick<Prepared, "heldBack">,
  json: unknown,
): CheckedPlatform {
  const intended = intendedByTarget(catalogue, target, heldBack);
  const differences = compareSnapshots(intended.snapshot, readbackSnapshot(json, target)).map((one) =>
    locateDifference(catalogue, intended, one),
  );
  return { intended: intended.snapshot, differences };
}
