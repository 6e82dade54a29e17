/** From an opened target to its plan, its upload folder, and the rehearsal of that folder. */

import { entryOf } from "../checked.js";
import { buildUpload, type BuildInput, type Upload, type UploadSink } from "../build/build.js";
import { stepsNow, type Plan } from "../plan/plan.js";
import { prepareBuild, type Prepared, type PrepareInput } from "../build/prepare.js";
import type { TargetView } from "../catalogue/catalogue.js";
import { plannedFiles } from "../build/planned-files.js";
import { Changes } from "../change/changes.js";
import { withFirstRollback } from "../change/first-rollback.js";
import type { Findings, Result } from "../findings/finding.js";
import { resultOf } from "../findings/result.js";
import type { Ledger } from "../ledger/ledger.js";
import { thereBy } from "../ledger/there.js";
import type { Language } from "../phrases/phrase.js";
import type { FilesPort } from "../ports.js";
import { readBytes } from "../formats/read-whole.js";
import type { TellPlayed } from "../rehearse/outcome.js";
import { isOfRecords } from "../target/of-records.js";
import { playUpload, type Verdict } from "../verdict/rehearse.js";
import { platformAtFirst, rehearseThrough } from "../verdict/through.js";
import { unforeseen } from "../verdict/unforeseen.js";
import { planBulk, playBulk } from "./bulk-change.js";
import type { OpenedTarget } from "./open.js";
import { ofUploadFolder } from "./upload-folder.js";

/** What becomes of records with errors. */
export interface PlanChoices {
  /** Leave them out, and everything that depends on them. */
  readonly holdBack?: boolean | undefined;
  /** Errors of these codes do not count. */
  readonly despite?: ReadonlySet<string> | undefined;
  /**
   * Leave out the rehearsal, for those who know what becomes of the upload, or who have no memory for it. What only a rehearsal finds is
   * not reported, and not held back.
   */
  readonly isUnrehearsed?: boolean | undefined;
}

/** How an upload folder is built. */
export interface BuildChoices extends PlanChoices {
  /** Takes the files. */
  readonly sink: UploadSink;
  /** Only this bulk change of the project, by its name. */
  readonly bulkChange?: string | undefined;
  /** Of the run sheet; English if left out. */
  readonly language?: Language | undefined;
  /** Receives now and then which file is written, and how many products it holds by now. */
  readonly tell?: BuildInput["progress"] | undefined;
}

const nothing: ReadonlySet<string> = new Set();

/** A plan, and what is held back. */
export interface PlannedUpload extends Prepared {
  /** What changes on the platform; undefined where no export of it was given. */
  readonly changes: Changes | undefined;
}

/** An upload that has been written. */
export interface BuiltUpload extends Upload {
  readonly changes: Changes | undefined;
}

/** A plan settles changes for good: each plan gets its own, by what is known of the platform now. */
const changesFor = ({ compared, ledger, catalogue }: OpenedTarget): Changes | undefined =>
  compared && new Changes({ ...compared.changes.input, ledger, catalogue });

function inputOf(
  { project, target, catalogue, ledger, pictureNames, findings: found }: OpenedTarget,
  { holdBack = false, despite = nothing }: PlanChoices,
  changes: Changes | undefined,
): PrepareInput {
  return {
    catalogue,
    target,
    found,
    holdBack,
    despite,
    pictureNames,
    there: changes ? changes.there : thereBy(ledger, catalogue),
    manualSteps: entryOf(project.wishes, target.name).manualSteps,
  };
}

/** What to upload and in which order; with an export, only what changes. Fails where no order is possible. */
export async function planUpload(given: OpenedTarget, choices: PlanChoices = {}): Promise<Result<PlannedUpload>> {
  const changes = changesFor(given);
  const opened = changes ? given : await withRefusals(given, choices);
  const result = prepareBuild(inputOf(opened, choices, changes));
  if (!result.ok) return result;
  const { value: prepared, findings } = result;
  return resultOf({ ...(await replanFor(opened, changes)(prepared)), changes }, findings);
}

/** What a plan becomes by what is known of the platform: of changes only what changes, and what sets the upload back. */
const replanFor =
  ({ catalogue, target, ledger }: OpenedTarget, changes: Changes | undefined) =>
  (prepared: Prepared): Promise<Prepared> =>
    changes
      ? changes.plan(prepared)
      : Promise.resolve(withFirstRollback(prepared, catalogue, target, thereBy(ledger, catalogue).isThere));

/** So often at most what is left is played again. */
const maxReplays = 10;

/**
 * Where faulty records are held back, those are that the platform would refuse and no check has foreseen: what is left is played, until
 * nothing of it is refused.
 */
async function withRefusals(opened: OpenedTarget, choices: PlanChoices): Promise<OpenedTarget> {
  const findings = opened.findings.copy();
  const found = { ...opened, findings };
  const play = choices.holdBack && !choices.isUnrehearsed ? rehearsalOf(opened, choices) : undefined;
  for (let replay = 0; play && replay < maxReplays; replay++) {
    const prepared = prepareBuild(inputOf(found, choices, undefined));
    if (!prepared.ok) break;
    const { heldBack, plan } = prepared.value;
    const files = plannedFiles(opened.catalogue, opened.target, plan, heldBack);
    const { findings: refused } = await play(prepared.value, files, prepared.findings);
    if (refused.length === 0) break;
    findings.addAll(refused);
  }
  return found;
}

/** Builds the upload folder. Fails where errors block it: then the sink has been discarded. */
export async function build(given: OpenedTarget, choices: BuildChoices): Promise<Result<BuiltUpload>> {
  const changes = changesFor(given);
  const opened = changes ? given : await withRefusals(given, choices);
  const { project, ports } = opened;
  const { sink, language, tell } = choices;
  const findings = opened.findings.copy();
  const pictures = await picturesOf(opened, findings);
  const changed = choices.bulkChange === undefined ? undefined : bulkBuild(opened, choices.bulkChange, findings);
  if (choices.bulkChange !== undefined && !changed) {
    await sink.discard();
    return { ok: false, findings };
  }
  const input: BuildInput = {
    ...inputOf(opened, choices, changes),
    replan: replanFor(opened, changes),
    rehearse: rehearsalOf(opened, choices, changes),
    ...changed,
    project: project.name,
    pictures,
    found: findings,
    sha256: ports.sha256,
    language,
    ...(tell && { progress: tell }),
    ...(choices.isUnrehearsed && { rehearse: undefined }),
  };
  const built = await buildUpload(input, sink);
  return built.ok ? { ...built, value: { ...built.value, changes } } : built;
}

/**
 * Plays what a build has written. Where a ledger has records and no ids come in between, what is on the platform is not known without an
 * export.
 */
function rehearsalOf(opened: OpenedTarget, choices: PlanChoices, changes?: Changes): BuildInput["rehearse"] {
  const { catalogue, target, ledger } = opened;
  if (!changes && ledger.isBegun && !isOfRecords(target)) return undefined;
  return async (prepared, files, found) => {
    const played = await rehearse(
      { ...opened, findings: found.copy() },
      { ...prepared, changes },
      { ...choices, files },
    );
    if (!played.ok) return { findings: played.findings.list(), files: [] };
    const { value } = played;
    return { findings: unforeseen(value, catalogue, target, prepared, found), files: value.files };
  };
}

/** The pictures that are uploaded, by file name. One that is gone since its folder was listed, or cannot be read, is a finding. */
async function picturesOf(
  { project, ports, pictureNames }: OpenedTarget,
  findings: Findings,
): Promise<Map<string, Uint8Array>> {
  const pictures = new Map<string, Uint8Array>();
  for (const name of pictureNames) {
    const bytes = findings.took(await readBytes(ports.files, `${project.pictures ?? "."}/${name}`));
    if (bytes) pictures.set(name, bytes);
  }
  return pictures;
}

/** A build of nothing but one bulk change of the project. */
function bulkBuild(
  opened: OpenedTarget,
  name: string,
  findings: Findings,
): Pick<BuildInput, "catalogue" | "there" | "replan" | "rehearse"> | undefined {
  const planned = planBulk(opened, name, findings);
  if (!planned) return undefined;
  const { target } = opened;
  return {
    catalogue: planned.catalogue,
    there: { isThere: () => true, isAdded: () => true, hasPicture: () => true, isBegun: true },
    replan: (prepared) => Promise.resolve({ ...prepared, plan: { ...prepared.plan, steps: [planned.step] } }),
    rehearse: async (prepared, files, found) => {
      const played = await playBulk({ ...opened, findings: found.copy() }, planned, files);
      if (!played.ok) return { findings: played.findings.list(), files: [] };
      const { value } = played;
      return { findings: unforeseen(value, planned.catalogue, target, prepared, found), files: value.files };
    },
  };
}

/** What is rehearsed. */
export interface RehearseChoices extends Omit<PlanChoices, "isUnrehearsed"> {
  /** The upload folder. */
  readonly files: FilesPort;
  /** Receives each step that was played. */
  readonly played?: TellPlayed | undefined;
}

/**
 * Plays an upload folder on a simulated platform. Where ids have to be collected in between, all rounds are played, with ids as the
 * platform would give them. Fails where a file of the plan is not in the folder.
 */
export async function rehearse(
  opened: OpenedTarget,
  prepared: PlannedUpload,
  choices: RehearseChoices,
): Promise<Result<Verdict>> {
  const { files, played } = choices;
  const findings = opened.findings.copy();
  const { target, catalogue, pictureNames, ledger } = opened;
  const { changes } = prepared;
  const isInRounds = prepared.plan.steps.some((step) => step.is === "collect") || !ledger.isEmpty;
  const common = { catalogue, target, heldBack: prepared.heldBack, goal: changes?.goal, played };
  const platform = changes?.start() ?? platformAtFirst(catalogue, target, prepared.heldBack, ledger);
  if (!isOfRecords(target) || !isInRounds) {
    const result = await playUpload({
      ...common,
      plan: prepared.plan,
      files,
      platform,
    });
    return resultOf(findings.took(ofUploadFolder(result)), findings);
  }
  // All rounds are played, the first as it was built: where nothing was, there is nothing to play.
  const [first] = stepsNow(prepared.plan).flatMap((step) => (step.is === "upload" ? step.files : []));
  const there = first && (await files.read(first.name));
  if (there && !there.ok) {
    findings.took(ofUploadFolder(there));
    return { ok: false, findings };
  }
  const verdict = await rehearseThrough({
    ...common,
    pictureNames,
    ledger,
    platform,
    planWith: changes && ((known, view) => planChanges(opened, changes, choices, known, view)),
  });
  return resultOf(verdict, findings);
}

/** The plan of what changes, once more is known of the platform. */
async function planChanges(
  opened: OpenedTarget,
  { input: before }: Changes,
  choices: PlanChoices,
  ledger: Ledger,
  catalogue: TargetView,
): Promise<Result<Plan>> {
  const changes = new Changes({ ...before, catalogue, ledger });
  const input = { ...inputOf(opened, choices, changes), catalogue };
  const prepared = prepareBuild(input);
  return prepared.ok ? resultOf((await changes.plan(prepared.value)).plan, prepared.findings) : prepared;
}
