/** What becomes of an entry on the platform that a row does not name, when its list is written. */

import { kindOfScope, type Layout } from "../layout/layout.js";
import type { ColumnRule } from "../target/schema.js";
import type { Target } from "../target/target.js";

/** `taken out`: the list is replaced. `stays`: entries are only ever put in. `left`: a column has it, and a blank cell leaves or makes it. */
export type UnnamedEntry = "taken out" | "stays" | "left";

/** @param table `kind.entries`. @param textOf a field of the entry. */
export type FateOfUnnamed = (table: string, textOf: (field: string) => string | undefined) => UnnamedEntry;

type Constants = Readonly<Record<string, string>>;

/** Where a blank cell leaves what is there, or has the platform make it. */
export const staysWhereBlank: ReadonlySet<ColumnRule["blank"]> = new Set(["leave", "generate", "inherit"] as const);

export function unnamedEntries({ files }: Target): FateOfUnnamed {
  const added = new Set<string>();
  const left = new Map<string, Constants[]>();
  for (const { entryKey, layouts, rules, importing } of files.values())
    for (const layout of layouts) {
      if (entryKey.length > 0)
        for (const { collection } of layout.lanes) added.add(`${layout.shape.parent.name}.${collection}`);
      if (importing.lists === "add") for (const table of listsOfEntries(layout)) added.add(table);
      for (const { header, scope, bindings } of layout.columns)
        for (const { feed } of bindings) {
          const isLeft = staysWhereBlank.has(rules.get(header)?.blank ?? "clear");
          if (feed.is !== "entry" || feed.field.list || scope.is === "lane" || !isLeft) continue;
          const table = `${kindOfScope(layout, scope).name}.${feed.entries}`;
          left.set(table, [...(left.get(table) ?? []), feed.constants]);
        }
    }
  return (table, textOf) => {
    const fits = (constants: Constants) => Object.entries(constants).every(([field, word]) => textOf(field) === word);
    if ((left.get(table) ?? []).some(fits)) return "left";
    return added.has(table) ? "stays" : "taken out";
  };
}

/** The collections whose entries stand in lists: rows of a lane, or cells. */
function* listsOfEntries(layout: Layout): Generator<string> {
  const { parent, child = parent } = layout.shape;
  for (const { holds, of, collection } of layout.lanes)
    if (holds === "entries") yield `${(of === "parent" ? parent : child).name}.${collection}`;
  for (const { scope, bindings } of layout.columns)
    for (const { feed } of scope.is === "lane" ? [] : bindings)
      if ((feed.is === "entry" && feed.field.list) || (feed.is === "entries" && feed.list))
        yield `${kindOfScope(layout, scope).name}.${feed.entries}`;
}
