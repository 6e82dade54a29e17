/** The reference lists that have to be set up on the platform before files name their entries: which names each needs. */

import { firstOf } from "../checked.js";
import { fieldOfColumn } from "../field-name.js";
import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/table.js";
import { fieldOf } from "../kind.js";
import { kindOfScope, type Column, type Layout, type Feed } from "../layout/layout.js";
import { pathOf } from "../layout/write-references.js";
import { entryLookup } from "../catalogue/entry-lookup.js";
import { compareText } from "../location.js";
import type { Step } from "./plan.js";
import type { ColumnRule } from "../target/schema.js";
import type { Target } from "../target/target.js";
import { phrase } from "../phrases/phrase.js";

export interface NeededList {
  readonly name: string;
  /** By code units. */
  readonly entries: readonly string[];
}

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
  const { feed: target } = firstOf(column.bindings);
  for (const { name } of [kind, ...above]) {
    const table = catalogue.table(name);
    const of = readerOf(catalogue, table, target, typeof rule === "string" ? "/" : rule["joined by"]);
    for (let row = 0; of && row < table.size; row++) if (!isLeftOut(name, row)) yield* of(row);
  }
}

/** The names that a record's cell holds. */
function readerOf(
  catalogue: ResolvedCatalogue,
  table: ReadonlyTable,
  feeds: Feed,
  joinedBy: string,
): ((row: number) => Iterable<string>) | undefined {
  if (feeds.is === "text") {
    const field = fieldOf(table.kind, fieldOfColumn(feeds.field));
    return field && ((row) => [table.text(feeds.field, row)].filter((text) => typeof text === "string"));
  }
  if (feeds.is === "reference") {
    if (!fieldOf(table.kind, feeds.field)) return undefined;
    const { to, lang = "en", inTree } = feeds.spec;
    const named = catalogue.table(to);
    // A node without a name has no place in a list.
    const nameOf = (target: number): string => {
      if (!inTree) return named.text(`name@${lang}`, target) ?? "";
      const path = pathOf(catalogue, named, target, lang);
      return path.includes("") ? "" : path.join(joinedBy);
    };
    return (row) => targetsOf(catalogue, table, feeds.field, row).map(nameOf);
  }
  if ((feeds.is !== "entries" && feeds.is !== "entry") || !table.kind.entries?.[feeds.entries]) return undefined;
  const entries = catalogue.table(`${table.name}.${feeds.entries}`);
  if (feeds.is === "entry") {
    // A column for an entry of a list: its name is the constant.
    const [constant] = Object.values(feeds.constants);
    const fits = entryLookup(entries, feeds.constants, [feeds.field.name]).has;
    return (row) => (constant !== undefined && entries.findChild(row, fits) >= 0 ? [constant] : []);
  }
  const parts = feeds.parts.flatMap((part) => (part.is === "reference" ? [part] : []));
  return (row) =>
    [...entries.childrenOf(row)].flatMap((entry) =>
      parts.flatMap(({ field, spec }) =>
        targetsOf(catalogue, entries, field, entry).map(
          (target) => catalogue.table(spec.to).text(`name@${spec.lang ?? "en"}`, target) ?? "",
        ),
      ),
    );
}
