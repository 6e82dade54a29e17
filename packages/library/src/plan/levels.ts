/** How deep records of a tree lie: those of a level need no other of it. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { RowSet } from "../catalogue/row-set.js";
import { entryOf } from "../checked.js";
import { eachReference, type PlannedReference } from "./references.js";
import { added, greatest } from "../lists.js";

/** @param fields those with which records of the kind need others of it. @returns the rows of each level, the first on top. */
export function levelsOf(
  catalogue: ResolvedCatalogue,
  rows: readonly number[],
  fields: readonly PlannedReference[],
): readonly (readonly number[])[] {
  const needs = new Map<number, number[]>();
  const isNew = RowSet.of(rows, rows.length);
  for (const field of fields)
    eachReference(catalogue, field, (from, to) => {
      if (isNew.has(from) && isNew.has(to) && from !== to) needs.set(from, added(needs.get(from), to));
    });
  const level = new Map<number, number>();
  // Deep trees need no recursion; a circle, which is an error of its own, stays on its first level.
  for (const row of rows) {
    const path = [row];
    const open = new Set(path);
    while (path.length > 0) {
      const at = path[path.length - 1]!;
      const next = (needs.get(at) ?? []).find((one) => !level.has(one) && !open.has(one));
      if (next !== undefined && !level.has(at)) {
        path.push(next);
        open.add(next);
        continue;
      }
      path.pop();
      if (!level.has(at))
        level.set(
          at,
          greatest(
            (needs.get(at) ?? []).map((one) => level.get(one) ?? -1),
            -1,
          ) + 1,
        );
    }
  }
  const levels: number[][] = [];
  for (const row of rows) (levels[entryOf(level, row)] ??= []).push(row);
  return levels;
}
