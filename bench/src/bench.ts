/**
 * Measures speed and memory on generated catalogues, as ratios within one run. Each figure is the median of a few runs, each in a
 * process of its own.
 *
 *   npm run bench                     10 000, 100 000 and 1 000 000 rows
 *   npm run bench -- --rows 10000     one size; beyond 100 000 plain rows only
 *   npm run bench -- --pages          only the workbench in Chromium
 *   npm run bench -- --start          only how a command begins
 *   npm run bench -- --json           figures as JSON on standard output
 */

import { execFileSync } from "node:child_process";
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { documentWorkload, workbookWorkload, type FormatWorkload } from "./formats.js";
import { featureWorkload, plainWorkload, type Workload } from "./generate.js";
import { measureChanges, type ChangeFigure } from "./changes.js";
import { measurePage, type PageFigure } from "./pages.js";
import { measurePlan, type PlanFigure } from "./plan.js";
import { measureStart, type StartFigure } from "./start.js";

interface Figure {
  readonly ms: number;
  readonly peakKiB: number;
  readonly sourceBytes: number;
}

interface Line {
  readonly workload: string;
  readonly rows: number;
  readonly sourceMB: number;
  readonly floorMs: number;
  readonly sqlRatio: number | null;
  readonly readRatio: number;
  readonly buildRatio: number;
  readonly rehearseRatio: number | null;
  readonly msPerThousandRows: number;
  readonly peakKiBPerRow: number;
}

const worker = fileURLToPath(new URL("./worker.js", import.meta.url));
const root = new URL("../../../", import.meta.url);
const argument = (name: string): string | undefined => {
  const at = process.argv.indexOf(name);
  return at < 0 ? undefined : process.argv[at + 1];
};
const sizes = argument("--rows")?.split(",").map(Number) ?? [10_000, 100_000, 1_000_000];
const folder = mkdtempSync(join(tmpdir(), "zest-tier-bench-"));

function measure(task: string, workloadFile: string, runs: number): Figure {
  const figures = Array.from({ length: runs }, () => {
    const out = join(folder, "out");
    rmSync(out, { recursive: true, force: true });
    mkdirSync(out);
    return JSON.parse(
      execFileSync(process.execPath, ["--max-old-space-size=16000", worker, task, workloadFile, out], {
        encoding: "utf8",
        maxBuffer: 1 << 24,
      }),
    ) as Figure;
  });
  return figures.sort((a, b) => a.ms - b.ms)[Math.floor(runs / 2)]!;
}

function line(workload: Workload): Line {
  const file = join(folder, "workload.json");
  writeFileSync(file, JSON.stringify(workload));
  const runs = workload.rows > 200_000 ? 1 : 3;
  const bare = measure("bare", file, runs);
  const floor = measure("floor", file, runs);
  const parse = measure("parse", file, runs);
  const read = measure("read", file, runs);
  const build = measure("build", file, runs);
  const rehearse =
    workload.name === "features"
      ? (measure("rehearse", file, runs) as Figure & { rehearseMs: number; rebuilt: boolean })
      : undefined;
  if (rehearse && !rehearse.rebuilt) throw new Error("the rehearsal does not rebuild the bench catalogue");
  let sqlRatio: number | null = null;
  try {
    sqlRatio = measure("sql", file, runs).ms / floor.ms;
  } catch (error) {
    console.error(`the SQL engine failed: ${(error as Error).message.slice(0, 200)}`);
  }
  return {
    workload: workload.name,
    rows: workload.rows,
    sourceMB: floor.sourceBytes / 1e6,
    floorMs: floor.ms,
    sqlRatio,
    readRatio: read.ms / parse.ms,
    buildRatio: build.ms / floor.ms,
    rehearseRatio: rehearse ? rehearse.rehearseMs / build.ms : null,
    msPerThousandRows: (build.ms / workload.rows) * 1000,
    peakKiBPerRow: (build.peakKiB - bare.peakKiB) / workload.rows,
  };
}

interface FormatLine {
  readonly format: string;
  readonly rows: number;
  readonly sourceMB: number;
  /** For workbooks the package alone, for documents walking through their elements. */
  readonly aloneMs: number;
  readonly alonePeakMB: number;
  readonly recordsMs: number;
  readonly recordsPeakMB: number;
}

function formatLine(workload: FormatWorkload): FormatLine {
  const file = join(folder, "workload.json");
  writeFileSync(file, JSON.stringify(workload));
  const alone = measure(workload.name === "workbook" ? "workbook-alone" : "walk", file, 3);
  const records = measure("records", file, 3);
  return {
    format: workload.name,
    rows: workload.rows,
    sourceMB: alone.sourceBytes / 1e6,
    aloneMs: alone.ms,
    alonePeakMB: alone.peakKiB / 1024,
    recordsMs: records.ms,
    recordsPeakMB: records.peakKiB / 1024,
  };
}

function formatTable(lines: readonly FormatLine[]): string {
  const head = ["format", "rows", "MB", "alone ms", "peak MB", "records ms", "peak MB", "records ÷ alone"];
  const rows = lines.map((one) => [
    one.format,
    String(one.rows),
    ...[one.sourceMB, one.aloneMs, one.alonePeakMB, one.recordsMs, one.recordsPeakMB, one.recordsMs / one.aloneMs].map(
      show,
    ),
  ]);
  return [head, head.map(() => "---"), ...rows].map((row) => `| ${row.join(" | ")} |`).join("\n");
}

const show = (value: number | null): string => (value === null ? "–" : value.toFixed(value < 100 ? 2 : 0));

function changeTable(changes: readonly ChangeFigure[]): string {
  const head = [
    "products",
    "reading both ms",
    "compared ÷ reading both",
    "records that differ",
    "combine ms",
    "split ms",
  ];
  const rows = changes.map((one) => [
    String(one.products),
    show(one.readBothMs),
    show(one.compareMs / one.readBothMs),
    String(one.differing),
    show(one.combineMs),
    show(one.splitMs),
  ]);
  return [head, head.map(() => "---"), ...rows].map((row) => `| ${row.join(" | ")} |`).join("\n");
}

function table(lines: readonly Line[], plan: PlanFigure): string {
  const head = [
    "catalogue",
    "rows",
    "MB",
    "floor ms",
    "SQL copy ÷ floor",
    "read ÷ parse",
    "build ÷ floor",
    "rehearsal ÷ build",
    "build ms per 1000 rows",
    "peak KiB a row",
  ];
  const rows = lines.map((one) => [
    one.workload,
    String(one.rows),
    ...[
      one.sourceMB,
      one.floorMs,
      one.sqlRatio,
      one.readRatio,
      one.buildRatio,
      one.rehearseRatio,
      one.msPerThousandRows,
      one.peakKiBPerRow,
    ].map(show),
  ]);
  const markdown = [head, head.map(() => "---"), ...rows].map((row) => `| ${row.join(" | ")} |`).join("\n");
  return `${markdown}\n\norder of ${plan.records} records with ${plan.references} references: ${show(plan.ms)} ms; a chain of ${plan.records}: ${show(plan.chainMs)} ms; a cycle: ${show(plan.cycleMs)} ms\n`;
}

/** The workbench in Chromium: these are no ratios, as what a person waits for is none. */
function pageTable(figures: readonly PageFigure[]): string {
  const head = [
    "rows",
    "MB",
    "first content",
    "whole sheet",
    "all found",
    "longest task",
    "tasks over 100 ms",
    "frame, p95",
  ];
  const rows = figures.map((one) => [
    one.rows.toLocaleString("en"),
    one.sourceMB.toFixed(0),
    `${show(one.firstContentMs)} ms`,
    `${show(one.wholeSheetMs)} ms`,
    one.settledMs === null ? "not unasked" : `${show(one.settledMs)} ms`,
    `${show(one.longestTaskMs)} ms`,
    String(one.tasksOver100Ms),
    `${show(one.frameP95Ms)} ms`,
  ]);
  return [head, head.map(() => "---"), ...rows].map((row) => `| ${row.join(" | ")} |`).join("\n");
}

function startTable(figures: readonly StartFigure[]): string {
  const head = ["command", "CPU ms", "÷ bare runtime"];
  const rows = figures.map(({ command, cpuMs, ratio }) => [command, show(cpuMs), show(ratio)]);
  return [head, head.map(() => "---"), ...rows].map((row) => `| ${row.join(" | ")} |`).join("\n");
}

async function measurePages(): Promise<PageFigure[]> {
  const figures: PageFigure[] = [];
  for (const rows of sizes.filter((one) => one >= 100_000)) figures.push(await measurePage(rows));
  return figures;
}

async function main(): Promise<void> {
  if (process.argv.includes("--pages")) {
    const pages = await measurePages();
    return console.log(process.argv.includes("--json") ? JSON.stringify({ pages }, null, 2) : pageTable(pages));
  }
  const start = measureStart();
  if (process.argv.includes("--start"))
    return console.log(process.argv.includes("--json") ? JSON.stringify({ start }, null, 2) : startTable(start));
  const layout = readFileSync(new URL("demo/clean/layouts/range.yaml", root), "utf8");
  const target = readFileSync(new URL("packages/library/targets/pennywort.yaml", root), "utf8");
  const lines: Line[] = [];
  for (const rows of sizes) {
    if (rows <= 100_000) lines.push(line(await featureWorkload(folder, rows, layout, target)));
    lines.push(line(await plainWorkload(folder, rows)));
    console.error(`measured ${rows} rows`);
  }
  const most = Math.max(...sizes);
  const formats = [formatLine(workbookWorkload(folder, Math.min(100_000, most)))];
  for (const name of ["xml", "json"] as const)
    formats.push(formatLine(await documentWorkload(folder, name, Math.min(600_000, most * 6))));
  const plan = measurePlan(1_000_000);
  const changes: ChangeFigure[] = [];
  for (const rows of sizes.filter((one) => one <= 100_000))
    changes.push(await measureChanges(await featureWorkload(folder, rows, layout, target)));
  const pages = await measurePages();
  console.log(
    process.argv.includes("--json")
      ? JSON.stringify({ lines, formats, plan, changes, pages, start }, null, 2)
      : `${table(lines, plan)}\n${changeTable(changes)}\n${formatTable(formats)}\n${pageTable(pages)}\n\n${startTable(start)}`,
  );
}

try {
  await main();
} finally {
  rmSync(folder, { recursive: true, force: true });
}
