/** A growing list of 32-bit integers. */

export class IntList {
  #items = new Int32Array(16);
  length = 0;

  push(item: number): void {
    if (this.length === this.#items.length) this.#grow(this.length * 2);
    this.#items[this.length++] = item;
  }

  /** @returns 0 beyond the end. */
  get(at: number): number {
    return at < this.length ? this.#items[at]! : 0;
  }

  set(at: number, item: number): void {
    if (at >= this.#items.length) this.#grow(Math.max(at + 1, this.#items.length * 2));
    if (at >= this.length) this.length = at + 1;
    this.#items[at] = item;
  }

  /** The items themselves; valid until the next change. */
  toArray(): Int32Array {
    return this.#items.subarray(0, this.length);
  }

  #grow(size: number): void {
    const larger = new Int32Array(size);
    larger.set(this.#items);
    this.#items = larger;
  }
}
