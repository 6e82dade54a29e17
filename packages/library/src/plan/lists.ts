/** The reference lists that have to be set up on the platform before files name their entries: which names each needs. */

import type { NeededList, Step } from "./plan.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import { firstOf } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { kindOfScope, type Column, type Layout } from "../layout/layout.js";
import { compareText } from "../location.js";
import type { ColumnRule } from "../target/schema.js";
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

export function neededLists(catalogue: ResolvedCatalogue, target: Target, isLeftOut: LeftOut): NeededList[] {
  const lists = new Map<string, Set<string>>();
  for (const { layouts, rules } of target.files.values())
    for (const layout of layouts)
      for (const column of layout.columns) {
        const rule = rules.get(column.header)?.["in list"];
        if (rule === undefined) continue;
        const name = typeof rule === "string" ? rule : rule.name;
        const entries = lists.get(name) ?? new Set();
        lists.set(name, entries);
        for (const entry of namesIn(catalogue, layout, column, rule, isLeftOut)) if (entry !== "") entries.add(entry);
      }
  return [...lists]
    .filter(([, entries]) => entries.size > 0)
    .map(([name, entries]) => ({ name, entries: [...entries].sort(compareText) }));
}

function* namesIn(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  column: Column,
  rule: NonNullable<ColumnRule["in list"]>,
  isLeftOut: LeftOut,
): Generator<string> {
  const kind = kindOfScope(layout, column.scope);
  const above = kind.of === undefined ? [] : [catalogue.kinds.get(kind.of)].filter((one) => one.single);
  const { feed } = firstOf(column.bindings);
  for (const { name } of [kind, ...above]) {
    const table = catalogue.table(name);
    const of = kindOfFeed(feed).names(feed, catalogue, table, typeof rule === "string" ? "/" : rule["joined by"]);
    for (let row = 0; of && row < table.size; row++) if (!isLeftOut(name, row)) yield* of(row);
  }
}
