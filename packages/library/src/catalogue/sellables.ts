/** What can be sold: variants, and products that have none. Most rules and facts go over both in the same way. */

import type { Row } from "../nominal.js";
import { entryLookup } from "./entry-lookup.js";
import type { ResolvedCatalogue } from "./catalogue.js";
import type { ReadonlyTable } from "./readonly-table.js";

/** A variant, or a product without variants: by its table and row. */
export interface Sellable {
  readonly table: ReadonlyTable;
  readonly row: number;
  /** The variant's product; the product itself where it is sold by itself. */
  readonly product: Row<"product">;
}

/** All of them, products in order, each with its variants. */
export function* sellables(catalogue: ResolvedCatalogue): Generator<Sellable> {
  const products = catalogue.table("product");
  const variants = catalogue.table("variant");
  for (let product = 0; product < products.size; product++) {
    const children = variants.childrenOf(product);
    if (children.length === 0) yield { table: products, row: product, product };
    for (const row of children) yield { table: variants, row, product };
  }
}

/** A sellable's field: its own, else its product's. */
export function sellableText(catalogue: ResolvedCatalogue, { table, row, product }: Sellable, field: string) {
  const own = table.text(field, row);
  const text = own === undefined ? catalogue.table("product").text(field, product) : own;
  return text ?? undefined;
}

/** The plain price of a role, its own or its product's: for everybody, of any quantity, at any time, in the main currency. */
export function plainPrice(catalogue: ResolvedCatalogue, sellable: Sellable, role: string): string | undefined {
  const { table, row, product } = sellable;
  const own = plainPriceOf(catalogue.table(`${table.name}.prices`), row, role);
  if (own !== undefined || table.name === "product") return own;
  return plainPriceOf(catalogue.table("product.prices"), product, role);
}

function plainPriceOf(prices: ReadonlyTable, owner: number, role: string): string | undefined {
  const found = entryLookup(prices, { role }).first(owner);
  return found < 0 ? undefined : (prices.text("amount", found) ?? undefined);
}
