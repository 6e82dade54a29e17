/** L1 and L11 over generated layouts: a fixed set of them. `npm run layouts` takes as many as one likes. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { carry, type Outcome } from "./layouts/carried.js";
import { features } from "./layouts/features.js";
import { shapeNames } from "./layouts/forms.js";
import { drawn } from "./layouts/generate.js";

const runs = Number(process.env["PROPERTY_RUNS"] ?? 60) * 8;

test("generated layouts carry generated records, cell by cell, or say what they cannot carry", async () => {
  const carried = new Set<string>();
  const became: Record<Outcome["became"], number> = { carried: 0, "refused at load": 0, "refused when written": 0 };
  await fc.assert(
    fc.asyncProperty(drawn, async (one) => {
      const outcome = await carry(one);
      became[outcome.became]++;
      if (outcome.became === "carried") for (const what of outcome.generated.combined) carried.add(what);
    }),
    { numRuns: runs },
  );
  // Whatever is generated has to load.
  assert.equal(became["refused at load"], 0);
  assert.ok(became.carried > runs * 0.75, JSON.stringify(became));
  for (const shape of shapeNames) assert.ok(carried.has(`shape: ${shape}`), shape);
  const ways = Object.entries(features).flatMap(([name, { ways: all }]) => all.map((_, at) => `way: ${name} ${at}`));
  const missed = ways.filter((way) => !carried.has(way));
  // Numbers with fewer decimals than their values can be written in none of a few cases.
  assert.ok(missed.length <= 2, missed.join(", "));
});
