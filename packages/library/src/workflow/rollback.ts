/** Rehearsing an upload of changes together with the files that set it back. */

import { finding, type Result } from "../findings/finding.js";
import { resultOf } from "../findings/result.js";
import { stepsNow } from "../plan/plan.js";
import { playUpload, type Verdict } from "../verdict/rehearse.js";
import type { PlannedUpload, RehearseChoices } from "./build.js";
import type { OpenedTarget } from "./open.js";
import { ofUploadFolder } from "./upload-folder.js";

/**
 * Plays an upload folder with changes on a simulated platform, then the files that set them back, and compares with what was there
 * before. What the rollback cannot restore does not count: it was reported. Fails where no export was given, or a file is not in the folder.
 */
export async function rehearseRollback(
  opened: OpenedTarget,
  { changes, ...prepared }: PlannedUpload,
  { files, played }: RehearseChoices,
): Promise<Result<Verdict>> {
  const findings = opened.findings.copy();
  const { target, catalogue, ledger } = opened;
  // Of an upload of new records alone it is known what was there before: nothing.
  const isFirst = prepared.rollback !== undefined && !ledger.isBegun;
  if (!changes && !isFirst) {
    findings.add(finding("change/no-export", { target: target.name }));
    return { ok: false, findings };
  }
  const { plan, heldBack, rollback = [], lost = [] } = prepared;
  const steps = [...stepsNow(plan), ...rollback];
  const result = ofUploadFolder(
    await playUpload({
      catalogue,
      target,
      heldBack,
      files,
      played,
      plan: { ...plan, steps },
      platform: changes?.start(),
      goal: changes?.before ?? { catalogue, isOut: () => true },
    }),
  );
  if (!result.ok) return resultOf(findings.took(result), findings);
  const verdict = result.value;
  const known = new Set(lost.map(({ kind, key }) => `${kind} ${key}`));
  const differences = verdict.differences.filter(({ kind, key }) => !known.has(`${kind} ${key}`));
  const rebuilt = differences.length === 0 && verdict.counts.refused === 0;
  return resultOf({ ...verdict, differences, rebuilt }, findings);
}
