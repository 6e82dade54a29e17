/** One measurement in a process of its own: prints its figures as JSON. */

import { createReadStream, createWriteStream, readFileSync, statSync } from "node:fs";
import { once } from "node:events";
import { join } from "node:path";
import { dsvFormat } from "d3-dsv";
import { Findings, type Project } from "zest-tier";
import {
  buildUpload,
  Catalogue,
  Kinds,
  compileLayout,
  decodeText,
  parseGiven,
  parseTarget,
  readJson,
  readProject,
  readSources,
  readXml,
  playUpload,
  asTargetView,
} from "zest-tier/parts";
import { optimiseFor, setUpEngine } from "@zest-tier/cli/dist/src/engine.js";
import { givenLayout } from "zest-tier/schemas";
import { folderSink, nodeFiles, nodeSha256 } from "zest-tier/node";
import { byHand } from "./by-hand.js";
import { bySql } from "./by-sql.js";
import { measureChanges } from "./changes.js";
import type { FormatWorkload } from "./formats.js";
import type { Workload } from "./generate.js";
import { now, since } from "./taken.js";
import { parsedRows } from "./parsed-rows.js";

const [task, workloadFile, out] = process.argv.slice(2) as [string, string, string];
const workload = JSON.parse(readFileSync(workloadFile, "utf8")) as Workload;
/** Of the tasks about other formats. */
const ofFormat = workload as unknown as FormatWorkload;
const delimiter = ";";
const sources = (workload.sources as Workload["sources"] | undefined) ?? [{ file: ofFormat.source }];
const sourceBytes = sources.map(({ file }) => statSync(file).size).reduce((sum, one) => sum + one, 0);

/** As the command does when layouts and targets are parsed, and the sources are about to be read. */
const beginToRead = (): void => optimiseFor(sourceBytes);

/** Takes the same bytes apart and puts them together again with the same packages, and does nothing else. */
async function floor(): Promise<undefined> {
  const format = dsvFormat(delimiter);
  for (const [at, { file: source }] of workload.sources.entries()) {
    const file = createWriteStream(join(out, `floor-${at}.csv`));
    for await (const rows of parsedRows(source, delimiter))
      if (rows.length > 0 && !file.write(`${format.formatRows(rows)}\r\n`)) await once(file, "drain");
    file.end();
    await once(file, "finish");
  }
}

function load(): { project: Project; findings: Findings } {
  const findings = new Findings();
  const kinds = new Kinds();
  const sources = workload.sources.flatMap(({ file, layout: text }) => {
    const given = findings.took(parseGiven(text, "layout", givenLayout));
    const layout = given && findings.took(compileLayout(given.value, given.at, kinds));
    return layout ? [{ file, layout }] : [];
  });
  const target = findings.took(parseTarget(workload.target, "target", kinds));
  if (sources.length < workload.sources.length || !target) throw new Error(JSON.stringify(findings.list()));
  return {
    project: {
      name: "bench",
      kinds,
      sources,
      currency: undefined,
      outside: [],
      pictures: undefined,
      languages: [],
      rules: [],
      wishes: new Map(),
      translations: [],
      operations: [],
      gaps: new Map(),
      tables: new Map(),
      targets: [target],
    },
    findings,
  };
}

async function build(alsoRehearse: boolean): Promise<object> {
  const { project, findings } = load();
  const target = project.targets[0]!;
  beginToRead();
  const began = now();
  const read = await readProject(project, nodeFiles("/"), findings);
  const readAt = now();
  const catalogue = asTargetView(read.catalogue);
  const sink = await folderSink(join(out, "upload"), "bench");
  if (!sink.ok) throw new Error("no sink");
  const upload = findings.took(
    await buildUpload(
      {
        catalogue,
        target,
        project: "bench",
        pictures: new Map(),
        holdBack: false,
        despite: new Set(),
        sha256: nodeSha256,
        found: new Findings(),
      },
      sink.value,
    ),
  );
  if (!upload) throw new Error(JSON.stringify(findings.list().slice(0, 5)));
  const builtAt = now();
  const parts = { readPart: since(began, readAt), writePart: since(readAt, builtAt) };
  if (!alsoRehearse) return parts;
  const rehearsed = await playUpload({ catalogue, target, ...upload, files: nodeFiles(join(out, "upload")) });
  if (!rehearsed.ok) throw new Error("not rehearsed");
  return { ...parts, rehearsal: since(builtAt, now()), rebuilt: rehearsed.value.rebuilt };
}

/** Reading into records, and no further: against the parser alone. */
async function read(): Promise<undefined> {
  const { project, findings } = load();
  beginToRead();
  await readSources(project.sources, new Catalogue(project.kinds), nodeFiles("/"), findings);
}

/** The parser alone, on decoded text. */
async function parse(): Promise<undefined> {
  for (const { file } of workload.sources) for await (const rows of parsedRows(file, delimiter)) void rows;
}

/** SHA-256 of as many bytes as the sources have. */
function hash(): Promise<undefined> {
  for (const { file } of workload.sources) {
    const hasher = nodeSha256();
    const bytes = readFileSync(file);
    for (let at = 0; at < bytes.length; at += 1 << 18) hasher.update(bytes.subarray(at, at + (1 << 18)));
    hasher.digest();
  }
  return Promise.resolve(undefined);
}

/** A file of another format into records; the layout is all that is needed. */
async function records(): Promise<undefined> {
  const findings = new Findings();
  const kinds = new Kinds();
  const given = findings.took(parseGiven(ofFormat.layout, "layout", givenLayout))!;
  const layout = findings.took(compileLayout(given.value, given.at, kinds))!;
  const catalogue = new Catalogue(kinds);
  beginToRead();
  await readSources([{ file: ofFormat.source, layout }], catalogue, nodeFiles("/"), findings);
  if (findings.hasErrors || catalogue.table("product").size === 0) throw new Error(JSON.stringify(findings.list()[0]));
}

/** The elements of a document, none of them kept. */
async function walk(): Promise<undefined> {
  const findings = new Findings();
  const bytes = createReadStream(ofFormat.source, { highWaterMark: 1 << 18 });
  const text = decodeText(bytes, "walk", "utf-8", findings);
  const path = ["feed", "items", "item"].map((name) => ({ is: "element", name, predicates: [] }) as const);
  const elements = ofFormat.source.endsWith(".xml")
    ? readXml(text, "walk", path, {}, findings)
    : readJson(text, "walk", "/items", false, findings);
  let count = 0;
  for await (const batch of elements) count += batch.length;
  if (count === 0) throw new Error("no elements");
}

/** A workbook by its package alone. */
async function workbookAlone(): Promise<undefined> {
  const xlsx = await import("@e965/xlsx");
  const options = { type: "array", dense: true, cellDates: true, UTC: true } as const;
  const book = xlsx.read(new Uint8Array(readFileSync(ofFormat.source)), options);
  xlsx.utils.sheet_to_json(book.Sheets[book.SheetNames[0]!]!, { header: 1, raw: true });
}

const work: Readonly<Record<string, () => Promise<object | undefined>>> = {
  bare: () => Promise.resolve(undefined),
  floor,
  sql: () => bySql(workload, out),
  hand: () => byHand(workload, out),
  parse,
  read,
  hash,
  build: () => build(false),
  rehearse: () => build(true),
  changes: () => measureChanges(workload, beginToRead),
  records,
  walk,
  "workbook-alone": workbookAlone,
};
/** What the command does, with the engine as it sets it up. All else runs with the engine as it is by itself. */
const ofCommand: readonly string[] = ["read", "build", "rehearse", "changes", "records"];
if (ofCommand.includes(task)) setUpEngine();
const started = now();
const extra = (await work[task]!()) ?? {};
const whole = since(started, now());
// maxRSS is in KiB.
console.log(
  JSON.stringify({
    ...whole,
    peakKiB: process.resourceUsage().maxRSS,
    sourceBytes,
    ...extra,
  }),
);
