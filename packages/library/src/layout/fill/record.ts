/**
 * Filling one record from the cells of one row: its fields and references. Its entries are filled in `entries.ts`.
 *
 * Each binding is turned once into a function that sets one cell; rows run through them.
 */

import type { Fill, FillTime } from "../bindings/feed-kind.js";
import { kindOfFeed } from "../bindings/feed-kinds.js";
import type { Header } from "../../nominal.js";
import { firstOf, present } from "../../checked.js";
import { isProblem } from "../../codecs/codec.js";
import { nameParallel } from "../bindings/name-parallel.js";
import type { Table } from "../../catalogue/table.js";
import type { TextColumn } from "../../catalogue/text-column.js";
import { fieldOf } from "../../kind.js";
import { markCell, type BlockRow } from "../read/block-row.js";
import type { FillContext } from "./context.js";
import { EntryFills } from "./entries.js";
import { isNumbers, referencesReader } from "./references.js";
import type { Column, Lane } from "../layout.js";
import { cellMark } from "../read/tally.js";

interface FillColumn {
  readonly index: number;
  readonly header: Header;
  readonly fills: readonly Fill[];
  /** What a blank cell empties. */
  readonly empties: readonly TextColumn[];
  /** What a blank cell stands for. */
  readonly blankMeans: string | undefined;
}

/** How the cells of one scope fill records of one table. */
export class RecordFill {
  readonly #columns: FillColumn[] = [];
  readonly #entries: EntryFills;

  constructor(
    readonly context: FillContext,
    readonly table: Table,
    columns: readonly Column[],
    times: readonly FillTime[] = ["with the record", "after its references"],
  ) {
    this.#entries = new EntryFills(context, table);
    for (const when of times) for (const column of columns) this.#add(column, when);
  }

  #add(column: Column, when: FillTime): void {
    const { context, table } = this;
    const index = context.indexOf(column.header);
    const fills: Fill[] = [];
    const empties: TextColumn[] = [];
    for (const binding of column.bindings) {
      const { feed } = binding;
      if ((feed.is === "entry" || feed.is === "entries") && when === "with the record")
        this.#entries.add(index, column, feed, binding);
      const { fill } = kindOfFeed(feed);
      const time = typeof fill?.when === "function" ? fill.when(feed) : fill?.when;
      const own = fill && time === when ? fill.of(feed, context, table, binding, column.header) : undefined;
      if (own) fills.push(own.fill);
      if (own?.empties) empties.push(own.empties);
    }
    if (fills.length > 0)
      this.#columns.push({ index, header: column.header, fills, empties, blankMeans: column.blankMeans });
  }

  fill(record: number, row: BlockRow): void {
    const model = this.context.model.cells;
    for (const { index, header, fills, empties, blankMeans } of this.#columns) {
      let cell = row.cells[index];
      if (cell === undefined) continue;
      if (cell === "") cell = blankMeans ?? model?.[index] ?? "";
      if (cell === "") {
        for (const column of empties) column.set(record, null);
      } else if (this.context.isTooLong(cell, row.line, header)) markCell(row, index, cellMark.reported);
      else for (const set of fills) markCell(row, index, set(record, cell, row.line));
    }
    this.#entries.fill(record, row);
  }
}

/** How the rows of a lane fill a list of references: each row adds one. */
export function listFill(
  context: FillContext,
  table: Table,
  lane: Lane,
  columns: readonly Column[],
): { readonly fill: (record: number, row: BlockRow) => void } | undefined {
  const column = columns.find(({ bindings }) => firstOf(bindings).feed.is === "reference");
  const others = columns.filter((one) => one !== column);
  const binding = column?.bindings[0];
  if (binding?.feed.is !== "reference" || !fieldOf(table.kind, lane.collection)) return undefined;
  const index = context.indexOf(present(column).header);
  const list = table.referenceColumn(lane.collection);
  const read = referencesReader(context, binding.feed, binding, present(column).header);
  const namings = others.flatMap((other) => {
    const { feed, codec } = firstOf(other.bindings);
    return feed.is === "naming" ? [{ feed, codec, header: other.header, at: context.indexOf(other.header) }] : [];
  });
  const fill = (record: number, row: BlockRow): void => {
    const cell = row.cells[index] ?? "";
    if (cell === "") return;
    const numbers = read(cell, row.line, record);
    if (isNumbers(numbers)) {
      list.set(record, [...new Set([...list.get(record), ...numbers])]);
      if (numbers.length > 0) markCell(row, index, cellMark.taken);
      for (const naming of namings) nameInLane(naming, numbers, record, row);
    } else {
      context.problem(numbers, table, record, row.line, present(column).header);
      markCell(row, index, cellMark.reported);
    }
  };
  return { fill };

  function nameInLane(
    { feed, codec, header, at }: (typeof namings)[number],
    named: readonly number[],
    record: number,
    row: BlockRow,
  ): void {
    const cell = row.cells[at] ?? "";
    if (cell === "") return;
    const value = codec.parse(cell);
    if (isProblem(value)) {
      context.problem(value, table, record, row.line, header);
      return markCell(row, at, cellMark.reported);
    }
    const paths = (feed.list ? value : [value]) as readonly (readonly string[])[];
    const place = { table, row: record, line: row.line, header, beside: present(column).header };
    markCell(row, at, nameParallel(context, named, paths, feed.lang, place));
  }
}
