/** What records were before the operations of a project: a platform may still have them as that. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ExplainedFields } from "./field-balance.js";

/** The catalogue before the operations, and what became of its records. */
export interface FormerRecords {
  readonly catalogue: ResolvedCatalogue;
  /** By kind: keys then, and the keys that they became. Of a record that kept its key nothing is listed. */
  readonly became: ReadonlyMap<string, ReadonlyMap<string, ReadonlySet<string>>>;
}

/** Follows records through several operations, in their order. */
export function formerRecords(
  catalogue: ResolvedCatalogue,
  operations: readonly { readonly records: ExplainedFields["records"] }[],
): FormerRecords {
  const became = new Map<string, Map<string, Set<string>>>();
  for (const { records } of operations)
    for (const [kind, changes] of records) {
      const known = became.get(kind) ?? new Map<string, Set<string>>();
      became.set(kind, known);
      const madeHere = new Set([...known.values()].flatMap((keys) => [...keys]));
      for (const keys of known.values())
        for (const key of [...keys]) {
          const now = changes.get(key);
          if (!now) continue;
          keys.delete(key);
          for (const one of now) keys.add(one);
        }
      for (const [key, now] of changes) if (!madeHere.has(key)) known.set(key, new Set(now));
    }
  for (const keys of became.values()) for (const [key, now] of keys) if (now.has(key)) keys.delete(key);
  return { catalogue, became };
}
