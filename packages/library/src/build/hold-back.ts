/**
 * Holding back: which products and variants stay out of a build because something is wrong with them, or with what they depend on.
 *
 * A product without any variant left is held back with them; so is a product that refers to a faulty category, axis, value or brand.
 */

import { referenceFields, targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { noReference } from "../catalogue/reference-pool.js";
import type { Table } from "../catalogue/table.js";
import { finding, type Finding, type FindingCode, type Findings } from "../finding.js";
import type { RecordName } from "../place.js";

export interface HeldBack {
  readonly products: ReadonlySet<number>;
  readonly variants: ReadonlySet<number>;
}

export const nothingHeldBack: HeldBack = { products: new Set(), variants: new Set() };

export function isHeldBack(heldBack: HeldBack): (kind: string, row: number) => boolean {
  return (kind, row) =>
    kind === "product" ? heldBack.products.has(row) : kind === "variant" && heldBack.variants.has(row);
}

/** Errors about rows: what could not be read of them is left out as it is; records that did come from the row are held back. */
const rowErrors: ReadonlySet<string> = new Set<FindingCode>([
  "read/ragged-row",
  "read/orphan-row",
  "read/open-quote",
  "read/row-without-group",
  "read/row-above-all",
  "read/cell-too-long",
  "read/scattered-group",
  "read/repeated-key",
  "read/no-key",
]);

/** Whether leaving records out answers an error. Errors about whole files and about the target cannot be answered so. */
export function canBeHeldBack(error: Finding): boolean {
  return error.at?.record !== undefined || rowErrors.has(error.code);
}

/** @param causes findings whose records are faulty. Every record held back is said, once. */
export function holdBack(catalogue: ResolvedCatalogue, causes: readonly Finding[], findings: Findings): HeldBack {
  const faulty = new Map<string, Map<number, string>>();
  const mark = (kind: string, row: number, because: string): void => {
    const rows = faulty.get(kind) ?? new Map<number, string>();
    faulty.set(kind, rows);
    if (!rows.has(row)) rows.set(row, because);
  };
  const atLine = recordsByLine(catalogue, causes);
  for (const cause of causes) {
    for (const place of recordsOf(cause, atLine)) {
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
  reportLinks(catalogue, new Set(faulty.get("product")?.keys()), findings);
  return { products: new Set(faulty.get("product")?.keys()), variants: new Set(faulty.get("variant")?.keys()) };
}

/** Links of what is built to what is not: they are left out, and said. */
function reportLinks(catalogue: ResolvedCatalogue, held: ReadonlySet<number>, findings: Findings): void {
  const relations = catalogue.table("product.relations");
  const products = catalogue.table("product");
  for (let row = 0; row < relations.size; row++) {
    const to = targetsOf(catalogue, relations, "to", row)[0];
    if (to === undefined || !held.has(to) || held.has(relations.parent(row))) continue;
    const relation = relations.text("name", row) ?? "";
    findings.add(
      finding(
        "build/link-left-out",
        { relation, to: products.key(to) },
        catalogue.place(relations, row, `relations(${relation}).to`),
      ),
    );
  }
}

/** A cycle is the fault of all that are on it; an error about a row, of the records that came from it. */
function recordsOf(cause: Finding, atLine: ReadonlyMap<string, readonly RecordName[]>): readonly RecordName[] {
  if (cause.code === "plan/cycle") return [cause.at, ...cause.related].flatMap((place) => place?.record ?? []);
  if (cause.at?.record) return [cause.at.record];
  return atLine.get(lineKey(cause.at?.file, cause.at?.line)) ?? [];
}

const lineKey = (file: string | undefined, line: number | undefined): string => `${file}:${line}`;

/** Products and variants by the line they came from, for the lines that causes without a record stand on. */
function recordsByLine(catalogue: ResolvedCatalogue, causes: readonly Finding[]): Map<string, RecordName[]> {
  const wanted = new Map(
    causes.flatMap((cause) =>
      cause.at && !cause.at.record ? [[lineKey(cause.at.file, cause.at.line), [] as RecordName[]]] : [],
    ),
  );
  if (wanted.size === 0) return wanted;
  for (const kind of ["product", "variant"]) {
    const table = catalogue.table(kind);
    for (let row = 0; row < table.size; row++) {
      const file = catalogue.sheets[table.sheet(row)]?.file;
      wanted.get(lineKey(file, table.line(row)))?.push({ kind, key: table.key(row) });
    }
  }
  return wanted;
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
        const bad = ofFaulty.find((field) => refersToFaulty(catalogue, table, field.name, row, faulty.get(field.to)!));
        if (!bad && !(containerFaulty && faulty.get(kind.of!)?.has(table.parent(row)))) continue;
        mark(kind.name, row, `it depends on a ${bad?.to ?? kind.of} that is`);
        again = ofFaulty.some((field) => field.to === kind.name);
      }
    }
  }
}

/** A reference that leads nowhere, to a kind with faulty records, is taken to be broken by them: a path through a category in a cycle. */
function refersToFaulty(
  catalogue: ResolvedCatalogue,
  table: Table,
  field: string,
  row: number,
  faulty: ReadonlyMap<number, string>,
): boolean {
  return (table.references.get(field)?.get(row) ?? []).some((number) => {
    const target = catalogue.pool.target.get(number);
    return target === noReference || faulty.has(target);
  });
}
