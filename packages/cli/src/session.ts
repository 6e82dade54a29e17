/** What most commands begin with: the project loaded, its sources read, the target chosen. */

import { statSync, type Stats } from "node:fs";
import { basename, dirname, join, relative, resolve } from "node:path";
import {
  findingTable,
  Findings,
  chooseTrial,
  trialCatalogue,
  type ResolvedCatalogue,
  type Trial,
  Changes,
  type Ledger,
  type Plan,
  loadProject,
  viewForTarget,
  picturesNamed,
  prepareBuild,
  readProject,
  thereBy,
  type FilesPort,
  type Prepared,
  type PrepareInput,
  type Project,
  type ReadProject,
  type Target,
  asTargetView,
  withIds,
  withPairs,
  type TargetView,
} from "zest-tier";
import {
  lockAll,
  nodeFiles,
  openLedger,
  shippedLayout,
  shippedTarget,
  type LedgerFile,
  type Lock,
} from "zest-tier/node";
import { textOption, UsageError, type CommandLine } from "./command.js";
import { compareExport, pairsFile, readPairs, type Compared } from "./export.js";
import type { Io } from "./io.js";
import { startMeter } from "./progress.js";

export interface Session {
  readonly project: Project;
  readonly target: Target;
  readonly read: ReadProject;
  /** With what is made for the target: its fields, ids, answered pairs, redirects; only the trial, where one is wanted. */
  readonly catalogue: TargetView;
  readonly findings: Findings;
  /** Where the project file is; its paths are seen from here. */
  readonly folder: string;
  readonly files: FilesPort;
  /** Pictures that records name and that are there. */
  readonly pictureNames: readonly string[];
  readonly uploadFolder: string;
  readonly holdBack: boolean;
  readonly despite: ReadonlySet<string>;
  /** What the target's platform is known to hold. */
  readonly ledger: LedgerFile;
  /** Where an export tells what is there already: what is not the same. */
  readonly compared: Compared | undefined;
  /** Where only a trial is to be uploaded: which, and of what. */
  readonly trial: { readonly of: Trial; readonly whole: ResolvedCatalogue } | undefined;
}

export type Opened =
  { readonly ok: true; readonly session: Session } | { readonly ok: false; readonly findings: Findings };

/**
 * Opens a session that no other run can disturb: project, ledger and upload folder are locked until `use` is done.
 *
 * @returns the exit code of `use`, which gets the findings where the session could not be opened.
 */
export async function withLockedSession(
  given: CommandLine,
  io: Io,
  use: (opened: Opened) => Promise<number>,
): Promise<number> {
  let lock: Lock | undefined;
  const lockThese: LockPaths = async (paths, findings) => {
    const locked = await lockAll(paths);
    if (locked.ok) lock = locked.lock;
    else findings.add(locked.finding);
    return locked.ok;
  };
  try {
    return await use(await openSession(given, io, lockThese));
  } finally {
    await lock?.release();
  }
}

/** @returns whether they are locked now; else the findings say why not. */
type LockPaths = (paths: readonly string[], findings: Findings) => Promise<boolean>;

/** Bytes. */
const worthShowing = 5_000_000;

/** @throws WrongUse for options that make no sense with this project. */
export async function openSession(given: CommandLine, io: Io, lockThese?: LockPaths): Promise<Opened> {
  const despite = despiteCodes(given);
  const path = resolve(io.cwd, given.argument ?? ".");
  const isFolder = lookAt(path)?.isDirectory() ?? false;
  const file = isFolder ? join(path, "project.yaml") : path;
  const folder = dirname(file);
  const files = nodeFiles(folder);
  const findings = new Findings();
  const project = await loadProject(basename(file), files, shippedTarget, findings, shippedLayout);
  if (!project) return { ok: false, findings };
  const target = chooseTarget(project, textOption(given, "for"));
  const wishes = project.wishes.get(target.name)!;
  const ledgerPath = resolve(folder, wishes.ledger);
  const uploadFolder = resolve(io.cwd, textOption(given, "upload") ?? join(folder, `upload-${target.name}`));
  if (lockThese && !(await lockThese([file, ledgerPath, uploadFolder], findings))) return { ok: false, findings };
  const read = await readWatched(project, folder, files, findings, io);
  const whole = await viewForTarget(project, read.catalogue, target, files, findings);
  const trial = given.options["trial"] === true ? { of: chooseTrial(whole), whole } : undefined;
  const ledger = await openLedger(ledgerPath, wishes.ledger, findings);
  const exported = textOption(given, "export");
  const replaces = given.options["wholeRange"] === true;
  if (replaces && exported === undefined)
    throw new UsageError(
      "--whole-range needs to know what is on the platform",
      "Save an export of the platform and give it with --export FILE.",
    );
  if (replaces && !target.replacing)
    throw new UsageError(`${target.name} accepts no file with the whole range`, "Leave out --whole-range.");
  const pairs = exported === undefined ? [] : await readPairs(folder, target.name, findings);
  const mine = trial ? trialCatalogue(trial.whole, trial.of) : whole;
  const inFile = (at: number) => ({ file: pairsFile(target.name), line: at + 2 });
  const paired = withPairs(asTargetView(mine), pairs, inFile, findings);
  const before = withIds(paired, ledger.ledger);
  const wanted = { project, read, catalogue: before, target, findings, folder, ledger, replaces };
  const compared = exported === undefined ? undefined : await compareExport(wanted, resolve(io.cwd, exported), pairs);
  if (exported !== undefined && !compared) return { ok: false, findings };
  const catalogue = compared?.changes.input.catalogue ?? before;
  const pictureNames = picturesNamed(catalogue).filter((name) => read.pictureNames?.has(name));
  const holdBack = given.options["holdBack"] === true;
  return {
    ok: true,
    session: {
      project,
      target,
      read,
      catalogue,
      findings,
      folder,
      files,
      pictureNames,
      uploadFolder,
      holdBack,
      despite,
      ledger,
      compared,
      trial,
    },
  };
}

/** The plan, with all that the target has to say; undefined when there is none. */
export async function prepare(session: Session): Promise<Prepared | undefined> {
  const { catalogue, target, pictureNames, holdBack, despite, findings } = session;
  const choices = { holdBack, despite, pictureNames, ...wanted(session) };
  const prepared = prepareBuild({ catalogue, target, ...choices }, findings);
  return prepared && (session.compared ? session.compared.changes.plan(prepared) : prepared);
}

/** The plan of what changes, once the ledger knows more. */
export async function planChanges(session: Session, ledger: Ledger, catalogue: TargetView): Promise<Plan | undefined> {
  const { target, pictureNames, holdBack, despite, compared } = session;
  const changes = new Changes({ ...compared!.changes.input, catalogue, ledger });
  const choices = { holdBack, despite, pictureNames, ...wanted(session), there: changes.there };
  const findings = new Findings();
  for (const one of session.findings.list()) findings.add(one);
  const prepared = prepareBuild({ catalogue, target, ...choices }, findings);
  return prepared && (await changes.plan(prepared)).plan;
}

/** What the plan has to know besides the catalogue and the target. */
export function wanted({
  project,
  target,
  ledger,
  catalogue,
  compared,
}: Session): Pick<PrepareInput, "there" | "manualSteps"> {
  const there = compared ? compared.changes.there : thereBy(ledger.ledger, catalogue);
  return { there, manualSteps: project.wishes.get(target.name)!.manualSteps };
}

/** A path as short as it can be reported from where the user is. */
export function shortPath(path: string, io: Io): string {
  const short = relative(io.cwd, path);
  return short === "" ? "." : short.length < path.length ? short : path;
}

function despiteCodes(given: CommandLine): ReadonlySet<string> {
  const codes = (given.options["despite"] as readonly string[] | undefined) ?? [];
  for (const code of codes)
    if (!Object.hasOwn(findingTable, code))
      throw new UsageError(
        `there is no finding "${code}"`,
        "Codes are shown with each finding, and listed in docs/findings.md.",
      );
  return new Set(codes);
}

function chooseTarget(project: Project, name: string | undefined): Target {
  const found = name === undefined ? project.targets[0] : project.targets.find((target) => target.name === name);
  if (found) return found;
  throw new UsageError(
    `the project has no target "${name}"`,
    `It has ${project.targets.map((target) => target.name).join(", ")}.`,
  );
}

/** Reads the sources, with a bar for large ones. */
async function readWatched(
  project: Project,
  folder: string,
  files: FilesPort,
  findings: Findings,
  io: Io,
): Promise<ReadProject> {
  const sizes = project.sources.map(({ file }) => lookAt(resolve(folder, file))?.size ?? 0);
  const total = sizes.reduce((sum, size) => sum + size, 0);
  const meter = startMeter("reading", total, worthShowing, io);
  try {
    return await readProject(project, files, findings, meter.tell);
  } finally {
    meter.stop();
  }
}

/** Undefined for what cannot be looked at: what is wrong with it is reported when it is read. */
function lookAt(path: string): Stats | undefined {
  try {
    return statSync(path);
  } catch {
    return undefined;
  }
}
