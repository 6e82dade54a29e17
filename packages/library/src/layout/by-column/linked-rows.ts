/**
 * Linked rows by column: the cells of many rows are parsed together, and what each row says is put into the record that it names. Rows of
 * which there is more to say than what they hold are left to who reads row by row: those that disagree with what is known too.
 */

import { textCodec } from "../../codecs/scalars.js";
import type { Table } from "../../catalogue/table.js";
import type { CellSpans } from "../../formats/cell-spans.js";
import type { LinkedRecords } from "../fill/block.js";
import { EntryBefore } from "../fill/entries-before.js";
import { blockRow } from "../read/block-row.js";
import type { ReadCounts } from "../read/counts.js";
import { PlainCells, type Values } from "./plain-cells.js";
import { linkedPlan, type EntryStep, type LinkedColumns, type LinkedPlan, type ValueStep } from "./plan.js";
import type { ByColumn, RowByRow } from "./take-rows.js";

/** The columns of an entry, and how the entry is found that a record has already. */
interface LinkedEntry {
  readonly step: EntryStep;
  readonly before: EntryBefore;
}

/** How rows fill the records of one table. */
interface TableFilling {
  readonly table: Table;
  readonly columns: LinkedColumns;
  readonly entries: readonly LinkedEntry[];
  readonly steps: readonly ValueStep[];
}

/** @returns undefined where linked rows of the layout are all read one by one. */
export function linkedRows(linked: LinkedRecords, width: number, counts: ReadCounts): ByColumn | undefined {
  const { context } = linked;
  const plan = linkedPlan(context);
  const { link } = context.layout;
  return plan && link && new LinkedRows(linked, plan, context.indexOf(link.column), width, counts);
}

class LinkedRows implements ByColumn {
  readonly #fillings = new Map<Table, TableFilling>();

  constructor(
    readonly linked: LinkedRecords,
    readonly plan: LinkedPlan,
    readonly linkAt: number,
    readonly width: number,
    readonly counts: ReadCounts,
  ) {}

  take(spans: CellSpans, from: number, rowByRow: RowByRow): void {
    const cells = new PlainCells(spans, this.width);
    for (const column of this.plan.unusual) cells.seeUnusual(column);
    const words = cells.valuesIn({ index: this.linkAt, codec: textCodec });
    const seen = new Map<TableFilling, SeenRecords>();
    for (let row = from; row < spans.size; row++) {
      if (cells.isOdd[row] === 0 && rowByRow.openWord() !== undefined) rowByRow.endOpen();
      const record = cells.isOdd[row] === 0 ? this.linked.index.one(words[row] ?? "") : undefined;
      if (!record) {
        rowByRow.readRow(row);
        continue;
      }
      const filling = this.#fillingOf(record.table);
      let rows = seen.get(filling);
      if (!rows) seen.set(filling, (rows = new SeenRecords(this, filling, cells)));
      if (cells.isOdd[row] === 0 && rows.isPlain(row, record.row)) rows.fill(row, record.row);
      else rowByRow.readRow(row);
    }
    for (const rows of seen.values()) rows.count();
  }

  #fillingOf(table: Table): TableFilling {
    let filling = this.#fillings.get(table);
    if (!filling) {
      const columns = this.plan.columnsOf(table);
      const { before } = this.linked.context;
      const entries = columns.entries.map((step) => ({ step, before: new EntryBefore(step.table, before) }));
      const steps = [...columns.texts, ...columns.entries.flatMap(({ values }) => values)];
      this.#fillings.set(table, (filling = { table, columns, entries, steps }));
    }
    return filling;
  }
}

/** Some rows, as they are of records of one table. */
class SeenRecords {
  readonly #values: ReadonlyMap<ValueStep, Values>;
  /** The rows that have been filled. */
  readonly #filled: number[] = [];

  constructor(
    readonly rows: LinkedRows,
    readonly filling: TableFilling,
    readonly cells: PlainCells,
  ) {
    const { columns, steps } = filling;
    for (const index of columns.byColumn) cells.seeLength(index, rows.linked.context.caps["cell characters"]);
    this.#values = new Map(steps.map((step) => [step, cells.valuesIn(step)]));
  }

  /** Whether a row says nothing else than what is known of its record. */
  isPlain(row: number, record: number): boolean {
    const { columns, entries } = this.filling;
    for (const step of columns.texts) {
      const value = this.#values.get(step)![row];
      if (value === undefined) continue;
      const known = step.column.get(record);
      if (known !== undefined && known !== value) return false;
    }
    return entries.every(({ step, before }) => before.find(record, () => this.#keyIn(step, row)) < 0);
  }

  #keyIn({ constants, values }: EntryStep, row: number): (field: string) => string | undefined {
    return (wanted) => {
      const value = values.find(({ field }) => field === wanted);
      const own = value && this.#values.get(value)![row];
      return own ?? constants.find(({ field }) => field === wanted)?.value;
    };
  }

  fill(row: number, record: number): void {
    const { context } = this.rows.linked;
    const { table, columns } = this.filling;
    const line = this.cells.spans.lines[row]!;
    context.merging = true;
    for (const step of columns.texts) {
      const value = this.#values.get(step)![row];
      if (value !== undefined) context.setText(table, step.column, step.field, record, value, line, step.header);
    }
    const own = this.cells.cellsAt(row, [columns.beside, this.rows.plan.laneColumns], this.rows.width);
    const beside = own && blockRow(own, line, "own");
    if (beside) columns.fill.fill(record, beside);
    for (const { step } of this.filling.entries) this.#addEntry(step, row, record, line);
    if (beside) {
      for (const lane of columns.lanes) lane.fill(record, beside);
      columns.afterAxes.fill(record, beside);
      context.close([beside], table, record);
    }
    this.#filled.push(row);
  }

  #addEntry({ table, constants, values }: EntryStep, row: number, record: number, line: number): void {
    let entry = -1;
    for (const step of values) {
      const value = this.#values.get(step)![row];
      if (value === undefined) continue;
      if (entry < 0) {
        entry = table.append(this.rows.linked.context.sheet, line, record);
        for (const { column, value: constant } of constants) column.set(entry, constant);
      }
      step.column.set(entry, value);
    }
  }

  /** What became of the cells of the rows that were filled; those that are filled row by row have been counted. */
  count(): void {
    const { counts, linkAt, linked, plan } = this.rows;
    const { byColumn, beside } = this.filling.columns;
    const taken = new Set([linkAt, ...byColumn]);
    const counted = new Set([...beside, ...plan.laneColumns]);
    counts.rows += this.#filled.length;
    linked.context.tally.columns.forEach(({ rule }, index) => {
      if (counted.has(index)) return;
      let filled = 0;
      for (const row of this.#filled) if (!this.cells.isBlank(row, index)) filled++;
      counts.cells.filled += filled;
      if (taken.has(index)) counts.cells.inRecords += filled;
      else counts.cells.byRule[rule ?? "unbound column"] += filled;
    });
  }
}
