/** Whether an entry is one of those that a column or lane is for: it has the constants, be they texts or names of records. */

import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import type { Constants, NamedConstants } from "../layout/layout.js";

export interface Fixed {
  readonly constants: Constants;
  readonly named: NamedConstants;
}

export function hasConstants(
  catalogue: ResolvedCatalogue,
  entries: ReadonlyTable,
  entry: number,
  { constants, named }: Fixed,
): boolean {
  return Object.entries(constants).every(([field, value]) => {
    const spec = named[field];
    if (!spec) return entries.text(field, entry) === value;
    const to = catalogue.table(spec.to);
    const column = spec.lang === undefined ? spec.by : `${spec.by}@${spec.lang}`;
    return targetsOf(catalogue, entries, field, entry).some((row) => to.text(column, row) === value);
  });
}
