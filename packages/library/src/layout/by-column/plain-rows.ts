/**
 * Reading rows column by column: the rows of a sheet about which there is nothing to say. Every other row is left to who reads row by row,
 * in its place, and with it the rows of the same record. Both make the same of the same rows: that is tested.
 */

import type { CellSpans } from "../../formats/cell-spans.js";
import type { FillContext } from "../fill/context.js";
import { blockRow, type BlockRow } from "../read/block-row.js";
import type { ReadCounts } from "../read/counts.js";
import { columnPlan, type ColumnPlan, type RecordColumns } from "./plan.js";
import { PlainRun } from "./plain-run.js";
import { SeenRows } from "./seen-rows.js";
import type { ByColumn, RowByRow } from "./take-rows.js";

/** The rows of one record, and what of each is filled row by row. */
interface RecordRows {
  readonly first: number;
  readonly end: number;
  readonly besides: readonly BlockRow[];
}

/** @returns undefined where rows of the layout are read one by one. */
export function plainRows(context: FillContext, width: number, counts: ReadCounts): ByColumn | undefined {
  const plan = columnPlan(context);
  return plan && new PlainRows(context, plan, width, counts);
}

const noRows: readonly BlockRow[] = [];

class PlainRows implements ByColumn {
  readonly #blank: BlockRow;

  constructor(
    readonly context: FillContext,
    readonly plan: ColumnPlan,
    readonly width: number,
    readonly counts: ReadCounts,
  ) {
    this.#blank = blockRow(new Array<string>(width).fill(""), 0, "more");
  }

  take(spans: CellSpans, from: number, rowByRow: RowByRow): void {
    const seen = new SeenRows(spans, this.plan, this.width, this.context.caps["cell characters"]);
    const run = new PlainRun(this.context, this.plan, seen, this.counts);
    const { size } = spans;
    /** These rows one by one: what comes before them is there by then. */
    const readRows = (first: number, end: number): void => {
      run.finish();
      for (let row = first; row < end; row++) rowByRow.readRow(row);
    };
    let row = from;
    while (row < size) {
      let end = row + 1;
      const open = rowByRow.openWord();
      if (open !== undefined && (seen.isOdd[row] !== 0 || !seen.begins(row, open))) readRows(row, end);
      else {
        if (open !== undefined) rowByRow.endOpen();
        end = seen.endOfRecord(row);
        if (seen.isWhole(row, end) && this.#isPlain(seen, row, end)) this.#fill(seen, run, row, end);
        else readRows(row, end);
      }
      row = end;
    }
    run.finish();
  }

  /** Whether there is nothing to say of the rows of one record but what they hold. */
  #isPlain(seen: SeenRows, first: number, end: number): boolean {
    const { parent, child, axisColumns } = this.plan;
    if (end - first >= this.context.caps["group rows"] || !seen.agree(first, end)) return false;
    const key = seen.key(parent, first);
    if (key === undefined || parent.table.find(key) !== undefined) return false;
    if (!child) return true;
    let children = 0;
    for (let row = first; row < end; row++) {
      if (seen.isMore(row)) continue;
      if (seen.key(child, row) === undefined) return false;
      children++;
    }
    // One version without an axis may be the record itself.
    return children > 1 || !parent.table.kind.single || axisColumns.some((index) => !seen.isBlank(first, index));
  }

  /** The records of some rows, and what is filled row by row beside their columns. */
  #fill(seen: SeenRows, run: PlainRun, first: number, end: number): void {
    const { context, plan } = this;
    const { axes, lanes, afterAxes } = plan;
    const besides = new Array<BlockRow>(end - first);
    for (let row = first; row < end; row++) besides[row - first] = seen.beside(row, row === first) ?? this.#blank;
    const own = besides[0]!;
    const parent = this.#append(seen, plan.parent, first, -1);
    if (own !== this.#blank) plan.parent.fill.fill(parent, own);
    run.openParent(first, parent);
    axes.parent(parent, own);
    for (const { of, fill } of lanes)
      if (of === "parent" && fill) for (const one of besides) if (one !== this.#blank) fill.fill(parent, one);
    if (plan.child) this.#fillChildren(seen, run, plan.child, parent, { first, end, besides });
    afterAxes.fill(parent, own);
    context.close(this.#filledOf(besides), plan.parent.table, parent);
    run.see(first, end);
  }

  /** Most records have none. */
  #filledOf(besides: readonly BlockRow[]): readonly BlockRow[] {
    for (const one of besides) if (one !== this.#blank) return besides.filter((other) => other !== this.#blank);
    return noRows;
  }

  #fillChildren(
    seen: SeenRows,
    run: PlainRun,
    scope: RecordColumns,
    parent: number,
    { first, end, besides }: RecordRows,
  ): void {
    const { axes, lanes } = this.plan;
    for (let row = first; row < end; row++) {
      if (seen.isMore(row)) continue;
      const own = besides[row - first]!;
      const child = this.#append(seen, scope, row, parent);
      axes.child(child, own, parent);
      if (own !== this.#blank) scope.fill.fill(child, own);
      run.openChild(row, child);
      for (const { of, fill } of lanes) {
        if (of !== "child" || !fill) continue;
        fill.fill(child, own);
        for (let next = row + 1; next < end && seen.isMore(next); next++) fill.fill(child, besides[next - first]!);
      }
    }
  }

  #append(seen: SeenRows, scope: RecordColumns, row: number, parent: number): number {
    const record = scope.table.append(this.context.sheet, seen.spans.lines[row]!, parent);
    scope.table.nameRecord(record, seen.key(scope, row) ?? "");
    return record;
  }
}
