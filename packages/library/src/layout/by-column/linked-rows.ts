/**
 * Linked rows by column: the cells of many rows are parsed together, and what each row says is put into the record that it names. Rows of
 * which there is more to say than what they hold are left to who reads row by row: those that disagree with what is known too.
 */

import { textCodec } from "../../codecs/scalars.js";
import type { Table } from "../../catalogue/table.js";
import type { CellSpans } from "../../formats/cell-spans.js";
import type { FillContext } from "../fill/context.js";
import { EntryBefore, type WantedKey } from "../fill/entries-before.js";
import { blockRow } from "../read/block-row.js";
import type { ReadCounts } from "../read/counts.js";
import type { RecordIndex } from "../read/record-index.js";
import { PlainCells, type Values } from "./plain-cells.js";
import { linkedPlan, type EntryStep, type LinkedColumns, type LinkedPlan, type ValueStep } from "./plan.js";
import type { ByColumn, RowByRow } from "./take-rows.js";

/** How rows fill the records of one table. */
interface TableFilling {
  readonly table: Table;
  readonly columns: LinkedColumns;
  /** Finds the entries that a record has already, of each step. */
  readonly before: readonly EntryBefore[];
}

/** @returns undefined where linked rows of the layout are all read one by one. */
export function linkedRows(
  context: FillContext,
  index: RecordIndex,
  width: number,
  counts: ReadCounts,
): ByColumn | undefined {
  const plan = linkedPlan(context);
  return plan && new LinkedRows(context, index, plan, width, counts);
}

class LinkedRows implements ByColumn {
  readonly #fillings = new Map<Table, TableFilling>();

  constructor(
    readonly context: FillContext,
    readonly index: RecordIndex,
    readonly plan: LinkedPlan,
    readonly width: number,
    readonly counts: ReadCounts,
  ) {}

  take(spans: CellSpans, from: number, rowByRow: RowByRow): void {
    const cells = new PlainCells(spans, this.width);
    for (const column of this.plan.unusual) cells.seeUnusual(column);
    const words = cells.valuesIn({ index: this.plan.link, codec: textCodec });
    const seen = new Map<Table, SeenRecords>();
    for (let row = from; row < spans.size; row++) {
      if (cells.isOdd[row] === 0 && rowByRow.openWord() !== undefined) rowByRow.endOpen();
      const record = cells.isOdd[row] === 0 ? this.index.one(words[row] ?? "") : undefined;
      const rows = record && this.#seenOf(record.table, cells, seen);
      if (rows && cells.isOdd[row] === 0 && rows.isPlain(row, record.row)) rows.fill(row, record.row);
      else rowByRow.readRow(row);
    }
    for (const rows of seen.values()) rows.count();
  }

  /** The rows as they are of records of a table: seen when the first such record is named. */
  #seenOf(table: Table, cells: PlainCells, seen: Map<Table, SeenRecords>): SeenRecords {
    let rows = seen.get(table);
    if (!rows) seen.set(table, (rows = new SeenRecords(this, this.#fillingOf(table), cells)));
    return rows;
  }

  #fillingOf(table: Table): TableFilling {
    let filling = this.#fillings.get(table);
    if (!filling) {
      const columns = this.plan.columnsOf(table);
      const before = columns.entries.map((step) => new EntryBefore(step.table, this.context.before));
      this.#fillings.set(table, (filling = { table, columns, before }));
    }
    return filling;
  }
}

/** The columns of an entry, with what some rows have in them. */
interface SeenEntry {
  readonly step: EntryStep;
  readonly values: readonly Values[];
  readonly before: EntryBefore;
  /** Of each field of its key: what all rows have in it, or what each has. */
  readonly key: readonly { readonly constant: string | undefined; readonly values: Values | undefined }[];
}

/** Some rows, as they are of records of one table. */
class SeenRecords {
  /** Of each text. */
  readonly #texts: readonly Values[];
  readonly #entries: readonly SeenEntry[];
  /** The rows that have been filled. */
  readonly #filled: number[] = [];

  constructor(
    readonly rows: LinkedRows,
    readonly filling: TableFilling,
    readonly cells: PlainCells,
  ) {
    const { columns, before } = filling;
    for (const index of columns.byColumn) cells.seeLength(index, rows.context.caps["cell characters"]);
    const valuesOf = (steps: readonly ValueStep[]) => steps.map((step) => cells.valuesIn(step));
    this.#texts = valuesOf(columns.texts);
    this.#entries = columns.entries.map((step, number): SeenEntry => {
      const values = valuesOf(step.values);
      const own = before[number]!;
      const partOf = (field: string): SeenEntry["key"][number] => ({
        constant: step.constants.find((one) => one.field === field)?.value,
        values: values[step.values.findIndex((one) => one.field === field)],
      });
      return { step, values, before: own, key: own.key.map(partOf) };
    });
  }

  /** Whether a row says nothing else than what is known of its record. */
  isPlain(row: number, record: number): boolean {
    const { texts } = this.filling.columns;
    for (let at = 0; at < texts.length; at++) {
      const value = this.#texts[at]![row];
      const known = value === undefined ? undefined : texts[at]!.column.get(record);
      if (known !== undefined && known !== value) return false;
    }
    for (const { key, before } of this.#entries) if (before.find(record, () => keyIn(key, row)) >= 0) return false;
    return true;
  }

  fill(row: number, record: number): void {
    const { context } = this.rows;
    const { table, columns } = this.filling;
    const line = this.cells.spans.lines[row]!;
    context.merging = true;
    for (let at = 0; at < columns.texts.length; at++) {
      const { column, field, header } = columns.texts[at]!;
      const value = this.#texts[at]![row];
      if (value !== undefined) context.setText(table, column, field, record, value, line, header);
    }
    const own = this.cells.cellsAt(row, [columns.beside, this.rows.plan.laneColumns], this.rows.width);
    const beside = own && blockRow(own, line, "own");
    if (beside) columns.fill.fill(record, beside);
    for (const entry of this.#entries) this.#addEntry(entry, row, record, line);
    if (beside) {
      for (const lane of columns.lanes) lane.fill(record, beside);
      columns.afterAxes.fill(record, beside);
      context.close([beside], table, record);
    }
    this.#filled.push(row);
  }

  #addEntry({ step, values }: SeenEntry, row: number, record: number, line: number): void {
    let entry = -1;
    for (let at = 0; at < values.length; at++) {
      const value = values[at]![row];
      if (value === undefined) continue;
      if (entry < 0) {
        entry = step.table.append(this.rows.context.sheet, line, record);
        for (const constant of step.constants) constant.column.set(entry, constant.value);
      }
      step.values[at]!.column.set(entry, value);
    }
  }

  /** What became of the cells of the rows that were filled; those that are filled row by row have been counted. */
  count(): void {
    const { context, counts, plan } = this.rows;
    const { byColumn, beside } = this.filling.columns;
    const taken = new Set([plan.link, ...byColumn]);
    const counted = new Set([...beside, ...plan.laneColumns]);
    counts.rows += this.#filled.length;
    context.tally.columns.forEach(({ rule }, index) => {
      if (counted.has(index)) return;
      let filled = 0;
      for (const row of this.#filled) if (!this.cells.isBlank(row, index)) filled++;
      counts.cells.filled += filled;
      if (taken.has(index)) counts.cells.inRecords += filled;
      else counts.cells.byRule[rule ?? "unbound column"] += filled;
    });
  }
}

const keyIn = (key: SeenEntry["key"], row: number): WantedKey =>
  key.map(({ values, constant }) => values?.[row] ?? constant);
