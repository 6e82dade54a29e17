/** What is tried: each family makes an input by a seed, and hands it to the functions that people's files come through. */

import assert from "node:assert/strict";
import { readdirSync, readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import {
  Findings,
  layoutOfText,
  openProject,
  openTarget,
  planUpload,
  readSourcesOf,
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
import { answers } from "./answers.js";
import { chunksOf, portOf, type Family, type Files } from "./input.js";
import { mutated, oneOf, type Random } from "./mutate.js";

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

/** L11: every filled cell is in a record, in a finding, or left out by a rule; and is counted once. */
function checkCells({ cells: { filled, inRecords, inFindings, byRule } }: ReadCounts): void {
  const ruled = Object.values(byRule).reduce((sum, count) => sum + count, 0);
  assert.equal(filled, inRecords + inFindings + ruled, "cells are lost");
}

async function readBy(layout: Layout, file: string, bytes: Uint8Array): Promise<boolean> {
  const findings = new Findings();
  const catalogue = new Catalogue(kinds);
  const counts = await readSources([{ file, layout }], catalogue, portOf(new Map([[file, bytes]])), findings);
  for (const one of counts) checkCells(one);
  resolveReferences(catalogue, findings);
  for (const { code } of findings.list()) assert.ok(code.includes("/"));
  return counts.some(({ cells }) => cells.inRecords > 0);
}

const bytesOf = (files: Files, name: string): Uint8Array => files.get(name) ?? new Uint8Array(0);
const anyOf = (random: Random, files: Files): Uint8Array => oneOf(random, [...files.values()]);

const small: Files = new Map(
  Object.entries({
    "project.yaml":
      'project: p\nlanguages: [en, de]\nsources:\n  - { file: s.csv, layout: s.yaml }\n  - { file: more.json, layout: more.yaml }\nderive:\n  - { field: product.description@en, expression: \'name.en.matches("^[A-Z]") ? name.en : "x"\' }\n  - { field: product.slug@en, slug: product.name@en }\ntargets:\n  - { target: own.yaml, ledger: led.jsonl }\n',
    "s.csv":
      "Key,Code,Name,Is,Shelf,Price,Shot\na,A-1,Hive,S,Hives / Full,12.5,h.png\na,A-2,,M,,13,\nb,B-1,Box,,Hives,9,\n",
    "s.yaml":
      "layout: s\nrows: { each: variant, of: product, grouped by: Key, groups: scattered }\nlanes: { more: { entries: product.pictures, continued when blank: [Code] } }\ncolumns:\n  Key: product.key\n  Code: variant.code\n  Name: product.name@en\n  Is: { axis: Size, holds: value@en }\n  Shelf: { field: product.categories, as: { path: ' / ', by: name@en }, missing: create }\n  Price: { field: variant.prices(price).amount, as: decimal }\n  Shot: more.file\n",
    "more.json": '{"items":[{"no":"a","texts":{"de":"Beute"},"photos":["a.png"]},{"no":"b","texts":{"de":"Zarge"}}]}',
    "more.yaml":
      "layout: more\nformat: { json: {} }\nrows: { each: product, element: /items, found by: { column: /no, names: key } }\nlanes: { shots: { entries: product.pictures, with: { role: main }, element: /photos } }\ncolumns: { /texts/de: product.name@de, /photos: shots.file }\n",
    "own.yaml": textOf(bytesOf(shipped, "pennywort.yaml")),
    "led.jsonl": '{"kind":"product","key":"a","id":"7","state":"confirmed","run":"1"}\n{"batch":"whole","lines":1}\n',
  }).map(([name, text]) => [name, new TextEncoder().encode(text)]),
);

const layoutNamed = (name: string): Layout => {
  const compiled = layoutOfText(textOf(bytesOf(layouts, name)), name);
  assert.ok(compiled.ok);
  return compiled.value;
};

export const families: Readonly<Record<string, Family>> = {
  /** A source whose bytes were damaged, by its own layout. */
  sources: {
    make(random) {
      const { source, layout } = oneOf(random, pairs);
      const bytes = mutated(random, bytesOf(sources, source), anyOf(random, sources));
      return { names: [source, layout], bytes };
    },
    whole: { names: ["range.csv", "range.yaml"], bytes: bytesOf(sources, "range.csv") },
    attempt: ({ names: [source = "", layout = ""], bytes }) => readBy(layoutNamed(layout), source, bytes),
  },
  /** A layout that was damaged; if it still is one, its source by it. */
  layouts: {
    make(random) {
      const { source, layout } = oneOf(random, pairs);
      const bytes = mutated(random, bytesOf(layouts, layout), anyOf(random, layouts));
      return { names: [source, layout], bytes };
    },
    whole: { names: ["range.csv", "range.yaml"], bytes: bytesOf(layouts, "range.yaml") },
    async attempt({ names: [source = "", layout = ""], bytes }) {
      const compiled = layoutOfText(textOf(bytes), layout);
      if (compiled.ok) return readBy(compiled.value, source, bytesOf(sources, source));
      assert.ok(compiled.findings.hasErrors);
      return false;
    },
  },
  /** A source by a layout that was made for another. */
  mismatched: {
    make: (random) => ({ names: [oneOf(random, pairs).source, oneOf(random, pairs).layout], bytes: new Uint8Array() }),
    whole: { names: ["range.csv", "range.yaml"], bytes: new Uint8Array() },
    attempt: ({ names: [source = "", layout = ""] }) => readBy(layoutNamed(layout), source, bytesOf(sources, source)),
  },
  targets: {
    make(random) {
      const [name, bytes] = oneOf(random, [...shipped]);
      return { names: [name], bytes: mutated(random, bytes, anyOf(random, shipped)) };
    },
    whole: { names: ["saltmarsh.yaml"], bytes: bytesOf(shipped, "saltmarsh.yaml") },
    attempt({ names: [name = ""], bytes }) {
      const parsed = parseTarget(textOf(bytes), name, kinds);
      assert.ok(parsed.ok || parsed.findings.hasErrors);
      return Promise.resolve(parsed.ok);
    },
  },
  drafts: {
    make(random) {
      const [name, bytes] = oneOf(random, [...sources]);
      return { names: [name], bytes: mutated(random, bytes.subarray(0, 20_000), anyOf(random, sources)) };
    },
    whole: { names: ["range.csv"], bytes: bytesOf(sources, "range.csv") },
    async attempt({ names: [name = ""], bytes }) {
      const samples = await lookAt(chunksOf(bytes), name, new Findings());
      for (const sample of samples) draftLayout(sample, "any");
      return samples.length > 0;
    },
  },
  ledgers: {
    make(random) {
      const bytes = bytesOf(small, "led.jsonl");
      return { names: [], bytes: mutated(random, Buffer.concat([bytes, bytes]), bytes) };
    },
    whole: { names: [], bytes: bytesOf(small, "led.jsonl") },
    attempt({ bytes }) {
      const { ledger } = parseLedger(textOf(bytes), "led.jsonl", new Findings());
      return Promise.resolve(!ledger.isEmpty);
    },
  },
  /** A whole project of which one file was damaged: opened, read, checked, planned. */
  projects: {
    make(random) {
      const name = oneOf(random, [...small.keys()]);
      return { names: [name], bytes: mutated(random, bytesOf(small, name), anyOf(random, small)) };
    },
    whole: { names: ["s.csv"], bytes: bytesOf(small, "s.csv") },
    async attempt({ names: [name = ""], bytes }) {
      const opened = await openProject({ ...nodePorts(demo), files: portOf(new Map(small).set(name, bytes)) });
      if (!opened.ok) return false;
      const read = await readSourcesOf(opened.value);
      if (!read.ok) return false;
      let planned = 0;
      for (const { name: target } of read.value.project.targets) {
        const one = await openTarget(read.value, { target });
        if (one.ok && (await planUpload(one.value)).ok) planned += 1;
      }
      return planned > 0;
    },
  },
  answers,
};
