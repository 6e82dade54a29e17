/** A part of the small changes of a target: most of them show. `npm run target-mutants` tries all, of all targets. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { parse } from "yaml";
import { shippedTarget } from "zest-tier/node";
import { mutantsOf, type Json } from "./target-mutants/mutants.js";
import { survivors } from "./target-mutants/survey.js";

test("changes of pennywort, one at a time, are told from it", async () => {
  const { counts, survived } = await survivors("pennywort", { every: 19, pairs: 8 });
  const tried = Object.values(counts).reduce((sum, count) => sum + count, 0);
  assert.ok(tried > 15);
  assert.ok(counts["another verdict"] > tried * 0.3, JSON.stringify(counts));
  const shown = survived.map(({ path, what }) => `${path}: ${what}`);
  assert.ok(survived.length < tried * 0.4, `${JSON.stringify(counts)}\n${shown.join("\n")}`);
});

test("each word of a target, each pair of columns, each pair of code words is changed", async () => {
  const target = parse((await shippedTarget("pennywort"))!, { merge: true }) as Json;
  const mutants = mutantsOf(target);
  const kinds = new Set(mutants.map(({ what }) => what.replace(/^.* (is|and) .*$/, "$1")));
  assert.deepEqual([...kinds].sort(), ["and", "is", "left out", "the first two are swapped"]);
  for (const { target: changed } of mutants) assert.notDeepEqual(changed, target);
});
