/** Building a generated shop, rehearsing it, and holding both against the stand-in. */

import assert from "node:assert/strict";
import type { StandIn } from "@zest-tier/standins";
import {
  findingTable,
  type ReadonlyFindings,
  type Target,
  type Upload,
  type UploadSink,
  type Verdict,
} from "zest-tier";
import { buildUpload, Kinds, playUpload, SimulatedPlatform } from "zest-tier/parts";
import { nodeSha256 } from "zest-tier/node";
import { memoryFiles, pictureNames, type ReadShop } from "./generate.js";
import { differencesOf, toldOn, withoutSeveralNames } from "./on-platform.js";

const everything = new Set(Object.keys(findingTable));

export interface Built {
  readonly upload: Upload;
  readonly files: Record<string, Uint8Array>;
  /** What was found before, and while building. */
  readonly findings: ReadonlyFindings;
}

/** Builds in spite of every error, or holding back what is faulty. */
export async function build(
  { catalogue, findings }: ReadShop,
  to: Target,
  holdBack = false,
): Promise<Built | undefined> {
  const files: Record<string, Uint8Array> = {};
  const sink: UploadSink = {
    write: (name, chunks) => {
      files[name] = Buffer.concat([...chunks]);
      return Promise.resolve();
    },
    read: (name) => memoryFiles(files).read(name),
    finish: () => Promise.resolve(),
    discard: () => Promise.resolve(),
  };
  const pictures = new Map(pictureNames.map((name) => [name, new Uint8Array([1])]));
  const upload = await buildUpload(
    {
      catalogue,
      target: to,
      project: "generated",
      pictures,
      holdBack,
      despite: holdBack ? new Set() : everything,
      sha256: nodeSha256,
      found: findings,
    },
    sink,
  );
  return upload.ok ? { upload: upload.value, files, findings: upload.findings } : undefined;
}

export async function play(
  read: ReadShop,
  { upload, files }: Built,
  to: Target,
  onto = emptyPlatform(to),
): Promise<Verdict> {
  const rehearsed = await playUpload({
    catalogue: read.catalogue,
    target: to,
    ...upload,
    files: memoryFiles(files),
    platform: onto,
  });
  assert.ok(rehearsed.ok);
  return rehearsed.value;
}

export const emptyPlatform = (target: Target): SimulatedPlatform => new SimulatedPlatform(target, new Kinds());

interface ReportRow {
  readonly line: number;
  readonly outcome: string;
  readonly notes: readonly string[];
}

/** Sends the files to the stand-in as the plan has them, and says where it did otherwise than expected. */
export async function disagreements(
  standIn: StandIn,
  target: Target,
  { upload, files }: Built,
  verdict: Verdict,
): Promise<string[]> {
  const found: string[] = [];
  for (const step of upload.plan.steps) {
    if (step.is === "pictures") await fetch(`${standIn.url}/pictures`, { method: "POST", body: files[step.name]! });
    if (step.is !== "upload") continue;
    for (const { name } of step.files) {
      const report = (await (
        await fetch(`${standIn.url}/imports/${name}`, { method: "POST", body: files[name]! })
      ).json()) as { refused: string | null; rows: ReportRow[] };
      const expected = verdict.files.find((file) => file.name === name)!;
      if ((report.refused === null) !== (expected.refused === undefined))
        found.push(`${name}: ${report.refused ?? "taken"}, expected ${expected.refused ?? "taken"}`);
      const say = (rows: readonly { line: number; outcome: string; notes: Iterable<string> }[]) =>
        rows.map((row) => `${row.line} ${row.outcome} ${[...row.notes].length} notes`);
      const [does, said] = [say(report.rows), say(expected.rows)];
      does.forEach(
        (row, at) =>
          row !== said[at] &&
          found.push(`${name}: ${row}, expected ${said[at]} (${expected.rows[at]?.reasons.join("; ")})`),
      );
      if (does.length !== said.length) found.push(`${name}: ${does.length} rows, expected ${said.length}`);
    }
  }
  const told = await toldOn(standIn.url, target);
  const all = differencesOf(verdict.held.catalogue, told.catalogue, target);
  const differences = await withoutSeveralNames(standIn.url, all);
  return [...found, ...differences.map((difference) => JSON.stringify(difference))];
}

/** @param languages of the shop, if it is not to have those that it begins with. */
export async function reset(standIn: StandIn, languages?: readonly string[]): Promise<void> {
  await fetch(`${standIn.url}/reset`, { method: "POST" });
  if (!languages) return;
  const told = await fetch(`${standIn.url}/account`, { method: "POST", body: JSON.stringify({ languages }) });
  assert.equal(told.status, 200);
}
