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
  return rowsIn(text());
}

async function matches(expected: string, upload: string): Promise<void> {
  const wanted = readdirSync(expected).sort();
  const written = readdirSync(upload).filter((name) => !isForPeople(name));
  assert.deepEqual(written.map((name) => name.replace(/\.xlsx$/, ".xlsx.csv")).sort(), wanted);
  for (const name of wanted) {
    const made = join(upload, name.replace(/\.xlsx\.csv$/, ".xlsx"));
    assert.deepEqual(await contentOf(made, true), await contentOf(join(expected, name), false), name);
  }
}

for (const name of names)
  test(`the recipe ${name} writes what is expected of it, and is rebuilt as it says`, async () => {
    const folder = mkdtempSync(join(tmpdir(), "recipe-"));
    cpSync(join(recipes, name), folder, { recursive: true });
    const run = async (...words: string[]): Promise<string> => {
      const options = { cwd: folder, env: { ...process.env, LANG: "C" } };
      return (await promisify(execFile)(process.execPath, [bin, ...words], options)).stdout;
    };
    const uploadIn = (): string =>
      join(folder, readdirSync(folder).find((one) => one.startsWith("upload-")) ?? "no upload folder");
    await run("build");
    await matches(join(folder, "expected"), uploadIn());
    const rehearsed = await run("rehearse").catch((error: unknown) => (error as { stdout: string }).stdout);
    assert.equal(rehearsed.trim(), readFileSync(join(folder, "rehearsal.txt"), "utf8").trim());
    for (let round = 2; existsSync(join(folder, `expected-${round}`)); round++) {
      const reports = join(folder, uploadIn().replace(/.*upload-/, "reports-"));
      rmSync(reports, { recursive: true, force: true });
      mkdirSync(reports);
      cpSync(join(folder, `reports-${round - 1}`), reports, { recursive: true });
      await run("collect");
      await run("build");
      await matches(join(folder, `expected-${round}`), uploadIn());
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
