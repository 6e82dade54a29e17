/**
 * What a person does with the library alone, on each stand-in: build, rehearse, send, collect, in rounds; compare with an export; change
 * something, and go on. Everything is opened once, and nothing that was opened changes.
 */

import assert from "node:assert/strict";
import { mkdtemp, readFile, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { after, before, test } from "node:test";
import { fileURLToPath } from "node:url";
import { startStandIn, standInNames, type StandIn } from "@zest-tier/standins";
import {
  build,
  checkPlatform,
  collect,
  openProject,
  openTarget,
  planUpload,
  readSourcesOf,
  rehearse,
  success,
  valueOf,
  type FilesPort,
  type OpenedSources,
  type OpenedTarget,
  type ProjectPorts,
} from "zest-tier";
import { folderSink, nodeFiles, nodePorts } from "zest-tier/node";
import { deliver } from "#src/deliver.js";
import { memoryFiles } from "./generate.js";

const demo = fileURLToPath(new URL("../../../../demo/clean", import.meta.url));

let work: string;
let sources: OpenedSources;
before(async () => {
  work = await mkdtemp(join(tmpdir(), "zest-workflow-"));
  sources = valueOf(await readSourcesOf(valueOf(await openProject(nodePorts(demo)))));
});
after(() => rm(work, { recursive: true, force: true }));

/** The demo with some of its files otherwise. */
function portsWith(changed: Readonly<Record<string, string>>): ProjectPorts {
  const ports = nodePorts(demo);
  const own = memoryFiles(
    Object.fromEntries(Object.entries(changed).map(([name, text]) => [name, new TextEncoder().encode(text)])),
  );
  const files: FilesPort = {
    read: (path) => (changed[path] === undefined ? ports.files.read(path) : own.read(path)),
    list: (folder) => ports.files.list(folder),
  };
  return { ...ports, files };
}

interface Round {
  readonly uploads: number;
  readonly rows: readonly string[];
  readonly rebuilt: boolean;
}

/** Builds, rehearses, sends and collects, until a folder ends with the plan. */
async function deliverAll(
  given: OpenedTarget,
  standIn: StandIn,
  name: string,
): Promise<{ readonly rounds: readonly Round[]; readonly last: OpenedTarget }> {
  const rounds: Round[] = [];
  let opened = given;
  for (let number = 1; number < 12; number++) {
    const [folder, answers] = [join(work, `${name}-${number}`), join(work, `${name}-${number}-answers`)];
    const planned = valueOf(await planUpload(opened));
    const uploads = planned.plan.steps.filter(({ is }) => is === "upload").length;
    const upload = valueOf(await build(opened, { sink: valueOf(await folderSink(folder, "bramblecomb")) }));
    const { rebuilt } = valueOf(await rehearse(opened, upload, { files: nodeFiles(folder) }));
    const sent = await deliver(standIn.url, opened.target, upload.plan, folder, answers);
    const rows = sent.flatMap((file) => file.rows.map(({ line, outcome }) => `${file.name}:${line} ${outcome}`));
    rounds.push({ uploads, rows, rebuilt });
    const collected = await collect(opened, planned, {
      upload: nodeFiles(folder),
      uploadName: folder,
      reports: nodeFiles(answers),
    });
    opened = valueOf(collected).opened;
    if (upload.stopsAt === undefined) return { rounds, last: opened };
  }
  throw new Error("there is no end to the rounds");
}

const catalogueOf = async ({ url }: StandIn): Promise<string> => (await fetch(`${url}/catalogue`)).text();

async function differences(opened: OpenedTarget, standIn: StandIn): Promise<readonly string[]> {
  const planned = valueOf(await planUpload(opened));
  const files = memoryFiles({ "export.json": new TextEncoder().encode(await catalogueOf(standIn)) });
  const checked = valueOf(await checkPlatform(opened, planned, [{ file: "export.json", files }]));
  return checked.differences.map(({ kind, key, field }) => `${kind} ${key} ${field}`);
}

/** The same project, opened again with an export of the platform. */
async function withExport(
  from: OpenedSources,
  { target, ledger }: OpenedTarget,
  standIn: StandIn,
): Promise<OpenedTarget> {
  const files = memoryFiles({ "export.json": new TextEncoder().encode(await catalogueOf(standIn)) });
  const given = { given: [{ file: "export.json", files }], isWholeRange: false };
  return valueOf(await openTarget(from, { target: target.name, ledger, export: given }));
}

/** The range with another price, and with one product more. */
async function changedRange(): Promise<string> {
  const text = await readFile(join(demo, "sources/range.csv"), "utf8");
  const [header = "", ...rows] = text.split("\r\n");
  const headers = header.split(";");
  const cells: Readonly<Record<string, string>> = {
    "Item no": "BC-NB-1",
    Range: "new-brush",
    Name: "New brush",
    Bezeichnung: "Neue Bürste",
    Description: "Soft and long.",
    Beschreibung: "Weich und lang.",
    Shelf: "Hives / Complete hives",
    Price: "€ 4,95",
    "In stock": "12",
    kg: "0,1",
    Web: "yes",
  };
  const more = headers.map((one) => cells[one] ?? "").join(";");
  const changed = rows.map((row) => (row.startsWith("BC-OH-CEDA-RAW;") ? row.replace("€ 189,00", "€ 191,00") : row));
  return [header, ...changed.filter((row) => row !== ""), more, ""].join("\r\n");
}

for (const name of standInNames) {
  test(`${name}: in rounds until nothing is left; then an export shows no change; a later change goes on from there`, async () => {
    const standIn = await startStandIn(name);
    try {
      const opened = valueOf(await openTarget(sources, { target: name }));
      const before = JSON.stringify([...opened.catalogue.table("product").keys()]);
      const { rounds, last } = await deliverAll(opened, standIn, name);
      assert.ok(rounds.length > 0 && rounds.every(({ rebuilt }) => rebuilt));
      assert.ok(rounds.every(({ rows }) => rows.every((row) => !row.endsWith("refused"))));
      assert.deepEqual(await differences(last, standIn), []);
      assert.deepEqual(valueOf(await planUpload(last)).plan.steps, [], "what was sent is not sent again");
      assert.equal(opened.ledger.isEmpty, true, "what was opened first knows nothing of what was collected");
      assert.equal(JSON.stringify([...opened.catalogue.table("product").keys()]), before);

      const same = await withExport(sources, last, standIn);
      assert.deepEqual(same.compared?.comparison.records, []);
      assert.deepEqual(valueOf(await planUpload(same)).plan.steps, []);

      const ports = portsWith({ "sources/range.csv": await changedRange() });
      const later = valueOf(await readSourcesOf(valueOf(await openProject(ports))));
      const changed = await withExport(later, last, standIn);
      assert.ok(changed.compared && changed.compared.comparison.records.length >= 2);
      const after = await deliverAll(changed, standIn, `${name}-later`);
      assert.ok(after.rounds.length > 0 && after.rounds.every(({ rebuilt }) => rebuilt));
      assert.deepEqual(await differences(after.last, standIn), []);
      const settled = await withExport(later, after.last, standIn);
      assert.deepEqual(valueOf(await planUpload(settled)).plan.steps, []);
    } finally {
      await standIn.stop();
    }
  });
}

test("a port that fails halfway gives a finding, and nothing is half-opened", async () => {
  const ports = nodePorts(demo);
  const read = (path: string) =>
    path.startsWith("layouts/") ? Promise.resolve(success(none())) : ports.files.read(path);
  async function* none(): AsyncGenerator<Uint8Array> {
    yield await Promise.resolve(new TextEncoder().encode("layout: ["));
  }
  const opened = await openProject({ ...ports, files: { list: ports.files.list, read } });
  assert.ok(!opened.ok);
  const codes = new Set(opened.findings.list().map(({ code }) => code));
  assert.deepEqual([...codes], ["given/not-yaml"]);
});
