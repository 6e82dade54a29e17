/** What a catalogue uses: one word for each thing that an importer may take wrongly. By product. */

import type { Row } from "../nominal.js";
import { fitting, present } from "../checked.js";
import { fieldOfColumn, splitTable } from "../field-name.js";
import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import type { FieldSpec, KindSpec } from "../kind.js";
import { greatest } from "../lists.js";

const scripts = [
  "Latin",
  "Greek",
  "Cyrillic",
  "Han",
  "Hiragana",
  "Katakana",
  "Hangul",
  "Arabic",
  "Hebrew",
  "Thai",
  "Devanagari",
];
const scriptTests = scripts.map((script) => [script, new RegExp(`\\p{Script=${script}}`, "u")] as const);
/** What separates, quotes and escapes in files. */
const marks = /[;,|+/\\"'<>&=:\t\n]/g;

/** The features of each product, by row; those of its variants and entries are its own. */
export function featuresOf(catalogue: ResolvedCatalogue): ReadonlySet<string>[] {
  const products = catalogue.table("product");
  const variants = catalogue.table("variant");
  const features = Array.from({ length: products.size }, () => new Set<string>());
  const productOf = (table: ReadonlyTable, row: number): number => {
    const owner = catalogue.ownerOf(table, row);
    return owner.table === products ? owner.row : owner.table === variants ? variants.parent(owner.row) : -1;
  };
  for (const table of catalogue.tables) {
    const root = splitTable(table.name).kind;
    if (root !== "product" && root !== "variant") continue;
    for (const [field, column] of table.texts)
      textFeatures(table, field, (row) => column.get(row) ?? undefined, features, productOf);
    for (const [field, column] of table.references)
      for (let row = 0; row < table.size; row++) {
        const count = column.get(row).length;
        const product = productOf(table, row);
        if (product >= 0 && count > 0) features[product]!.add(`${table.name}.${field}${count > 1 ? ", several" : ""}`);
      }
  }
  for (let product = 0; product < products.size; product++) {
    const own = features[product]!;
    const axes = targetsOf(catalogue, products, "axes", product).length;
    own.add(axes === 0 ? "sold by itself" : `axes: ${axes}`);
    for (const group of targetsOf(catalogue, products, "optionGroups", product))
      own.add(`option group: ${catalogue.table("option-group").key(group)}`);
    const down = greatest(targetsOf(catalogue, products, "categories", product).map((one) => depthOf(catalogue, one)));
    if (down > 0) own.add(`a category ${down} deep`);
    const pictures = catalogue.table("product.pictures").countChildren(product);
    own.add(pictures === 0 ? "no picture" : pictures === 1 ? "one picture" : "several pictures");
    const depth = bundleDepth(catalogue, product, 0);
    if (depth > 0) own.add(`a bundle ${depth} deep`);
  }
  const most = greatest(features.map((_, product) => variants.countChildren(product)));
  const widest = features.findIndex((_, product) => most > 0 && variants.countChildren(product) === most);
  if (widest >= 0) features[widest]!.add(`the most variants: ${most}`);
  return features;
}

function textFeatures(
  table: ReadonlyTable,
  field: string,
  get: (row: number) => string | undefined,
  features: readonly Set<string>[],
  productOf: (table: ReadonlyTable, row: number) => number,
): void {
  const name = `${table.name}.${field}`;
  const spec = fitting(table.kind.fields, (one) => one.name === fieldOfColumn(field));
  const isWord = isCodeWord(table.kind, spec);
  let longest = -1;
  for (let row = 0; row < table.size; row++) {
    const text = get(row);
    const product = text === undefined ? -1 : productOf(table, row);
    if (text === undefined || product < 0) continue;
    const own = features[product]!;
    own.add(isWord ? `${name}: ${text}` : name);
    if (!spec.perLanguage) continue;
    if (longest < 0 || text.length > present(get(longest)).length) longest = row;
    for (const [script, test] of scriptTests) if (test.test(text)) own.add(`letters: ${script}`);
    for (const mark of text.match(marks) ?? []) own.add(`the sign ${JSON.stringify(mark)} in a text`);
  }
  if (longest >= 0)
    features[productOf(table, longest)]!.add(`the longest ${name}: ${[...present(get(longest))].length} characters`);
}

/** Fields that hold one of a few words, each of which an importer may take wrongly: code words, and what tells entries apart. */
function isCodeWord(kind: KindSpec, { name, among, listed, type }: FieldSpec): boolean {
  const tellsApart = kind.entryKey?.includes(name) === true && type === "text";
  return among !== undefined || listed !== undefined || type === "flag" || (tellsApart && name !== "from");
}

function depthOf(catalogue: ResolvedCatalogue, category: Row<"category">): number {
  const table = catalogue.table("category");
  const seen = new Set<number>();
  for (
    let at: number | undefined = category;
    at !== undefined && !seen.has(at);
    at = targetsOf(catalogue, table, "parent", at)[0]
  )
    seen.add(at);
  return seen.size;
}

const deepest = 10;

function bundleDepth(catalogue: ResolvedCatalogue, product: Row<"product">, above: number): number {
  if (above > deepest) return 0;
  const components = catalogue.table("product.components");
  const parts = [...components.childrenOf(product)].flatMap((entry) => [
    ...targetsOf(catalogue, components, "product", entry),
    ...targetsOf(catalogue, components, "variant", entry).map((row) => catalogue.table("variant").parent(row)),
  ]);
  if (parts.length === 0) return 0;
  return 1 + greatest(parts.map((part) => bundleDepth(catalogue, part, above + 1)));
}
