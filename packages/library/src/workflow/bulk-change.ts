/** One bulk change of a project: its plan, and its rehearsal on what is on the platform. */

import { planBulkChange, withFieldSet } from "../change/bulk-change.js";
import { platformWith } from "../change/platform-with.js";
import type { ChangeView } from "../change/views.js";
import { nothingHeldBack } from "../build/hold-back.js";
import { asTargetView, type TargetView } from "../catalogue/catalogue.js";
import { entryOf } from "../checked.js";
import { keptForm } from "../compare/sides.js";
import { splitTable } from "../field-name.js";
import { finding, Findings, type Result } from "../findings/finding.js";
import { resultOf } from "../findings/result.js";
import { thereBy } from "../ledger/there.js";
import { phrase } from "../phrases/phrase.js";
import type { Plan, UploadStep } from "../plan/plan.js";
import type { FilesPort } from "../ports.js";
import { nearestSpelling } from "../spelling.js";
import { playUpload, type Verdict } from "../verdict/rehearse.js";
import type { OpenedTarget } from "./open.js";
import { ofUploadFolder } from "./upload-folder.js";

/** A bulk change, planned on what is known of the platform. */
export interface PlannedBulk {
  readonly catalogue: TargetView;
  readonly step: UploadStep;
  /** What the platform is to have in the end. */
  readonly goal: ChangeView;
  readonly before: ChangeView;
}

/**
 * Plans a bulk change of the project. With an export, records that are not on the platform get no rows; with a ledger, those that were not
 * delivered. Else all are taken to be there.
 *
 * @returns undefined, with findings, where the project has none of that name, or the target no column for it.
 */
export function planBulk(opened: OpenedTarget, name: string, findings: Findings): PlannedBulk | undefined {
  const { file, project, target, catalogue, compared, ledger } = opened;
  const { bulkChanges } = entryOf(project.wishes, target.name);
  const wanted = Object.hasOwn(bulkChanges, name) ? bulkChanges[name] : undefined;
  if (!wanted) {
    const nearest = nearestSpelling(name, Object.keys(bulkChanges));
    const problem = phrase('{0} has no bulk change "{1}" in the project', target.name, name);
    findings.add(finding("project/mistake", { problem, nearest }, { file }));
    return undefined;
  }
  const isThere = compared
    ? compared.changes.there.isThere
    : ledger.isBegun
      ? thereBy(ledger, catalogue).isThere
      : () => true;
  const planned = findings.took(planBulkChange(catalogue, target, { name, ...wanted }, isThere));
  if (!planned) return undefined;
  const kept = keptForm(catalogue, target);
  const before: ChangeView = compared?.changes.before ?? {
    catalogue: asTargetView(kept.catalogue),
    isOut: (kind, row) => {
      if (row < catalogue.table(kind).size) return !isThere(kind, row);
      // The variant that a single is stands and falls with it.
      const { of } = kept.catalogue.kinds.get(kind);
      return of !== undefined && !isThere(of, kept.catalogue.table(kind).parent(row));
    },
  };
  const { kind, collection: field = "" } = splitTable(wanted.field);
  const goal = { ...before, catalogue: withFieldSet(before.catalogue, { kind, field, constant: wanted.constant }) };
  return { ...planned, before, goal };
}

/** Plays the file of a bulk change on a platform that has what is known of it. Fails where it is not in the folder. */
export async function playBulk(
  { target, catalogue, compared, findings: found }: OpenedTarget,
  { step, before, goal }: PlannedBulk,
  files: FilesPort,
): Promise<Result<Verdict>> {
  const findings = found.copy();
  const plan: Plan = {
    target: target.name,
    steps: [step],
    cost: { collections: 0, uploads: 1, postponed: 0 },
    bound: undefined,
  };
  const platform = compared?.changes.start() ?? platformWith(before, target);
  const played = await playUpload({ catalogue, target, plan, heldBack: nothingHeldBack, files, platform, goal });
  return resultOf(findings.took(ofUploadFolder(played)), findings);
}

/** Rehearses a bulk change of the project from an upload folder. Fails where there is none of that name, or it was not built. */
export function rehearseBulkChange(
  opened: OpenedTarget,
  name: string,
  { files }: { readonly files: FilesPort },
): Promise<Result<Verdict>> {
  const findings = opened.findings.copy();
  const planned = planBulk(opened, name, findings);
  return planned
    ? playBulk({ ...opened, findings }, planned, files)
    : Promise.resolve({ ok: false, findings } as const);
}
