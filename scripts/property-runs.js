/**
 * How the property tests run: always on the same generated values, so that a green run is green again, and without
 * shrinking, which for a law that drives a stand-in takes far longer than the run itself. To search for more:
 * `PROPERTY_RUNS=500 PROPERTY_SEED=random npm test`; `LAW_SHRINK=1` makes what is found small, `LAW_PATH` takes one case again.
 * With `ZEST_TIER_FAST_PATH=off` everything is read row by row, here and in the commands that tests run.
 */

import fc from "fast-check";

const seed = process.env["PROPERTY_SEED"];
fc.configureGlobal({
  ...(seed === "random" ? {} : { seed: Number(seed ?? 20261123) }),
  ...(process.env["LAW_PATH"] === undefined ? {} : { path: process.env["LAW_PATH"] }),
  includeErrorInReport: true,
  endOnFailure: process.env["LAW_SHRINK"] === undefined,
});

if (process.env["ZEST_TIER_FAST_PATH"] === "off") {
  const { useFastPath } = await import("../packages/library/dist/src/parts.js");
  useFastPath(false);
}
