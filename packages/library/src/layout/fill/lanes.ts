/** Filling from a lane: each of its rows is an entry of a collection, or one reference of a list. */

import type { Table } from "../../catalogue/table.js";
import type { BlockRow } from "../read/block-row.js";
import type { FillContext } from "./context.js";
import { EntryFill } from "./entries.js";
import { listFill } from "./record.js";
import type { Column, Lane } from "../layout.js";

/** Takes what a row holds for a record. */
export interface RowFill {
  readonly fill: (record: number, row: BlockRow) => void;
}

/** @returns undefined where records of the table have no such collection. */
export function laneFill(
  context: FillContext,
  table: Table,
  lane: Lane,
  columns: readonly Column[],
): RowFill | undefined {
  const own = columns.filter(({ scope }) => scope.is === "lane" && scope.lane === lane.name);
  if (lane.holds === "references") return listFill(context, table, lane, own);
  if (!table.kind.entries?.[lane.collection]) return undefined;
  const fill = new EntryFill(context, table, lane.collection, lane);
  for (const column of own)
    for (const binding of column.bindings)
      if (binding.feed.is === "entry") fill.add(context.indexOf(column.header), column, binding.feed, binding);
  return { fill: (record, row) => fill.fillFromLane(record, row) };
}
