/** The commands that work on layouts: draft, calibrate, guide. */

import assert from "node:assert/strict";
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { test } from "node:test";
import { main } from "#src/main.js";

const demo = new URL("../../../../demo/clean/", import.meta.url).pathname;

async function run(argv: readonly string[], cwd: string) {
  let out = "";
  let err = "";
  const io = {
    out: (text: string) => void (out += text),
    err: (text: string) => void (err += text),
    cwd,
    colour: false,
    width: 120,
    height: 40,
    watched: false,
    stopped: () => Promise.resolve(),
  };
  const code = await main(argv, io);
  return { code, out, err };
}
const folder = () => mkdtempSync(join(tmpdir(), "zest-layouts-"));

test("draft shows the layout, each line with confidence and reason, and what to do next", async () => {
  const { code, out } = await run(["draft", "sources/range.csv"], demo);
  assert.equal(code, 0);
  assert.match(out, /Draft: 23 columns, \d+ sure, \d+ likely, 2 unmapped/);
  assert.match(
    out,
    /sure {6}Goes with +product\.relations\(related\)\.to +the word "goes with", and codes of this file/,
  );
  assert.match(out, /sure {6}Sorts by +axes names@en +lists of what varies and how/);
  assert.match(out, /Next\n {2}1 {2}write the layout/);
});

test("draft, calibrate: one guided way from a file to a layout that is tested on it", async () => {
  const at = folder();
  const file = join(demo, "sources/queen-rearing.tsv");
  const first = await run(["draft", file, "--out", "layout.yaml", "--calibrate"], at);
  assert.equal(first.code, 0, first.err);
  assert.match(first.out, /Read and written back: 29 rows/);
  const again = await run(["draft", file, "--out", "layout.yaml"], at);
  assert.equal(again.code, 2);
  assert.match(again.err, /Nothing is overwritten/);
  const proved = await run(["calibrate", file, "--layout", "layout.yaml", "--format", "json"], at);
  const result = JSON.parse(proved.out) as { ok: boolean; rows: number; columns: { different: unknown[] }[] };
  assert.equal(result.rows, 29);
  assert.ok(result.columns.every(({ different }) => different.length === 0));
});

test("draft --for: a target of a platform's sample; a reply closes its question", async () => {
  const at = folder();
  const sample = join(demo, "sources/queen-rearing.tsv");
  const asked = await run(["draft", sample, "--for", "harbour", "--out", "harbour.yaml"], at);
  assert.equal(asked.code, 0, asked.err);
  assert.match(asked.out, /refusal {2}When the platform refuses a row.+assumed: row/);
  const drafted = readFileSync(join(at, "harbour.yaml"), "utf8");
  assert.match(drafted, /^target: harbour$/m);
  assert.match(drafted, /refusal costs: row/);
  const replied = await run(["draft", sample, "--for", "harbour", "--reply", "refusal=file"], at);
  assert.match(replied.out, /refusal costs: file/);
  assert.doesNotMatch(replied.out, /assumed: refusal/);
  const calibrated = await run(["draft", sample, "--for", "harbour", "--calibrate"], at);
  assert.match(calibrated.out, /Read and written back: 29 rows/);
  assert.match((await run(["draft", sample, "--reply", "refusal=file"], at)).err, /Add --for/);
  const book = await run(["draft", join(demo, "sources/glimmer.xlsx"), "--for", "harbour"], at);
  assert.equal(book.code, 2);
  assert.match(book.err, /several sheets/);
  for (const [reply, says] of [
    ["refusal", /has no "="/],
    ["refusal=all", /not a reply to refusal/],
    ["cost=row", /no question "cost"/],
  ] as const) {
    const refused = await run(["draft", sample, "--for", "harbour", "--reply", reply], at);
    assert.equal(refused.code, 2);
    assert.match(refused.err, says);
  }
});

test("draft of what is not a table says so, and of what is not there too", async () => {
  const at = folder();
  writeFileSync(join(at, "empty.csv"), "");
  assert.equal((await run(["draft", "empty.csv"], at)).code, 1);
  const missing = await run(["draft", "none.csv"], at);
  assert.equal(missing.code, 3);
  assert.match(missing.err, /none\.csv/);
});

test("calibrate exits 1 where cells come back different, and shows them", async () => {
  const at = folder();
  writeFileSync(
    join(at, "l.yaml"),
    "layout: l\nrows: { each: product }\ncolumns:\n  K: product.key\n  Kg: { field: product.weight, as: decimal }\n",
  );
  writeFileSync(join(at, "s.csv"), "K,Kg\na,1.5\nb,heavy\n");
  const { code, out } = await run(["calibrate", "s.csv", "--layout", "l.yaml"], at);
  assert.equal(code, 1);
  assert.match(out, /line 3 \[Kg\]: "heavy" came back as nothing/);
  assert.equal((await run(["calibrate", "s.csv"], at)).code, 2);
  assert.equal((await run(["calibrate", "s.csv", "--layout", "pennywort/none"], at)).code, 2);
});

test("what build writes for a target calibrates with the target's own layout, to the cell", async () => {
  const at = folder();
  const built = await run(["build", demo, "--upload", join(at, "up")], at);
  assert.equal(built.code, 0, built.err);
  const { code, out } = await run(["calibrate", "up/02-items.csv", "--layout", "pennywort/items"], at);
  assert.equal(code, 0);
  assert.match(out, /all come back unchanged/);
});

test("guide shows a target's columns, and writes the guide and the empty workbook", async () => {
  const at = folder();
  const { code, out } = await run(["guide", "pennywort/items", "--out", "send"], at);
  assert.equal(code, 0);
  assert.match(out, /Title en +the name of the product \(en\) +required +text; at most 80 characters +Orchard hive/);
  assert.ok(existsSync(join(at, "send/pennywort-items.xlsx")));
  assert.match(readFileSync(join(at, "send/pennywort-items.md"), "utf8"), /^# pennywort-items: the columns/);
  assert.equal((await run(["guide", "pennywort/items", "--out", "send"], at)).code, 2);
  assert.equal((await run(["guide", "nothing.yaml"], at)).code, 2);
});
