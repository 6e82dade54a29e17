/** Constants that name records: the property of `product.properties(Voltage).value`, the supplier of `supplies(Sandhopper Glass)`. */

import type { Catalogue, ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { IsNamed } from "../catalogue/entry-lookup.js";
import { noReference, type Met } from "../catalogue/reference-pool.js";
import { inLanguage } from "../field-name.js";
import type { Constants, NamedConstants } from "./layout.js";

/** What an entry lookup asks of a catalogue. */
export function namedIn(catalogue: ResolvedCatalogue, constants: Constants, named: NamedConstants): IsNamed {
  const wanted = new Map(
    Object.entries(named).map(([field, { to, by, lang }]) => {
      const table = catalogue.table(to);
      const own = table.textsOf(inLanguage(by, lang));
      const owners = table.references.get(table.kind.within ?? "");
      return [field, { own, owners, name: constants[field] }] as const;
    }),
  );
  return (field, reference) => {
    const one = wanted.get(field);
    if (one === undefined || reference === noReference) return false;
    const row = catalogue.pool.target.get(reference);
    if (row === noReference) return catalogue.pool.text(reference) === one.name;
    // A column of all records does not name what belongs to one of them.
    return one.own.get(row) === one.name && (one.owners?.first(row) ?? noReference) === noReference;
  };
}

/** The reference that each of them makes. */
export function referencesNamed(
  { pool }: Catalogue,
  constants: Constants,
  named: NamedConstants,
  met: Met,
): (readonly [field: string, reference: number])[] {
  return Object.entries(named).map(([field, spec]) => [
    field,
    pool.intern(pool.specNumber(spec), noReference, constants[field] ?? "", met),
  ]);
}
