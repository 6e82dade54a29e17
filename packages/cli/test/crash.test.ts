/** Faults of the disk and sudden ends, each at one of the calls of the file system; `npm run crash` tries all. */

import assert from "node:assert/strict";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { test } from "node:test";
import { faults } from "./crash/inject.js";
import { callsOf, scenes, strike } from "./crash/scenes.js";

test("whatever the disk does, and whenever the process ends, nothing is half-written and the next run goes on", async () => {
  const above = mkdtempSync(join(tmpdir(), "zest-crash-"));
  try {
    const [build, collect] = await scenes(above);
    for (const scene of [build!, collect!]) {
      const calls = await callsOf(scene);
      assert.ok(calls > 100, `${calls} calls are seen`);
      let met = 0;
      for (const [number, fault] of faults.entries()) {
        const { struck } = await strike(scene, fault, Math.ceil((calls * (number + 1)) / (faults.length + 1)));
        met += Number(struck !== undefined);
      }
      assert.ok(met >= faults.length - 1, `${scene.name}: ${met} of ${faults.length} faults are met`);
    }
  } finally {
    rmSync(above, { recursive: true, force: true });
  }
});
