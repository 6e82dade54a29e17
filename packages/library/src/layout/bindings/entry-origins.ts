/** Where the cells of entries come from. */

import type { ResolvedCatalogue } from "../../catalogue/catalogue.js";
import { entryLookup } from "../../catalogue/entry-lookup.js";
import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import { firstOf } from "../../checked.js";
import { fieldOfColumn } from "../../field-name.js";
import { entryKeyOf, fieldOf } from "../../kind.js";
import type { Constants, NamedConstants } from "../layout.js";
import { namedIn } from "../named-constants.js";
import type { CellOrigin, WrittenCell } from "./feed-kind.js";

interface ShownEntries {
  readonly entries: string;
  readonly constants: Constants;
  readonly named: NamedConstants;
  /** The fields that the cell shows. */
  readonly fields: readonly string[];
  /** What may differ between the entries that it shows. */
  readonly free: readonly string[];
}

/** The entries of the record that a cell shows, else those of what contains it. */
export function entryOrigins(shown: ShownEntries, cell: WrittenCell): CellOrigin[] {
  const { catalogue, table, row } = cell;
  const own = originsIn(shown, cell, table, row);
  if (own.length > 0) return own;
  const above = table.kind.of;
  if (above === undefined || table.parent(row) < 0) return [];
  return originsIn(shown, cell, catalogue.table(above), table.parent(row));
}

function originsIn(
  { entries: name, constants, named, fields, free }: ShownEntries,
  { catalogue, column, nth }: WrittenCell,
  owners: ReadonlyTable,
  owner: number,
): CellOrigin[] {
  if (owners.kind.entries?.[name] === undefined) return [];
  const entries = catalogue.table(`${owners.name}.${name}`);
  const all = [...entries.childrenOf(owner)];
  const isLane = column.scope.is === "lane";
  const { has } = entryLookup(entries, constants, free, namedIn(catalogue, constants, named));
  const fitting = isLane ? all.slice(nth, nth + 1) : all.filter(has);
  return fitting.flatMap((entry) =>
    fields.flatMap((field) => (isSaid(entries, entry, field) ? [entryOrigin(catalogue, entries, entry, field)] : [])),
  );
}

/** Where a field of an entry comes from. */
function entryOrigin(catalogue: ResolvedCatalogue, entries: ReadonlyTable, entry: number, field: string): CellOrigin {
  const word = entries.text(firstOf(entryKeyOf(entries.kind)), entry) ?? "";
  const name = `${entries.name}${word === "" ? "" : `(${word})`}.${field}`;
  return { field: name, location: catalogue.location(entries, entry, field) };
}

function isSaid(entries: ReadonlyTable, entry: number, field: string): boolean {
  if (fieldOf(entries.kind, fieldOfColumn(field))?.reference)
    return (entries.references.get(field)?.first(entry) ?? -1) >= 0;
  return entries.text(field, entry) !== undefined;
}
