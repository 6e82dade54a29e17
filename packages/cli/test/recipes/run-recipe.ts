/** Runs a recipe in a copy of its folder: what is written and printed is what a person wrote by hand, and each mistake is found. */

import assert from "node:assert/strict";
import { cpSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { main } from "#src/main.js";
import { recipesFolder, type Recipe, type RecipeMistake, type RecipeStep } from "#src/recipes.js";
import { matches } from "./written.js";

/** Runs a command in a folder; as a person sees it, but for the process of its own. */
export async function runCommand(cwd: string, words: readonly string[]): Promise<{ stdout: string; failed: boolean }> {
  const io = { cwd, colour: false, width: 120, height: 400, watched: false, stopped: () => Promise.resolve() };
  let stdout = "";
  const code = await main(words, { ...io, out: (text) => void (stdout += text), err: () => undefined });
  return { stdout, failed: code !== 0 };
}

interface Place {
  readonly file: string;
  readonly line?: number;
  readonly char?: number;
  readonly column?: string;
}

/** `range.csv:3 [Price]`, `project.yaml:6:5`. */
function placeText(place: Place | null): string {
  const { file, line, char, column } = place ?? { file: "" };
  return (
    [file, line, char].filter((part) => part !== undefined).join(":") + (column === undefined ? "" : ` [${column}]`)
  );
}

async function inCopy(name: string, use: (folder: string) => Promise<void>): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "recipe-"));
  try {
    cpSync(fileURLToPath(new URL(name, recipesFolder)), folder, { recursive: true });
    await use(folder);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

function edit(folder: string, edits: RecipeMistake["edits"]): void {
  for (const [file, { from, to }] of Object.entries(edits)) {
    const text = readFileSync(join(folder, file), "utf8");
    assert.ok(text.includes(from), `${file} has no ${from}`);
    writeFileSync(
      join(folder, file),
      text.replace(from, () => to),
    );
  }
}

export const uploadIn = (folder: string): string =>
  join(folder, readdirSync(folder).find((one) => one.startsWith("upload-")) ?? "no upload folder");

async function runStep(folder: string, step: RecipeStep): Promise<void> {
  const { edits = {}, reports, run, writes, prints, finds = [] } = step;
  edit(folder, edits);
  if (reports !== undefined) {
    const into = uploadIn(folder).replace(/upload-([^/]*)$/, "reports-$1");
    rmSync(into, { recursive: true, force: true });
    cpSync(join(folder, reports), into, { recursive: true });
  }
  if (run === undefined) return;
  const { stdout, failed } = await runCommand(folder, run.split(" "));
  // A rehearsal may expect refusals: what it prints says so.
  assert.ok(prints !== undefined || !failed, `${run} failed: ${stdout}`);
  if (writes !== undefined) await matches(join(folder, writes), uploadIn(folder));
  if (prints !== undefined) assert.equal(stdout.trim(), readFileSync(join(folder, prints), "utf8").trim(), run);
  for (const one of finds) await find(folder, run, one);
}

async function find(folder: string, run: string, { code, at, says }: RecipeMistake["finds"]): Promise<void> {
  const { stdout } = await runCommand(folder, [...run.split(" "), "--format", "json"]);
  const { findings } = JSON.parse(stdout) as { findings: { code: string; message: string; at: Place | null }[] };
  const found = findings.filter((one) => one.code === code).map((one) => `${placeText(one.at)}\n${one.message}`);
  const all = findings.map((one) => `${one.code} ${placeText(one.at)}`).join(", ");
  assert.ok(found.includes(`${at}\n${says}`), `${code} at ${at}: ${says}\nbut\n${found.join("\n") || all}`);
}

/** @throws where something comes out otherwise than the recipe says. */
export async function runRecipe({ name, steps, mistakes }: Recipe): Promise<void> {
  await inCopy(name, async (folder) => {
    assert.ok(!existsSync(join(folder, "upload")), "the folder is as it is kept");
    for (const step of steps) await runStep(folder, step);
  });
  for (const { edits, run, finds } of mistakes)
    await inCopy(name, async (folder) => {
      edit(folder, edits);
      await find(folder, run, finds);
    });
}
