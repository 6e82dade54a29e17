/**
 * Holding back: which products and variants stay out of a build because something is wrong with them, or with what they depend on.
 *
 * A product without any variant left is held back with them; so is a product that refers to a faulty category, axis, value or brand.
 */

import { referenceFields, targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { finding, type Finding, type Findings } from "../finding.js";
import type { Place } from "../place.js";

export interface HeldBack {
  readonly products: ReadonlySet<number>;
  readonly variants: ReadonlySet<number>;
}

export const nothingHeldBack: HeldBack = { products: new Set(), variants: new Set() };

/** @param causes findings whose records are faulty. Every record held back is said, once. */
export function holdBack(catalogue: ResolvedCatalogue, causes: readonly Finding[], findings: Findings): HeldBack {
  const faulty = new Map<string, Map<number, string>>();
  const mark = (kind: string, row: number, because: string): void => {
    const rows = faulty.get(kind) ?? new Map<number, string>();
    faulty.set(kind, rows);
    if (!rows.has(row)) rows.set(row, because);
  };
  for (const cause of causes) {
    for (const place of recordsOf(cause)) {
      const row = catalogue.table(place.kind).find(place.key);
      if (row !== undefined) mark(place.kind, row, cause.code);
    }
  }
  spreadToReferrers(catalogue, faulty, mark);

  const products = catalogue.table("product");
  const variants = catalogue.table("variant");
  for (let product = 0; product < products.size; product++) {
    const children = [...variants.childrenOf(product)];
    if (children.length > 0 && children.every((row) => faulty.get("variant")?.has(row)))
      mark("product", product, "all its variants are");
    if (faulty.get("product")?.has(product)) for (const row of children) mark("variant", row, "its product is");
  }
  for (const kind of ["product", "variant"]) {
    const table = catalogue.table(kind);
    for (const [row, because] of faulty.get(kind) ?? [])
      findings.add(finding("build/held-back", { because }, catalogue.place(table, row)));
  }
  return { products: new Set(faulty.get("product")?.keys()), variants: new Set(faulty.get("variant")?.keys()) };
}

/** A cycle is the fault of all that are on it; anything else of the record it is said of. */
function recordsOf(cause: Finding): { kind: string; key: string }[] {
  const places: (Place | undefined)[] = cause.code === "plan/cycle" ? [cause.at, ...cause.related] : [cause.at];
  return places.flatMap((place) => place?.record ?? []);
}

/** Kinds come parents first, and products last but for variants: one pass down the kinds reaches all. */
function spreadToReferrers(
  catalogue: ResolvedCatalogue,
  faulty: ReadonlyMap<string, ReadonlyMap<number, string>>,
  mark: (kind: string, row: number, because: string) => void,
): void {
  for (const kind of catalogue.kinds.roots) {
    const table = catalogue.table(kind.name);
    const ofFaulty = referenceFields(kind).filter((field) => faulty.has(field.to));
    const containerFaulty = kind.of !== undefined && kind.name !== "variant" && faulty.has(kind.of);
    if (ofFaulty.length === 0 && !containerFaulty) continue;
    // A category below a faulty one comes anywhere in its table: as many passes as the tree is deep.
    for (let again = true; again;) {
      again = false;
      for (let row = 0; row < table.size; row++) {
        if (faulty.get(kind.name)?.has(row)) continue;
        const bad = ofFaulty.find((field) =>
          targetsOf(catalogue, table, field.name, row).some((target) => faulty.get(field.to)?.has(target)),
        );
        if (!bad && !(containerFaulty && faulty.get(kind.of!)?.has(table.parent(row)))) continue;
        mark(kind.name, row, `it depends on a ${bad?.to ?? kind.of} that is`);
        again = ofFaulty.some((field) => field.to === kind.name);
      }
    }
  }
}
