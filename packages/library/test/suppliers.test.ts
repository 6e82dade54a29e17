/** Twelve suppliers' files, each mapped as data: the records that were intended come out, and nothing is reported against them. */

import assert from "node:assert/strict";
import { readdirSync, readFileSync } from "node:fs";
import { test } from "node:test";
import { Findings } from "#src/index.js";
import { Catalogue, readSources, resolveReferences } from "#src/parts.js";
import { dump } from "./dump.js";
import { filesOf, kinds, layoutOf } from "./support.js";

const root = new URL("../../test/suppliers/", import.meta.url);
export const suppliers = readdirSync(root, { withFileTypes: true })
  .filter((entry) => entry.isDirectory())
  .map((entry) => entry.name)
  .sort();

test("there are twelve suppliers", () => {
  assert.equal(suppliers.length, 12);
});

for (const name of suppliers)
  test(`${name}: the records that were intended`, async () => {
    const folder = new URL(`${name}/`, root);
    const names = readdirSync(folder);
    const file = names.find((one) => !one.endsWith(".yaml") && one !== "intended.txt")!;
    const layouts = names.filter((one) => one.endsWith(".yaml")).sort();
    const findings = new Findings();
    const catalogue = new Catalogue(kinds);
    const sources = layouts.map((one) => ({ file, layout: layoutOf(readFileSync(new URL(one, folder), "utf8")) }));
    await readSources(sources, catalogue, filesOf({ [file]: readFileSync(new URL(file, folder)) }), findings);
    const lines = dump(resolveReferences(catalogue, findings).catalogue);
    const said = findings.list().filter(({ severity }) => severity !== "note");
    assert.deepEqual(said, []);
    const intended = readFileSync(new URL("intended.txt", folder), "utf8").trim().split("\n");
    for (const line of intended) assert.ok(lines.includes(line), `${line}\n\n${lines.join("\n")}`);
  });
