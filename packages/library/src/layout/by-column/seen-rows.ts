/** Some rows of a sheet, looked at column by column: which are not plain, what their cells hold, where records begin. */

import type { CellSpans } from "../../formats/cell-spans.js";
import { blockRow, type BlockRow } from "../read/block-row.js";
import { PlainCells, type Values } from "./plain-cells.js";
import type { ColumnPlan, RecordColumns, ValueStep } from "./plan.js";

const none: readonly number[] = [];

export class SeenRows {
  /** By row, 1 for those that are not plain. */
  readonly isOdd: Uint8Array;
  readonly #cells: PlainCells;
  /** Whether a record may have more rows than its first. */
  readonly #mayGoOn: boolean;
  readonly #isMore: Uint8Array;
  readonly #values = new Map<ValueStep, Values>();
  readonly #keys = new Map<RecordColumns, Values>();
  readonly #scopes: readonly RecordColumns[];
  /** The columns of a record, which on its further rows are blank or the same again. */
  readonly #shared: readonly number[];

  /** @param width how many cells each row has. @param most how many characters a cell may have. */
  constructor(
    readonly spans: CellSpans,
    readonly plan: ColumnPlan,
    readonly width: number,
    most: number,
  ) {
    const { parent, child, lanes } = plan;
    const { size } = spans;
    this.#cells = new PlainCells(spans, width);
    this.isOdd = this.#cells.isOdd;
    this.#scopes = child ? [parent, child] : [parent];
    this.#mayGoOn = child !== undefined || lanes.some(({ blanks }) => blanks.length > 0);
    this.#shared = [...parent.byColumn, ...parent.beside].filter((index) => index !== plan.group);
    this.#isMore = new Uint8Array(size);
    for (const column of plan.unusual) this.#cells.seeUnusual(column);
    for (const { blanks } of lanes) if (blanks.length > 0) this.#seeMore(blanks);
    for (const scope of this.#scopes) {
      for (const index of scope.byColumn) this.#cells.seeLength(index, most);
      this.#keys.set(scope, this.#cells.valuesIn(scope.key));
      const steps = [...scope.values, ...scope.entries.flatMap(({ values }) => values)];
      for (const step of steps) this.#values.set(step, this.#cells.valuesIn(step));
    }
    // A row that names no record.
    if (plan.group >= 0)
      for (let row = 0; row < size; row++) if (!this.isMore(row) && this.isBlank(row, plan.group)) this.isOdd[row] = 1;
  }

  #seeMore(blanks: readonly number[]): void {
    for (let row = 0; row < this.spans.size; row++)
      if (this.isOdd[row] === 0 && blanks.every((index) => this.isBlank(row, index))) this.#isMore[row] = 1;
  }

  cell(row: number, index: number): string {
    return this.#cells.cell(row, index);
  }

  isBlank(row: number, index: number): boolean {
    return this.#cells.isBlank(row, index);
  }

  valuesOf(step: ValueStep): Values {
    return this.#values.get(step)!;
  }

  key(scope: RecordColumns, row: number): string | undefined {
    return this.#keys.get(scope)![row];
  }

  /** Whether a row only adds to the one above. */
  isMore(row: number): boolean {
    return this.#isMore[row] === 1;
  }

  /** What groups the rows of a record. */
  word(row: number): string {
    return this.plan.group < 0 || this.isOdd[row] !== 0 ? "" : this.cell(row, this.plan.group);
  }

  /** Whether a plain row begins another record than that of a word. */
  begins(row: number, word: string): boolean {
    if (this.isMore(row)) return false;
    return this.plan.group < 0 || this.word(row) !== word;
  }

  /** Behind the last row, as far as rows are plain, of the record that begins at one; of a row that is not plain that row alone. */
  endOfRecord(first: number): number {
    let end = first + 1;
    if (this.isOdd[first] !== 0) return end;
    const word = this.word(first);
    while (end < this.spans.size && this.isOdd[end] === 0 && !this.begins(end, word)) end++;
    return end;
  }

  /** Whether these are plain rows, and all of their record: rows that are not seen yet may go on with it. */
  isWhole(first: number, end: number): boolean {
    if (this.isOdd[first] !== 0) return false;
    return !this.#mayGoOn || (end < this.spans.size && this.isOdd[end] === 0);
  }

  /** Whether the rows below the first say nothing else of what belongs to the record, or to the child above. */
  agree(first: number, end: number): boolean {
    const { child, isOnEveryRow } = this.plan;
    let above = first;
    for (let row = first + 1; row < end; row++) {
      const isMore = this.isMore(row);
      if (!isMore) above = row;
      for (const index of this.#shared) if (!this.#isSame(row, first, index, isOnEveryRow && !isMore)) return false;
      if (!isMore || !child) continue;
      for (const index of child.byColumn) if (!this.#isSame(row, above, index, false)) return false;
      for (const index of child.beside) if (!this.#isSame(row, above, index, false)) return false;
    }
    return true;
  }

  #isSame(row: number, above: number, index: number, isBlankToo: boolean): boolean {
    if (this.isBlank(row, index) && (!isBlankToo || this.isBlank(above, index))) return true;
    return this.cell(row, index) === this.cell(above, index);
  }

  /** The cells of a row that are filled row by row; undefined where all of them are blank. */
  beside(row: number, isFirst: boolean): BlockRow | undefined {
    const { parent, child, laneColumns } = this.plan;
    const isMore = this.isMore(row);
    const ofChild = child && !isMore ? child.beside : none;
    const cells = this.#cells.cellsAt(row, [isFirst ? parent.beside : none, ofChild, laneColumns], this.width);
    if (!cells) return undefined;
    return blockRow(cells, this.spans.lines[row]!, isMore ? "more" : child ? "child" : "own");
  }
}
