/** The docs that are made from data are current, links lead somewhere, every page is linked, and the worked example is true. */

import assert from "node:assert/strict";
import { execFile } from "node:child_process";
import { existsSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join, relative } from "node:path";
import { test } from "node:test";
import { fileURLToPath } from "node:url";
import { promisify } from "node:util";
import { findingTable } from "zest-tier";
import { builtInKinds } from "zest-tier/parts";
import { madeFiles } from "#src/docs-pages.js";
import { reasons, usedPackages } from "#src/safety-page.js";
import { examples, exportsByGroup, hostEntries, partsEntry, wholeEntry } from "#src/api-page.js";

const root = fileURLToPath(new URL("../../../../", import.meta.url));
const bin = join(root, "packages/cli/bin/zest-tier.js");
const read = (path: string): string => readFileSync(join(root, path), "utf8");
const pages = [
  "README.md",
  "examples/README.md",
  ...readdirSync(join(root, "docs"), { recursive: true, encoding: "utf8" })
    .filter((name) => name.endsWith(".md") && !name.startsWith("."))
    .map((name) => join("docs", name)),
];

/** As headings are addressed: in small letters, without signs, with hyphens. */
const anchorOf = (heading: string): string =>
  heading
    .toLowerCase()
    .replace(/[^\p{L}\p{N} -]/gu, "")
    .trim()
    .replaceAll(" ", "-");
const anchorsOf = (text: string): readonly string[] =>
  [...text.matchAll(/^#+ (.*)$/gm)].map(([, heading]) => anchorOf(heading!));

test("pages and schemas that are made from data are current: npm run docs", () => {
  for (const [path, text] of madeFiles()) assert.equal(read(path), text, path);
});

test("no page of a command or a reference is left from earlier", () => {
  const made = new Set(madeFiles().keys());
  for (const folder of ["docs/commands", "docs/recipes", "docs/reference"])
    for (const name of readdirSync(join(root, folder))) assert.ok(made.has(`${folder}/${name}`), `${folder}/${name}`);
});

test("no page has HTML in its text, which a site would take for elements", () => {
  for (const page of pages) {
    const text = read(page).replace(/^ *```[^]*?^ *```$|`[^`\n]*`|<!--[^]*?-->|<br>/gm, "");
    assert.doesNotMatch(text, /<[a-z/]/i, page);
  }
});

test("every link of the docs leads to a file and a heading", () => {
  let count = 0;
  for (const page of pages)
    for (const [, target] of read(page).matchAll(/\]\(([^)\s]+)\)/g)) {
      if (/^https?:/.test(target!)) continue;
      const [path, anchor] = target!.split("#");
      const file = path === "" ? page : relative(root, join(root, dirname(page), path!));
      assert.ok(existsSync(join(root, file)), `${page}: ${target}`);
      if (anchor !== undefined) assert.ok(anchorsOf(read(file)).includes(anchor), `${page}: ${target}`);
      count++;
    }
  assert.ok(count > 100);
});

test("every page and picture is linked from another page", () => {
  const text = new Map(pages.map((page) => [page, read(page)]));
  const linked = new Set(
    [...text].flatMap(([page, content]) =>
      [...content.matchAll(/\]\(([^)\s#]+)/g)].map(([, target]) => relative(root, join(root, dirname(page), target!))),
    ),
  );
  const pictures = readdirSync(join(root, "docs/screenshots")).map((name) => `docs/screenshots/${name}`);
  assert.ok(pictures.length < 20);
  assert.deepEqual(
    [...pages, ...pictures].filter((one) => one !== "README.md" && !linked.has(one)),
    [],
  );
});

test("the anchors that findings name exist", () => {
  const kinds = anchorsOf(read("docs/reference/kinds.md"));
  for (const { name } of builtInKinds) assert.ok(kinds.includes(name), name);
  const findings = read("docs/findings.md");
  for (const code of Object.keys(findingTable)) assert.ok(findings.includes(`| \`${code}\` |`), code);
});

/** Blocks of code of a page: the words after the three ticks, and the text. */
const blocksOf = (text: string): readonly { readonly info: string; readonly text: string }[] =>
  [...text.matchAll(/^```(\S.*)\n([^]*?)^```$/gm)].map(([, info, content]) => ({ info: info!, text: content! }));

/** Follows a page: writes its files, runs its commands, and finds each line that it shows. @returns how many lines were found. */
async function follow(text: string, folder: string, others: (info: string, text: string) => void): Promise<number> {
  let printed = "";
  let count = 0;
  for (const { info, text: block } of blocksOf(text)) {
    const [, name] = /file=(\S+)/.exec(info) ?? [];
    if (name !== undefined) writeFileSync(join(folder, name), block);
    else if (info === "sh") printed = await commandLine(block.replace("npx zest-tier ", "").trim().split(" "), folder);
    else if (info === "text") {
      let from = 0;
      for (const line of block.split("\n").slice(0, -1)) {
        from = printed.indexOf(line, from);
        assert.ok(from >= 0, `${line}\nis not in\n${printed}`);
        count++;
      }
    } else others(info, block);
  }
  return count;
}

test("one small platform, step by step: what the page shows is what the commands print and write", async () => {
  const folder = mkdtempSync(join(tmpdir(), "stall-"));
  const [, page = ""] = /^## One small platform, step by step\n([^]*?)^## /m.exec(read("docs/targets.md")) ?? [];
  const count = await follow(page, folder, (info, text) => {
    assert.equal(info, "csv");
    assert.equal(readFileSync(join(folder, "upload-stall/02-wares.csv"), "utf8").replaceAll("\r", ""), text);
  });
  assert.ok(count > 12);
});

test("what the first import shows is what the commands print, line by line", async () => {
  const folder = mkdtempSync(join(tmpdir(), "first-"));
  const columns = (text: string) => text.replace(/ # .*$/gm, "").replace(/^(about: .*|# .*)\n/gm, "");
  const count = await follow(read("docs/first-import.md"), folder, (info, text) => {
    const [, name = ""] = /written=(\S+)/.exec(info) ?? [];
    assert.equal(columns(readFileSync(join(folder, name), "utf8")), text);
  });
  assert.ok(count > 10);
  const rows = readFileSync(join(folder, "shop/upload-pennywort/01-items.csv"), "utf8")
    .split(/\r?\n/)
    .map((row) => row.split(";"));
  const shown = [...read("docs/first-import.md").matchAll(/^\| (?:Item|pillar|snuffer) .*\|$/gm)].map(([line]) =>
    line
      .split("|")
      .slice(1, -1)
      .map((cell) => cell.trim()),
  );
  const at = shown[0]!.map((header) => rows[0]!.indexOf(header));
  assert.deepEqual(
    shown,
    rows.slice(0, 4).map((row) => at.map((index) => row[index])),
  );
});

/** The real binary, in the folder: what it prints on both streams. */
async function commandLine(args: readonly string[], cwd: string): Promise<string> {
  const run = promisify(execFile)(process.execPath, [bin, ...args], { cwd });
  // Errors of the sources end a command with 1; what it prints counts anyway.
  const { stdout, stderr } = await run.catch((error: unknown) => error as { stdout: string; stderr: string });
  return stdout + stderr;
}

/** These folders are rebuilt; their examples come with that. */
const withoutExamples = ["change", "rehearse", "compare"];

/** A meaning stands before parameters, results and errors. */
const saysWhat = /^(?!\s*(`\w+`: |Returns |Throws ))\s*\S/;

test("every export of the library says what it means, and every value has an example", () => {
  for (const entry of [wholeEntry, partsEntry, ...hostEntries]) {
    const shown = examples(entry);
    const all = [...exportsByGroup(entry).values()].flat();
    assert.ok(all.length > 4, entry.title);
    assert.deepEqual(
      all.filter(({ about }) => !saysWhat.test(about)).map(({ name }) => name),
      [],
    );
    assert.deepEqual(
      all
        .filter(({ isType, name, folder }) => !isType && !withoutExamples.includes(folder) && !shown.has(name))
        .map(({ name }) => name),
      [],
    );
  }
});

test("each package that is installed has a licence and a reason", () => {
  const used = usedPackages();
  assert.ok(used.length > 25);
  assert.deepEqual(
    used.filter(({ name, license }) => license === "" || reasons[name] === undefined).map(({ name }) => name),
    [],
  );
  const names = new Set(used.map(({ name }) => name));
  assert.deepEqual(
    Object.keys(reasons).filter((name) => !names.has(name)),
    [],
  );
});
