/**
 * Places within the repeated elements of a JSON document: of a version in its item, of a tier in its version. Rows are known by one number;
 * those of elements further in are counted from a number that no item has.
 */

import { IntList } from "../../catalogue/int-list.js";

const first = 2 ** 30;

export class InnerPlaces {
  readonly #items = new IntList();
  readonly #inside = new IntList();
  readonly #paths: string[] = [];
  readonly #numbers = new Map<string, number>();

  /** @param inside the pointer from the item: `/versions/1`. @returns the number of the row. */
  add(item: number, inside: string): number {
    let number = this.#numbers.get(inside);
    if (number === undefined) {
      this.#numbers.set(inside, (number = this.#paths.length));
      this.#paths.push(inside);
    }
    this.#items.push(item);
    this.#inside.push(number);
    return first + this.#items.length - 1;
  }

  /** What stands behind the pointer of the repeated elements: `3/versions/1`; of an item itself its number. */
  pointerOf(row: number): string {
    if (row < first) return String(row);
    const at = row - first;
    return `${this.#items.get(at)}${this.#paths[this.#inside.get(at)] ?? ""}`;
  }
}
