/** When the engine optimises: not what a short command runs, and at once where there is much to read. */

import assert from "node:assert/strict";
import { spawnSync } from "node:child_process";
import { test } from "node:test";

const engine = new URL("../src/engine.js", import.meta.url).href;

/** Whether a function that a short command would run is optimised. @param first what the process calls before it runs it. */
function isOptimised(first: string): boolean {
  const script = `
    import { optimiseFor, setUpEngine } from ${JSON.stringify(engine)};
    import { setTimeout } from "node:timers/promises";
    ${first}
    const busy = (most) => { let sum = 0; for (let at = 0; at < most; at++) sum += at % 7; return sum; };
    for (let turn = 0; turn < 10; turn++) {
      for (let n = 0; n < 400; n++) busy(10);
      await setTimeout(20);
    }
    console.log((%GetOptimizationStatus(busy) & 16) !== 0);
    process.exit();`;
  const flags = ["--allow-natives-syntax", "--interrupt-budget=67584", "--input-type=module"];
  const { stdout, stderr } = spawnSync(process.execPath, [...flags, "-e", script], { encoding: "utf8" });
  assert.match(stdout, /^(true|false)\n$/, stderr);
  return stdout === "true\n";
}

test("a short command is not optimised, one with much to read is", () => {
  assert.equal(isOptimised(""), true);
  assert.equal(isOptimised("setUpEngine();"), false);
  assert.equal(isOptimised("setUpEngine(); optimiseFor(10_000);"), false);
  assert.equal(isOptimised("setUpEngine(); optimiseFor(10_000_000);"), true);
});
