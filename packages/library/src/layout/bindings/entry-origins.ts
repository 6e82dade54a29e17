/** Where the cells of entries come from. */

import type { ResolvedCatalogue } from "../../catalogue/catalogue.js";
import { entryLookup, type EntryLookup } from "../../catalogue/entry-lookup.js";
import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import { firstOf } from "../../checked.js";
import { fieldOfColumn } from "../../field-name.js";
import { entryKeyOf, fieldOf } from "../../kind.js";
import type { Constants, NamedConstants } from "../layout.js";
import { namedIn } from "../named-constants.js";
import { originOf, type RecordOrigin, type WrittenCell } from "./feed-kind.js";

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
export function entryOrigins(feed: object, shown: ShownEntries, cell: WrittenCell): RecordOrigin[] {
  const { catalogue, table, row } = cell;
  const own = originsIn(feed, shown, cell, table, row);
  if (own.length > 0) return own;
  const above = table.kind.of;
  if (above === undefined || table.parent(row) < 0) return [];
  return originsIn(feed, shown, cell, catalogue.table(above), table.parent(row));
}

function originsIn(
  feed: object,
  { entries: name, constants, named, fields, free }: ShownEntries,
  { catalogue, column, nth }: WrittenCell,
  owners: ReadonlyTable,
  owner: number,
): RecordOrigin[] {
  if (owners.kind.entries?.[name] === undefined) return [];
  const entries = catalogue.table(`${owners.name}.${name}`);
  const all = [...entries.childrenOf(owner)];
  const isLane = column.scope.is === "lane";
  const has = lookupOf(feed, entries, () =>
    entryLookup(entries, constants, free, namedIn(catalogue, constants, named)),
  );
  const fitting = isLane ? all.slice(nth, nth + 1) : all.filter(has);
  return fitting.flatMap((entry) =>
    fields.flatMap((field) => (isSaid(entries, entry, field) ? [entryOrigin(catalogue, entries, entry, field)] : [])),
  );
}

const lookups = new WeakMap<object, WeakMap<ReadonlyTable, EntryLookup["has"]>>();

/** The entries that a feed shows are looked up in the same way for all records. */
function lookupOf(feed: object, entries: ReadonlyTable, make: () => EntryLookup): EntryLookup["has"] {
  let ofFeed = lookups.get(feed);
  if (!ofFeed) lookups.set(feed, (ofFeed = new WeakMap()));
  let has = ofFeed.get(entries);
  if (!has) ofFeed.set(entries, (has = make().has));
  return has;
}

/** Where a field of an entry comes from. */
function entryOrigin(catalogue: ResolvedCatalogue, entries: ReadonlyTable, entry: number, field: string): RecordOrigin {
  return originOf(catalogue, entries, entry, field, () => {
    const word = entries.text(firstOf(entryKeyOf(entries.kind)), entry) ?? "";
    return `${entries.name}${word === "" ? "" : `(${word})`}.${field}`;
  });
}

function isSaid(entries: ReadonlyTable, entry: number, field: string): boolean {
  if (fieldOf(entries.kind, fieldOfColumn(field))?.reference)
    return (entries.references.get(field)?.first(entry) ?? -1) >= 0;
  return entries.text(field, entry) !== undefined;
}
