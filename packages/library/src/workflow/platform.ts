/** After the last upload: what the platform shows, compared with what is intended. */

import type { Prepared } from "../build/prepare.js";
import { intendedByTarget } from "../rehearse/intended-by-target.js";
import { locateDifference, type LocatedDifference } from "../verdict/rehearse.js";
import { heldOf } from "../compare/held.js";
import { Findings, type Result } from "../findings/finding.js";
import { compareSnapshots, type Snapshot } from "../rehearse/snapshot.js";
import { readExports, type ExportFile } from "./exports.js";
import type { OpenedTarget } from "./open.js";

/** What a platform shows, against what is intended. */
export interface CheckedPlatform {
  /** What is intended, as far as the target can store it. */
  readonly intended: Snapshot;
  readonly differences: readonly LocatedDifference[];
}

/** Compares the whole catalogue of a platform with what is intended. Fails where the exports are not its own, or not complete. */
export async function checkPlatform(
  { catalogue, target, project }: OpenedTarget,
  { heldBack }: Pick<Prepared, "heldBack">,
  exports: readonly ExportFile[],
): Promise<Result<CheckedPlatform>> {
  const findings = new Findings();
  const told = await readExports(exports, target, project.kinds, catalogue, findings);
  if (!told) return { ok: false, findings };
  const intended = intendedByTarget(catalogue, target, heldBack);
  const differences = compareSnapshots(intended.snapshot, heldOf(told, target)).map((one) =>
    locateDifference(catalogue, intended, one),
  );
  return { ok: true, value: { intended: intended.snapshot, differences }, findings };
}
