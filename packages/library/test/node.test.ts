/** An example of each function of `zest-tier/node`, exhaustive by type. Each runs as a test, and stands in docs/reference/hosts.md. */

import assert from "node:assert/strict";
import { mkdtemp, mkdir, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { after, before, test } from "node:test";
import { build, finding, Findings, openProject, openTarget, readSourcesOf, valueOf } from "#src/index.js";
import * as node from "#src/node/index.js";

let folder: string;
before(async () => {
  folder = await mkdtemp(join(tmpdir(), "zest-node-"));
  await mkdir(join(folder, "sources"));
  await writeFile(join(folder, "sources/range.csv"), "No;Name;Price\nsmoker;Bee smoker;24.00\n");
  await writeFile(
    join(folder, "range.yaml"),
    'layout: range\nformat: { csv: { delimiter: ";" } }\nrows: { each: product }\ncolumns: { No: [product.key, product.code], Name: product.name@en, Price: product.prices(price).amount }\n',
  );
  await writeFile(
    join(folder, "project.yaml"),
    "project: bees\nsources: [{ file: sources/range.csv, layout: range.yaml }]\ntargets: [{ target: pennywort }]\n",
  );
});
after(() => rm(folder, { recursive: true, force: true }));

const examples: Record<keyof typeof node, () => unknown> = {
  async nodePorts() {
    const opened = valueOf(await openProject(node.nodePorts(folder)));
    const { read } = valueOf(await readSourcesOf(opened));
    assert.equal(read.catalogue.table("product").size, 1);
  },
  async nodeFiles() {
    const files = node.nodeFiles(folder);
    assert.deepEqual(
      (await files.list("sources")).map(({ name }) => name),
      ["range.csv"],
    );
    const missing = await files.read("sources/stock.csv");
    assert.equal(missing.ok, false);
  },
  nodeSha256() {
    const hasher = node.nodeSha256();
    hasher.update(new TextEncoder().encode("bees"));
    assert.equal(hasher.digest().length, 64);
  },
  async shippedTarget() {
    assert.match((await node.shippedTarget("saltmarsh")) ?? "", /^target: saltmarsh|\ntarget: saltmarsh/);
    assert.equal(await node.shippedTarget("elsewhere"), undefined);
  },
  async shippedTargetNames() {
    assert.ok((await node.shippedTargetNames()).includes("tollgate"));
  },
  async shippedLayout() {
    assert.equal(await node.shippedLayout("elsewhere"), undefined);
  },
  async keepGivenIn() {
    node.keepGivenIn(node.givenStoreIn(join(folder, "parsed"), "1"));
    const project = await readFile(join(folder, "project.yaml"), "utf8");
    await writeFile(join(folder, "wax.yaml"), project.replace("bees", "wax"));
    await openProject(node.nodePorts(folder), "wax.yaml");
    node.keepGivenIn(undefined);
    assert.equal((await readdir(join(folder, "parsed"))).length, 1);
  },
  givenStoreIn() {
    const store = node.givenStoreIn(join(folder, "kept"), "1");
    store.add("layout", "layout: range", '{"value":{}}');
    assert.equal(store.get("layout", "layout: range"), '{"value":{}}');
    assert.equal(store.get("target", "layout: range"), undefined);
  },
  async openLedger() {
    const path = join(folder, "ledger.jsonl");
    const { ledger, save } = await node.openLedger(path, "ledger.jsonl", new Findings());
    const known = ledger.copy();
    known.add({ kind: "product", key: "smoker", id: "17", state: "confirmed", run: "first" });
    await save(known);
    const again = await node.openLedger(path, "ledger.jsonl", new Findings());
    assert.equal(again.ledger.id("product", "smoker"), "17");
  },
  async folderSink() {
    const sources = valueOf(await readSourcesOf(valueOf(await openProject(node.nodePorts(folder)))));
    const target = valueOf(await openTarget(sources));
    const sink = valueOf(await node.folderSink(join(folder, "upload"), "bees"));
    const { files } = valueOf(await build(target, { sink }));
    assert.ok((await readdir(join(folder, "upload"))).includes(files[0]?.name ?? ""));
  },
  async lockAll() {
    const lock = valueOf(await node.lockAll([join(folder, "ledger.jsonl")]));
    const second = await node.lockAll([join(folder, "ledger.jsonl")], 0);
    assert.equal(second.ok, false);
    await lock.release();
  },
  async writeWholeFile() {
    await node.writeWholeFile(join(folder, "notes.txt"), "whole");
    assert.equal(await readFile(join(folder, "notes.txt"), "utf8"), "whole");
  },
  async writeFully() {
    const taken: number[] = [];
    const slow = { write: (bytes: Uint8Array) => Promise.resolve({ bytesWritten: taken.push(bytes.length) && 1 }) };
    await node.writeFully(slow, new Uint8Array(3));
    assert.deepEqual(taken, [3, 2, 1]);
  },
  async copyWholeFolder() {
    await node.copyWholeFolder(join(folder, "sources"), join(folder, "copy"));
    assert.deepEqual(await readdir(join(folder, "copy")), ["range.csv"]);
  },
  async IoTrouble() {
    const failed = node.writeWholeFile(join(folder, "sources"), "a file where a folder is");
    await assert.rejects(
      failed,
      (error) => error instanceof node.IoTrouble && error.finding.code === "io/cannot-write",
    );
    assert.match(new node.IoTrouble(finding("read/folder", {}, { file: "sources" })).message, /sources/);
  },
  isSystemError() {
    const full = Object.assign(new Error("no space"), { code: "ENOSPC", syscall: "write" });
    assert.deepEqual([node.isSystemError(full), node.isSystemError(new Error("a bug"))], [true, false]);
  },
  reasonOf() {
    const full = Object.assign(new Error("no space"), { code: "ENOSPC", syscall: "write" });
    assert.match(node.reasonOf(full), /ENOSPC/);
  },
};

for (const [name, example] of Object.entries(examples)) test(`example of ${name}`, async () => void (await example()));

test("a ledger with bytes that are not UTF-8: complete batches count, and what is added stands behind them", async () => {
  const path = join(folder, "damaged.jsonl");
  const line = (key: string, id: string) =>
    `${JSON.stringify({ kind: "product", key, id, state: "confirmed", run: "r" })}\n`;
  const first = await node.openLedger(path, "damaged.jsonl", new Findings());
  assert.equal(
    first.ledger.add({ kind: "product", key: "Räucherer", id: "1", state: "confirmed", run: "r" }),
    undefined,
  );
  await first.save(first.ledger);
  const whole = await readFile(path);
  // A torn batch behind it, cut in the middle of a character, after a line that was damaged.
  const torn = Buffer.concat([
    Buffer.from(line("b", "2")),
    Buffer.from([0xff, 0xfe, 0x0a]),
    Buffer.from(line("ä", "3")).subarray(0, 26),
  ]);
  await writeFile(path, Buffer.concat([whole, torn]));
  const findings = new Findings();
  const again = await node.openLedger(path, "damaged.jsonl", findings);
  assert.deepEqual(
    findings.list().map(({ code, at }) => [code, at?.line]),
    [
      ["ledger/torn-batch", whole.toString().split("\n").length],
      ["ledger/no-line", whole.toString().split("\n").length + 1],
    ],
  );
  assert.equal(again.ledger.id("product", "Räucherer"), "1");
  again.ledger.add({ kind: "product", key: "c", id: "4", state: "confirmed", run: "r" });
  await again.save(again.ledger);
  const after = await readFile(path);
  assert.deepEqual(after.subarray(0, whole.length), whole);
  const last = new Findings();
  assert.equal((await node.openLedger(path, "damaged.jsonl", last)).ledger.id("product", "c"), "4");
  assert.deepEqual(last.list(), []);
});
