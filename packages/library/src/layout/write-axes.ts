/**
 * What the cells of axes and values show. Several columns ask of the same record, by number and by language: what is looked up for one
 * is kept for the next.
 */

import type { Lang, Row } from "../nominal.js";
import { inLanguage } from "../field-name.js";
import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/table.js";
import { fieldOf } from "../kind.js";
import type { CellContext, ToValue } from "./write-context.js";

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
      const held = targetsOf(this.catalogue, this.catalogue.table("variant"), "values", variant);
      this.#ofVariant = this.axesOf(product).map((axis) => held.find((value) => this.#values.parent(value) === axis));
    }
    return this.#ofVariant;
  }

  /** The name of an axis or a value, by its row. */
  names(kind: "axis" | "value", lang: Lang): (row: number | undefined) => string | undefined {
    const column = this.catalogue.table(kind).textsOf(inLanguage("name", lang));
    return (row) => (row === undefined ? undefined : (column.get(row) ?? undefined));
  }
}

export function axisName({ axes }: CellContext, table: ReadonlyTable, number: number, lang: Lang): ToValue | undefined {
  if (!fieldOf(table.kind, "axes")) return undefined;
  const name = axes.names("axis", lang);
  return (record) => name(axes.axesOf(record)[number - 1]);
}

export function axisValue(
  { axes }: CellContext,
  table: ReadonlyTable,
  number: number,
  lang: Lang,
): ToValue | undefined {
  if (!fieldOf(table.kind, "values")) return undefined;
  const name = axes.names("value", lang);
  return (record, parent) => name(axes.valuesOf(record, parent)[number - 1]);
}

/** The position of an axis among those of a product, by its name; -1 where it has none of that name. */
export function positionOfAxis({ axes }: CellContext, named: string, lang: Lang): (product: number) => number {
  const name = axes.names("axis", lang);
  return (product) => axes.axesOf(product).findIndex((axis) => name(axis) === named);
}

export function namedAxisValue(
  context: CellContext,
  table: ReadonlyTable,
  named: string,
  lang: Lang,
): ToValue | undefined {
  if (!fieldOf(table.kind, "values")) return undefined;
  const { axes } = context;
  const position = positionOfAxis(context, named, lang);
  const name = axes.names("value", lang);
  return (record, parent) => name(axes.valuesOf(record, parent)[position(parent)]);
}

/** The values that a product's variants have on one of its axes, in the order in which they come. */
export function listedValues(
  { catalogue, axes }: CellContext,
  table: ReadonlyTable,
  positionOf: (product: number) => number,
  lang: Lang,
): ToValue | undefined {
  if (!fieldOf(table.kind, "axes")) return undefined;
  const name = axes.names("value", lang);
  const variants = catalogue.table("variant");
  return (product) => {
    const position = positionOf(product);
    const used = new Set<number>();
    for (const variant of variants.childrenOf(product)) {
      const value = axes.valuesOf(variant, product)[position];
      if (value !== undefined) used.add(value);
    }
    const names = [...used].map((value) => name(value) ?? "");
    return names.some((one) => one === "") ? undefined : names;
  };
}
