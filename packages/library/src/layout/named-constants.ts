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
      const own = catalogue.table(to).textsOf(inLanguage(by, lang));
      return [field, { own, name: constants[field] }] as const;
    }),
  );
  return (field, reference) => {
    const one = wanted.get(field);
    if (one === undefined || reference === noReference) return false;
    const row = catalogue.pool.target.get(reference);
    return row === noReference ? catalogue.pool.text(reference) === one.name : one.own.get(row) === one.name;
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
