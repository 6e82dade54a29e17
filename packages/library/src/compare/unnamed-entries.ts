/** What becomes of an entry on the platform that a row does not name, when its list is written. */

import { kindOfScope } from "../layout/layout.js";
import type { Target } from "../target/target.js";

/** `taken out`: the list is replaced. `stays`: entries are only ever put in. `left`: a column has it, and a blank cell leaves it. */
export type UnnamedEntry = "taken out" | "stays" | "left";

/** @param table `kind.entries`. @param textOf a field of the entry. */
export type FateOfUnnamed = (table: string, textOf: (field: string) => string | undefined) => UnnamedEntry;

type Constants = Readonly<Record<string, string>>;

export function unnamedEntries({ files }: Target): FateOfUnnamed {
  const added = new Set<string>();
  const left = new Map<string, Constants[]>();
  for (const { entryKey, layouts, rules } of files.values())
    for (const layout of layouts) {
      if (entryKey.length > 0)
        for (const { collection } of layout.lanes) added.add(`${layout.shape.parent.name}.${collection}`);
      for (const { header, scope, bindings } of layout.columns)
        for (const { feed } of bindings) {
          if (feed.is !== "entry" || feed.field.list || scope.is === "lane" || rules.get(header)?.blank !== "leave")
            continue;
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
