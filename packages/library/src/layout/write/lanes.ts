/** What the lanes of a layout show of a record: one element a row, be it an entry of a collection or a reference of a list. */

import { firstOf, entryOf } from "../../checked.js";
import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import { isUnwritable, unwritable, type CellValue, type Unwritable } from "../../codecs/codec.js";
import { phrase } from "../../phrases/phrase.js";
import { finding } from "../../findings/finding.js";
import { columnField } from "../bindings/feed-kinds.js";
import { withoutLineEnds, type Column, type Lane } from "../layout.js";
import type { CellContext } from "./context.js";
import { entriesWritten, entryField } from "./entries.js";
import { entryLookup } from "../../catalogue/entry-lookup.js";
import { namedIn } from "../named-constants.js";
import { listedReferences, pathIn } from "./references.js";

/** An element is a row number of the entries' table, or the number of a reference. */
export interface LaneWriter {
  readonly lane: Lane;
  readonly elementsOf: (record: number) => Iterable<number>;
  readonly columns: readonly { readonly at: number; readonly toCell: (element: number, record: number) => string }[];
}

/** @returns undefined when records of this table have no such collection, or no column shows it. */
export function laneWriter(
  context: CellContext,
  lane: Lane,
  columns: readonly Column[],
  table: ReadonlyTable,
  positions: ReadonlyMap<string, number>,
): LaneWriter | undefined {
  const own = columns.flatMap((column) =>
    column.scope.is === "lane" && column.scope.lane === lane.name
      ? [{ column, at: entryOf(positions, column.header) }]
      : [],
  );
  if (own.length === 0) return undefined;
  return lane.holds === "entries" ? entryLane(context, lane, own, table) : listLane(context, lane, own, table);
}

type Placed = { readonly column: Column; readonly at: number };

function entryLane(
  context: CellContext,
  lane: Lane,
  own: readonly Placed[],
  table: ReadonlyTable,
): LaneWriter | undefined {
  if (!table.kind.entries?.[lane.collection]) return undefined;
  const entries = context.catalogue.table(`${table.kind.name}.${lane.collection}`);
  const hasOtherColumns = context.columns.some(
    ({ scope, bindings }) =>
      scope.is !== "lane" &&
      bindings.some(({ feed: target }) => target.is === "entry" && target.entries === lane.collection),
  );
  const shown = own.flatMap(({ column }) =>
    column.bindings.flatMap(({ feed: target }) => (target.is === "entry" ? [target.field.name] : [])),
  );
  const isOfLane = laneEntries(context, entries, lane, shown, !hasOtherColumns);
  const belongs = entriesWritten(context, entries, isOfLane);
  const columns = own.flatMap(({ column, at }) => {
    const { feed: target } = firstOf(column.bindings);
    return target.is === "entry"
      ? [{ at, toCell: toCell(context, column, table, entryField(context, target.field, entries)) }]
      : [];
  });
  return { lane, elementsOf: (record) => entries.childrenWhere(record, belongs), columns };
}

function listLane(
  context: CellContext,
  lane: Lane,
  own: readonly Placed[],
  table: ReadonlyTable,
): LaneWriter | undefined {
  const targets = own.map(({ column }) => firstOf(column.bindings).feed);
  const target = targets.find(({ is }) => is === "reference");
  if (target?.is !== "reference" || !table.kind.fields.some((field) => field.name === lane.collection))
    return undefined;
  const { elementsOf, nameOf } = listedReferences(context, table, target);
  return {
    lane,
    elementsOf,
    columns: own.map(({ column, at }) => {
      const { feed } = firstOf(column.bindings);
      const read = feed.is === "naming" ? pathIn(context.catalogue, target.spec.to, feed.lang) : nameOf;
      return { at, toCell: toCell(context, column, table, read) };
    }),
  };
}

function toCell(
  { catalogue, findings }: CellContext,
  column: Column,
  table: ReadonlyTable,
  read: (element: number, record: number) => CellValue | Unwritable | undefined,
): (element: number, record: number) => string {
  const { header, blankMeans } = column;
  const { codec, feed: target, lineEnds } = firstOf(column.bindings);
  const needed = blankMeans === undefined ? undefined : phrase('a value: a blank cell means "{0}"', blankMeans);
  return (element, record) => {
    const value = read(element, record) ?? (needed && unwritable("", needed));
    const text = value === undefined || isUnwritable(value) ? (value ?? "") : codec.format(value);
    if (typeof text === "string") return withoutLineEnds(text, lineEnds);
    const location = catalogue.location(table, record, columnField(column, target));
    findings.add(finding("write/cannot-be-written", { column: header, ...text }, location));
    return "";
  };
}

/**
 * A lane takes the entries with its constants, and nothing to their key but what its columns show; those that have no more to it than the
 * constants only where rows have no other place for them.
 */
function laneEntries(
  { catalogue }: CellContext,
  entries: ReadonlyTable,
  { constants, named }: Lane,
  shown: readonly string[],
  takesAll: boolean,
): (row: number) => boolean {
  const isNamed = namedIn(catalogue, constants, named);
  const isShown = entryLookup(entries, constants, shown, isNamed).has;
  if (takesAll) return isShown;
  const isPlain = entryLookup(entries, constants, [], isNamed).has;
  return (row) => isShown(row) && !isPlain(row);
}
