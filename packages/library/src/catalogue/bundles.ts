/**
 * Bundles: what their components add up to. A component that is a bundle itself counts as what its own components add up to,
 * where it does not say so itself.
 */

import { addDecimals, divideWhole, multiplyDecimals, compareDecimals } from "../decimal.js";
import { targetsOf, type ResolvedCatalogue } from "./catalogue.js";
import { plainPrice, sellableText, type Sellable } from "./sellables.js";

/** One part of a bundle. */
export interface Component {
  readonly item: Sellable;
  /** A whole number; "1" where none is given. */
  readonly quantity: string;
}

/** What is not known of one component is not known of the whole. */
export interface BundleSums {
  /** Of the regular prices. */
  readonly sum: string | undefined;
  readonly weight: string | undefined;
  /** How many can be put together from what is in stock, over all locations. */
  readonly available: string | undefined;
}

/** So deep do bundles lie in bundles at most; beyond, nothing is known of them. Circles are findings of their own. */
const maxDepth = 20;

/** What bundles are made of, and what their components add up to: price, weight, how many can be sold. */
export class BundleReader {
  readonly #known = new Map<string, BundleSums>();

  constructor(readonly catalogue: ResolvedCatalogue) {}

  componentsOf({ table, row, product }: Sellable): Component[] {
    const own = this.#components(table.name, row);
    return own.length > 0 || table.name === "product" ? own : this.#components("product", product);
  }

  #components(owner: string, row: number): Component[] {
    const { catalogue } = this;
    const components = catalogue.table(`${owner}.components`);
    const variants = catalogue.table("variant");
    return [...components.childrenOf(row)].flatMap((entry): Component[] => {
      const quantity = components.text("quantity", entry) ?? "1";
      const variant = targetsOf(catalogue, components, "variant", entry)[0];
      if (variant !== undefined)
        return [{ item: { table: variants, row: variant, product: variants.parent(variant) }, quantity }];
      const product = targetsOf(catalogue, components, "product", entry)[0];
      return product === undefined
        ? []
        : [{ item: { table: catalogue.table("product"), row: product, product }, quantity }];
    });
  }

  /** @returns undefined for what has no components. */
  sumsOf(bundle: Sellable, depth = 0): BundleSums | undefined {
    const components = this.componentsOf(bundle);
    if (components.length === 0) return undefined;
    const key = `${bundle.table.name} ${bundle.row}`;
    const known = this.#known.get(key);
    if (known || depth > maxDepth) return known;
    const parts = components.map(({ item, quantity }) => ({ quantity, ...this.#partOf(item, depth) }));
    const total = (field: "price" | "weight") =>
      parts.reduce<string | undefined>((sum, part) => {
        const value = part[field];
        return sum === undefined || value === undefined
          ? undefined
          : addDecimals(sum, multiplyDecimals(value, part.quantity));
      }, "0");
    const available = parts.map(({ stock, quantity }) =>
      stock === undefined || quantity === "0" ? undefined : divideWhole(stock, quantity),
    );
    const sums: BundleSums = {
      sum: total("price"),
      weight: total("weight"),
      available: available.includes(undefined)
        ? undefined
        : (available as string[]).reduce((least, one) => (compareDecimals(one, least) < 0 ? one : least)),
    };
    this.#known.set(key, sums);
    return sums;
  }

  #partOf(item: Sellable, depth: number): { price?: string; weight?: string; stock?: string } {
    const own = {
      price: plainPrice(this.catalogue, item, "price"),
      weight: sellableText(this.catalogue, item, "weight"),
      stock: this.#stockOf(item),
    };
    const inner = this.sumsOf(item, depth + 1);
    const price = own.price ?? inner?.sum;
    const weight = own.weight ?? inner?.weight;
    const stock = own.stock ?? inner?.available;
    return {
      ...(price === undefined ? {} : { price }),
      ...(weight === undefined ? {} : { weight }),
      ...(stock === undefined ? {} : { stock }),
    };
  }

  #stockOf({ table, row }: Sellable): string | undefined {
    const stock = this.catalogue.table(`${table.name}.stock`);
    const quantities = [...stock.childrenOf(row)].flatMap((entry) => stock.text("quantity", entry) ?? []);
    return quantities.length === 0 ? undefined : quantities.reduce(addDecimals);
  }
}
