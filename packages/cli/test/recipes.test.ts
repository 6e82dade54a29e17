/**
 * The recipes: small projects with platforms of their own. Each is built round by round; what is written is what a person wrote by
 * hand, cell by cell, and the rehearsal says what the recipe says.
 */

import assert from "node:assert/strict";
import { execFile } from "node:child_process";
import { cpSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { extname, join } from "node:path";
import { test } from "node:test";
import { fileURLToPath } from "node:url";
import { promisify } from "node:util";
import { dsvFormat } from "d3-dsv";
import { parse } from "yaml";
import { main } from "../src/main.js";
import { read as readOldWorkbook, utils as oldSheets } from "@e965/xlsx";
import readWorkbook from "read-excel-file/node";

const root = fileURLToPath(new URL("../../../../", import.meta.url));
const bin = join(root, "packages/cli/dist/src/bin.js");
const recipes = join(root, "examples/recipes");
const names = readdirSync(recipes, { withFileTypes: true }).flatMap((one) => (one.isDirectory() ? [one.name] : []));

/** Written beside the files of an import. */
const isForPeople = (name: string): boolean => /^(run-sheet|datapackage|\.)|\.zip$/.test(name);
/** By the sign that comes first of those that cells stand between. */
const rowsIn = (text: string): readonly (readonly string[])[] =>
  dsvFormat(/[\t;|,]/.exec(text.split("\n", 3).at(-1)!)?.[0] ?? ",").parseRows(text.trimEnd());
const rowsOfWorkbook = async (path: string): Promise<readonly (readonly string[])[]> =>
  (await readWorkbook(path))[0]!.data.map((row) => row.map((cell) => String(cell ?? "")));
/** Of a workbook in the old format. */
function rowsOfOldWorkbook(path: string): readonly (readonly string[])[] {
  const { Sheets, SheetNames } = readOldWorkbook(readFileSync(path), { type: "buffer" });
  const rows = oldSheets.sheet_to_json<readonly unknown[]>(Sheets[SheetNames[0]!]!, { header: 1, defval: "" });
  return rows.map((row) => row.map(String));
}

/** The cells of a file, or what a document holds. @param written whether the platform gets it; by hand a workbook is a CSV file. */
async function contentOf(path: string, written: boolean): Promise<unknown> {
  const text = (): string => readFileSync(path, "utf8");
  const kind = extname(path);
  if (kind === ".json") return JSON.parse(text());
  if (kind === ".jsonl")
    return text()
      .trimEnd()
      .split("\n")
      .map((line) => JSON.parse(line) as unknown);
  if (written && kind === ".xlsx") return rowsOfWorkbook(path);
  if (written && kind === ".xls") return rowsOfOldWorkbook(path);
  return rowsIn(text());
}

async function matches(expected: string, upload: string): Promise<void> {
  const wanted = readdirSync(expected).sort();
  const written = readdirSync(upload).filter((name) => !isForPeople(name));
  assert.deepEqual(written.map((name) => name.replace(/\.xlsx?$/, "$&.csv")).sort(), wanted);
  for (const name of wanted) {
    const made = join(upload, name.replace(/(\.xlsx?)\.csv$/, "$1"));
    assert.deepEqual(await contentOf(made, true), await contentOf(join(expected, name), false), name);
  }
}

/** Runs a command in a folder; as a person sees it, but for the process of its own. */
async function runCommand(cwd: string, words: readonly string[]): Promise<{ stdout: string; failed: boolean }> {
  const io = { cwd, colour: false, width: 120, height: 400, watched: false, stopped: () => Promise.resolve() };
  let stdout = "";
  const code = await main(words, { ...io, out: (text) => void (stdout += text), err: () => undefined });
  return { stdout, failed: code !== 0 };
}

/** One step of a recipe, as `steps.yaml` lists them. */
interface RecipeStep {
  /** The words of a command. */
  readonly run?: string;
  /** The folder with the import files that it writes, made by hand. */
  readonly writes?: string;
  /** The file with what it prints. */
  readonly prints?: string;
  /** Findings that it reports and that make it fail: the code, and the place. */
  readonly finds?: Readonly<Record<string, string>>;
  /** The folder with what the platform sends back for the last upload. */
  readonly reports?: string;
  /** A text in a file that is replaced first: what somebody changes, or gets wrong. */
  readonly edits?: Readonly<Record<string, { readonly from: string; readonly to: string }>>;
}

interface Place {
  readonly file: string;
  readonly line?: number;
  readonly char?: number;
  readonly column?: string;
}

/** `range.csv:3 [Price]`, `project.yaml:6:5`. */
const placeText = ({ file, line, char, column }: Place = { file: "" }): string =>
  [file, line, char].filter((part) => part !== undefined).join(":") + (column === undefined ? "" : ` [${column}]`);

/** Of a recipe without steps of its own: a first import, round by round. */
function firstImport(folder: string): RecipeStep[] {
  const steps: RecipeStep[] = [
    { run: "build", writes: "expected" },
    { run: "rehearse", prints: "rehearsal.txt" },
  ];
  for (let round = 2; existsSync(join(folder, `expected-${round}`)); round++)
    steps.push({ reports: `reports-${round - 1}` }, { run: "collect" }, { run: "build", writes: `expected-${round}` });
  return steps;
}

for (const name of names)
  test(`the recipe ${name} writes what is expected of it, and is rebuilt as it says`, async () => {
    const folder = mkdtempSync(join(tmpdir(), "recipe-"));
    cpSync(join(recipes, name), folder, { recursive: true });
    const run = (...words: string[]) => runCommand(folder, words);
    const uploadIn = (): string =>
      join(folder, readdirSync(folder).find((one) => one.startsWith("upload-")) ?? "no upload folder");
    const listed = join(folder, "steps.yaml");
    const steps = existsSync(listed) ? (parse(readFileSync(listed, "utf8")) as RecipeStep[]) : firstImport(folder);
    for (const step of steps) {
      if (step.reports !== undefined) {
        const reports = join(folder, uploadIn().replace(/.*upload-/, "reports-"));
        rmSync(reports, { recursive: true, force: true });
        cpSync(join(folder, step.reports), reports, { recursive: true });
      }
      for (const [file, { from, to }] of Object.entries(step.edits ?? {})) {
        const text = readFileSync(join(folder, file), "utf8");
        assert.ok(text.includes(from), `${file} has no ${from}`);
        writeFileSync(join(folder, file), text.replace(from, to));
      }
      if (step.run === undefined) continue;
      const words = step.run.split(" ");
      const isLookedAt = step.finds !== undefined;
      const { stdout, failed } = await run(...words, ...(isLookedAt ? ["--format", "json"] : []));
      for (const [code, place] of Object.entries(step.finds ?? {})) {
        const { findings } = JSON.parse(stdout) as { findings: { code: string; at?: Place }[] };
        const places = findings.filter((one) => one.code === code).map(({ at }) => placeText(at));
        assert.ok(places.includes(place), `${code} at ${place}, but at ${places.join()}: ${step.run}`);
      }
      // A rehearsal may expect refusals: what it prints says so.
      assert.ok(isLookedAt || step.prints !== undefined || !failed, `${step.run} failed: ${stdout}`);
      if (step.writes !== undefined) await matches(join(folder, step.writes), uploadIn());
      if (step.prints !== undefined)
        assert.equal(stdout.trim(), readFileSync(join(folder, step.prints), "utf8").trim(), step.run);
    }
    rmSync(folder, { recursive: true });
  });

test("rows cannot name the lines of what is on the platform already: said before anything is written", async () => {
  const cwd = mkdtempSync(join(tmpdir(), "recipe-"));
  cpSync(join(recipes, "pictures-by-line"), cwd, { recursive: true });
  const run = (word: string) => promisify(execFile)(process.execPath, [bin, word], { cwd });
  await run("build");
  const reports = join(cwd, "reports-tarnbeck");
  mkdirSync(reports);
  const report = (file: string, lines: readonly number[], outcome: string) =>
    writeFileSync(
      join(reports, `${file}.report.json`),
      JSON.stringify({
        rows: lines.map((line) => ({ line, outcome, reasons: outcome === "refused" ? ["none"] : [] })),
      }),
    );
  report("02-items.csv", [4, 5, 6, 7], "created");
  report("03-pictures.csv", [2, 3, 4, 5], "refused");
  // The rows that were refused are errors, and all else is collected.
  await assert.rejects(run("collect"), /4 rows refused|collect\/refused/);
  await assert.rejects(
    run("build"),
    /"MLD-P" cannot be written into "Line of item": the column takes a record of items/,
  );
  rmSync(cwd, { recursive: true });
});

test("steps are numbered once, from 1", async () => {
  const cwd = mkdtempSync(join(tmpdir(), "recipe-"));
  cpSync(join(recipes, "linked-languages"), cwd, { recursive: true });
  const { stdout } = await promisify(execFile)(process.execPath, [bin, "plan"], { cwd });
  const numbers = [...stdout.matchAll(/^(\d+)\. /gm)].map(([, number]) => Number(number));
  assert.deepEqual(
    numbers,
    Array.from({ length: 10 }, (_, at) => at + 1),
  );
  rmSync(cwd, { recursive: true });
});
