/** Columns of what an upload does not place: another one does. */

import type { KindSpec } from "../kind.js";
import { entryOf } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { kindOfScope, type Feed, type Layout } from "../layout/layout.js";
import type { Slot } from "../target/slot.js";
import type { Target, TargetFile } from "../target/target.js";
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
  const file = entryOf(target.files, slot.file);
  const { layouts } = file;
  if (slot.mode === "update") return undefined;
  const left = carriedReferences(target, slot, kinds).filter((one) => elsewhere.has(one.name));
  const headers = new Set<string>();
  for (const name of new Set(left.map((one) => one.name))) {
    const named = left.filter((one) => one.name === name).flatMap((one) => [...one.headers]);
    const all = [...named, ...layouts.flatMap((layout) => columnsWith(layout, name, named))];
    if (canBeBlank(file, all)) for (const header of all) headers.add(header);
  }
  return headers.size === 0 ? undefined : headers;
}

/** Whether columns may be blank for now: none of them has to be filled, and no column that stays asks for one of them. */
export function canBeBlank({ rules }: TargetFile, headers: readonly string[]): boolean {
  return [...rules].every(([header, rule]) => {
    if (headers.includes(header)) return !rule.required && rule.blank !== "refuse" && rule["needed if"] === undefined;
    return ![rule["together with"], rule["as many as"]].some((one) => headers.includes(one ?? ""));
  });
}

/** Columns that mean nothing without the names: of the same entries, of the records named, of their names in other languages. */
export function columnsWith(layout: Layout, name: string, named: readonly string[]): string[] {
  // What is sold by itself has the columns of what it would contain.
  const isNamed = ({ name: kind, of = kind }: KindSpec, field: string): boolean =>
    name === `${kind}.${field}` || name === `${of}.${field}`;
  const isWith = (kind: KindSpec, feed: Feed): boolean => {
    if (feed.is === "entry" || feed.is === "entries") return isNamed(kind, feed.entries);
    if (feed.is === "referred") return isNamed(kind, feed.via);
    return feed.is === "naming" && named.includes(layout.columns[feed.beside]?.header ?? "");
  };
  return layout.columns.flatMap(({ header, scope, bindings }) =>
    bindings.some(({ feed }) => isWith(kindOfScope(layout, scope), feed)) ? [header] : [],
  );
}
