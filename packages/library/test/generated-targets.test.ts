/** L10 over generated targets: a fixed set of them. `npm run targets` takes as many as one likes, and counts what stood in them. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { shapeNames } from "./layouts/forms.js";
import { extras } from "./targets/extras.js";
import { changeOf } from "./targets/changed.js";
import { drawnTarget } from "./targets/generate.js";
import { importerValues } from "./targets/importers.js";
import { rebuild, type Outcome } from "./targets/rebuilt.js";

const runs = Number(process.env["PROPERTY_RUNS"] ?? 60) * 5;

test("the rehearsal of a generated target that loads rebuilds what is intended, or findings come before", async () => {
  const loaded = new Set<string>();
  const became: Record<Outcome["became"], number> = {
    rebuilt: 0,
    "rebuilt in part": 0,
    refused: 0,
    "refused at load": 0,
  };
  await fc.assert(
    fc.asyncProperty(drawnTarget, async (one) => {
      const outcome = await rebuild(one);
      became[outcome.became]++;
      if (outcome.became !== "refused at load") for (const what of outcome.generated.combined) loaded.add(what);
    }),
    { numRuns: runs },
  );
  // Of thousands it is less than 30 in a hundred; of a few hundred it may be some more.
  assert.ok(became["refused at load"] < runs * 0.34, JSON.stringify(became));
  assert.ok(became.rebuilt + became["rebuilt in part"] > runs * 0.4, JSON.stringify(became));
  const carried = shapeNames.filter((shape) => !shape.startsWith("document") && shape !== "expanded");
  const wanted = [
    ...carried.map((shape) => `shape: ${shape}`),
    ...Object.keys(importerValues).flatMap((word) => (word === "identified by" ? [] : [word])),
    ...Object.keys(extras),
  ];
  const isThere = (word: string) => loaded.has(word) || [...loaded].some((one) => one.includes(`importer: ${word}`));
  assert.deepEqual(
    wanted.filter((word) => !isThere(word) && !loaded.has(`extra: ${word}`)),
    [],
  );
});

test("L4, L9 on generated targets: a change comes to its goal, its rollback to what was there, and the same again writes nothing", async () => {
  let changed = 0;
  for (const one of fc.sample(drawnTarget, { numRuns: 250, seed: 7 }))
    changed += Number((await changeOf(one)) === "changed");
  assert.ok(changed > 15, `${changed} changed`);
});
