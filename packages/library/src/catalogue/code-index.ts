/** Who has which code, over all kinds that can be sold. */

import type { Code } from "../nominal.js";
import type { ReadonlyCatalogue } from "./catalogue.js";
import type { ReadonlyTable } from "./readonly-table.js";
import { repeatedTexts } from "./repeated-texts.js";
import type { ReadonlyTextColumn } from "./text-column.js";

export interface RecordAt {
  readonly table: ReadonlyTable;
  readonly row: number;
}

interface CodesOf {
  readonly table: ReadonlyTable;
  readonly column: ReadonlyTextColumn;
}

/** Finds sellables by their codes, and says which codes several have. Each is worked out when somebody asks. */
export class CodeIndex {
  readonly #all: readonly CodesOf[];
  #first: Map<Code, RecordAt> | undefined;
  #repeated: Map<Code, RecordAt[]> | undefined;

  constructor(catalogue: ReadonlyCatalogue) {
    const sellable = catalogue.kinds.roots.filter((kind) => kind.fields.some((field) => field.name === "code"));
    this.#all = sellable.flatMap((kind) => {
      const table = catalogue.table(kind.name);
      const column = table.texts.get("code");
      return column ? [{ table, column }] : [];
    });
  }

  /** Codes that more than one record has, with all of them in order. */
  get repeated(): ReadonlyMap<Code, readonly RecordAt[]> {
    return (this.#repeated ??= this.#findRepeated());
  }

  find(code: Code): RecordAt | undefined {
    return this.#byCode().get(code);
  }

  codes(): IterableIterator<Code> {
    return this.#byCode().keys();
  }

  #byCode(): ReadonlyMap<Code, RecordAt> {
    if (this.#first) return this.#first;
    const first = new Map<Code, RecordAt>();
    this.#each((code, table, row) => {
      if (!first.has(code)) first.set(code, { table, row });
    });
    return (this.#first = first);
  }

  #findRepeated(): Map<Code, RecordAt[]> {
    const repeated = new Map<Code, RecordAt[]>();
    const most = this.#all.reduce((sum, { table }) => sum + table.size, 0);
    const comesAgain = repeatedTexts(most, (see) => this.#each(see));
    if (!comesAgain) return repeated;
    const first = new Map<Code, RecordAt>();
    this.#each((code, table, row) => {
      if (!comesAgain(code)) return;
      const known = first.get(code);
      const all = repeated.get(code);
      if (!known) first.set(code, { table, row });
      else if (all) all.push({ table, row });
      else repeated.set(code, [known, { table, row }]);
    });
    return repeated;
  }

  #each(see: (code: Code, table: ReadonlyTable, row: number) => void): void {
    for (const { table, column } of this.#all)
      for (let row = 0; row < table.size; row++) {
        const code = column.get(row);
        if (typeof code === "string") see(code, table, row);
      }
  }
}
