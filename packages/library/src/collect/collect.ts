/**
 * Collecting: what a platform reports of the files it got, and what its exports show, into the ledger.
 *
 * In: the catalogue, the plan that the files were built by, reports and exports as they came. Out: lines of the ledger, and a finding
 * for each thing that is otherwise than expected. All or nothing: where a report or an export is missing, or an id cannot be told, the
 * ledger stays as it was. Rows that were refused are no such failure: what they are about is not confirmed.
 */

import { collectStep, notTold } from "./from-report.js";
import { collectExport } from "./from-export.js";
import type { CollectInput, Collecting, Counts } from "./collecting.js";
import type { AcceptedRows } from "./taken.js";
import { finding, Findings, type Result } from "../findings/finding.js";
import { entryOf } from "../checked.js";
import type { TargetView } from "../catalogue/catalogue.js";
import { stepsNow, type Step, type UploadStep } from "../plan/plan.js";
import type { Ledger } from "../ledger/ledger.js";
import { withIds } from "../ledger/there.js";
import type { TargetFile } from "../target/target.js";
import { added } from "../lists.js";

/** What reports and exports told. */
export interface Collected {
  /** With the ids that are known now. */
  readonly catalogue: TargetView;
  /** With what was collected; its new lines are not on the disk yet. */
  readonly ledger: Ledger;
  readonly ids: number;
  readonly confirmed: number;
  readonly refused: number;
  /** What was in the uploaded files and was taken. */
  readonly taken: ReadonlyMap<UploadStep, AcceptedRows>;
}

/** Pictures are there as the answer to their archive says. Where it has none, those before a file are there once that was answered. */
function collectPictures(
  { answered, reports, ledger, run, others }: Collecting,
  { name, files }: Extract<Step, { is: "pictures" }>,
  isLast: boolean,
  counts: Counts,
): void {
  const answer = answered?.get(name);
  if (!answer && (isLast || reports.size === 0)) return;
  const byFile = answer?.pictures && new Map(answer.pictures.map((one) => [one.file, one]));
  for (const key of files) {
    const own = byFile?.get(key);
    const isTaken =
      typeof answer?.refused !== "string" && (!byFile || (own !== undefined && own.outcome !== "refused"));
    if (isTaken) {
      ledger.add({ kind: "picture", key, state: "confirmed", run });
      continue;
    }
    const reasons = typeof answer?.refused === "string" ? [answer.refused] : (own?.reasons ?? [notTold]);
    others.add(finding("collect/picture-refused", { reasons }, { file: name, record: { kind: "picture", key } }));
    counts.refused++;
  }
}

/**
 * What the reports and exports of a plan's first uploads tell, in a copy of the ledger. Fails where anything is missing or cannot be
 * told.
 */
export async function collectIds(given: CollectInput): Promise<Result<Collected>> {
  const findings = new Findings();
  // Neither rows that were refused nor what cannot be read of an export make the collecting fail.
  const others = new Findings();
  const ledger = given.ledger.copy();
  const input: Collecting = { ...given, ledger, findings, others };
  const counts = { ids: 0, confirmed: 0, refused: 0 };
  const taken = new Map<UploadStep, AcceptedRows>();
  const exported = new Map<TargetFile, UploadStep[]>();
  const now = stepsNow(input.plan);
  const lastUpload = now.findLastIndex(({ is }) => is === "upload");
  for (const [at, step] of now.entries()) {
    if (step.is === "pictures") collectPictures(input, step, at > lastUpload, counts);
    if (step.is !== "upload") continue;
    const file = entryOf(input.target.files, step.slot.file);
    taken.set(step, await collectStep(input, step, file, counts));
    if (file.ids?.in === "export" && step.slot.mode === "create") exported.set(file, added(exported.get(file), step));
  }
  for (const [file, steps] of exported) await collectExport(input, file, steps, taken, counts);
  const hasFailed = findings.hasErrors;
  findings.took({ ok: false, findings: others });
  if (hasFailed) return { ok: false, findings };
  return { ok: true, value: { ...counts, taken, ledger, catalogue: withIds(given.catalogue, ledger) }, findings };
}
