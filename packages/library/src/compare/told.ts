/** What an export tells, by the layouts that it is read with: which kinds, which of their fields, which entries. */

import { entryKeyOf } from "../kind.js";
import type { Kinds } from "../kinds.js";
import { kindOfScope, type Column, type Feed, type Layout } from "../layout/layout.js";
import { shownKinds } from "../layout/shown-kinds.js";
import { specsNamed } from "../layout/specs-named.js";
import { boundFields } from "../target/places.js";
import type { Coverage } from "./coverage.js";
import { added } from "../lists.js";

/**
 * What an export tells, from the layouts that it is read with.
 *
 * @param layouts of all files that make up the export.
 * @param isWhole whether each file has all there is of its kind; else it tells of some records only.
 */
export function coverageOf(layouts: readonly Layout[], kinds: Kinds, isWhole = true): Coverage {
  const fields = boundFields(layouts, kinds);
  const withRows = new Set<string>();
  const named = new Set<string>();
  const entries = new Map<string, "all" | "some">();
  const columns = new Map<string, EntryTold[]>();
  for (const layout of layouts) {
    const { link, shape } = layout;
    if (!link) for (const kind of [shape.parent, shape.child]) if (kind) withRows.add(kind.name);
    // Rows of a product and its variants tell which variant is whose.
    if (shape.child) fields.add(`${shape.child.name}.${shape.parent.name}`);
    for (const column of layout.columns)
      for (const { feed } of column.bindings) {
        for (const { to } of specsNamed(feed)) named.add(to);
        if (feed.is === "axis" || feed.is === "axes" || feed.is === "named-axis") named.add("axis").add("value");
        if (feed.is === "entry" || feed.is === "entries")
          for (const kind of shownKinds(layout, column, kinds)) {
            if (kind.entries?.[feed.entries] === undefined) continue;
            const table = `${kind.name}.${feed.entries}`;
            for (const field of Object.keys(feed.constants)) fields.add(`${table}.${field}`);
            const told = entryTold(layout, column, feed, entryKeyOf(kinds.get(kind.entries[feed.entries] ?? "")));
            if (told) columns.set(table, added(columns.get(table), told));
            if (entries.get(table) !== "all") entries.set(table, tellsAll(layout, column, kinds) ? "all" : "some");
          }
      }
  }
  return {
    records: (kind) => (withRows.has(kind) ? (isWhole ? "all" : "some") : named.has(kind) ? "some" : "none"),
    tells: (table, field) => fields.has(`${table}.${field}`),
    entries: (table) => entries.get(table) ?? "none",
    tellsEntry: (table, textOf) =>
      entries.get(table) === "all" || (columns.get(table) ?? []).some((told) => told(textOf)),
  };
}

/** Whether a column tells an entry, by the fields that tell entries apart. */
type EntryTold = (textOf: (field: string) => string | undefined) => boolean;

/** @param key the fields that tell the entries apart. @returns undefined where the column names what an entry refers to. */
function entryTold(
  layout: Layout,
  { scope }: Column,
  feed: Extract<Feed, { is: "entry" | "entries" }>,
  key: readonly string[],
): EntryTold | undefined {
  const lane = scope.is === "lane" ? layout.lanes.find(({ name }) => name === scope.lane) : undefined;
  if (Object.keys({ ...feed.named, ...lane?.named }).length > 0) return undefined;
  const constants = Object.entries({ ...feed.constants, ...lane?.constants });
  // A cell of one entry tells that which has no more to it.
  const isOne = !lane && feed.is === "entry" && !feed.field.list;
  const absent = isOne ? key.filter((field) => !constants.some(([one]) => one === field)) : [];
  return (textOf) =>
    constants.every(([field, word]) => textOf(field) === word) && absent.every((field) => textOf(field) === undefined);
}

/** Whether a column tells every entry of its list, not those alone that have its constants. */
function tellsAll(layout: Layout, { scope, bindings }: Column, kinds: Kinds): boolean {
  return bindings.every(({ feed }) => {
    if (feed.is !== "entry" && feed.is !== "entries") return true;
    const lane = scope.is === "lane" ? layout.lanes.find(({ name }) => name === scope.lane) : undefined;
    const constants = { ...feed.constants, ...lane?.constants };
    const owner = kindOfScope(layout, scope);
    const embedded = owner.entries?.[feed.entries];
    const keys = embedded === undefined ? [] : entryKeyOf(kinds.get(embedded));
    return !keys.some((key) => Object.hasOwn(constants, key));
  });
}
