/** One referring field of many records: for each row a list of references, by their numbers in the pool. */

import { IntList } from "./int-list.js";
import { RowsByNumber } from "./rows-by-number.js";
import { Seal } from "./seal.js";

export interface ReadonlyReferenceColumn {
  get(row: number): readonly number[];
  /** The lists of the rows from one up to another, that one left out; undefined where a row has none. */
  read(from: number, to: number): readonly (readonly number[] | undefined)[];
  /** Calls `see` with each reference of a row, in order, without making a list. */
  each(row: number, see: (number: number) => void): void;
  /** The first reference of a row, or -1: for fields that hold only one, without making a list. */
  first(row: number): number;
  /** True for an empty list too. */
  isSet(row: number): boolean;
  /** The rows whose lists hold one of some references, in their order. */
  rowsWith(wanted: ReadonlySet<number>): readonly number[];
}

const none: readonly number[] = [];

export class ReferenceColumn implements ReadonlyReferenceColumn {
  /** For each row, where its list begins in `#lists`, plus 1; 0 is absent. A list is its length, then its numbers. */
  #starts = new IntList();
  #lists = new IntList();
  /** Made when somebody asks for rows; kept as long as that pays. */
  #byNumber: RowsByNumber | undefined;
  readonly seal = new Seal();
  /** Called with each row that is about to change. */
  watch: ((row: number) => void) | undefined;

  /** The same cells, to be changed; this column is sealed. */
  branch(): ReferenceColumn {
    this.seal.close();
    const made = new ReferenceColumn();
    made.#starts = this.#starts.branch();
    made.#lists = this.#lists.branch();
    return made;
  }

  get(row: number): readonly number[] {
    const start = this.#starts.get(row);
    if (start === 0) return none;
    const count = this.#lists.get(start - 1);
    const list = new Array<number>(count);
    for (let at = 0; at < count; at++) list[at] = this.#lists.get(start + at);
    return list;
  }

  each(row: number, see: (number: number) => void): void {
    const start = this.#starts.get(row);
    if (start === 0) return;
    const count = this.#lists.get(start - 1);
    for (let at = 0; at < count; at++) see(this.#lists.get(start + at));
  }

  first(row: number): number {
    const start = this.#starts.get(row);
    return start === 0 || this.#lists.get(start - 1) === 0 ? -1 : this.#lists.get(start);
  }

  read(from: number, to: number): readonly (readonly number[] | undefined)[] {
    return Array.from({ length: Math.max(0, to - from) }, (_, at) =>
      this.isSet(from + at) ? this.get(from + at) : undefined,
    );
  }

  /** Puts lists into the rows from one on; leaves rows as they are for which it is undefined. */
  write(from: number, lists: readonly (readonly number[] | undefined)[]): void {
    for (const [at, list] of lists.entries()) if (list) this.set(from + at, list);
  }

  rowsWith(wanted: ReadonlySet<number>): readonly number[] {
    this.#byNumber ??= new RowsByNumber(this.#starts.toArray(), this.#lists.toArray());
    return this.#byNumber.candidates(wanted).filter((row) => this.get(row).some((number) => wanted.has(number)));
  }

  isSet(row: number): boolean {
    return this.#starts.get(row) !== 0;
  }

  /** As if it had never been set. */
  unset(row: number): void {
    this.seal.check();
    this.watch?.(row);
    this.#starts.set(row, 0);
    this.#noteChange(row);
  }

  set(row: number, list: readonly number[]): void {
    this.seal.check();
    this.watch?.(row);
    this.#starts.set(row, this.#lists.length + 1);
    this.#lists.push(list.length);
    for (const number of list) this.#lists.push(number);
    this.#noteChange(row);
  }

  #noteChange(row: number): void {
    if (this.#byNumber && !this.#byNumber.change(row)) this.#byNumber = undefined;
  }
}
