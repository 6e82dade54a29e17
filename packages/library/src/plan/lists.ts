/** The reference lists that have to be set up on the platform before files name their entries: which names each needs. */

import type { NeededList, Step } from "./plan.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { compareText } from "../location.js";
import { listedColumns, listNamed, namesListed } from "../target/listed-names.js";
import type { Target } from "../target/target.js";
import { phrase } from "../phrases/phrase.js";

/** The step that sets them up. */
export function listsStep(target: string, lists: readonly NeededList[], number: number): Step {
  return {
    number,
    is: "lists",
    title: phrase("Set up the reference lists"),
    why: phrase("{0} refuses names that are not in its lists.", target),
    lists,
  };
}

type LeftOut = (kind: string, row: number) => boolean;

/** A list whose names a project gives is there: what is missing in it is a finding, and not set up. */
export function neededLists(catalogue: ResolvedCatalogue, target: Target, isLeftOut: LeftOut): NeededList[] {
  const lists = new Map<string, Set<string>>();
  for (const listed of listedColumns(target)) {
    const name = listNamed(listed.rule);
    if (target.has.has(name)) continue;
    const entries = lists.get(name) ?? new Set();
    lists.set(name, entries);
    for (const { kind, row, names } of namesListed(catalogue, listed))
      if (!isLeftOut(kind, row)) for (const entry of names) if (entry !== "") entries.add(entry);
  }
  return [...lists]
    .filter(([, entries]) => entries.size > 0)
    .map(([name, entries]) => ({ name, entries: [...entries].sort(compareText) }));
}
