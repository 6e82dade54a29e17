/** What is tried: each family makes an input by a seed, and hands it to the functions that people's files come through. */

import assert from "node:assert/strict";
import { readdirSync, readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import {
  failure,
  finding,
  Findings,
  layoutOfText,
  openProject,
  openTarget,
  planUpload,
  readSourcesOf,
  success,
  type FilesPort,
  type Layout,
  type ReadCounts,
} from "zest-tier";
import {
  Catalogue,
  draftLayout,
  Kinds,
  lookAt,
  parseLedger,
  parseTarget,
  readSources,
  resolveReferences,
} from "zest-tier/parts";
import { nodePorts } from "zest-tier/node";
import { mutated, oneOf, type Random } from "./mutate.js";

type Files = ReadonlyMap<string, Uint8Array>;

const demo = fileURLToPath(new URL("../../../../../demo/clean/", import.meta.url));
const targets = fileURLToPath(new URL("../../../../library/targets/", import.meta.url));
const kinds = new Kinds();

const filesIn = (folder: string): Files =>
  new Map(readdirSync(folder).map((name) => [name, readFileSync(`${folder}/${name}`)]));
const sources = filesIn(`${demo}sources`);
const layouts = filesIn(`${demo}layouts`);
const shipped = filesIn(targets);
const textOf = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);

/** Each source of the demo with the layout that reads it. */
const pairs = [
  ...readFileSync(`${demo}project.yaml`, "utf8").matchAll(/file: sources\/([\w.-]+), layout: layouts\/([\w.-]+)/g),
].map(([, source = "", layout = ""]) => ({ source, layout }));

async function* chunksOf(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length || at === 0; at += 5_000)
    yield await Promise.resolve(bytes.subarray(at, at + 5_000));
}
const portOf = (files: Files): FilesPort => ({
  read: (path) => {
    const bytes = files.get(path);
    return Promise.resolve(
      bytes ? success(chunksOf(bytes)) : failure(finding("read/missing-file", {}, { file: path })),
    );
  },
  list: () => Promise.resolve([...files].map(([name, { length }]) => ({ name, bytes: length }))),
});

/** L11: every filled cell is in a record, in a finding, or left out by a rule; and is counted once. */
function checkCells({ cells: { filled, inRecords, inFindings, byRule } }: ReadCounts): void {
  const ruled = Object.values(byRule).reduce((sum, count) => sum + count, 0);
  assert.equal(filled, inRecords + inFindings + ruled, "cells are lost");
}

async function readBy(layout: Layout, file: string, bytes: Uint8Array): Promise<void> {
  const findings = new Findings();
  const catalogue = new Catalogue(kinds);
  const counts = await readSources([{ file, layout }], catalogue, portOf(new Map([[file, bytes]])), findings);
  for (const one of counts) checkCells(one);
  resolveReferences(catalogue, findings);
  for (const { code } of findings.list()) assert.ok(code.includes("/"));
}

const bytesOf = (files: Files, name: string): Uint8Array => files.get(name) ?? new Uint8Array(0);
const anyOf = (random: Random, files: Files): Uint8Array => oneOf(random, [...files.values()]);

const small: Files = new Map(
  Object.entries({
    "project.yaml":
      "project: p\nlanguages: [en, de]\nsources:\n  - { file: s.csv, layout: s.yaml }\n  - { file: more.json, layout: more.yaml }\nderive:\n  - { field: product.description@en, expression: 'name.en.matches(\"^[A-Z]\") ? name.en : \"x\"' }\n  - { field: product.slug@en, slug: '{name.en}' }\ntargets:\n  - { target: own.yaml, ledger: led.jsonl }\n",
    "s.csv": "Key,Code,Name,Is,Shelf,Price\na,A-1,Hive,S,Hives / Full,12.5\n,A-2,,M,,13\nb,B-1,Box,,Hives,9\n",
    "s.yaml":
      "layout: s\nrows: { each: variant, of: product, grouped by: Key, groups: scattered }\nlanes: { more: { entries: product.pictures, continued when blank: [Code] } }\ncolumns:\n  Key: product.key\n  Code: variant.code\n  Name: product.name@en\n  Is: { axis: Size, holds: value@en }\n  Shelf: { field: product.categories, as: { path: ' / ', by: name@en }, missing: create }\n  Price: { field: variant.prices(price).amount, as: decimal }\n",
    "more.json": '{"items":[{"no":"a","texts":{"de":"Beute"},"photos":["a.png"]},{"no":"b","texts":{"de":"Zarge"}}]}',
    "more.yaml":
      "layout: more\nformat: { json: {} }\nrows: { each: product, element: /items, found by: { column: /no, names: key } }\nlanes: { shots: { entries: product.pictures, with: { role: main }, element: /photos } }\ncolumns: { /texts/de: product.name@de, /photos: shots.file }\n",
    "own.yaml": textOf(bytesOf(shipped, "pennywort.yaml")),
    "led.jsonl": '{"kind":"product","key":"a","id":"7","state":"confirmed","run":"1"}\n{"closes":1}\n',
  }).map(([name, text]) => [name, new TextEncoder().encode(text)]),
);

export type Family = (random: Random) => Promise<void>;

export const families: Readonly<Record<string, Family>> = {
  /** A source whose bytes were damaged, by its own layout. */
  async sources(random) {
    const { source, layout } = oneOf(random, pairs);
    const compiled = layoutOfText(textOf(bytesOf(layouts, layout)), layout);
    assert.ok(compiled.ok);
    await readBy(compiled.value, source, mutated(random, bytesOf(sources, source), anyOf(random, sources)));
  },
  /** A layout that was damaged; if it still is one, its source by it. */
  async layouts(random) {
    const { source, layout } = oneOf(random, pairs);
    const compiled = layoutOfText(textOf(mutated(random, bytesOf(layouts, layout), anyOf(random, layouts))), layout);
    if (compiled.ok) await readBy(compiled.value, source, bytesOf(sources, source));
    else assert.ok(compiled.findings.hasErrors);
  },
  /** A source by a layout that was made for another. */
  async mismatched(random) {
    const { layout } = oneOf(random, pairs);
    const { source } = oneOf(random, pairs);
    const compiled = layoutOfText(textOf(bytesOf(layouts, layout)), layout);
    assert.ok(compiled.ok);
    await readBy(compiled.value, source, bytesOf(sources, source));
  },
  targets(random) {
    const [name, bytes] = oneOf(random, [...shipped]);
    const parsed = parseTarget(textOf(mutated(random, bytes, anyOf(random, shipped))), name, kinds);
    assert.ok(parsed.ok || parsed.findings.hasErrors);
    return Promise.resolve();
  },
  async drafts(random) {
    const [name, bytes] = oneOf(random, [...sources]);
    const findings = new Findings();
    const given = mutated(random, bytes.subarray(0, 20_000), anyOf(random, sources));
    for (const sample of await lookAt(chunksOf(given), name, findings)) draftLayout(sample, "any");
  },
  ledgers(random) {
    const bytes = bytesOf(small, "led.jsonl");
    parseLedger(textOf(mutated(random, Buffer.concat([bytes, bytes]), bytes)), "led.jsonl", new Findings());
    return Promise.resolve();
  },
  /** A whole project of which one file was damaged: opened, read, checked, planned. */
  async projects(random) {
    const name = oneOf(random, [...small.keys()]);
    const files = new Map(small).set(name, mutated(random, bytesOf(small, name), anyOf(random, small)));
    const opened = await openProject({ ...nodePorts(demo), files: portOf(files) });
    if (!opened.ok) return;
    const read = await readSourcesOf(opened.value);
    if (!read.ok) return;
    for (const { name: target } of read.value.project.targets.values()) {
      const one = await openTarget(read.value, { target });
      if (one.ok) await planUpload(one.value);
    }
  },
};
