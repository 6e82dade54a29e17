/** Which records a person looks at after an upload. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { kindPhrase, phrase } from "../phrases/phrase.js";
import { numbersWhere } from "../lists.js";
import type { LookStep } from "./plan.js";

/** Asks of each record whether it needs no look. */
type IsLeftOut = (kind: string, row: number) => boolean;

/**
 * The step in which a person looks: at the product with the most variants, one from the middle, and one without variants. Where there are
 * no products, at the first, one from the middle and the last record of a kind.
 *
 * @param kinds that come into question besides products; of these that with the most records.
 * @returns undefined where there is nothing to look at.
 */
export function lookStep(
  catalogue: ResolvedCatalogue,
  kinds: readonly string[],
  isLeftOut: IsLeftOut,
): LookStep | undefined {
  const rowsOf = (kind: string) => numbersWhere(catalogue.table(kind).size, (row) => !isLeftOut(kind, row));
  const products = rowsOf("product");
  if (products.length > 0) {
    const keys = keysOf(catalogue, "product", productsToSee(catalogue, products));
    const why = phrase("They are the product with the most variants, one from the middle, and one without variants.");
    return { number: 0, is: "look", title: phrase("Spot-check these products"), why, kind: "product", keys };
  }
  const [first] = [...new Set(kinds)]
    .filter((kind) => kind !== "variant")
    .map((kind) => ({ kind, rows: rowsOf(kind) }))
    .filter(({ rows }) => rows.length > 0)
    .sort((a, b) => b.rows.length - a.rows.length);
  if (first === undefined) return undefined;
  const { kind, rows } = first;
  return {
    number: 0,
    is: "look",
    title: phrase("Spot-check these {0}", kindPhrase(kind, 2)),
    why: phrase("They are the first, one from the middle, and the last."),
    kind,
    keys: keysOf(catalogue, kind, [rows[0]!, rows[Math.floor(rows.length / 2)]!, rows.at(-1)!]),
  };
}

function productsToSee(catalogue: ResolvedCatalogue, kept: readonly number[]): number[] {
  const variants = catalogue.table("variant");
  const byVariants = [...kept].sort((a, b) => variants.countChildren(b) - variants.countChildren(a) || a - b);
  const single = kept.find((row) => variants.countChildren(row) === 0);
  return [byVariants[0], byVariants[Math.floor(byVariants.length / 2)], single].flatMap((row) => row ?? []);
}

const keysOf = (catalogue: ResolvedCatalogue, kind: string, rows: readonly number[]): readonly string[] =>
  [...new Set(rows)].map((row) => catalogue.table(kind).key(row));
