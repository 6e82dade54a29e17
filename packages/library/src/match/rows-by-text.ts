/** Rows by a text that they are known by. Most texts have one: that is a number, with no list for it. */

/** Rows that a record may be. */
export type Candidates = number | readonly number[];

export class RowsByText {
  readonly #rows = new Map<string, number | number[]>();

  add(text: string, row: number): void {
    const known = this.#rows.get(text);
    if (known === undefined) this.#rows.set(text, row);
    else if (typeof known === "number") this.#rows.set(text, [known, row]);
    else known.push(row);
  }

  /** For one text always the same list. */
  of(text: string): Candidates | undefined {
    return this.#rows.get(text);
  }
}
