/** What a stand-in holds, in the form in which tests compare it: read by the layouts of exports, which are none of the upload. */

import { heldOf, type Changes, type LocatedDifference, type Snapshot, type Target } from "zest-tier";
import { compareHeld, Kinds, unfoldSingles, type SnapshotDifference } from "zest-tier/parts";
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

type Names = Readonly<Record<string, string | null>>;
interface NamedItems {
  readonly items?: readonly {
    readonly traits: readonly Names[];
    readonly codes: readonly { readonly values: readonly Names[] }[];
  }[];
}

/**
 * Differences of axes and values, but for those in a further language of names that items of a stand-in have in several ways there: an
 * export is read into one record for each name.
 */
export async function withoutSeveralNames(
  url: string,
  differences: readonly SnapshotDifference[],
): Promise<SnapshotDifference[]> {
  const { items = [] } = (await (await fetch(`${url}/catalogue`)).json()) as NamedItems;
  const known = new Map<string, string>();
  const several = new Set<string>();
  for (const { traits, codes } of items)
    for (const names of [...traits, ...codes.flatMap(({ values }) => values)]) {
      const [main = "", ...others] = Object.values(names).map((name) => name ?? "");
      const other = JSON.stringify(others);
      if ((known.get(main) ?? other) !== other) several.add(main);
      known.set(main, other);
    }
  const isSame = (one: unknown, other: unknown): boolean =>
    JSON.stringify(one) === JSON.stringify(other) ||
    (Array.isArray(one) && Array.isArray(other) && one[0] === other[0] && several.has(String(one[0])));
  return differences.filter(({ field, intended, actual }) => {
    const isNamed = (field === "values" || field === "axes") && Array.isArray(intended) && Array.isArray(actual);
    return !isNamed || intended.length !== actual.length || !intended.every((one, at) => isSame(one, actual[at]));
  });
}
