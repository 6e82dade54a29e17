/**
 * Reading rows column by column: the rows of a sheet about which there is nothing to say. Every other row is left to who reads row by row,
 * in its place. Both make the same of the same rows: that is tested.
 */

import { SheetText } from "../../catalogue/span-block.js";
import type { CellSpans } from "../../formats/cell-spans.js";
import { textCodec } from "../../codecs/scalars.js";
import { isFastPathOn } from "../../fast-path.js";
import type { FillContext } from "../fill/context.js";
import { isNumbers } from "../fill/references.js";
import type { ReadCounts } from "../read/counts.js";
import { columnPlan, type ColumnPlan, type EntryStep, type ValueStep } from "./plan.js";

/** @param width how many cells each row has. @returns undefined where rows of the layout are read one by one. */
export function plainRows(context: FillContext, width: number, counts: ReadCounts): PlainRows | undefined {
  const plan = isFastPathOn() ? columnPlan(context) : undefined;
  return plan && new PlainRows(context, plan, width, counts);
}

type Values = readonly (string | undefined)[];
const none: Values = [];

export class PlainRows {
  readonly #steps: readonly ValueStep[];
  /** Of each of these steps the values of the rows that are looked at. */
  readonly #values = new Map<ValueStep, (string | undefined)[]>();
  #keys: (string | undefined)[] = [];

  constructor(
    readonly context: FillContext,
    readonly plan: ColumnPlan,
    readonly width: number,
    readonly counts: ReadCounts,
  ) {
    this.#steps = [...plan.values, ...plan.entries.flatMap(({ values }) => values)];
  }

  /** @param readRow reads one row: what is no plain row, in the order in which rows come. */
  take(spans: CellSpans, from: number, readRow: (row: number) => void): void {
    const isOdd = this.#look(spans);
    const text = new SheetText(spans.text, spans.hasLineEnds);
    for (let row = from; row < spans.size;) {
      let end = row;
      while (end < spans.size && isOdd[end] === 0) end++;
      row += this.#fill(spans, text, row, end);
      if (row < spans.size) readRow(row++);
    }
  }

  /** Takes apart what goes through codecs. @returns by row, 1 for those that are not plain. */
  #look(spans: CellSpans): Uint8Array {
    const { size, firsts } = spans;
    const isOdd = new Uint8Array(size);
    for (let row = 0; row < size; row++) if (firsts[row + 1]! - firsts[row]! !== this.width) isOdd[row] = 1;
    const most = this.context.caps["cell characters"];
    for (const index of this.plan.bound)
      for (let row = 0; row < size; row++) {
        const place = firsts[row]! + index;
        if (isOdd[row] === 0 && spans.ends[place]! - spans.starts[place]! > most) isOdd[row] = 1;
      }
    const { index, codec } = this.plan.key;
    this.#keys = valuesIn(spans, { index, codec }, isOdd);
    for (let row = 0; row < size; row++) if (this.#keys[row] === undefined) isOdd[row] = 1;
    for (const step of this.#steps) this.#values.set(step, valuesIn(spans, step, isOdd));
    return isOdd;
  }

  /** Plain rows, up to the first that turns out not to be one. @returns how many. */
  #fill(spans: CellSpans, text: SheetText, from: number, end: number): number {
    const { plan, context } = this;
    const { table } = plan;
    const { sheet } = context;
    const record = table.size;
    const opened = new Map(plan.entries.map((step) => [step, new Int32Array(end - from).fill(-1)]));
    let row = from;
    for (; row < end; row++) {
      const key = this.#keys[row]!;
      const line = spans.lines[row]!;
      const references = table.find(key) === undefined ? this.#references(spans, row) : undefined;
      if (!references) break;
      const own = table.append(sheet, line);
      table.nameRecord(own, key);
      for (let at = 0; at < references.length; at++) {
        const numbers = references[at];
        if (numbers) plan.references[at]!.column.set(own, numbers);
      }
      for (const [step, entries] of opened)
        if (this.#hasEntry(step, row)) entries[row - from] = step.table.append(sheet, line, own);
    }
    const count = row - from;
    if (count === 0) return 0;
    this.#fillSpans(spans, text, from, count, record);
    for (const step of plan.values) {
      const values = this.#valuesOf(step);
      for (let at = 0; at < count; at++)
        if (values[from + at] !== undefined) step.column.set(record + at, values[from + at]);
    }
    this.#fillEntries(opened, from, count);
    this.#count(spans, from, count);
    return count;
  }

  /** What a row refers to, by column; undefined where a cell does not name what it should. */
  #references(spans: CellSpans, row: number): readonly (readonly number[] | undefined)[] | undefined {
    const all: (readonly number[] | undefined)[] = [];
    for (const { index, read, isPath } of this.plan.references) {
      const place = spans.firsts[row]! + index;
      if (spans.isBlank(place)) all.push(undefined);
      else {
        const numbers = read(spans.cell(place), spans.lines[row]!, -1);
        if (!isNumbers(numbers) || (numbers.length === 0 && !isPath)) return undefined;
        all.push(numbers);
      }
    }
    return all;
  }

  #valuesOf(step: ValueStep): Values {
    return this.#values.get(step) ?? none;
  }

  #hasEntry({ values }: EntryStep, row: number): boolean {
    for (const step of values) if (this.#valuesOf(step)[row] !== undefined) return true;
    return false;
  }

  #fillSpans(spans: CellSpans, text: SheetText, from: number, count: number, record: number): void {
    const { starts, ends } = spans;
    const cell = (place: number) => spans.cell(place);
    for (const { index, column } of this.plan.spans) {
      const first = spans.firsts[from]! + index;
      column.writeSpans(record, count, { text, starts, ends, first, step: this.width, cell });
    }
  }

  /** Column by column, and in each the entries in their order: what is packed is not written to again. */
  #fillEntries(opened: ReadonlyMap<EntryStep, Int32Array>, from: number, count: number): void {
    for (const { column, parts } of this.plan.entryColumns) {
      const all = parts.map(({ entry, fills }) => ({
        entries: opened.get(entry)!,
        constant: typeof fills === "string" ? fills : undefined,
        values: typeof fills === "string" ? none : this.#valuesOf(fills),
      }));
      for (let at = 0; at < count; at++)
        for (const { entries, constant, values } of all) {
          const value = constant ?? values[from + at];
          if (entries[at]! >= 0 && value !== undefined) column.set(entries[at]!, value);
        }
    }
  }

  #count(spans: CellSpans, from: number, count: number): void {
    const { counts, plan } = this;
    const bound = new Set(plan.bound);
    counts.rows += count;
    this.context.tally.columns.forEach(({ rule }, index) => {
      let filled = 0;
      for (let at = 0, place = spans.firsts[from]! + index; at < count; at++, place += this.width)
        if (!spans.isBlank(place)) filled++;
      counts.cells.filled += filled;
      if (bound.has(index)) counts.cells.inRecords += filled;
      else counts.cells.byRule[rule ?? "unbound column"] += filled;
    });
  }
}

/** The values of a column, by row; undefined for blank cells. Rows whose cell is not in its form are marked. */
function valuesIn(
  spans: CellSpans,
  { index, codec }: Pick<ValueStep, "index" | "codec">,
  isOdd: Uint8Array,
): (string | undefined)[] {
  const values = new Array<string | undefined>(spans.size);
  for (let row = 0; row < spans.size; row++) {
    const place = spans.firsts[row]! + index;
    if (isOdd[row] !== 0 || spans.isBlank(place)) continue;
    const cell = spans.cell(place);
    const value = codec === textCodec ? cell : codec.parse(cell);
    if (typeof value === "string") values[row] = value;
    else isOdd[row] = 1;
  }
  return values;
}
