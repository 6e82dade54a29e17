/** The old addresses of a product lead to another. */

import type { Work } from "./work.js";

/** Adds a redirect for each address that a product had and the other has not. */
export function redirect(work: Work, from: number, to: number): void {
  const table = work.catalogue.table("product");
  for (const [field, column] of table.texts) {
    const slug = field.startsWith("slug@") ? column.get(from) : undefined;
    if (typeof slug === "string" && slug !== column.get(to)) redirectAddress(work, to, field, slug);
  }
}

/** An address leads to a product. @param field the field with the address: `slug@en`. */
export function redirectAddress({ catalogue, source }: Work, product: number, field: string, slug: string): void {
  const products = catalogue.table("product");
  const table = catalogue.table("product.redirects");
  const entry = table.append(products.sheet(product), products.line(product), product);
  table.setText("from", entry, slug);
  if (field !== `slug@${source}`) table.setText("language", entry, field.slice("slug@".length));
}
