/** What a stand-in holds, in the form in which tests compare it: read by the layouts of exports, which are none of the upload. */

import { heldOf, type Changes, type LocatedDifference, type Snapshot, type Target } from "zest-tier";
import { compareHeld, Kinds, unfoldSingles } from "zest-tier/parts";
import { readPlatform } from "#src/platform.js";

export async function snapshotOn(url: string, target: Target): Promise<Snapshot> {
  return heldOf(await readPlatform(url, target, new Kinds()), target);
}

/** Where something else is on a stand-in than the goal of a change. What it begins with in a record that is new does not count. */
export async function differencesOn(
  url: string,
  target: Target,
  { catalogue, isOut }: Changes["goal"],
  before: Changes["before"],
): Promise<readonly LocatedDifference[]> {
  const told = await readPlatform(url, target, new Kinds());
  const held = unfoldSingles(told.catalogue, target).catalogue;
  const isNew = (kind: string, key: string) => {
    const row = before.catalogue.table(kind).find(key);
    return row === undefined || before.isOut(kind, row);
  };
  return compareHeld(catalogue, target, { catalogue: held, isOfPlatform: () => false }, isOut).differences.filter(
    ({ kind, key, field, intended }) => field === undefined || intended !== undefined || !isNew(kind, key),
  );
}
