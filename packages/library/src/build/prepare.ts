/**
 * All of a build that comes before its files: what the target asks of each cell, what is held back, the plan.
 *
 * In: the resolved catalogue, the target. Out: a plan and what stays out of it, or findings.
 */

import { resultOf } from "../findings/result.js";
import { finding, Findings, type Result, type Finding, type ReadonlyFindings } from "../findings/finding.js";
import { firstOf, entryOf } from "../checked.js";
import type { TargetView } from "../catalogue/catalogue.js";
import { rowsAbove } from "../layout/write/above.js";
import { headersInFile, writtenHeaders } from "../layout/write/rows.js";
import { formatLocation } from "../location.js";
import { reportCycles } from "../plan/cycles.js";
import type { AlreadyThere } from "../plan/placements.js";
import type { Plan, PlanOptions, ManualStep, DetachStep, UploadStep } from "../plan/plan.js";
import { planImport } from "../plan/plan-import.js";
import { reportAdvice } from "../target/advice.js";
import { reportUncarried } from "../target/carries.js";
import { reportNotTaken } from "../target/import-records.js";
import { linesMissing } from "./lines-elsewhere.js";
import { reportNotMade } from "../target/not-made.js";
import { reportVariantsOnly } from "../target/variants-only.js";
import { rowCheckers } from "../target/cell-rules.js";
import type { Target, TargetFile } from "../target/target.js";
import { heldCounts, heldRows, holdBack, isHeldBack, nothingHeldBack, type HeldBack } from "./hold-back.js";
import { driverOf } from "../formats/drivers/drivers.js";
import { allBlocks, fileRows, type FileRow } from "./write-file.js";
import { kindPhrase, phrase, type Phrase } from "../phrases/phrase.js";
import { pushAll } from "../lists.js";

/** What a plan is made from. */
export interface PrepareInput {
  readonly catalogue: TargetView;
  readonly target: Target;
  /** What was found before: errors hold records back. */
  readonly found: ReadonlyFindings;
  /** Leave out what is faulty. */
  readonly holdBack: boolean;
  /** Errors of these codes do not count. */
  readonly despite: ReadonlySet<string>;
  /** The pictures that will be uploaded, by file name. */
  readonly pictureNames: readonly string[];
  /** What the platform has already; nothing, if left out. */
  readonly there?: AlreadyThere | undefined;
  /** Where the user wants to stop between uploads. */
  readonly manualSteps?: readonly ManualStep[] | undefined;
}

/** A record that a rollback leaves as it is, or a cell of one. */
export interface Lost {
  readonly kind: string;
  readonly key: string;
  /** The file's column, or the file of a list; undefined for the record itself. */
  readonly column: string | undefined;
  readonly why: "made" | "only added" | "cannot be blank";
}

const mostLost = 5;

/** What a rollback cannot restore, as one finding; none, where it restores all. */
export function lostFindings({ lost = [] }: Prepared): Finding[] {
  if (lost.length === 0) return [];
  const made = lost.filter(({ why }) => why === "made").length;
  const examples = lost
    .slice(0, mostLost)
    .map(({ kind, key, column }) => `${kind} ${key}${column === undefined ? "" : `: ${column}`}`);
  return [finding("change/cannot-restore", { made, others: lost.length - made, examples })];
}

/** What comes before the files: the plan, and what stays out of it. */
export interface Prepared {
  readonly plan: Plan;
  readonly heldBack: HeldBack;
  /** Steps that set back what the plan's changes overwrite. */
  readonly rollback?: readonly (UploadStep | DetachStep)[] | undefined;
  /** What the rollback cannot set back. */
  readonly lost?: readonly Lost[] | undefined;
}

/** The findings that stop a build. */
export function stoppingErrors(findings: ReadonlyFindings, despite: ReadonlySet<string>): readonly Finding[] {
  return findings.list().filter((one) => one.severity === "error" && !despite.has(one.code));
}

/**
 * All that comes before the files: what the target asks of each cell, what is held back, the plan. Fails where there is none. The
 * findings of the result are those found before, and what is found now.
 *
 * @param isCheckedNow the files whose cells are checked here; the others are checked when they are written.
 */
export function prepareBuild(
  input: PrepareInput,
  isCheckedNow: (file: string) => boolean = () => true,
): Result<Prepared> {
  const { catalogue, target } = input;
  const findings = input.found.copy();
  reportNotTaken(catalogue, target, findings);
  reportUncarried(catalogue, target, findings);
  reportNotMade(catalogue, target, input.there?.isThere ?? (() => false), findings);
  reportVariantsOnly(catalogue, target, findings);
  reportAdvice(catalogue, target, findings);
  reportCycles(catalogue, findings);
  const bytes = checkCells(catalogue, target, findings, isCheckedNow);
  const isCause = (one: Finding): boolean =>
    (one.severity === "error" && !input.despite.has(one.code)) || one.code === "resolve/held-back";
  const causes = input.holdBack ? findings.list().filter(isCause) : [];
  const known = new Set<string>();
  // What the plan finds wrong of what is left is held back too, until nothing more is.
  for (;;) {
    const now = findings.copy();
    const heldBack = input.holdBack ? holdBack(catalogue, causes, now) : nothingHeldBack;
    const planned = planFor(input, heldBack, bytes);
    const isNew = (one: Finding): boolean => isCause(one) && one.at !== undefined && !known.has(formatLocation(one.at));
    const further = input.holdBack ? planned.findings.list().filter(isNew) : [];
    if (further.length > 0) {
      for (const { at } of further) if (at) known.add(formatLocation(at));
      pushAll(causes, further);
      findings.addAll(further);
      continue;
    }
    const plan = now.took(planned);
    if (plan && isNothingLeft(catalogue, plan, heldBack))
      now.add(finding("build/nothing-left", { held: heldBackText(heldBack) }));
    return resultOf(plan && { plan, heldBack }, now);
  }
}

const planFor = (
  { catalogue, target, pictureNames: pictures, there, manualSteps }: PrepareInput,
  heldBack: HeldBack,
  bytes: ReadonlyMap<string, Float64Array>,
): Result<Plan> => {
  const isLeftOut = isHeldBack(heldBack);
  const planned = planImport(catalogue, target, { isLeftOut, ...bytesBy(bytes), pictures, there, manualSteps });
  if (!planned.ok) return planned;
  const findings = planned.findings.copy();
  findings.addAll(linesMissing(catalogue, target, planned.value));
  return { ...planned, findings };
};

/** Whether all that there was to upload is held back. Nothing to upload because nothing has changed is another thing. */
export function isNothingLeft(catalogue: TargetView, { steps }: Plan, heldBack: HeldBack): boolean {
  if (heldBack.byKind.size === 0 || steps.some((step) => step.is === "upload" && step.files.length > 0)) return false;
  return heldRows(heldBack, "product").size === catalogue.table("product").size;
}

/** "3 products, 8 variants" */
export const heldBackText = (heldBack: HeldBack): Phrase =>
  phrase(
    "{0}",
    heldCounts(heldBack).map(({ kind, count }) => phrase("{0} {1}", count, kindPhrase(kind, count))),
  );

/** How long rows are, as plans ask for it. @param bytes by file: of each record's rows. */
export const bytesBy = (bytes: ReadonlyMap<string, Float64Array>): Pick<PlanOptions, "bytesOf" | "headerBytes"> => ({
  bytesOf: (file, product) => bytes.get(file.name)?.[product] ?? 0,
  headerBytes({ layout }) {
    const { rows } = driverOf(layout.format);
    const above = rowsAbove(layout, headersInFile(layout, undefined));
    const bytes = above.map(rows?.bytesOf?.(layout.format) ?? (() => 0));
    return bytes.reduce((sum, one) => sum + one, rows?.bytesBefore?.(layout.format) ?? 0);
  },
});

/** How long each record's rows are, in files whose bytes are limited. */
export function measureRows(catalogue: TargetView, target: Target): Map<string, Float64Array> {
  const limited = [...target.files.values()].filter(({ limits }) => limits.bytes !== undefined);
  const names = new Set(limited.map(({ name }) => name));
  const slots = target.slots.filter(({ file }) => names.has(file));
  return slots.length === 0 ? new Map() : checkCells(catalogue, { ...target, slots }, new Findings(0));
}

/** Checks every cell that files can hold, and measures each record's rows where a file's bytes are limited. */
export function checkCells(
  catalogue: TargetView,
  target: Target,
  findings: Findings,
  isWanted: (file: string) => boolean = () => true,
): Map<string, Float64Array> {
  const written = new Findings(findings.mostPerCode);
  const bytes = new Map<string, Float64Array>();
  const seen = new Set<string>();
  for (const slot of target.slots) {
    const file = entryOf(target.files, slot.file);
    if (seen.has(file.name) || !isWanted(file.name)) continue;
    seen.add(file.name);
    const blocks = allBlocks(catalogue, target, file);
    const check = rowChecks(catalogue, target, file, undefined, findings);
    const { format } = file.layout;
    const bytesOf = file.limits.bytes === undefined ? undefined : driverOf(format).rows?.bytesOf?.(format);
    const measured = bytesOf && new Float64Array(catalogue.table(firstOf(blocks).kind).size);
    const step = { slot: { ...slot, mode: "create" as const }, columns: undefined, waiting: new Map() };
    for (const row of fileRows(catalogue, file, { blocks, step, isLeftOut: () => false }, written).rows) {
      check(row);
      if (measured) measured[row.parent]! += bytesOf(row.inFile);
    }
    if (measured) bytes.set(file.name, measured);
  }
  addUnwritten(written, findings);
  return bytes;
}

/** What could not be written, but for what has been said of its cause. */
export function addUnwritten(written: Findings, findings: Findings): void {
  findings.took(resultOf({}, written.without(isOfGap(findings))));
}

/** Lists that have a gap because a variant has no value on an axis: that is reported already. */
function isOfGap(told: ReadonlyFindings): (one: Finding) => boolean {
  const nameOf = ({ at }: Finding) => at?.record && `${at.record.kind} ${at.record.key}`;
  const gaps = new Set(told.list().flatMap((one) => (one.code === "check/missing-value" ? (nameOf(one) ?? []) : [])));
  return (one) => one.code === "write/cannot-be-written" && one.facts.text === "" && gaps.has(nameOf(one) ?? "");
}

/** Checks rows of a file, which come in the order in which they are written. */
export function rowChecks(
  catalogue: TargetView,
  target: Target,
  file: TargetFile,
  columns: ReadonlySet<string> | undefined,
  findings: Findings,
): (row: FileRow) => void {
  const checks = rowCheckers(catalogue, target, file, (layout) => writtenHeaders(layout, columns), findings);
  let parent = -1;
  let layout = 0;
  return (row) => {
    checks[row.layout]!(row, row.parent !== parent || row.layout !== layout);
    parent = row.parent;
    layout = row.layout;
  };
}
