/** A product's variants against the combinations that the values of its axes would make: which there are, and which are missing. */

import type { Row } from "../nominal.js";
import { targetsOf, type ResolvedCatalogue } from "./catalogue.js";

/** The combinations that the values of a product's axes make. */
export interface Combinations {
  /** Rows of the axes, in the product's order. */
  readonly axes: readonly number[];
  /** By axis: the rows of the values that its variants have, in the order in which they come. */
  readonly values: readonly (readonly number[])[];
  /** How many combinations those values make. */
  readonly possible: number;
  /** The row of the variant with one value of each axis, in their order; undefined where there is none. */
  readonly variantOf: (values: readonly number[]) => number | undefined;
}

/**
 * A product's variants against the combinations that the values of its axes make.
 *
 * @param product a row of the products. A product without axes has no combination.
 */
export function combinationsOf(catalogue: ResolvedCatalogue, product: Row<"product">): Combinations {
  const products = catalogue.table("product");
  const variants = catalogue.table("variant");
  const values = catalogue.table("value");
  const axes = targetsOf(catalogue, products, "axes", product);
  const met = axes.map(() => new Set<number>());
  const made = new Map<string, number>();
  for (const variant of variants.childrenOf(product)) {
    const own = targetsOf(catalogue, variants, "values", variant);
    const combination = axes.map((axis) => own.find((value) => values.parent(value) === axis));
    combination.forEach((value, at) => value !== undefined && met[at]!.add(value));
    if (!combination.includes(undefined)) made.set(combination.join(), variant);
  }
  return {
    axes,
    values: met.map((own) => [...own]),
    possible: axes.length === 0 ? 0 : met.reduce((product, own) => product * own.size, 1),
    variantOf: (combination) => made.get(combination.join()),
  };
}
