/**
 * Records by their name in a language, within what contains them, or what they belong to: the categories below a category, the values of
 * an axis, the option groups of one product.
 */

import type { Lang } from "../nominal.js";
import { inLanguage } from "../field-name.js";
import type { Catalogue } from "../catalogue/catalogue.js";
import { noReference } from "../catalogue/reference-pool.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";

/** Anywhere: names are looked for without regard to what contains the record. */
export const anywhere = -2;

export class NameIndex {
  readonly #rows = new Map<string, number[]>();
  readonly #field: string;
  readonly #table: ReadonlyTable;

  /**
   * @param by how records are contained: nodes of a tree, children of their kind's parent, those that belong to a record, or regardless.
   *   What belongs to a record is found nowhere else.
   */
  constructor(
    readonly catalogue: Catalogue,
    kind: string,
    lang: Lang,
    readonly by: "tree" | "parent" | "owner" | "anywhere",
  ) {
    this.#table = catalogue.table(kind);
    this.#field = inLanguage("name", lang);
    for (let row = 0; row < this.#table.size; row++) this.add(row);
  }

  add(row: number): void {
    const name = this.#table.text(this.#field, row);
    if (typeof name !== "string") return;
    const container = this.#container(row);
    if (container === undefined) return;
    const key = `${container}\u0000${name}`;
    const rows = this.#rows.get(key);
    if (rows) rows.push(row);
    else this.#rows.set(key, [row]);
  }

  /** @returns undefined while the record's own parent is not resolved. */
  #container(row: number): number | undefined {
    if (this.by === "parent") return this.#table.parent(row);
    const isNode = this.by === "tree";
    const parent = this.#table.references.get(isNode ? "parent" : (this.#table.kind.within ?? ""))?.first(row) ?? -1;
    if (this.by === "anywhere") return parent === noReference ? anywhere : undefined;
    if (parent === noReference) return isNode ? noReference : undefined;
    const target = this.catalogue.pool.target.get(parent);
    return target === noReference ? undefined : target;
  }

  find(container: number, name: string): readonly number[] {
    return this.#rows.get(`${container}\u0000${name}`) ?? [];
  }

  /** Names within a container, for suggestions. */
  *names(container: number): Generator<string> {
    const prefix = `${container}\u0000`;
    for (const key of this.#rows.keys()) if (key.startsWith(prefix)) yield key.slice(prefix.length);
  }
}
