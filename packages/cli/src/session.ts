/** What most commands begin with: a project opened for one of its targets, from the options of the command line. */

import { statSync, type Stats } from "node:fs";
import { basename, dirname, join, relative, resolve } from "node:path";
import {
  findingTable,
  openProject,
  openTarget,
  readSourcesOf,
  targetNamed,
  type ExportFile,
  type Ledger,
  type OpenedProject,
  type OpenedSources,
  type OpenedTarget,
  type Project,
  type ReadonlyFindings,
  type Result,
  type Target,
} from "zest-tier";
import { lockAll, nodeFiles, nodePorts, openLedger, type Lock } from "zest-tier/node";
import { listOption, textOption, UsageError, type CommandLine } from "./command.js";
import { optimiseFor } from "./engine.js";
import type { Io } from "./io.js";
import { heapGiven, heapNeeded, MoreHeapNeeded } from "./heap.js";
import { startMeter } from "./progress.js";

export interface Session {
  readonly opened: OpenedTarget;
  /** Where the project file is; its paths are seen from here. */
  readonly folder: string;
  readonly uploadFolder: string;
  readonly choices: { readonly holdBack: boolean; readonly despite: ReadonlySet<string> };
  /** Appends what is new in the target's ledger to its file. */
  readonly save: (ledger: Ledger) => Promise<void>;
}

export type OpenedSession =
  { readonly ok: true; readonly session: Session } | { readonly ok: false; readonly findings: ReadonlyFindings };

/**
 * Opens a session that no other run can disturb: project, ledger and upload folder are locked until `use` is done.
 *
 * @returns the exit code of `use`, which gets the findings where the session could not be opened.
 */
export async function withLockedSession(
  given: CommandLine,
  io: Io,
  use: (opening: OpenedSession) => Promise<number>,
): Promise<number> {
  let lock: Lock | undefined;
  const lockThese: LockPaths = async (paths, before) => {
    const locked = await lockAll(paths);
    if (locked.ok) {
      lock = locked.value;
      return undefined;
    }
    const findings = before.copy();
    findings.addAll(locked.findings);
    return findings;
  };
  try {
    return await use(await openSession(given, io, lockThese));
  } finally {
    await lock?.release();
  }
}

/** @returns undefined where they are locked now; else the findings say why not. */
type LockPaths = (paths: readonly string[], before: ReadonlyFindings) => Promise<ReadonlyFindings | undefined>;

/** Bytes. */
const worthShowing = 5_000_000;

/**
 * @throws UsageError for options that make no sense with this project.
 * @throws MoreHeapNeeded before anything is locked or read, where the command can be run again with more memory.
 */
export async function openSession(given: CommandLine, io: Io, lockThese?: LockPaths): Promise<OpenedSession> {
  const despite = despiteCodes(given);
  const path = resolve(io.cwd, given.argument ?? ".");
  const isFolder = lookAt(path)?.isDirectory() ?? false;
  const file = isFolder ? join(path, "project.yaml") : path;
  const folder = dirname(file);
  const loaded = await openProject(nodePorts(folder), basename(file));
  if (!loaded.ok) return loaded;
  const { project } = loaded.value;
  const target = chooseTarget(project, textOption(given, "for"));
  const { ledger: ledgerName } = project.wishes.get(target.name)!;
  const ledgerPath = resolve(folder, ledgerName);
  const uploadFolder = resolve(io.cwd, textOption(given, "upload") ?? join(folder, `upload-${target.name}`));
  const paths = project.sources.map(({ file: source }) => resolve(folder, source));
  const bytes = bytesOf(paths);
  const exported = bytesOf(listOption(given, "export").map((one) => resolve(io.cwd, one)));
  const heap = io.mayRunAgain ? heapNeeded(bytes + exported, heapGiven()) : undefined;
  if (heap !== undefined) throw new MoreHeapNeeded(heap);
  const problem = await lockThese?.([file, ledgerPath, uploadFolder], loaded.findings);
  if (problem) return { ok: false, findings: problem };
  const sources = await readWatched(loaded.value, bytes, io);
  if (!sources.ok) return sources;
  const findings = sources.findings.copy();
  const { ledger, save } = await openLedger(ledgerPath, ledgerName, findings);
  const opened = await openTarget(
    { ...sources.value, findings },
    {
      target: target.name,
      ledger,
      isTrial: given.options["trial"] === true,
      export: exportOf(given, target, io),
    },
  );
  if (!opened.ok) return opened;
  const choices = { holdBack: given.options["holdBack"] === true, despite };
  return { ok: true, session: { opened: opened.value, folder, uploadFolder, choices, save } };
}

function exportOf(given: CommandLine, target: Target, io: Io) {
  const isWholeRange = given.options["wholeRange"] === true;
  const paths = listOption(given, "export");
  if (isWholeRange && paths.length === 0)
    throw new UsageError(
      "--whole-range needs to know what is on the platform",
      "Save an export of the platform and give it with --export FILE.",
    );
  if (isWholeRange && !target.replacing)
    throw new UsageError(`${target.name} accepts no file with the whole range`, "Leave out --whole-range.");
  if (paths.length === 0) return undefined;
  return { given: exportFiles(paths, io), isWholeRange };
}

/** Exports of a platform, by their paths. */
export const exportFiles = (paths: readonly string[], io: Io): ExportFile[] =>
  paths.map((path) => {
    const whole = resolve(io.cwd, path);
    return { file: basename(whole), files: nodeFiles(dirname(whole)) };
  });

/** A path as short as it can be reported from where the user is. */
export function shortPath(path: string, io: Io): string {
  const short = relative(io.cwd, path);
  return short === "" ? "." : short.length < path.length ? short : path;
}

function despiteCodes(given: CommandLine): ReadonlySet<string> {
  const codes = listOption(given, "despite");
  for (const code of codes)
    if (!Object.hasOwn(findingTable, code))
      throw new UsageError(
        `there is no finding "${code}"`,
        "Codes are shown with each finding, and listed in docs/findings.md.",
      );
  return new Set(codes);
}

function chooseTarget(project: Project, name: string | undefined): Target {
  const found = targetNamed(project, name);
  if (found) return found;
  throw new UsageError(
    `the project has no target "${name}"`,
    `It has ${project.targets.map((target) => target.name).join(", ")}.`,
  );
}

/** The bytes of files together. */
const bytesOf = (paths: readonly string[]): number => paths.reduce((sum, path) => sum + (lookAt(path)?.size ?? 0), 0);

/** Reads the sources, with a bar for large ones. */
async function readWatched(opened: OpenedProject, total: number, io: Io): Promise<Result<OpenedSources>> {
  optimiseFor(total);
  const meter = startMeter("reading", total, worthShowing, io);
  try {
    return await readSourcesOf(opened, meter.tell);
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

/** @throws UsageError for a bulk change that the project does not have. */
export function bulkChangeOf({ opened: { project, target } }: Session, given: CommandLine): string | undefined {
  const name = textOption(given, "bulkChange");
  const { bulkChanges } = project.wishes.get(target.name)!;
  if (name !== undefined && !Object.hasOwn(bulkChanges, name))
    throw new UsageError(
      `${target.name} has no bulk change "${name}" in the project`,
      `It has ${Object.keys(bulkChanges).join(", ") || "none"}.`,
    );
  return name;
}
