/** Who has which code, over all kinds that can be sold. */

import type { Code } from "../nominal.js";
import type { ReadonlyCatalogue } from "./catalogue.js";
import type { ReadonlyTable } from "./readonly-table.js";

export interface RecordAt {
  readonly table: ReadonlyTable;
  readonly row: number;
}

/** Finds sellables by their codes, and says which codes several have. */
export class CodeIndex {
  readonly #tables: readonly ReadonlyTable[];
  readonly #first = new Map<Code, number>();
  /** Codes that more than one record has, with all of them in order. */
  readonly repeated = new Map<Code, RecordAt[]>();

  constructor(catalogue: ReadonlyCatalogue) {
    this.#tables = catalogue.kinds.roots
      .filter((kind) => kind.fields.some((field) => field.name === "code"))
      .map((kind) => catalogue.table(kind.name));
    this.#tables.forEach((table, which) => {
      const column = table.texts.get("code");
      if (!column) return;
      for (let row = 0; row < table.size; row++) {
        const code = column.get(row);
        if (typeof code !== "string") continue;
        const known = this.#first.get(code);
        if (known === undefined) this.#first.set(code, row * this.#tables.length + which);
        else this.#repeat(code, known, { table, row });
      }
    });
  }

  #repeat(code: Code, first: number, again: RecordAt): void {
    const all = this.repeated.get(code) ?? [this.#decode(first)];
    all.push(again);
    this.repeated.set(code, all);
  }

  #decode(number: number): RecordAt {
    return { table: this.#tables[number % this.#tables.length]!, row: Math.floor(number / this.#tables.length) };
  }

  find(code: Code): RecordAt | undefined {
    const found = this.#first.get(code);
    return found === undefined ? undefined : this.#decode(found);
  }

  codes(): IterableIterator<Code> {
    return this.#first.keys();
  }
}
