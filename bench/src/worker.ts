/** One measurement in a process of its own: prints its figures as JSON. */

import { createReadStream, createWriteStream, readFileSync, statSync } from "node:fs";
import { once } from "node:events";
import { join } from "node:path";
import { dsvFormat } from "d3-dsv";
import Papa from "papaparse";
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
import { givenLayout } from "zest-tier/schemas";
import { folderSink, nodeFiles, nodeSha256 } from "zest-tier/node";
import type { Workload } from "./generate.js";

const [task, workloadFile, out] = process.argv.slice(2) as [string, string, string];
const workload = JSON.parse(readFileSync(workloadFile, "utf8")) as Workload;

const { Parser } = Papa as unknown as {
  Parser: new (config: object) => {
    parse: (text: string, base: number, ignoreLast: boolean) => { data: string[][]; meta: { cursor: number } };
  };
};

/** Takes the same bytes apart and puts them together again with the same packages, and does nothing else. */
async function floor(): Promise<undefined> {
  const format = dsvFormat(workload.separators.delimiter);
  const file = createWriteStream(join(out, "floor.csv"));
  const findings = new Findings();
  const text = decodeText(createReadStream(workload.source, { highWaterMark: 1 << 18 }), "floor", "utf-8", findings);
  const write = async (rows: string[][]) => {
    if (rows.length > 0 && !file.write(`${format.formatRows(rows)}\r\n`)) await once(file, "drain");
  };
  for await (const rows of parsedRows(text)) await write(rows);
  file.end();
  await once(file, "finish");
}

async function sqlCopy(): Promise<undefined> {
  const { DuckDBInstance } = await import("@duckdb/node-api");
  const connection = await (await DuckDBInstance.create(":memory:", { threads: "1" })).connect();
  await connection.run(
    `COPY (SELECT * FROM read_csv('${workload.source}', delim=';', header=true, all_varchar=true, null_padding=true)) TO '${join(out, "sql.csv")}' (HEADER, DELIMITER ';')`,
  );
}

function load(): { project: Project; findings: Findings } {
  const findings = new Findings();
  const kinds = new Kinds();
  const given = findings.took(parseGiven(workload.layout, "layout", givenLayout))!;
  const layout = given && findings.took(compileLayout(given.value, given.at, kinds));
  const target = findings.took(parseTarget(workload.target, "target", kinds));
  if (!layout || !target) throw new Error(JSON.stringify(findings.list()));
  return {
    project: {
      name: "bench",
      kinds,
      sources: [{ file: workload.source, layout }],
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
  const started = performance.now();
  const read = await readProject(project, nodeFiles("/"), findings);
  const readAt = performance.now();
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
  const builtAt = performance.now();
  if (!alsoRehearse) return { readMs: readAt - started, buildMs: builtAt - readAt };
  const rehearsed = await playUpload({
    catalogue,
    target,
    ...upload,
    files: nodeFiles(join(out, "upload")),
  });
  if (!rehearsed.ok) throw new Error("not rehearsed");
  return { rehearseMs: performance.now() - builtAt, rebuilt: rehearsed.value.rebuilt };
}

/** Reading into records, and no further: against the parser alone. */
async function read(): Promise<undefined> {
  const { project, findings } = load();
  await readSources(project.sources, new Catalogue(project.kinds), nodeFiles("/"), findings);
}

/** The parser alone, on decoded text. */
async function parse(): Promise<undefined> {
  const findings = new Findings();
  const text = decodeText(createReadStream(workload.source, { highWaterMark: 1 << 18 }), "parse", "utf-8", findings);
  for await (const rows of parsedRows(text)) void rows;
}

async function* parsedRows(text: AsyncIterable<string>): AsyncGenerator<string[][]> {
  const config = { delimiter: workload.separators.delimiter, newline: "\r\n" };
  let rest = "";
  for await (const chunk of text) {
    rest += chunk;
    const parsed = new Parser(config).parse(rest, 0, true);
    yield parsed.data;
    rest = rest.slice(parsed.meta.cursor);
  }
  yield new Parser(config).parse(rest, 0, false).data;
}

/** A file of another format into records; the layout is all that is needed. */
async function records(): Promise<undefined> {
  const findings = new Findings();
  const kinds = new Kinds();
  const given = findings.took(parseGiven(workload.layout, "layout", givenLayout))!;
  const layout = findings.took(compileLayout(given.value, given.at, kinds))!;
  const catalogue = new Catalogue(kinds);
  await readSources([{ file: workload.source, layout }], catalogue, nodeFiles("/"), findings);
  if (findings.hasErrors || catalogue.table("product").size === 0) throw new Error(JSON.stringify(findings.list()[0]));
}

/** The elements of a document, none of them kept. */
async function walk(): Promise<undefined> {
  const findings = new Findings();
  const bytes = createReadStream(workload.source, { highWaterMark: 1 << 18 });
  const text = decodeText(bytes, "walk", "utf-8", findings);
  const path = ["feed", "items", "item"].map((name) => ({ is: "element", name, predicates: [] }) as const);
  const elements = workload.source.endsWith(".xml")
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
  const book = xlsx.read(new Uint8Array(readFileSync(workload.source)), options);
  xlsx.utils.sheet_to_json(book.Sheets[book.SheetNames[0]!]!, { header: 1, raw: true });
}

const longTimes: Readonly<Record<string, () => Promise<object | undefined>>> = {
  bare: () => Promise.resolve(undefined),
  floor,
  sql: sqlCopy,
  parse,
  read,
  build: () => build(false),
  rehearse: () => build(true),
  records,
  walk,
  "workbook-alone": workbookAlone,
};
const started = performance.now();
const extra = (await longTimes[task]!()) ?? {};
const ms = performance.now() - started;
// maxRSS is in KiB.
console.log(
  JSON.stringify({
    ms,
    peakKiB: process.resourceUsage().maxRSS,
    sourceBytes: statSync(workload.source).size,
    ...extra,
  }),
);
