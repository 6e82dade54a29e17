/**
 * The recipes: small projects with platforms of their own. What is written is what a person wrote by hand, cell by cell, each command
 * prints what the recipe says, and each mistake is found at its cell.
 */

import assert from "node:assert/strict";
import { execFile } from "node:child_process";
import { cpSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { test } from "node:test";
import { fileURLToPath } from "node:url";
import { promisify } from "node:util";
import { readCoverage, readRecipes, recipesFolder } from "#src/recipes.js";
import { runRecipe } from "./recipes/run-recipe.js";

const bin = fileURLToPath(new URL("../../bin/zest-tier.js", import.meta.url));
const recipes = fileURLToPath(recipesFolder);
const root = fileURLToPath(new URL("../../../../", import.meta.url));

for (const recipe of readRecipes())
  test(`the recipe "${recipe.title}" writes and reports what it says`, () => runRecipe(recipe));

test("the coverage is complete: each recipe has its needs, and what shows one is a recipe or a test", () => {
  const all = readRecipes().map(({ name }) => name);
  const coverage = readCoverage();
  assert.deepEqual(Object.keys(coverage).sort(), [...all].sort());
  const folders = ["packages/cli/test", "packages/library/test", "examples/workbench/test", "examples/shopfront/test"];
  const tests = folders.flatMap((folder) =>
    readdirSync(join(root, folder)).flatMap((name) =>
      name.endsWith(".test.ts") ? [readFileSync(join(root, folder, name), "utf8")] : [],
    ),
  );
  for (const needs of Object.values(coverage)) {
    assert.ok(needs.length > 2);
    for (const need of needs) {
      if ("not" in need || need.by === undefined || all.includes(need.by)) continue;
      assert.ok(
        tests.some((text) => text.includes(`"${need.by}"`)),
        need.by,
      );
    }
  }
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
  await assert.rejects(run("collect"), /4 refused|collect\/refused/);
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
    Array.from({ length: 11 }, (_, at) => at + 1),
  );
  rmSync(cwd, { recursive: true });
});

test("where a part of a cell changes, the change writes the whole cell, and so does its rollback", async () => {
  const cwd = mkdtempSync(join(tmpdir(), "recipe-"));
  cpSync(join(recipes, "parallel-cells"), cwd, { recursive: true });
  const there = readFileSync(join(cwd, "expected/02-wares.csv"), "utf8").replace("2:lavender-7", "2:old");
  writeFileSync(join(cwd, "there.csv"), there);
  await promisify(execFile)(process.execPath, [bin, "build", "--export", "there.csv"], { cwd });
  const written = (name: string) => readFileSync(join(cwd, "upload-dunmallow", name), "utf8").split("\r\n");
  assert.deepEqual(written("01-wares-changes.csv"), ["Ware,Sold", "fuel,2:lavender-7", ""]);
  assert.deepEqual(written("rollback-01-wares-changes.csv"), ["Ware,Sold", "fuel,2:old", ""]);
  const { stdout } = await promisify(execFile)(process.execPath, [bin, "rehearse", "--export", "there.csv"], { cwd });
  assert.match(stdout, /Rebuilt as intended/);
  rmSync(cwd, { recursive: true });
});
