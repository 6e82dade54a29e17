/** One referring field of many records: for each row a list of references, by their numbers in the pool. */

import { IntList } from "./int-list.js";

const none: readonly number[] = [];

export class ReferenceColumn {
  /** For each row, where its list begins in `#lists`, plus 1; 0 is absent. A list is its length, then its numbers. */
  readonly #starts = new IntList();
  readonly #lists = new IntList();

  get(row: number): readonly number[] {
    const start = this.#starts.get(row);
    if (start === 0) return none;
    const count = this.#lists.get(start - 1);
    const list = new Array<number>(count);
    for (let at = 0; at < count; at++) list[at] = this.#lists.get(start + at);
    return list;
  }

  /** Calls `see` with each reference of a row, in order, without making a list. */
  each(row: number, see: (number: number) => void): void {
    const start = this.#starts.get(row);
    if (start === 0) return;
    const count = this.#lists.get(start - 1);
    for (let at = 0; at < count; at++) see(this.#lists.get(start + at));
  }

  /** The first reference of a row, or -1: for fields that hold only one, without making a list. */
  first(row: number): number {
    const start = this.#starts.get(row);
    return start === 0 || this.#lists.get(start - 1) === 0 ? -1 : this.#lists.get(start);
  }

  isSet(row: number): boolean {
    return this.#starts.get(row) !== 0;
  }

  /** As if it had never been set. */
  unset(row: number): void {
    this.#starts.set(row, 0);
  }

  set(row: number, list: readonly number[]): void {
    this.#starts.set(row, this.#lists.length + 1);
    this.#lists.push(list.length);
    for (const number of list) this.#lists.push(number);
  }
}
