/** Why a record is to have what it has in a field: what the sources say is written, what the platform does by itself is not. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { fieldOfColumn } from "../field-name.js";

/**
 * Why a record has what it has in a field. `source`: the sources say it, or a rule makes it of them. `inherited`: what contains the record has it. `default`: the platform begins
 * with it. `generated`: the platform makes it.
 */
export type Ground = "source" | "inherited" | "default" | "generated";

/** Works out why a record has what it has in a field. @param ofThePlatform what the platform does by itself, by `kind.field`. @returns undefined where nothing makes the field have anything. */
export function groundOf(
  catalogue: ResolvedCatalogue,
  { table, row }: { readonly table: ReadonlyTable; readonly row: number },
  field: string,
  ofThePlatform: ReadonlyMap<string, "default" | "generated">,
): Ground | undefined {
  if (isSaid(table, row, field)) return "source";
  const { of, name, fields } = table.kind;
  const spec = fields.find((one) => one.name === fieldOfColumn(field));
  const above = of === undefined || spec?.own ? undefined : catalogue.table(of);
  if (above && table.parent(row) >= 0 && isSaid(above, table.parent(row), field)) return "inherited";
  return ofThePlatform.get(`${name}.${field}`);
}

/** Whether a record has something in a field by itself, or is to have nothing in it. */
function isSaid(table: ReadonlyTable, row: number, field: string): boolean {
  const name = fieldOfColumn(field);
  const spec = table.kind.fields.find((one) => one.name === name);
  if (spec?.reference) return (table.references.get(name)?.first(row) ?? -1) >= 0;
  return table.text(field, row) !== undefined;
}
