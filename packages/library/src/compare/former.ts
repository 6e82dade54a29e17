/** Records of the platform that are yours as they were before the project's operations. */

import { none } from "../match/correspondence.js";
import type { FormerRecords } from "../reshape/former.js";
import { sidesOf, type Sides } from "./sides.js";

/** A record of the platform that was one of yours before an operation. */
export interface FormerThere {
  /** What yours was called. */
  readonly was: string;
  /** The keys of those that it became; none where it is left out. */
  readonly became: ReadonlySet<string>;
}

/** By kind: the rows of the platform's records that no record of yours is now, and one was before the operations. */
export type FormerOnPlatform = ReadonlyMap<string, ReadonlyMap<number, FormerThere>>;

/** Looks up what was called otherwise before the operations, as the platform knows its records. */
export function formerOnPlatform(
  { former }: { readonly former?: FormerRecords | undefined },
  { from, there, matched }: Sides,
): FormerOnPlatform {
  const found = new Map<string, Map<number, FormerThere>>();
  if (!former || former.became.size === 0) return found;
  const before = sidesOf({ ...from, catalogue: former.catalogue });
  for (const [kind, became] of former.became) {
    const rows = new Map<number, FormerThere>();
    for (const [was, keys] of became) {
      const row = before.own.table(kind).find(was);
      const other = row === undefined ? none : before.matched.otherOf(kind, row);
      if (other === none || other >= there.table(kind).size || matched.ownOf(kind, other) !== none) continue;
      rows.set(other, { was, became: keys });
    }
    if (rows.size > 0) found.set(kind, rows);
  }
  return found;
}
