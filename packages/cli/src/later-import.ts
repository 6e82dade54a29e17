/** A later import: a platform that was filled and then edited by hand gets what has changed in the sources, and nothing else. */

import { cpSync, rmSync } from "node:fs";
import { writeFile } from "node:fs/promises";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import {
  planUpload,
  rehearse,
  type ComparedRecord,
  type Finding,
  type ReadonlyFindings,
  type RecordState,
  type Upload,
  type Verdict,
} from "zest-tier";
import { nodeFiles } from "zest-tier/node";
import { startStandIn, type StandInName } from "@zest-tier/standins";
import { editOnPlatform } from "./platform-edits.js";
import { collectReports } from "./run/collect.js";
import { buildFolder } from "./run/build.js";
import { deliver, readBack, type DeliveredFile } from "./deliver.js";
import type { CommandLine } from "./command.js";
import type { Io } from "./io.js";
import { openSession } from "./session.js";

export interface LaterRound {
  readonly delivered: readonly DeliveredFile[];
  readonly ids: number;
  /** Whether the rehearsal expected it to come out as intended. */
  readonly asExpected: boolean;
}

export interface LaterImport {
  readonly target: string;
  /** What the comparison showed before anything was written. */
  readonly states: Readonly<Partial<Record<RecordState, number>>>;
  readonly errors: readonly Finding[];
  /** What cannot be done, or is somebody else's, at the end. */
  readonly warnings: readonly Finding[];
  readonly rounds: readonly LaterRound[];
  /** What differs at the end, although it should not. */
  readonly left: readonly ComparedRecord[];
  /** Files that a further build writes: none. */
  readonly again: number;
}

const mostRounds = 12;

/** Receives each round of changes, before it is sent: what the rehearsal states for it, and where its files are. */
export type TellRound = (round: {
  readonly upload: Upload;
  readonly folder: string;
  readonly verdict: Verdict | undefined;
  readonly findings: ReadonlyFindings;
}) => void;

/** @param folder a copy of the clean project; the later sources are put over it. */
export async function runLaterImport(folder: string, target: string, io: Io, tell?: TellRound): Promise<LaterImport> {
  const shop = await startStandIn(target as StandInName);
  try {
    await fill(folder, target, shop.url, io);
    await editOnPlatform(target, shop.url);
    putLaterSources(folder);
    const save = async () => {
      const { session } = await open(folder, target, {}, io);
      await writeFile(
        join(folder, exportName(target)),
        JSON.stringify(await readBack(shop.url, session.opened.target)),
      );
    };
    await save();
    const options = changeOptions(folder, target);
    const first = await open(folder, target, options, io);
    const states: Partial<Record<RecordState, number>> = {};
    for (const { state } of first.session.opened.compared!.comparison.records) states[state] = (states[state] ?? 0) + 1;
    const rounds: LaterRound[] = [];
    for (let round = 0; round < mostRounds; round++) {
      const done = await playRound(folder, target, options, shop.url, io, tell);
      if (!done) break;
      rounds.push(done);
      await save();
      // The whole range is not sent twice to see that nothing has changed.
      if (target === "tollgate") break;
    }
    const usual = { ...options, wholeRange: false };
    const last = await open(folder, target, usual, io);
    const planned = await planUpload(last.session.opened, last.session.choices);
    const isDone = planned.ok && !planned.value.plan.steps.some(({ is }) => is === "upload");
    const left = isDone ? [] : last.session.opened.compared!.comparison.records;
    rmSync(last.session.uploadFolder, { recursive: true, force: true });
    const built = await buildFolder((await open(folder, target, usual, io)).session, io);
    const again = built.ok ? built.value.files.length : -1;
    const errors = first.session.opened.findings.list().filter(({ severity }) => severity === "error");
    const warnings = planned.findings.list().filter(({ severity }) => severity === "warning");
    return { target, states, errors, warnings, rounds, left, again };
  } finally {
    await shop.stop();
  }
}

const exportName = (target: string): string => `export-${target}.json`;

/** Tollgate never moves a code but in a file that is the whole range. */
function changeOptions(folder: string, target: string): CommandLine["options"] {
  const whole = target === "tollgate" ? { wholeRange: true, despite: ["change/would-delete"] } : {};
  return { export: join(folder, exportName(target)), holdBack: true, ...whole };
}

/** Copies the later sources and project over the clean ones. */
function putLaterSources(folder: string): void {
  const later = join(dirname(fileURLToPath(import.meta.resolve("@zest-tier/demo/package.json"))), "later");
  cpSync(join(later, "sources"), join(folder, "sources"), { recursive: true });
  cpSync(join(later, "project.yaml"), join(folder, "project.yaml"));
}

async function fill(folder: string, target: string, url: string, io: Io): Promise<void> {
  for (let round = 0; round < mostRounds; round++) if (!(await playRound(folder, target, {}, url, io))) return;
}

async function open(folder: string, target: string, options: CommandLine["options"], io: Io) {
  const opened = await openSession({ argument: folder, options: { ...options, for: target } }, io);
  if (!opened.ok)
    throw new Error(
      opened.findings
        .list()
        .map(({ code }) => code)
        .join(),
    );
  return opened;
}

/** Builds, rehearses, sends and collects what can go now. @returns undefined when there is nothing to send. */
async function playRound(
  folder: string,
  target: string,
  options: CommandLine["options"],
  url: string,
  io: Io,
  tell?: TellRound,
): Promise<LaterRound | undefined> {
  const { session } = await open(folder, target, options, io);
  rmSync(session.uploadFolder, { recursive: true, force: true });
  const built = await buildFolder(session, io);
  if (!built.ok || built.value.files.length === 0) return undefined;
  const upload = built.value;
  const { opened, choices, uploadFolder } = session;
  const rehearsed = await rehearse(opened, upload, { ...choices, files: nodeFiles(uploadFolder) });
  const verdict = rehearsed.ok ? rehearsed.value : undefined;
  tell?.({ upload, folder: uploadFolder, verdict, findings: built.findings });
  const reportsFolder = join(folder, `reports-${target}`);
  rmSync(reportsFolder, { recursive: true, force: true });
  const delivered = await deliver(url, opened.target, upload.plan, uploadFolder, reportsFolder);
  const collected = await collectReports(session, upload, reportsFolder);
  return { delivered, ids: collected.ok ? collected.value.ids : 0, asExpected: verdict?.rebuilt ?? false };
}
