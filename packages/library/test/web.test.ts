/** An example of each function of `zest-tier/web`, exhaustive by type. Each runs as a test, and stands in docs/reference/hosts.md. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { build, openProject, openTarget, readSourcesOf, rehearse, valueOf } from "#src/index.js";
import { nodeSha256, shippedLayout, shippedTarget } from "#src/node/index.js";
import * as web from "#src/web/index.js";

/** Files as they were dropped on a page. */
const dropped = new Map(
  Object.entries({
    "range.csv": "No;Name;Price\nsmoker;Bee smoker;24.00\n",
    "range.yaml":
      'layout: range\nformat: { csv: { delimiter: ";" } }\nrows: { each: product }\ncolumns: { No: [product.key, product.code], Name: product.name@en, Price: product.prices(price).amount }\n',
    "project.yaml":
      "project: bees\nsources: [{ file: range.csv, layout: range.yaml }]\ntargets: [{ target: pennywort }]\n",
  }).map(([name, text]) => [name, new Blob([text])]),
);

const examples: Record<keyof typeof web, () => unknown> = {
  async webPorts() {
    const ports = web.webPorts(dropped, shippedTarget, shippedLayout);
    const sources = valueOf(await readSourcesOf(valueOf(await openProject(ports))));
    assert.equal(sources.read.catalogue.table("product").size, 1);
  },
  async blobFiles() {
    const files = web.blobFiles(dropped);
    assert.equal((await files.list(".")).length, 3);
    let size = 0;
    for await (const piece of valueOf(await files.read("./range.csv"))) size += piece.length;
    assert.equal(size, dropped.get("range.csv")?.size);
  },
  async memoryFolder() {
    const ports = web.webPorts(dropped, shippedTarget, shippedLayout);
    const sources = valueOf(await readSourcesOf(valueOf(await openProject(ports))));
    const target = valueOf(await openTarget(sources));
    const { sink, files } = web.memoryFolder();
    const upload = valueOf(await build(target, { sink }));
    const { rebuilt } = valueOf(await rehearse(target, upload, { files: web.blobFiles(files) }));
    assert.equal(rebuilt, true);
  },
  webSha256() {
    const [a, b] = [web.webSha256(), nodeSha256()];
    for (const hasher of [a, b]) hasher.update(new TextEncoder().encode("bees"));
    assert.equal(a.digest(), b.digest());
  },
};

for (const [name, example] of Object.entries(examples)) test(`example of ${name}`, async () => void (await example()));
