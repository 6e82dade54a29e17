/** Entries whose fields stand in columns of their own: one entry of several columns, or lists that run beside each other. */

import type { Column, Feed } from "../layout.js";

/** Tells each field of entries which others make entries with it: those of the same record, collection and constants. */
export function withParallels(columns: readonly Column[]): Column[] {
  const groups = new Map<string, string[][]>();
  const parallelOf = ({ scope }: Column, target: Feed): string[] | undefined => {
    if (target.is !== "entry" || scope.is === "lane") return undefined;
    const { list } = target.field;
    const key = JSON.stringify([scope, target.entries, target.constants, list]);
    const known = groups.get(key) ?? [];
    groups.set(key, known);
    // Two lists of the same field are not beside each other, but one after the other.
    let group = known.find((fields) => !list || !fields.includes(target.field.name));
    if (!group) known.push((group = []));
    group.push(target.field.name);
    return group;
  };
  return columns.map((column) => ({
    ...column,
    bindings: column.bindings.map((binding) => {
      const parallel = parallelOf(column, binding.feed);
      return parallel ? { ...binding, feed: { ...binding.feed, parallel } as Feed } : binding;
    }),
  }));
}
