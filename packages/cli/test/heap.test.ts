/** How much memory a command may take: what reads much is run again with as much as the machine has to give. */

import assert from "node:assert/strict";
import { spawn, spawnSync } from "node:child_process";
import { once } from "node:events";
import { mkdtempSync, openSync, readFileSync, rmSync, writeFileSync, writeSync } from "node:fs";
import { totalmem, tmpdir } from "node:os";
import { join } from "node:path";
import { after, before, test } from "node:test";
import { fileURLToPath } from "node:url";
import { heapNeeded } from "../src/heap.js";

const binary = fileURLToPath(new URL("../../bin/zest-tier.js", import.meta.url));
let folder: string;
before(() => {
  folder = mkdtempSync(join(tmpdir(), "zest-tier-heap-"));
});
after(() => rmSync(folder, { recursive: true, force: true }));

test("more heap is needed for sources that may take more than there is, where the machine has more, and no limit is set", () => {
  const given = { limit: 4e9, machine: 24e9, isSet: false };
  assert.equal(heapNeeded(50e6, given), undefined);
  assert.equal(heapNeeded(150e6, given), 18e9);
  assert.equal(heapNeeded(150e6, { ...given, isSet: true }), undefined);
  assert.equal(heapNeeded(150e6, { ...given, machine: 5e9 }), undefined);
  // The second time there is as much as there can be.
  assert.equal(heapNeeded(150e6, { ...given, limit: 18e9 }), undefined);
});

/** A project with few records, and more bytes than the engine's own heap is enough for. */
function largeProject(): void {
  writeFileSync(
    join(folder, "project.yaml"),
    "project: large\nsources:\n  - { file: large.csv, layout: large.yaml }\ntargets:\n  - target: pennywort\n",
  );
  writeFileSync(
    join(folder, "large.yaml"),
    "layout: large\nformat: { csv: { delimiter: ';' } }\nrows: { each: product }\ncolumns:\n  Key: product.key\n",
  );
  const file = openSync(join(folder, "large.csv"), "w");
  writeSync(file, "Key;Text\n");
  const text = "x".repeat(60_000);
  for (let n = 0; n < 1_800; n++) writeSync(file, `k${n};${text}\n`);
}

test("a command with much to read runs with a larger heap, once; its output and exit code are those of the second run", async (t) => {
  if (totalmem() < 8e9) return t.skip("the machine has no more than the engine takes by itself");
  largeProject();
  const seen = join(folder, "seen.txt");
  const note = join(folder, "note.cjs");
  writeFileSync(note, `require("fs").appendFileSync(${JSON.stringify(seen)}, process.execArgv.join(" ") + "\\n");`);
  const run = (flags: readonly string[]) => {
    writeFileSync(seen, "");
    const env = { ...process.env, NODE_OPTIONS: `--require ${note} ${flags.join(" ")}` };
    const { status, stdout } = spawnSync(process.execPath, [binary, "check", folder], { encoding: "utf8", env });
    return { status, stdout, runs: readFileSync(seen, "utf8").split("\n").slice(0, -1) };
  };
  const own = run([]);
  assert.equal(own.status, 1);
  assert.match(own.stdout, /1 800 products/);
  assert.deepEqual(
    own.runs.map((flags) => flags.replace(/\d+/, "N")),
    ["", "--max-old-space-size=N"],
  );
  // Where someone has said how much it may take, that is kept to.
  const set = run(["--max-old-space-size=3000"]);
  assert.deepEqual(set.runs, [""]);
  assert.equal(set.stdout, own.stdout);

  writeFileSync(seen, "");
  const env = { ...process.env, NODE_OPTIONS: `--require ${note}` };
  const stopped = spawn(process.execPath, [binary, "check", folder], { env, stdio: "ignore" });
  while (readFileSync(seen, "utf8").split("\n").length < 3) await new Promise((resolve) => setTimeout(resolve, 10));
  stopped.kill("SIGTERM");
  const [code] = (await once(stopped, "exit")) as [number];
  assert.equal(code, 143);
});
