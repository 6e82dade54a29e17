/** Lists of entries whose fields run beside each other in columns of their own. */

import type { Column, Feed } from "../layout.js";

/** Tells each list of entries which others run beside it: those of the same record, collection and constants. */
export function withParallels(columns: readonly Column[]): Column[] {
  const groups = new Map<string, string[][]>();
  const parallelOf = ({ scope }: Column, target: Feed): string[] | undefined => {
    if (target.is !== "entry" || !target.field.list) return undefined;
    const key = JSON.stringify([scope, target.entries, target.constants]);
    const known = groups.get(key) ?? [];
    groups.set(key, known);
    // Two lists of the same field are not beside each other, but one after the other.
    let group = known.find((fields) => !fields.includes(target.field.name));
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
