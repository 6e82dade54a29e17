/** The docs that are made from data are current, links lead somewhere, and every page is linked. */

import assert from "node:assert/strict";
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { dirname, join, relative } from "node:path";
import { test } from "node:test";
import { fileURLToPath } from "node:url";
import { builtInKinds, findingTable } from "zest-tier";
import { madeFiles } from "#src/docs-pages.js";

const root = fileURLToPath(new URL("../../../../", import.meta.url));
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
  for (const folder of ["docs/commands", "docs/reference"])
    for (const name of readdirSync(join(root, folder))) assert.ok(made.has(`${folder}/${name}`), `${folder}/${name}`);
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
