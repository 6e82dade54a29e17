/** What the columns of a file name: when it is looked up, what becomes of names that no record has, and what that asks of the order. */

import type { Kinds } from "../kinds.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import type { Feed, Layout } from "../layout/layout.js";
import { specsNamed } from "../layout/specs-named.js";
import { shownKinds } from "../layout/shown-kinds.js";
import type { Header } from "../nominal.js";
import type { ColumnRule, LookUp, UnknownName } from "./schema.js";
import { hasRowsOf } from "./row-form.js";
import type { Demand } from "./slot.js";

/** What an importer does with names where their column does not say it. */
export interface NamesUsually {
  readonly "refusal costs": "row" | "record" | "file";
  readonly "looked up": LookUp;
  readonly "unknown names": UnknownName;
}

/** How a column's names are treated. */
export interface NamesIn {
  readonly lookedUp: LookUp;
  readonly unknown: UnknownName;
}

export const namesIn = (rule: ColumnRule | undefined, usual: NamesUsually): NamesIn => ({
  lookedUp: rule?.["looked up"] ?? usual["looked up"],
  // What is not in a list of the platform is refused, whatever becomes of other names.
  unknown: rule?.unknown ?? (rule?.["in list"] === undefined ? usual["unknown names"] : "refuse"),
});

/** A file as its columns name records. */
export interface NamingFile {
  readonly layouts: readonly Layout[];
  readonly rules: ReadonlyMap<Header, ColumnRule>;
  readonly usual: NamesUsually;
}

const byStrictness: readonly Demand[] = ["anywhere", "same file", "earlier row", "earlier file", "earlier step"];

/** By reference, `product.categories`: what it asks of the order. What is named by ids is not among them: these have to be collected first. */
export function demandsOf(files: readonly NamingFile[], kinds: Kinds): Map<string, Demand> {
  const demands = new Map<string, Demand>();
  const hasRows = (kind: string): boolean => files.some(({ layouts }) => hasRowsOf(kind, layouts));
  const carried = new Set<string>();
  const ask = (name: string, demand: Demand): void => {
    const known = demands.get(name);
    if (known === undefined || byStrictness.indexOf(known) < byStrictness.indexOf(demand)) demands.set(name, demand);
  };
  for (const { layouts, rules, usual } of files)
    for (const layout of layouts) {
      const { child } = layout.shape;
      if (child?.of !== undefined && !layout.link) {
        carried.add(`${child.name}.${child.of}`);
        ask(`${child.name}.${child.of}`, "same file");
      }
      for (const column of layout.columns)
        for (const { feed } of column.bindings)
          for (const kind of shownKinds(layout, column, kinds))
            for (const { name, by, to } of kindOfFeed(feed).refersTo(feed, kind, kinds)) {
              carried.add(name);
              if (by === "id") continue;
              const isOwn = by === "key" && (to === layout.shape.parent.name || to === child?.name);
              ask(name, demandOfNames(feed, rules.get(column.header), usual, !isOwn && hasRows(to)));
            }
    }
  // What no column names comes along with the records that rows name.
  for (const kind of kinds.roots)
    for (const name of referringFields(kind.name, kinds)) if (!carried.has(name)) demands.set(name, "anywhere");
  return demands;
}

function referringFields(kind: string, kinds: Kinds): string[] {
  const { fields, entries, of } = kinds.get(kind);
  const own = fields.flatMap(({ name, reference }) => (reference ? [name] : []));
  return [...own, ...Object.keys(entries ?? {}), ...(of === undefined ? [] : [of])].map((name) => `${kind}.${name}`);
}

/** @param hasRows whether what is named has rows of its own: a name that makes a record has less of it than these, and comes after them. */
function demandOfNames(feed: Feed, rule: ColumnRule | undefined, usual: NamesUsually, hasRows: boolean): Demand {
  // Axes and their values exist as soon as they are named; so does what a list of the platform has.
  if (specsNamed(feed).length === 0) return "anywhere";
  const { lookedUp, unknown } = namesIn(rule, usual);
  if (unknown === "create" || rule?.["in list"] !== undefined) return hasRows ? "earlier row" : "anywhere";
  if (lookedUp === "after the import") return "anywhere";
  if (lookedUp === "at the end of the file") return "same file";
  return lookedUp === "before the file" ? "earlier file" : "earlier row";
}
