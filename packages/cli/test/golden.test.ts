/**
 * What is recorded of the demo, the suppliers' files and every tenth generated catalogue is what comes out now; `npm run golden` takes
 * all, and the later imports of the demo, which have a test of their own.
 */

import assert from "node:assert/strict";
import { test } from "node:test";
import { goldenDifferences, groups } from "./golden/golden.js";

for (const group of Object.keys(groups))
  test(`golden, ${group}: findings, plan, files and verdict as recorded`, async () => {
    assert.deepEqual(await goldenDifferences([group], { every: 10 }), []);
  });
