/** Finding the record that a row of another sheet names: by key, by code or another field, or by the line of a row elsewhere. */

import { present } from "../../checked.js";
import type { Catalogue } from "../../catalogue/catalogue.js";
import type { Table } from "../../catalogue/table.js";
import type { KindSpec } from "../../kind.js";
import type { RowLink } from "../layout.js";

/** The records of a kind, and of what contains them. */
const most = 2;

export interface IndexedRecord {
  readonly table: Table;
  readonly row: number;
}

/** Finds records as they are when it is made; what is added later is not found. */
export class RecordIndex {
  readonly #tables: readonly Table[];
  /** A record by its row and the number of its table, in one: nearly all words name one. */
  readonly #byWord = new Map<string, number>();
  /** The words that name several. */
  readonly #several = new Map<string, IndexedRecord[]>();
  /** A code of a child names its parent, where the parent's kind is wanted. */
  readonly #children: Table | undefined;

  constructor(
    readonly catalogue: Catalogue,
    kind: KindSpec,
    readonly found: Pick<RowLink, "names" | "sheet">,
    /** `withSingles`: what contains such records stands for one itself, where it has none. */
    { withSingles = true }: { readonly withSingles?: boolean } = {},
  ) {
    const above = kind.of === undefined ? undefined : catalogue.kinds.get(kind.of);
    this.#tables = [catalogue.table(kind.name), ...(withSingles && above?.single ? [catalogue.table(above.name)] : [])];
    const child = catalogue.kinds.childOf(kind.name);
    this.#children = child && found.names === "code" ? catalogue.table(child.name) : undefined;
    this.#tables.forEach((table, number) => this.#index(table, number, (row) => row));
    if (this.#children) this.#index(this.#children, 0, (row) => present(this.#children).parent(row));
  }

  #index(table: Table, number: number, recordOf: (row: number) => number): void {
    const { names, sheet } = this.found;
    const column = names === "key" || names === "line" ? undefined : table.texts.get(names);
    for (let row = 0; row < table.size; row++) {
      const word =
        names === "key"
          ? table.key(row)
          : names === "line"
            ? this.#lineOf(table, row, present(sheet))
            : column?.get(row);
      if (typeof word !== "string") continue;
      const record = recordOf(row) * most + number;
      const known = this.#byWord.get(word);
      if (known === undefined) this.#byWord.set(word, record);
      // A line of a group's first row is the variant's, and the product's: the kind that is wanted comes first.
      else if (names !== "line" && known !== record) this.#add(word, known, record);
    }
  }

  #add(word: string, first: number, record: number): void {
    const several = this.#several.get(word) ?? [this.#recordOf(first)];
    const next = this.#recordOf(record);
    if (several.every(({ table, row }) => row !== next.row || table !== next.table)) several.push(next);
    this.#several.set(word, several);
  }

  #recordOf(record: number): IndexedRecord {
    return { table: this.#tables[record % most]!, row: Math.floor(record / most) };
  }

  #lineOf(table: Table, row: number, sheet: string): string | undefined {
    const from = this.catalogue.sheets[table.sheet(row)];
    return from?.file === sheet || from?.sheet === sheet ? String(table.line(row)) : undefined;
  }

  /** The one record of a word, by its row and its table; undefined where there is none, or where there are several. */
  one(word: string): IndexedRecord | undefined {
    const known = this.#byWord.get(word);
    return known === undefined || this.#several.has(word) ? undefined : this.#recordOf(known);
  }

  find(word: string): readonly IndexedRecord[] {
    const known = this.#byWord.get(word);
    return known === undefined ? [] : (this.#several.get(word) ?? [this.#recordOf(known)]);
  }

  names(): IterableIterator<string> {
    return this.#byWord.keys();
  }
}
