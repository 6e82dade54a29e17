/** Rows of two tables that go together. */

import { IntList } from "../catalogue/int-list.js";

/** A row of each of two tables. */
export interface PairedRows {
  readonly own: number;
  readonly other: number;
}

/** Rows that go together. Of a large catalogue there are as many as it has records: they are numbers in two lists. */
export class RowPairs {
  readonly own = new IntList();
  readonly other = new IntList();

  get size(): number {
    return this.own.length;
  }
  push(own: number, other: number): void {
    this.own.push(own);
    this.other.push(other);
  }
  at(place: number): PairedRows {
    return { own: this.own.get(place), other: this.other.get(place) };
  }
}

/** Whether entries that correspond stand in another order. */
export const isMoved = (pairs: readonly PairedRows[]): boolean =>
  pairs.some(({ other }, at) => at > 0 && other < pairs[at - 1]!.other);
