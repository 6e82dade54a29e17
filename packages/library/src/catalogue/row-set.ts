/** A set of rows, where there may be many: each is a bit. */

const bits = 32;

export class RowSet {
  #words: Int32Array;
  size = 0;

  /** @param rows those of a table; a set that has to hold others grows. */
  constructor(rows: number) {
    this.#words = new Int32Array(Math.ceil(rows / bits));
  }

  static of(rows: Iterable<number>, size: number): RowSet {
    const made = new RowSet(size);
    for (const row of rows) made.add(row);
    return made;
  }

  has(row: number): boolean {
    return row >= 0 && ((this.#words[row >> 5] ?? 0) & (1 << (row & 31))) !== 0;
  }

  /** @param row not below 0. */
  add(row: number): void {
    const word = row >> 5;
    if (word >= this.#words.length) this.#grow(word + 1);
    const before = this.#words[word]!;
    const after = before | (1 << (row & 31));
    if (after === before) return;
    this.#words[word] = after;
    this.size++;
  }

  /** The rows, ascending. */
  toArray(): number[] {
    const rows: number[] = [];
    this.#words.forEach((word, at) => {
      for (let rest = word; rest !== 0; rest &= rest - 1) rows.push(at * bits + 31 - Math.clz32(rest & -rest));
    });
    return rows;
  }

  #grow(words: number): void {
    const larger = new Int32Array(Math.max(words, this.#words.length * 2));
    larger.set(this.#words);
    this.#words = larger;
  }
}
