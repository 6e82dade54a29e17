/** What the rows of a slot state for other records: each referring field that a column shows, how it names them, and what that asks of the order. */

import { entryOf } from "../checked.js";
import type { By } from "../catalogue/reference-pool.js";
import type { Dependency } from "../kind.js";
import type { Kinds } from "../kinds.js";
import type { NamedReference } from "../layout/bindings/feed-kind.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import type { Layout } from "../layout/layout.js";
import { shownKinds } from "../layout/shown-kinds.js";
import type { Demand, Slot } from "../target/slot.js";
import type { Target } from "../target/target.js";

export interface CarriedReference extends NamedReference {
  readonly kind: string;
  readonly headers: ReadonlySet<string>;
}

/** What each tie asks for where the target does not say. */
export const usualDemands: Readonly<Record<Dependency, Demand>> = {
  containing: "earlier row",
  required: "earlier row",
  linking: "anywhere",
};

/** Ids have to be given out, and collected, before a row can name them. */
export function demandOf(
  target: Target,
  { name, by, dependency }: Pick<CarriedReference, "name" | "dependency"> & { readonly by?: By },
): Demand {
  return by === "id" ? "earlier step" : (target.demands.get(name) ?? usualDemands[dependency]);
}

/** The headers that a slot writes. */
export function slotHeaders(layout: Layout, slot: Slot): ReadonlySet<string> {
  return new Set(slot.columns ?? layout.columns.map((column) => column.header));
}

export function carriedReferences(target: Target, slot: Slot, kinds: Kinds): CarriedReference[] {
  const found = new Map<string, CarriedReference & { readonly headers: Set<string> }>();
  for (const layout of entryOf(target.files, slot.file).layouts) {
    const written = slotHeaders(layout, slot);
    for (const column of layout.columns) {
      if (!written.has(column.header)) continue;
      for (const { feed } of column.bindings)
        for (const kind of shownKinds(layout, column, kinds))
          for (const one of kindOfFeed(feed).refersTo(feed, kind, kinds)) {
            const key = `${one.name} ${one.to} ${one.by}`;
            const known = found.get(key);
            if (known) known.headers.add(column.header);
            else found.set(key, { ...one, kind: kind.name, headers: new Set([column.header]) });
          }
    }
  }
  return [...found.values()];
}
