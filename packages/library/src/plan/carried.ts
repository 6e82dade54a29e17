/** What the rows of a slot state for other records: each referring field that a column shows, how it names them, and what that asks of the order. */

import { entryOf, present } from "../checked.js";
import { formsOf, type By, type ReferenceSpec } from "../catalogue/reference-pool.js";
import { fieldNamed, referenceOf, fieldOf, type Kinds, type KindSpec, type Dependency } from "../kind.js";
import { kindOfScope, type Column, type Layout, type Feed } from "../layout/layout.js";
import type { Demand, Slot } from "../target/schema.js";
import type { Target } from "../target/target.js";

export interface CarriedReference {
  /** `kind.field`, or `kind.entries`. */
  readonly name: string;
  readonly kind: string;
  readonly to: string;
  readonly by: By;
  readonly dependency: Dependency;
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
  return target.demands.get(name) ?? (by === "id" ? "earlier step" : usualDemands[dependency]);
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
      for (const { feed: feeds } of column.bindings)
        for (const kind of shownKinds(layout, column, kinds))
          for (const one of namedBy(feeds, kind, kinds)) {
            const key = `${one.name} ${one.to} ${one.by}`;
            const known = found.get(key);
            if (known) known.headers.add(column.header);
            else found.set(key, { ...one, kind: kind.name, headers: new Set([column.header]) });
          }
    }
  }
  return [...found.values()];
}

/** A record that is complete without children shows its own fields in the columns of children. */
export function shownKinds(layout: Layout, column: Column, kinds: Kinds): KindSpec[] {
  const kind = kindOfScope(layout, column.scope);
  const above = kind.of === undefined ? undefined : kinds.get(kind.of);
  return above?.single && layout.shape.is !== "flat" ? [kind, above] : [kind];
}

/** What can be named in several forms can be named in the last of them whenever it is there. */
function lastForm(spec: ReferenceSpec): By {
  return present(formsOf(spec).at(-1));
}

type Named = Omit<CarriedReference, "kind" | "headers">;

function namedBy(feeds: Feed, kind: KindSpec, kinds: Kinds): Named[] {
  switch (feeds.is) {
    case "reference": {
      const by = lastForm(feeds.spec);
      const field = fieldOf(kind, feeds.field)?.reference;
      const other = field?.otherwise === undefined ? undefined : referenceOf(fieldNamed(kind, field.otherwise));
      return [
        ...(field ? [{ name: `${kind.name}.${feeds.field}`, to: field.to, by, dependency: field.dependency }] : []),
        ...(other
          ? [
              {
                name: `${kind.name}.${present(present(field).otherwise)}`,
                to: other.to,
                by,
                dependency: other.dependency,
              },
            ]
          : []),
      ];
    }
    case "container":
      return kind.of === undefined
        ? []
        : [{ name: `${kind.name}.${kind.of}`, to: kind.of, by: feeds.spec.by, dependency: "containing" }];
    case "axis":
    case "named-axis": {
      const name = feeds.holds === "name" || feeds.holds === "values" ? "axes" : "values";
      const field = fieldOf(kind, name)?.reference;
      return field ? [{ name: `${kind.name}.${name}`, to: field.to, by: "name", dependency: field.dependency }] : [];
    }
    case "entry":
      return feeds.field.is === "reference"
        ? ofEntry(kind, feeds.entries, feeds.field.name, lastForm(feeds.field.spec), kinds)
        : [];
    case "entries":
      return feeds.parts.flatMap((part) =>
        part.is === "reference" ? ofEntry(kind, feeds.entries, part.field, lastForm(part.spec), kinds) : [],
      );
    default:
      return [];
  }
}

function ofEntry(kind: KindSpec, entries: string, field: string, by: By, kinds: Kinds): Named[] {
  const embedded = kind.entries?.[entries];
  const reference = embedded === undefined ? undefined : fieldOf(kinds.get(embedded), field)?.reference;
  if (!reference) return [];
  const name = `${kind.name}.${entries}`;
  const own: Named = { name, to: reference.to, by, dependency: reference.dependency };
  if (reference.otherwise === undefined) return [own];
  const other = referenceOf(fieldNamed(kinds.get(present(embedded)), reference.otherwise));
  return [own, { name, to: other.to, by, dependency: other.dependency }];
}
