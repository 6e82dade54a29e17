/** Variants that the platform never puts below another product: they are made again there, under another key. */

import { firstOf } from "../checked.js";
import { asTargetView, type ResolvedCatalogue, type TargetView } from "../catalogue/catalogue.js";
import type { Target } from "../target/target.js";

/** Whether the target's column for a variant's product never changes once it is set. */
function isFixed(target: Target): boolean {
  return [...target.files.values()].some(({ layouts, rules }) =>
    layouts.some(
      ({ columns, shape }) =>
        shape.parent.name === "variant" &&
        columns.some(({ header, bindings }) => firstOf(bindings).feed.is === "container" && rules.get(header)?.fixed),
    ),
  );
}

/** Gives variants that are to change their product a key of their own. @returns the catalogue that was given, where there are none. */
export function withMovedRecreated(given: TargetView, target: Target, platform: ResolvedCatalogue): TargetView {
  if (!isFixed(target)) return given;
  const catalogue = given.branch();
  let isAny = false;
  const variants = catalogue.table("variant");
  const products = catalogue.table("product");
  const there = platform.table("variant");
  /** The product that a variant of the platform is below. */
  const productOf = (key: string): string | undefined => {
    const row = there.find(key);
    return row === undefined || there.parent(row) < 0 ? undefined : platform.table("product").key(there.parent(row));
  };
  for (let row = 0; row < variants.size; row++) {
    const key = variants.key(row);
    const before = productOf(key);
    if (before === undefined || before === products.key(variants.parent(row))) continue;
    // Made again already, or the first key that is free.
    const own = products.key(variants.parent(row));
    const isFree = (word: string) => variants.find(word) === undefined && (productOf(word) ?? own) === own;
    let other = `${key}-2`;
    for (let n = 3; !isFree(other); n++) other = `${key}-${n}`;
    variants.rename(row, other);
    isAny = true;
  }
  return isAny ? asTargetView(catalogue) : given;
}
