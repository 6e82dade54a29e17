/** Which products a person looks at after an upload. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";

/** The keys of the product with the most variants, of one from the middle, and of one without variants. */
export function spotChecks(catalogue: ResolvedCatalogue, isLeftOut: (row: number) => boolean): string[] {
  const products = catalogue.table("product");
  const variants = catalogue.table("variant");
  const kept = Array.from({ length: products.size }, (_, row) => row).filter((row) => !isLeftOut(row));
  const byVariants = [...kept].sort((a, b) => variants.childrenOf(b).length - variants.childrenOf(a).length || a - b);
  const single = kept.find((row) => variants.childrenOf(row).length === 0);
  const shown = [byVariants[0], byVariants[Math.floor(byVariants.length / 2)], single].flatMap((row) => row ?? []);
  return [...new Set(shown)].map((row) => products.key(row));
}
