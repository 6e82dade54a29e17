/** References of a whole column, row by row, without a list for each row. */

import type { ResolvedCatalogue } from "./catalogue.js";
import type { ReadonlyTable } from "./readonly-table.js";
import type { ReadonlyReferenceColumn } from "./reference-column.js";
import { noReference } from "./reference-pool.js";

/** The rows that a field refers to, dangling references left out. */
export class TargetsRead {
  /** Of the row that was read last; what stands behind the first `count` is of others. */
  readonly targets: number[] = [];
  count = 0;
  readonly #column: ReadonlyReferenceColumn | undefined;
  readonly #see: (number: number) => void;

  constructor(catalogue: ResolvedCatalogue, table: ReadonlyTable, field: string) {
    const { target } = catalogue.pool;
    this.#column = table.references.get(field);
    this.#see = (number) => {
      const found = target.get(number);
      if (found !== noReference) this.targets[this.count++] = found;
    };
  }

  /** @returns how many there are. */
  read(row: number): number {
    this.count = 0;
    this.#column?.each(row, this.#see);
    return this.count;
  }

  /** The keys of what was read last, as one text. @param table of what the field refers to. @returns undefined where there is nothing. */
  keysIn(table: ReadonlyTable): string | undefined {
    const { targets, count } = this;
    if (count === 0) return undefined;
    return targets
      .slice(0, count)
      .map((row) => table.key(row))
      .join(", ");
  }
}
