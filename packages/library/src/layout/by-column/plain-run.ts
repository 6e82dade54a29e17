/** Plain rows one behind the other: their records are there, and what is filled by column is put into them at the end. */

import { IntList } from "../../catalogue/int-list.js";
import { SheetText } from "../../catalogue/span-block.js";
import type { FillContext } from "../fill/context.js";
import type { ReadCounts } from "../read/counts.js";
import type { ColumnPlan, EntryStep, RecordColumns } from "./plan.js";
import type { SeenRows } from "./seen-rows.js";

/** The records of one scope: one behind the other, with the row of each. */
class ScopeRun {
  readonly rows = new IntList();
  #first = 0;

  constructor(
    readonly scope: RecordColumns,
    readonly seen: SeenRows,
  ) {}

  /** A record that has just been made; its entries are made now, as those of lanes are. */
  open(row: number, record: number, sheet: number): void {
    if (this.rows.length === 0) this.#first = record;
    this.rows.push(row);
    for (const step of this.scope.entries) this.#openEntry(step, row, record, sheet);
  }

  #openEntry({ table, constants, values }: EntryStep, row: number, record: number, sheet: number): void {
    let entry = -1;
    for (const step of values) {
      const value = this.seen.valuesOf(step)[row];
      if (value === undefined) continue;
      if (entry < 0) {
        entry = table.append(sheet, this.seen.spans.lines[row]!, record);
        for (const one of constants) one.column.set(entry, one.value);
      }
      step.column.set(entry, value);
    }
  }

  fill(text: SheetText): void {
    const { scope, seen } = this;
    const first = this.#first;
    const rows = this.rows.toArray();
    const cells = seen.spans;
    const places = rows.map((row) => cells.firsts[row]!);
    for (const { index, column } of scope.spans) column.writeSpans(first, { text, cells, places, index });
    for (const step of scope.values) {
      const values = seen.valuesOf(step);
      for (let at = 0; at < rows.length; at++) {
        const value = values[rows[at]!];
        if (value !== undefined) step.column.set(first + at, value);
      }
    }
  }
}

export class PlainRun {
  readonly #text: SheetText;
  #parents: ScopeRun;
  #children: ScopeRun | undefined;
  /** All rows, and of those the ones that repeat what is the record's, or the child's. */
  #all = new IntList();
  #below = new IntList();
  #more = new IntList();

  constructor(
    readonly context: FillContext,
    readonly plan: ColumnPlan,
    readonly seen: SeenRows,
    readonly counts: ReadCounts,
  ) {
    this.#text = new SheetText(seen.spans.text);
    this.#parents = new ScopeRun(plan.parent, seen);
    this.#children = plan.child && new ScopeRun(plan.child, seen);
  }

  openParent(row: number, parent: number): void {
    this.#parents.open(row, parent, this.context.sheet);
  }

  openChild(row: number, child: number): void {
    this.#children?.open(row, child, this.context.sheet);
  }

  /** The rows of one record are done. */
  see(first: number, end: number): void {
    for (let row = first; row < end; row++) {
      this.#all.push(row);
      if (row > first) this.#below.push(row);
      if (this.seen.isMore(row)) this.#more.push(row);
    }
  }

  /** Fills the columns, and counts. Rows that come later begin anew. */
  finish(): void {
    if (this.#all.length > 0) {
      this.#parents.fill(this.#text);
      this.#children?.fill(this.#text);
      this.#count();
    }
    const { plan, seen } = this;
    this.#parents = new ScopeRun(plan.parent, seen);
    this.#children = plan.child && new ScopeRun(plan.child, seen);
    this.#all = new IntList();
    this.#below = new IntList();
    this.#more = new IntList();
  }

  #count(): void {
    const { plan, counts } = this;
    const { cells } = counts;
    const { parent, child, group } = plan;
    counts.rows += this.#all.length;
    /** What is filled row by row has been counted where it was taken. */
    const counted = new Set<number>([...parent.byColumn, ...parent.beside, ...plan.laneColumns]);
    for (const index of [...(child?.byColumn ?? []), ...(child?.beside ?? [])]) counted.add(index);
    const take = (index: number, rows: IntList): void => {
      const filled = this.#filled(index, rows);
      cells.filled += filled;
      cells.inRecords += filled;
    };
    const repeat = (index: number, rows: IntList): void => {
      const filled = this.#filled(index, rows);
      cells.filled += filled;
      cells.byRule["repeats the first row"] += filled;
    };
    if (group >= 0) take(group, this.#all);
    for (const index of parent.byColumn) if (index !== group) take(index, this.#parents.rows);
    for (const index of [...parent.byColumn, ...parent.beside]) if (index !== group) repeat(index, this.#below);
    if (child && this.#children) {
      for (const index of child.byColumn) take(index, this.#children.rows);
      for (const index of [...child.byColumn, ...child.beside]) repeat(index, this.#more);
    }
    this.context.tally.columns.forEach(({ rule }, index) => {
      if (counted.has(index) || index === group) return;
      const filled = this.#filled(index, this.#all);
      cells.filled += filled;
      cells.byRule[rule ?? "unbound column"] += filled;
    });
  }

  #filled(index: number, rows: IntList): number {
    let filled = 0;
    for (let at = 0; at < rows.length; at++) if (!this.seen.isBlank(rows.get(at), index)) filled++;
    return filled;
  }
}
