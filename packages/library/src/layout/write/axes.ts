/**
 * What the cells of axes and values show. Several columns ask of the same record, by number and by language: what is looked up for one
 * is kept for the next.
 */

import type { Lang, Row } from "../../nominal.js";
import { inLanguage } from "../../field-name.js";
import { targetsOf, type ResolvedCatalogue } from "../../catalogue/catalogue.js";
import type { ReadonlyTable } from "../../catalogue/readonly-table.js";

export class AxisReader {
  readonly #values: ReadonlyTable;
  #product = -1;
  #axes: readonly number[] = [];
  #variant = -1;
  #ofVariant: readonly (number | undefined)[] = [];

  constructor(readonly catalogue: ResolvedCatalogue) {
    this.#values = catalogue.table("value");
  }

  /** The axes of a product, in its order. */
  axesOf(product: Row<"product">): readonly number[] {
    if (product !== this.#product) {
      this.#product = product;
      this.#axes = targetsOf(this.catalogue, this.catalogue.table("product"), "axes", product);
    }
    return this.#axes;
  }

  /** The values of a variant, one for each axis of its product; undefined for a gap. */
  valuesOf(variant: Row<"variant">, product: Row<"product">): readonly (number | undefined)[] {
    if (variant !== this.#variant) {
      this.#variant = variant;
      this.#ofVariant = this.#valuesOn(this.axesOf(product), variant);
    }
    return this.#ofVariant;
  }

  #valuesOn(axes: readonly number[], variant: Row<"variant">): readonly (number | undefined)[] {
    const held = targetsOf(this.catalogue, this.catalogue.table("variant"), "values", variant);
    const values: (number | undefined)[] = [];
    for (const axis of axes) {
      let at = 0;
      while (at < held.length && this.#values.parent(held[at]!) !== axis) at++;
      values.push(held[at]);
    }
    return values;
  }

  /** The name of an axis or a value, by its row. */
  names(kind: "axis" | "value", lang: Lang): (row: number | undefined) => string | undefined {
    const column = this.catalogue.table(kind).textsOf(inLanguage("name", lang));
    return (row) => (row === undefined ? undefined : (column.get(row) ?? undefined));
  }
}
