/**
 * Measures speed and memory on generated catalogues, as ratios within one run: by the clock, and of the processor in all threads. Each
 * figure is the median of a few runs by the processor, each in a process of its own; of a million rows, and of rehearsals, one run.
 *
 *   npm run bench                     10 000, 100 000 and 1 000 000 rows
 *   npm run bench -- --rows 10000     one size
 *   npm run bench -- --pages          only the workbench in Chromium
 *   npm run bench -- --start          only how a command begins
 *   npm run bench -- --uneven         only catalogues that are uneven
 *   npm run bench -- --json           figures as JSON, an object on each line of standard output
 *
 * What is measured is printed at once: a run of a million rows takes a while.
 */

import { execFileSync } from "node:child_process";
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { documentWorkload, workbookWorkload, type FormatWorkload } from "./formats.js";
import { featureWorkload, plainWorkload, type Workload } from "./generate.js";
import type { ChangeFigure } from "./changes.js";
import { measurePage, type PageFigure } from "./pages.js";
import { measurePlan, type PlanFigure } from "./plan.js";
import { measureStart, type StartFigure } from "./start.js";
import type { Taken } from "./taken.js";
import { measureUneven, type UnevenFigure } from "./uneven.js";

interface Figure extends Taken {
  readonly peakKiB: number;
  readonly sourceBytes: number;
}

/** A workload, with what each task takes of it. */
interface Line {
  readonly workload: string;
  readonly rows: number;
  readonly sourceMB: number;
  readonly quoted: number;
  readonly floor: Taken;
  readonly tasks: Readonly<Record<string, Taken>>;
  /** Over a bare runtime. */
  readonly peakKiBPerRow: Readonly<Record<string, number>>;
}

const worker = fileURLToPath(new URL("./worker.js", import.meta.url));
const root = new URL("../../../", import.meta.url);
const argument = (name: string): string | undefined => {
  const at = process.argv.indexOf(name);
  return at < 0 ? undefined : process.argv[at + 1];
};
const sizes = argument("--rows")?.split(",").map(Number) ?? [10_000, 100_000, 1_000_000];
const folder = mkdtempSync(join(tmpdir(), "zest-tier-bench-"));

function measure<F extends Figure>(task: string, workloadFile: string, runs: number): F {
  const figures = Array.from({ length: runs }, () => {
    const out = join(folder, "out");
    rmSync(out, { recursive: true, force: true });
    mkdirSync(out);
    return JSON.parse(
      execFileSync(process.execPath, ["--max-old-space-size=16000", worker, task, workloadFile, out], {
        encoding: "utf8",
        maxBuffer: 1 << 24,
      }),
    ) as F;
  });
  return figures.sort((a, b) => a.cpuMs - b.cpuMs)[Math.floor(runs / 2)]!;
}

/** More rows than this are not rehearsed: it takes more than a gigabyte for each 100 000. */
const mostRehearsed = 200_000;

function line(workload: Workload): Line {
  const file = join(folder, "workload.json");
  writeFileSync(file, JSON.stringify(workload));
  const runs = workload.rows > 200_000 ? 1 : 3;
  const bare = measure("bare", file, runs);
  const floor = measure("floor", file, runs);
  const build = measure("build", file, runs);
  const tasks: Record<string, Taken> = { build };
  const perRow = (figure: Figure) => (figure.peakKiB - bare.peakKiB) / workload.rows;
  const peakKiBPerRow: Record<string, number> = { floor: perRow(floor), build: perRow(build) };
  if (workload.rows <= mostRehearsed) {
    const rehearsed = measure<Figure & { rehearsal: Taken; rebuilt: boolean }>("rehearse", file, 1);
    if (!rehearsed.rebuilt) throw new Error("the rehearsal does not rebuild the bench catalogue");
    tasks["rehearsal"] = rehearsed.rehearsal;
    tasks["build with rehearsal"] = rehearsed;
    peakKiBPerRow["build with rehearsal"] = perRow(rehearsed);
  }
  for (const [task, name] of [
    ["parse", "parsing alone"],
    ["read", "reading into records"],
    ["hash", "SHA-256"],
    ["hand", "script by hand"],
    ["sql", "SQL engine"],
  ] as const)
    tasks[name] = measure(task, file, runs);
  const { name, rows, quoted } = workload;
  return { workload: name, rows, sourceMB: floor.sourceBytes / 1e6, quoted, floor, tasks, peakKiBPerRow };
}

interface FormatLine {
  readonly format: string;
  readonly rows: number;
  readonly sourceMB: number;
  /** For workbooks the package alone, for documents walking through their elements. */
  readonly alone: Taken;
  readonly alonePeakMB: number;
  readonly records: Taken;
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
    alone,
    alonePeakMB: alone.peakKiB / 1024,
    records,
    recordsPeakMB: records.peakKiB / 1024,
  };
}

const show = (value: number | null): string => (value === null ? "–" : value.toFixed(value < 100 ? 2 : 0));
const tableOf = (head: readonly string[], rows: readonly (readonly string[])[]): string =>
  [head, head.map(() => "---"), ...rows].map((row) => `| ${row.join(" | ")} |`).join("\n");

function formatTable({ format, rows, alone, records, ...one }: FormatLine): string {
  const head = ["format", "rows", "MB", "alone CPU ms", "peak MB", "records CPU ms", "peak MB", "÷, CPU", "÷, wall"];
  const cells = [one.sourceMB, alone.cpuMs, one.alonePeakMB, records.cpuMs, one.recordsPeakMB].map(show);
  const ratios = [show(records.cpuMs / alone.cpuMs), show(records.wallMs / alone.wallMs)];
  return tableOf(head, [[format, String(rows), ...cells, ...ratios]]);
}

function changeTable(figure: ChangeFigure): string {
  const { products, readBoth, compared, oneOperation, operations, allOperations } = figure;
  const head = ["products", "reading both CPU ms", "compare ÷ reading both, CPU", "÷, wall"];
  const reshaping = ["one operation CPU ms", "operations", "all of them CPU ms", "all ÷ one, CPU"];
  const row = [
    String(products),
    show(readBoth.cpuMs),
    show((readBoth.cpuMs + compared.cpuMs) / readBoth.cpuMs),
    show((readBoth.wallMs + compared.wallMs) / readBoth.wallMs),
    show(oneOperation.cpuMs),
    String(operations),
    show(allOperations.cpuMs),
    show(allOperations.cpuMs / oneOperation.cpuMs),
  ];
  return tableOf([...head, ...reshaping], [row]);
}

/** A table for each workload: each task against the floor. */
function table({ workload, rows, sourceMB, quoted, floor, tasks, peakKiBPerRow }: Line): string {
  const head = ["task", "CPU ms", "÷ floor, CPU", "wall ms", "÷ floor, wall", "peak KiB a row"];
  const all: [string, Taken][] = [["floor", floor], ...Object.entries(tasks)];
  const lines = all.map(([name, taken]) => [
    name,
    show(taken.cpuMs),
    show(taken.cpuMs / floor.cpuMs),
    show(taken.wallMs),
    show(taken.wallMs / floor.wallMs),
    show(peakKiBPerRow[name] ?? null),
  ]);
  return `${workload}, ${rows} rows, ${show(sourceMB)} MB, ${show(quoted * 100)} % of all cells quoted\n\n${tableOf(head, lines)}\n`;
}

function planTable({ records, references, order, chain, cycle, comparedRecords, compared }: PlanFigure): string {
  const own = compared["orderByNeeds"]!;
  const rows = Object.entries(compared).map(([name, taken]) => [
    name,
    show(taken.cpuMs),
    show(taken.cpuMs / own.cpuMs),
    show(taken.wallMs),
  ]);
  return `order of ${records} records with ${references} references: ${show(order.wallMs)} ms, CPU ${show(order.cpuMs)} ms; a chain of ${records}: ${show(chain.wallMs)} ms; a cycle: ${show(cycle.wallMs)} ms\n\n${comparedRecords} records:\n\n${tableOf(["package", "CPU ms", "÷ this", "wall ms"], rows)}\n`;
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
  return tableOf(head, rows);
}

function startTable(figures: readonly StartFigure[]): string {
  const head = ["command", "CPU ms", "÷ bare runtime"];
  const rows = figures.map(({ command, cpuMs, ratio }) => [command, show(cpuMs), show(ratio)]);
  return tableOf(head, rows);
}

function unevenTable(figures: readonly UnevenFigure[]): string {
  const head = ["catalogue", "command", "rows", "CPU ms", "rows", "CPU ms", "÷"];
  const rows = figures.map(({ catalogue, command, rows, cpuMs: [few, many] }) => [
    catalogue,
    command,
    String(rows[0]),
    show(few),
    String(rows[1]),
    show(many),
    show(many / few),
  ]);
  return tableOf(head, rows);
}

/** Prints what has been measured: as a table, or as an object on a line. */
function print<F>(name: string, figure: F, asTable: (figure: F) => string): void {
  console.log(process.argv.includes("--json") ? JSON.stringify({ [name]: figure }) : `${asTable(figure)}\n`);
}

async function printPages(): Promise<void> {
  for (const rows of sizes.filter((one) => one >= 100_000)) print("page", [await measurePage(rows)], pageTable);
}

async function main(): Promise<void> {
  if (process.argv.includes("--pages")) return printPages();
  if (process.argv.includes("--uneven")) return print("uneven", measureUneven(), unevenTable);
  print("start", measureStart(), startTable);
  if (process.argv.includes("--start")) return;
  print("uneven", measureUneven(), unevenTable);
  const layout = readFileSync(new URL("demo/clean/layouts/range.yaml", root), "utf8");
  const target = readFileSync(new URL("packages/library/targets/pennywort.yaml", root), "utf8");
  for (const rows of sizes) {
    const features = await featureWorkload(folder, rows, layout, target);
    print("line", line(features), table);
    print("line", line(await plainWorkload(folder, rows)), table);
    if (rows > 100_000) continue;
    const file = join(folder, "workload.json");
    writeFileSync(file, JSON.stringify(features));
    print("changes", measure<Figure & ChangeFigure>("changes", file, 1), changeTable);
  }
  const most = Math.max(...sizes);
  print("format", formatLine(workbookWorkload(folder, Math.min(100_000, most))), formatTable);
  for (const name of ["xml", "json"] as const)
    print("format", formatLine(await documentWorkload(folder, name, Math.min(600_000, most * 6))), formatTable);
  print("plan", measurePlan(1_000_000), planTable);
  await printPages();
}

try {
  await main();
} finally {
  rmSync(folder, { recursive: true, force: true });
}
