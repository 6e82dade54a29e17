/** What a stand-in holds, in the form in which tests compare it: read by the layouts of exports, which are none of the upload. */

import {
  type Changes,
  type HeldCatalogue,
  type LocatedDifference,
  type PlatformCatalogue,
  type ResolvedCatalogue,
  type Target,
} from "zest-tier";
import { compareHeld, Kinds, unfoldSingles } from "zest-tier/parts";
import { readPlatform } from "#src/platform.js";

export const toldOn = (url: string, target: Target): Promise<PlatformCatalogue> =>
  readPlatform(url, target, new Kinds());

/**
 * Every difference of what one platform has from another, what it put there by itself among them. What is sold by itself is compared as a
 * product with one version: which of them are is known from what is intended alone.
 */
export function differencesOf(
  own: ResolvedCatalogue,
  there: ResolvedCatalogue,
  target: Target,
): readonly LocatedDifference[] {
  const unfolded = (catalogue: ResolvedCatalogue) => unfoldSingles(catalogue, target).catalogue;
  const held: HeldCatalogue = { catalogue: unfolded(there), isOfPlatform: () => false };
  // The codes are those of versions.
  return compareHeld(unfolded(own), target, held, () => false).differences.filter(
    ({ kind, field }) => kind !== "product" || field !== "code",
  );
}

/** Where something else is on a stand-in than the goal of a change. What it begins with in a record that is new does not count. */
export async function differencesOn(
  url: string,
  target: Target,
  { catalogue, isOut }: Changes["goal"],
  before: Changes["before"],
): Promise<readonly LocatedDifference[]> {
  const told = await toldOn(url, target);
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
 * Differences, but for those in a further language of names that items of a stand-in have in several ways there: an export is read into one
 * record for each name.
 */
export async function withoutSeveralNames(
  url: string,
  differences: readonly LocatedDifference[],
): Promise<readonly LocatedDifference[]> {
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
  // `Size/S0 (2)` is another S0 of Size.
  const nameIn = (key: string) => key.replace(/ \(\d+\)$/, "").replace(/^.*\//, "");
  return differences.filter(
    ({ kind, key, field }) =>
      (kind !== "axis" && kind !== "value") || !field?.startsWith("name@") || !several.has(nameIn(key)),
  );
}
