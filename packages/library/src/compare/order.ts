/** Lists in a cell whose entries stand in another order on the platform than intended. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { entryLookup } from "../catalogue/entry-lookup.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import type { CatalogueDifference } from "./differences.js";
import { describedEntry, entryTexts } from "./entries.js";
import type { KindSpec } from "../kind.js";
import { kindOfScope, type Feed } from "../layout/layout.js";
import { namedIn } from "../layout/named-constants.js";
import { none, type Correspondence } from "../match/correspondence.js";
import type { Target } from "../target/target.js";
import { layoutsOf } from "./held-form.js";

/** A column with a list of entries. */
type ListFeed = Extract<Feed, { is: "entry" | "entries" }>;

export function movedEntries(matched: Correspondence, target: Target): CatalogueDifference[] {
  const lists = new Map<string, readonly [kind: KindSpec, feed: ListFeed]>();
  for (const layout of layoutsOf(target))
    for (const { scope, bindings } of layout.columns)
      for (const { feed } of bindings) {
        if (!isList(feed)) continue;
        const kind = kindOfScope(layout, scope);
        if (kind.entries?.[feed.entries])
          lists.set(JSON.stringify([kind.name, feed.entries, feed.constants]), [kind, feed]);
      }
  return [...lists.values()].flatMap(([kind, feed]) => movedIn(matched, kind, feed));
}

const isList = (feed: Feed): feed is ListFeed =>
  (feed.is === "entry" && feed.field.list) || (feed.is === "entries" && feed.list);

const freeFields = (feed: ListFeed): string[] =>
  feed.is === "entry"
    ? [feed.field.name, ...feed.parallel]
    : feed.parts.flatMap((part) => ("field" in part ? [part.field] : []));

function movedIn(matched: Correspondence, kind: KindSpec, feed: ListFeed): CatalogueDifference[] {
  const { own, other } = matched;
  const name = `${kind.name}.${feed.entries}`;
  const [ownTable, otherTable] = [own.table(name), other.table(name)];
  if (ownTable.size === 0) return [];
  const lookUp = (table: ReadonlyTable, catalogue: ResolvedCatalogue) =>
    entryLookup(table, feed.constants, freeFields(feed), namedIn(catalogue, feed.constants, feed.named));
  const [inOwn, inOther] = [lookUp(ownTable, own), lookUp(otherTable, other)];
  const textOf = entryTexts(matched, ownTable, "own", () => "exactly").whole;
  const textOfOther = entryTexts(matched, otherTable, "other", () => "exactly").whole;
  const listed = (catalogue: ResolvedCatalogue, table: ReadonlyTable, rows: readonly number[]) =>
    rows.map((entry) => describedEntry(catalogue, table, entry)).join("; ");
  const found: CatalogueDifference[] = [];
  for (let row = 0; row < own.table(kind.name).size; row++) {
    const there = matched.otherOf(kind.name, row);
    if (there === none || ownTable.countChildren(row) < 2) continue;
    const [a, b] = [inOwn.all(row), inOther.all(there)];
    if (a.length < 2 || a.length !== b.length) continue;
    const isInOrder = a.every((entry, at) => textOf(entry) === textOfOther(b[at]!));
    if (isInOrder || !isSameUnordered(a.map(textOf), b.map(textOfOther))) continue;
    const values = { value: listed(own, ownTable, a), there: listed(other, otherTable, b) };
    const entry = { ownEntry: a[0] ?? none, otherEntry: none, field: undefined };
    found.push({ kind: kind.name, own: row, other: there, entries: feed.entries, ...entry, ...values });
  }
  return found;
}

const isSameUnordered = (own: readonly string[], other: readonly string[]): boolean =>
  [...own].sort().join() === [...other].sort().join();
