/** Entries whose fields stand in columns of their own: one entry of several columns, or lists that run beside each other. */

import type { Column, Feed } from "../layout.js";

/** Tells each field of entries which others make entries with it: those of the same record, collection and constants. */
export function withParallels(columns: readonly Column[]): Column[] {
  const groups = new Map<string, string[][]>();
  const parallelOf = ({ scope }: Column, target: Feed): string[] | undefined => {
    if (scope.is === "lane") return undefined;
    const own = ownEntry(target);
    if (!own) return undefined;
    const { key: ofEntry, field, list } = own;
    const key = JSON.stringify([scope, ofEntry, list]);
    const known = groups.get(key) ?? [];
    groups.set(key, known);
    // Two lists of the same field are not beside each other, but one after the other.
    let group = known.find((fields) => !list || !fields.includes(field));
    if (!group) known.push((group = []));
    group.push(field);
    return group;
  };
  return columns.map((column) => ({
    ...column,
    bindings: column.bindings.map((binding) => {
      const parallel = parallelOf(column, binding.feed);
      return parallel ? { ...binding, feed: withParallel(binding.feed, parallel) } : binding;
    }),
  }));
}

/** What a feed holds of an entry, and which entry it is. */
function ownEntry(
  feed: Feed,
): { readonly key: readonly unknown[]; readonly field: string; readonly list: boolean } | undefined {
  if (feed.is === "entry")
    return { key: [feed.entries, feed.constants], field: feed.field.name, list: feed.field.list };
  if (feed.is !== "referred" || !feed.entry) return undefined;
  const { entries, constants } = feed.entry;
  // Each of the records that are referred to has an entry of its own.
  return { key: [feed.via, feed.node, entries, constants], field: feed.field, list: false };
}

function withParallel(feed: Feed, parallel: readonly string[]): Feed {
  if (feed.is === "entry") return { ...feed, parallel };
  return feed.is === "referred" && feed.entry ? { ...feed, entry: { ...feed.entry, parallel } } : feed;
}
