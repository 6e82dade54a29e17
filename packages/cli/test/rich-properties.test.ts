/** The laws over catalogues with every kind, against the stand-ins that take records: what is expected happens, and nothing is lost. */

import assert from "node:assert/strict";
import { after, before, test } from "node:test";
import fc from "fast-check";
import { writeZip, Ledger, type Target } from "zest-tier";
import { startStandIn, type StandIn, type StandInName } from "@zest-tier/standins";
import { damagedRich, pictureNames, readRich, rich, shipped } from "./rich.js";
import { Known, playRounds } from "./rounds.js";

const runs = Number(process.env["PROPERTY_RUNS"] ?? 14);
const zip = writeZip(new Map(pictureNames.map((name) => [name, new Uint8Array([1])])));

for (const name of ["saltmarsh", "tollgate"] as const satisfies readonly StandInName[]) {
  let standIn: StandIn;
  let target: Target;
  before(async () => {
    standIn = await startStandIn(name);
    target = await shipped(name);
  });
  after(() => standIn.stop());
  const empty = async () => {
    await fetch(`${standIn.url}/reset`, { method: "POST" });
    await fetch(`${standIn.url}/pictures`, { method: "POST", body: zip });
  };

  test(`L1, L2, L7 ${name}: a clean catalogue with every kind is rebuilt as intended, each row as expected`, async () => {
    let most = 0;
    await fc.assert(
      fc.asyncProperty(rich(), async (given) => {
        await empty();
        const played = await playRounds(standIn, target, await readRich(given));
        assert.deepEqual(played.disagreements, []);
        assert.equal(played.refused, 0);
        assert.deepEqual(played.lost, []);
        assert.equal(played.rounds, played.collections + 1);
        most = Math.max(most, played.rounds);
      }),
      { numRuns: runs },
    );
    assert.ok(name === "tollgate" ? most === 1 : most > 3, `${most} rounds`);
  });

  test(`L7 ${name}: predicts the outcome of each row of a damaged catalogue, and what is there in the end`, async () => {
    let refused = 0;
    await fc.assert(
      fc.asyncProperty(damagedRich(name === "tollgate" ? 2 : 4), async (given) => {
        await empty();
        const played = await playRounds(standIn, target, await readRich(given));
        assert.deepEqual(played.disagreements, []);
        refused += Number(played.refused > 0);
      }),
      { numRuns: runs * 2 },
    );
    assert.ok(refused > runs / 4, `only in ${refused} of ${runs * 2} anything was refused`);
  });

  test(`L7 ${name}: predicts a second upload onto what the first left`, async () => {
    await fc.assert(
      fc.asyncProperty(rich(), damagedRich(2), async (first, second) => {
        await empty();
        const known = new Known();
        await playRounds(standIn, target, await readRich(first), known);
        // With the ledger, what is there is not made again; on a platform that goes by keys everything comes once more.
        if (name === "tollgate") known.ledger = new Ledger();
        const played = await playRounds(standIn, target, await readRich(second), known);
        assert.deepEqual(played.disagreements, []);
      }),
      { numRuns: Math.ceil(runs / 2) },
    );
  });
}
