/** The references of a catalogue as the plan sees them: from which record to which, by which field, how tightly. */

import { referenceFields, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { noReference } from "../catalogue/reference-pool.js";
import type { KindSpec, Dependency } from "../kind.js";

/** A referring field of a root kind: its own, or one of its entries'. Known by `kind.field`, or `kind.entries`. */
export interface PlannedReference {
  readonly name: string;
  readonly kind: string;
  readonly to: string;
  readonly dependency: Dependency;
}

/** All referring fields of the kinds that have records, the containing one of children included. */
export function referenceFieldsOf(catalogue: ResolvedCatalogue): PlannedReference[] {
  return catalogue.kinds.roots.flatMap((kind) => {
    const own = referenceFields(kind).map(({ name, to, dependency }) => ({
      name: `${kind.name}.${name}`,
      kind: kind.name,
      to,
      dependency,
    }));
    const contained =
      kind.of === undefined
        ? []
        : [{ name: `${kind.name}.${kind.of}`, kind: kind.name, to: kind.of, dependency: "containing" as const }];
    const ofEntries = Object.entries(kind.entries ?? {}).flatMap(([entries, embedded]) =>
      referenceFields(catalogue.kinds.get(embedded)).map(({ to, dependency }) => ({
        name: `${kind.name}.${entries}`,
        kind: kind.name,
        to,
        dependency,
      })),
    );
    return [...contained, ...own, ...ofEntries];
  });
}

/** Calls `see` with each pair of rows, in the tables of the field's kind and of what it refers to. */
export function eachReference(
  catalogue: ResolvedCatalogue,
  field: PlannedReference,
  see: (from: number, to: number) => void,
): void {
  const kind: KindSpec = catalogue.kinds.get(field.kind);
  const table = catalogue.table(kind.name);
  const part = field.name.slice(kind.name.length + 1);
  const { target } = catalogue.pool;
  if (part === kind.of) {
    for (let row = 0; row < table.size; row++) see(row, table.parent(row));
    return;
  }
  const embedded = kind.entries?.[part];
  const holder = embedded === undefined ? table : catalogue.table(field.name);
  const fields =
    embedded === undefined
      ? [part]
      : referenceFields(catalogue.kinds.get(embedded)).flatMap((one) => (one.to === field.to ? [one.name] : []));
  for (const name of fields) {
    const column = holder.references.get(name);
    if (!column) continue;
    let owner = -1;
    const seeTarget = (number: number): void => {
      const to = target.get(number);
      if (to !== noReference) see(owner, to);
    };
    for (let row = 0; row < holder.size; row++) {
      owner = embedded === undefined ? row : holder.parent(row);
      column.each(row, seeTarget);
    }
  }
}
