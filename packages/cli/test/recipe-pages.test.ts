/**
 * The pages of the recipes, followed exactly: in an empty folder, each file as the page shows it, each command as it is printed,
 * and what comes out compared with what the page shows. What a page cannot show (pictures, workbooks, long files, answers of a platform)
 * comes from the recipe's folder.
 */

import assert from "node:assert/strict";
import { execFileSync } from "node:child_process";
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { test } from "node:test";
import { fileURLToPath } from "node:url";
import { readRecipes, recipesFolder } from "#src/recipes.js";
import { runCommand, uploadIn } from "./recipes/run-recipe.js";

const pages = new URL("../../../../docs/recipes/", import.meta.url);

/** A paragraph of a page, or a block of code. */
type Part =
  | { readonly is: "text"; readonly text: string }
  | { readonly is: "code"; readonly lang: string; readonly text: string };

function partsOf(page: string): readonly Part[] {
  return [...page.matchAll(/^(`{3,})(\w*)\n([^]*?)\n\1$|^(?!`{3})(\S[^]*?)(?=\n\n|\n?$(?![^]))/gm)].map(
    ([, , lang, code, text]): Part =>
      code === undefined ? { is: "text", text: text! } : { is: "code", lang: lang!, text: code },
  );
}

const nameIn = (text: string): string | undefined => /^`([^`]+)`:$/.exec(text)?.[1];

/** What is compared: not how documents are spaced, nor a mark at the beginning. */
const plain = (text: string): string =>
  text
    .replace(/^\ufeff/, "")
    .replaceAll("\r", "")
    .trimEnd();
const spaceless = (text: string): string => text.replace(/\s/g, "");

/** Whether a text begins with what a page shows of it. */
const begins = (whole: string, shown: string): boolean =>
  plain(whole).startsWith(plain(shown)) || (/^\s*[[{<]/.test(shown) && spaceless(whole).startsWith(spaceless(shown)));

const isWorkbook = (file: string): boolean => /\.(xlsx?|ods)$/.test(file);

for (const { name } of readRecipes())
  test(`the page "${name}" is enough to do it`, async () => {
    const parts = partsOf(readFileSync(new URL(`${name}.md`, pages), "utf8"));
    const from = fileURLToPath(new URL(name, recipesFolder));
    const cwd = mkdtempSync(join(tmpdir(), "page-"));
    const run = parts.findIndex((one) => one.is === "text" && one.text === "## Run it");
    const end = parts.findIndex((one) => one.is === "text" && one.text === "## What to look at");
    assert.ok(run > 0 && end > run);
    const shown = new Set<string>();
    for (const [at, part] of parts.slice(0, run).entries()) {
      const file = part.is === "text" ? nameIn(part.text) : undefined;
      const code = parts[at + 1];
      const isCut = parts[at + 2]?.is === "text" && /^\d+ more lines\.$/.test(parts[at + 2]!.text);
      if (file === undefined || code?.is !== "code" || isCut) continue;
      writeFileSync(join(cwd, file), `${code.text}\n`);
      shown.add(file);
    }
    assert.ok(shown.has("project.yaml"));
    const kept = /^(expected|recipe\.yaml)/;
    for (const file of readdirSync(from))
      if (!shown.has(file) && !kept.test(file)) cpSync(join(from, file), join(cwd, file), { recursive: true });
    let said = "";
    for (const [at, part] of parts.slice(run, end).entries()) {
      if (part.is === "code" && part.lang === "sh") said = await follow(part.text, cwd);
      else if (part.is === "code") {
        const before = parts[run + at - 1];
        const file = before?.is === "text" ? nameIn(before.text) : undefined;
        if (file !== undefined) {
          // The test of the recipe compares the cells of workbooks.
          const written = readFileSync(join(uploadIn(cwd), file), isWorkbook(file) ? "latin1" : "utf8");
          assert.ok(isWorkbook(file) || begins(written, part.text), `${file}:\n${written}\n${part.text}`);
        } else if (before?.is === "code" && before.lang === "sh")
          assert.ok(begins(said, part.text), `${said}\n${part.text}`);
      } else if (/^In `[^`]+`, /.test(part.text)) edit(part.text, parts.slice(run + at + 1), cwd);
    }
    rmSync(cwd, { recursive: true });
  });

async function follow(lines: string, cwd: string): Promise<string> {
  let said = "";
  for (const line of lines.split("\n")) {
    const [word, ...rest] = line.split(" ");
    if (word === "zest-tier") said = (await runCommand(cwd, rest)).stdout;
    else execFileSync("sh", ["-c", line], { cwd });
  }
  return said;
}

/** "In `x.csv`, `a` becomes `b`.", or with what is replaced, and by what, in blocks below. */
function edit(text: string, below: readonly Part[], cwd: string): void {
  const [, file, told] = /^In `([^`]+)`, ([^]*)$/.exec(text)!;
  const [first, , second] = below;
  const inLine = /^`([^`]*)` becomes `([^`]*)`\.$/.exec(told!);
  const [before, after] = inLine
    ? [inLine[1]!, inLine[2]!]
    : [first!.text, told === "this is left out:" ? "" : second!.text];
  const path = join(cwd, file!);
  const whole = readFileSync(path, "utf8");
  assert.ok(whole.includes(before), text);
  writeFileSync(
    path,
    whole.replace(before, () => after),
  );
}
