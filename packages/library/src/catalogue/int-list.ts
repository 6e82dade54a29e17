/** A growing list of 32-bit integers. */

export interface ReadonlyIntList {
  readonly length: number;
  /** @returns 0 beyond the end. */
  get(at: number): number;
  /** The items themselves; valid until the next change. */
  toArray(): Int32Array;
}

export class IntList implements ReadonlyIntList {
  #items = new Int32Array(16);
  /** Whether another list, which is not changed any more, has the same items: they are copied before the first change. */
  #isShared = false;
  length = 0;

  /** A list with the same items; only when it changes are they copied. This one must not be changed any more. */
  branch(): IntList {
    const made = new IntList();
    made.#items = this.#items;
    made.#isShared = true;
    made.length = this.length;
    return made;
  }

  push(item: number): void {
    if (this.#isShared) this.#grow(this.length * 2);
    if (this.length === this.#items.length) this.#grow(this.length * 2);
    this.#items[this.length++] = item;
  }

  get(at: number): number {
    return at < this.length ? this.#items[at]! : 0;
  }

  set(at: number, item: number): void {
    if (this.#isShared) this.#grow(this.#items.length);
    if (at >= this.#items.length) this.#grow(Math.max(at + 1, this.#items.length * 2));
    if (at >= this.length) this.length = at + 1;
    this.#items[at] = item;
  }

  toArray(): Int32Array {
    return this.#items.subarray(0, this.length);
  }

  #grow(size: number): void {
    const larger = new Int32Array(Math.max(size, this.#items.length));
    larger.set(this.#items);
    this.#items = larger;
    this.#isShared = false;
  }
}
