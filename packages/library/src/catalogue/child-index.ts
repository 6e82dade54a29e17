/** The rows that each parent contains: ranges of one list, and beside them the parents whose rows have changed since. */

import { added } from "../lists.js";

/** More parents than this are not kept beside the list: it is cheaper to make the list again. */
const mostChanged = 1_000;

interface Changed {
  /** Ascending. */
  readonly rows: number[];
  /** The same, once somebody has asked. */
  array: Int32Array | undefined;
}

export class ChildIndex {
  readonly #ends: Int32Array;
  readonly #rows: Int32Array;
  readonly #changed = new Map<number, Changed>();

  /** @param parents by row; -1 for none. */
  constructor(parents: Int32Array) {
    let most = -1;
    for (let row = 0; row < parents.length; row++) most = Math.max(most, parents[row]!);
    const counts = new Int32Array(most + 1);
    for (let row = 0; row < parents.length; row++) if (parents[row]! >= 0) counts[parents[row]!]!++;
    const next = new Int32Array(most + 1);
    let total = 0;
    for (let parent = 0; parent <= most; parent++) {
      next[parent] = total;
      total += counts[parent]!;
    }
    const rows = new Int32Array(total);
    for (let row = 0; row < parents.length; row++) {
      const parent = parents[row]!;
      if (parent >= 0) rows[next[parent]!++] = row;
    }
    this.#ends = next;
    this.#rows = rows;
  }

  /** Whether so much has changed that the index is better made again. */
  get isOutworn(): boolean {
    return this.#changed.size > mostChanged;
  }

  /** Whether anything has changed since it was made. */
  get isChanged(): boolean {
    return this.#changed.size > 0;
  }

  /** The rows in a parent, ascending. */
  of(parent: number): Int32Array {
    const changed = this.#changed.size === 0 ? undefined : this.#changed.get(parent);
    if (changed) return (changed.array ??= Int32Array.from(changed.rows));
    return this.asMade(parent);
  }

  /** The rows that a parent had when the index was made. */
  asMade(parent: number): Int32Array {
    return this.#rows.subarray(this.#endOf(parent - 1), this.#endOf(parent));
  }

  /** The first row in a parent that fits, -1 where none does. No list is made. */
  find(parent: number, fits: (row: number) => boolean): number {
    const changed = this.#changed.size === 0 ? undefined : this.#changed.get(parent);
    return changed ? (changed.rows.find(fits) ?? -1) : this.findAsMade(parent, fits);
  }

  /** The same among the rows that it had when the index was made. */
  findAsMade(parent: number, fits: (row: number) => boolean): number {
    const end = this.#endOf(parent);
    for (let at = this.#endOf(parent - 1); at < end; at++) if (fits(this.#rows[at]!)) return this.#rows[at]!;
    return -1;
  }

  /** The rows in a parent that fit; undefined where none does. */
  where(parent: number, fits: (row: number) => boolean): number[] | undefined {
    const changed = this.#changed.size === 0 ? undefined : this.#changed.get(parent);
    if (changed) return changed.rows.filter(fits);
    const end = this.#endOf(parent);
    let found: number[] | undefined;
    for (let at = this.#endOf(parent - 1); at < end; at++) {
      const row = this.#rows[at]!;
      if (fits(row)) found = added(found, row);
    }
    return found;
  }

  /** How many rows a parent has. */
  count(parent: number): number {
    const changed = this.#changed.size === 0 ? undefined : this.#changed.get(parent);
    return changed ? changed.rows.length : this.countAsMade(parent);
  }

  /** How many it had when the index was made. */
  countAsMade(parent: number): number {
    return this.#endOf(parent) - this.#endOf(parent - 1);
  }

  /** Where a parent's rows end in the list; those of the next begin there. Where a parent is not in it, it has none. */
  #endOf(parent: number): number {
    if (parent < 0 || this.#ends.length === 0) return 0;
    return this.#ends[Math.min(parent, this.#ends.length - 1)]!;
  }

  add(parent: number, row: number): void {
    if (parent < 0) return;
    const { rows } = this.#change(parent);
    const behind = rows.length > 0 && rows[rows.length - 1]! > row ? rows.findIndex((one) => one > row) : rows.length;
    rows.splice(behind, 0, row);
  }

  remove(parent: number, row: number): void {
    if (parent < 0) return;
    const { rows } = this.#change(parent);
    rows.splice(rows.indexOf(row), 1);
  }

  #change(parent: number): Changed {
    let changed = this.#changed.get(parent);
    if (!changed) this.#changed.set(parent, (changed = { rows: [...this.asMade(parent)], array: undefined }));
    changed.array = undefined;
    return changed;
  }
}
