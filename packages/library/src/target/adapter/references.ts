/** What the columns of a file name: when it is looked up, what becomes of names that no record has, and what that asks of the order. */

import { formsOf, type By, type ReferenceSpec } from "../../catalogue/reference-pool.js";
import type { Kinds } from "../../kinds.js";
import { kindOfFeed } from "../../layout/bindings/feed-kinds.js";
import type { Column, Feed, Layout } from "../../layout/layout.js";
import { specsNamed } from "../../layout/specs-named.js";
import { shownKinds } from "../../layout/shown-kinds.js";
import type { Header } from "../../nominal.js";
import { phrase, type Text } from "../../phrases/phrase.js";
import type { ColumnRule, LookUp, UnknownName } from "../schema.js";
import { hasRowsOf, playedLookUps, rowFormOf } from "./importer.js";
import type { Demand } from "./played.js";

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

/** The rehearsal keeps what is named by name as it is: there it exists as soon as it is named. */
function playedFor(spec: ReferenceSpec, feed: Feed, layout: Layout, isListed: boolean): UnknownName | undefined {
  const forms = formsOf(spec);
  const [first] = forms;
  if (isListed) return "refuse";
  if (first === "name") return forms.length === 1 ? "create" : undefined;
  if (rowFormOf(layout) === "grouped") return forms.join() === "key" && feed.is === "entry" ? "leave out" : undefined;
  // A variant of a product's rows goes by its code; wherever rows are records by themselves they go by key.
  const isByCode = (form: By) => form === "code" && rowFormOf(layout) !== "own row";
  return forms.includes("name") || forms.some(isByCode) ? undefined : "refuse";
}

/** When the rehearsal can look such names up: ids at once, all others of a file at the same time. */
function lookUpsOf(spec: ReferenceSpec, layout: Layout, usual: NamesUsually): readonly LookUp[] {
  if (formsOf(spec).join() === "id") return ["as rows arrive"];
  const all = playedLookUps(rowFormOf(layout), usual);
  const same = all.filter((one) => one === usual["looked up"]);
  return same.length > 0 ? same : all;
}

/** What the rehearsal of a change cannot play of a column's names. */
export function unplayedNames(
  name: string,
  layout: Layout,
  { header, bindings }: Column,
  rule: ColumnRule | undefined,
  usual: NamesUsually,
): { readonly word: "looked up" | "unknown" | undefined; readonly problem: Text } | undefined {
  const { lookedUp, unknown } = namesIn(rule, usual);
  const specs = bindings.flatMap(({ feed }) => specsNamed(feed).map((spec) => ({ feed, spec })));
  for (const { feed, spec } of specs) {
    const plays = playedFor(spec, feed, layout, rule?.["in list"] !== undefined);
    if (plays === undefined)
      return {
        word: undefined,
        problem: phrase("{0}: changes with names by {1} cannot be rehearsed yet", name, formsOf(spec).join(" or ")),
      };
    const isLookedUp = plays !== "create" && rule?.["in list"] === undefined;
    const lookUps = lookUpsOf(spec, layout, usual);
    if (isLookedUp && !lookUps.includes(lookedUp)) {
      const only = lookUps.join(" | ");
      return {
        word: "looked up",
        problem: phrase(
          '{0}: changes with "{1}: {2}" cannot be rehearsed yet, only with "{3}"',
          header,
          "looked up",
          lookedUp,
          only,
        ),
      };
    }
    if (plays !== unknown)
      return {
        word: "unknown",
        problem: phrase(
          '{0}: changes with "{1}: {2}" cannot be rehearsed yet, only with "{3}"',
          header,
          "unknown",
          unknown,
          plays,
        ),
      };
  }
  return undefined;
}

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
