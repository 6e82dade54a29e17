/** The rows of a column by the numbers in their lists, as they stood when this was made: rows that change later are looked at by themselves. */

/** How many rows may have changed since, before it is better made again. */
const mostChanged = 1_024;

export class RowsByNumber {
  /** For each number, where its rows begin in `#rows`. */
  readonly #firsts: Int32Array;
  readonly #rows: Int32Array;
  readonly #changed = new Set<number>();

  /** @param starts for each row where its list begins in `lists`, plus 1; 0 is none. A list is its length, then its numbers. */
  constructor(starts: Int32Array, lists: Int32Array) {
    let [count, largest] = [0, -1];
    eachNumber(starts, lists, (_, number) => {
      count++;
      if (number > largest) largest = number;
    });
    const firsts = new Int32Array(largest + 2);
    eachNumber(starts, lists, (_, number) => void firsts[number + 1]!++);
    for (let at = 1; at < firsts.length; at++) firsts[at]! += firsts[at - 1]!;
    const rows = new Int32Array(count);
    const next = firsts.slice();
    eachNumber(starts, lists, (row, number) => void (rows[next[number]!++] = row));
    this.#firsts = firsts;
    this.#rows = rows;
  }

  /** Rows that may have one of the numbers, in their order, each once: those that had it and those that have changed. */
  candidates(numbers: Iterable<number>): number[] {
    const found = new Set(this.#changed);
    for (const number of numbers) {
      if (number + 1 >= this.#firsts.length) continue;
      for (let at = this.#firsts[number]!; at < this.#firsts[number + 1]!; at++) found.add(this.#rows[at]!);
    }
    return [...found].sort((a, b) => a - b);
  }

  /** @returns whether it is still worth keeping. */
  change(row: number): boolean {
    this.#changed.add(row);
    return this.#changed.size <= mostChanged;
  }
}

function eachNumber(starts: Int32Array, lists: Int32Array, see: (row: number, number: number) => void): void {
  for (let row = 0; row < starts.length; row++) {
    const start = starts[row]!;
    if (start === 0) continue;
    const end = start + lists[start - 1]!;
    for (let at = start; at < end; at++) see(row, lists[at]!);
  }
}
