/** Faults of the disk and sudden ends, at a few of the calls of the file system; `npm run crash` tries each. */

import assert from "node:assert/strict";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { test } from "node:test";
import { faults } from "./crash/inject.js";
import { callsOf, scenes, strike } from "./crash/scenes.js";

const places = 2;

test("whatever the disk does, and whenever the process ends, nothing is half-written and the next run goes on", async () => {
  const above = mkdtempSync(join(tmpdir(), "zest-crash-"));
  try {
    const [build, collect] = await scenes(above);
    for (const scene of [build!, collect!]) {
      const calls = await callsOf(scene);
      assert.ok(calls > 100, `${calls} calls are seen`);
      for (const [number, fault] of faults.entries()) {
        let met = 0;
        for (let place = 0; place < places; place++) {
          const at = Math.ceil((calls * (place + (number + 1) / (faults.length + 1))) / places);
          const { struck } = await strike(scene, fault, at);
          met += Number(struck !== undefined);
        }
        assert.ok(met >= places - 1, `${scene.name}, ${fault}: met ${met} times`);
      }
    }
  } finally {
    rmSync(above, { recursive: true, force: true });
  }
});
