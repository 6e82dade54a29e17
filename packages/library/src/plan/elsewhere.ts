/** Columns of what an upload does not place: another one does. */

import { entryOf } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { kindOfScope, type Feed, type Layout } from "../layout/layout.js";
import type { Slot } from "../target/adapter/played.js";
import type { Target } from "../target/target.js";
import { carriedReferences } from "./carried.js";
import type { NamedPlacement } from "./placements.js";

/** The columns with the names, and those of the same entries or of the records named; undefined where there are none. */
export function columnsElsewhere(
  { kinds }: ResolvedCatalogue,
  target: Target,
  slot: Slot,
  placed: readonly NamedPlacement[],
  all: readonly NamedPlacement[],
): ReadonlySet<string> | undefined {
  const elsewhere = new Set(
    all.filter((one) => one.updates.length > 0 && !placed.includes(one)).flatMap((one) => one.updates),
  );
  for (const { updates } of placed) for (const update of updates) elsewhere.delete(update);
  const { rules, layouts } = entryOf(target.files, slot.file);
  const isNeeded = (header: string) => rules.get(header)?.required || rules.get(header)?.blank === "refuse";
  const left = carriedReferences(target, slot, kinds).filter(
    (one) => elsewhere.has(one.name) && ![...one.headers].some(isNeeded),
  );
  if (slot.mode === "update" || left.length === 0) return undefined;
  const names = new Set(left.map(({ name }) => name));
  const headers = new Set(left.flatMap((one) => [...one.headers]));
  const isWith = (layout: Layout, kind: string, feed: Feed): boolean => {
    if (feed.is === "entry" || feed.is === "entries") return names.has(`${kind}.${feed.entries}`);
    if (feed.is === "referred") return names.has(`${kind}.${feed.via}`);
    return feed.is === "naming" && headers.has(layout.columns[feed.beside]?.header ?? "");
  };
  const withThem = layouts.flatMap((layout) =>
    layout.columns.flatMap(({ header, scope, bindings }) =>
      bindings.some(({ feed }) => isWith(layout, kindOfScope(layout, scope).name, feed)) ? [header] : [],
    ),
  );
  return new Set([...headers, ...withThem]);
}
