/** Files that were parsed by an earlier run: what is kept of them says the same, at the same places, or is not believed. */

import assert from "node:assert/strict";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, test } from "node:test";
import type { z } from "zod";
import { valueOf } from "#src/index.js";
import { givenStoreIn, keepGivenIn, shippedTarget, shippedTargetNames, type GivenStore } from "#src/node/index.js";
import { parseGiven, type Given } from "#src/parts.js";
import { givenLayout, givenProject, givenTarget } from "#src/schemas.js";

const root = new URL("../../../../", import.meta.url);
let folder: string;
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), "zest-kept-"))));
afterEach(() => {
  keepGivenIn(undefined);
  rmSync(folder, { recursive: true, force: true });
});

/** A store that counts what it could give. */
class Counted implements GivenStore {
  found = 0;
  constructor(readonly inner: GivenStore) {}
  readonly get: GivenStore["get"] = (kind, text) => {
    const kept = this.inner.get(kind, text);
    if (kept !== undefined) this.found++;
    return kept;
  };
  readonly add: GivenStore["add"] = (kind, text, kept) => this.inner.add(kind, text, kept);
}

/** Under another name each time: what this process remembers is by name. */
let runs = 0;
const parsed = (text: string, schema: z.ZodObject): Given<unknown> => valueOf(parseGiven(text, `${++runs}`, schema));

async function shippedFiles(): Promise<(readonly [string, z.ZodObject])[]> {
  const targets = await Promise.all((await shippedTargetNames()).map(shippedTarget));
  const read = (file: string): string => readFileSync(new URL(file, root), "utf8");
  const demos = ["clean", "rough", "later"].map((name) => `demo/${name}`);
  const layouts = demos.flatMap((name) =>
    readdirSync(new URL(`${name}/layouts/`, root)).map((file) => read(`${name}/layouts/${file}`)),
  );
  return [
    ...targets.map((text) => [text!, givenTarget] as const),
    ...[...new Set(layouts)].map((text) => [text, givenLayout] as const),
    ...demos.map((name) => [read(`${name}/project.yaml`), givenProject] as const),
  ];
}

/** The paths of everything that a value has, and one beside each that it has not. */
function pathsIn(value: unknown, path: readonly (string | number)[] = []): (readonly (string | number)[])[] {
  const missing = [...path, "no such word"];
  if (typeof value !== "object" || value === null) return [path, missing];
  const parts: readonly (readonly [string | number, unknown])[] = Array.isArray(value)
    ? value.map((item, at) => [at, item] as const)
    : Object.entries(value);
  return [path, missing, [...path, 999], ...parts.flatMap(([part, inner]) => pathsIn(inner, [...path, part]))];
}

test("what is kept of a file is what it was parsed to, with the place of each of its parts", async () => {
  const store = new Counted(givenStoreIn(folder, "1"));
  const files = await shippedFiles();
  for (const [text, schema] of files) {
    const fresh = parsed(text, schema);
    keepGivenIn(store);
    parsed(text, schema);
    const kept = parsed(text, schema);
    keepGivenIn(undefined);
    assert.deepStrictEqual(kept.value, fresh.value);
    for (const path of pathsIn(fresh.value)) {
      const [{ line, char }, wanted] = [kept.at(...path), fresh.at(...path)];
      assert.deepEqual([line, char], [wanted.line, wanted.char], path.join("/"));
    }
  }
  assert.equal(store.found, files.length);
  assert.ok(files.length > 10);
});

const layout = "layout: shelf\nrows: { each: product }\ncolumns: { No: product.key }\n";

test("what another version kept, what was kept of another kind, and what is damaged is not believed", () => {
  const store = givenStoreIn(folder, "1");
  store.add("layout", layout, "kept");
  assert.equal(store.get("layout", layout), "kept");
  assert.equal(store.get("target", layout), undefined);
  assert.equal(givenStoreIn(folder, "2").get("layout", layout), undefined);
  const [name] = readdirSync(folder) as [string];
  for (const damaged of ["", "kept", "\n", readFileSync(join(folder, name), "utf8").replace("kept", "kepT")]) {
    writeFileSync(join(folder, name), damaged);
    assert.equal(store.get("layout", layout), undefined, JSON.stringify(damaged));
  }
  store.add("layout", layout, "again");
  assert.equal(store.get("layout", layout), "again");
});

test("a file with mistakes is not kept: its findings come again", () => {
  const store = new Counted(givenStoreIn(folder, "1"));
  keepGivenIn(store);
  const codesOf = (name: string): readonly string[] =>
    parseGiven(layout.replace("columns:", "colums:"), name, givenLayout)
      .findings.list()
      .map(({ code }) => code);
  assert.deepEqual(codesOf("a"), codesOf("b"));
  assert.ok(codesOf("c").includes("given/unknown-word"));
  assert.deepEqual([store.found, readdirSync(folder)], [0, []]);
});

test("where nothing can be kept, files are parsed each time", () => {
  writeFileSync(join(folder, "taken"), "");
  const store = new Counted(givenStoreIn(join(folder, "taken"), "1"));
  keepGivenIn(store);
  assert.deepEqual(parsed(layout, givenLayout).value, parsed(layout, givenLayout).value);
  assert.equal(store.found, 0);
});

test("the folder does not grow without end", () => {
  const store = givenStoreIn(folder, "1");
  for (let at = 0; at < 450; at++) store.add("layout", `${at}`, "kept");
  assert.ok(readdirSync(folder).length <= 200);
  assert.equal(store.get("layout", "449"), "kept");
});
