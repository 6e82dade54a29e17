/** Small changes to records that operations are made of. All of them work on a catalogue that was read for this, and change it. */

import type { Row } from "../nominal.js";
import { fitting } from "../checked.js";
import { inLanguage } from "../field-name.js";
import { targetsOf, type ResolvedBranch, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { keyWithin } from "../catalogue/made-key.js";
import type { Met } from "../catalogue/reference-pool.js";
import type { Table } from "../catalogue/table.js";
import { referenceOf } from "../kind.js";
import { sellableParts, soldReferences, soldTexts } from "./sellable-parts.js";
import type { Work } from "./work.js";

export const metAt = (table: Table, row: number): Met => ({ sheet: table.sheet(row), line: table.line(row) });

/** Sets a list of references by rows. */
export function setTargets(
  catalogue: ResolvedBranch,
  table: Table,
  field: string,
  row: number,
  rows: readonly number[],
): void {
  const { to } = referenceOf(fitting(table.kind.fields, ({ name }) => name === field));
  const met = metAt(table, row);
  table.referenceColumn(field).set(
    row,
    [...new Set(rows)].map((one) => catalogue.pool.toRow(to, one, met)),
  );
}

/** A record of a kind by its key, or by its name in any language. */
export function findRecord(work: Work, kind: string, word: string, parent?: number): number | undefined {
  const table = work.catalogue.table(kind);
  const byKey = table.find(word);
  if (byKey !== undefined && (parent === undefined || table.parent(byKey) === parent)) return byKey;
  const names = [...table.texts].flatMap(([field, column]) => (field.startsWith("name@") ? [column] : []));
  for (const row of parent === undefined ? work.rows(kind) : table.childrenOf(parent))
    if (names.some((column) => column.get(row) === word)) return row;
  return undefined;
}

/** The axis, or the value within its axis, of a name; made if there is none yet. */
export function findOrMake(
  work: Work,
  kind: "axis" | "value",
  word: string,
  like: { readonly table: Table; readonly row: number },
  parent = -1,
): number {
  const { catalogue, source } = work;
  const found = findRecord(work, kind, word, parent < 0 ? undefined : parent);
  if (found !== undefined) return found;
  const table = catalogue.table(kind);
  const row = table.append(like.table.sheet(like.row), like.table.line(like.row), parent);
  table.nameRecord(row, parent < 0 ? word : keyWithin(catalogue.table("axis").key(parent), word));
  table.setText(inLanguage("name", source), row, word);
  work.makes(kind, row);
  return row;
}

/** Copies an entry to another owner, also of another kind. */
export function copyEntry(from: Table, entry: number, into: Table, owner: number): number {
  const made = into.append(from.sheet(entry), from.line(entry), owner);
  for (const [field, column] of from.texts) {
    const cell = column.get(entry);
    if (cell !== undefined) into.setText(field, made, cell);
  }
  for (const [field, column] of from.references)
    if (column.isSet(entry)) into.referenceColumn(field).set(made, column.get(entry));
  return made;
}

/** Copies all fields of a record onto another of its kind. */
export function copyFields(table: Table, from: number, to: number, not: ReadonlySet<string>): void {
  for (const [field, column] of table.texts) {
    const cell = column.get(from);
    if (cell !== undefined && !not.has(field)) table.setText(field, to, cell);
  }
  for (const [field, column] of table.references)
    if (column.isSet(from) && !not.has(field)) table.referenceColumn(field).set(to, column.get(from));
}

/** Gives variants what they had from their product, and takes it off the product. */
export function pushDown(catalogue: ResolvedBranch, product: Row<"product">): void {
  const products = catalogue.table("product");
  const variants = catalogue.table("variant");
  const children = [...variants.childrenOf(product)];
  for (const { field, isOwn } of soldTexts(catalogue.kinds, products)) {
    const cell = products.text(field, product);
    if (cell === undefined) continue;
    if (!isOwn)
      for (const child of children) if (variants.text(field, child) === undefined) variants.setText(field, child, cell);
    products.setText(field, product, undefined);
  }
  for (const field of soldReferences(catalogue.kinds, products)) {
    const column = products.referenceColumn(field);
    if (!column.isSet(product)) continue;
    const own = variants.referenceColumn(field);
    for (const child of children) if (!own.isSet(child)) own.set(child, column.get(product));
    column.unset(product);
  }
  for (const name of sellableParts(catalogue.kinds).entries) {
    const [from, into] = [catalogue.table(`product.${name}`), catalogue.table(`variant.${name}`)];
    const own = [...from.childrenOf(product)];
    for (const child of children)
      if (into.countChildren(child) === 0) for (const entry of own) copyEntry(from, entry, into, child);
    for (const entry of own) from.reparent(entry, -1);
  }
}

/** A product that is sold by itself gets a variant that has all that it was sold by. */
export function makeVariant(work: Work, product: Row<"product">, below: number, values: readonly number[]): number {
  const { catalogue } = work;
  const products = catalogue.table("product");
  const variants = catalogue.table("variant");
  const row = variants.append(products.sheet(product), products.line(product), below);
  const code = products.text("code", product);
  const word: string = typeof code === "string" ? code : products.key(product);
  variants.nameRecord(row, word);
  work.makes("variant", row);
  for (const { field } of soldTexts(catalogue.kinds, products)) {
    const cell = products.text(field, product);
    if (cell !== undefined) variants.setText(field, row, cell);
    products.setText(field, product, undefined);
  }
  for (const field of soldReferences(catalogue.kinds, products)) {
    const column = products.referenceColumn(field);
    if (!column.isSet(product)) continue;
    variants.referenceColumn(field).set(row, column.get(product));
    column.unset(product);
  }
  for (const name of sellableParts(catalogue.kinds).entries) {
    const [from, into] = [catalogue.table(`product.${name}`), catalogue.table(`variant.${name}`)];
    for (const entry of [...from.childrenOf(product)]) {
      copyEntry(from, entry, into, row);
      from.reparent(entry, -1);
    }
  }
  setTargets(catalogue, variants, "values", row, values);
  lead(catalogue, { kind: "product", row: product }, { kind: "variant", row });
  return row;
}

/** What led to a sellable as a product leads to it as a variant, or the other way round: components, choices. */
function lead(
  catalogue: ResolvedBranch,
  from: { readonly kind: "product" | "variant"; readonly row: number },
  to: { readonly kind: "product" | "variant"; readonly row: number },
): void {
  for (const table of catalogue.tables)
    for (const { name, reference } of table.kind.fields) {
      if (reference?.otherwise === undefined) continue;
      const fields = { [reference.to]: name, [reference.otherwise]: reference.otherwise };
      const [own, other] = [fields[from.kind], fields[to.kind]];
      if (own === undefined || other === undefined || !table.references.has(own)) continue;
      const column = table.referenceColumn(own);
      for (let row = 0; row < table.size; row++) {
        const first = column.first(row);
        if (first < 0 || catalogue.pool.target.get(first) !== from.row) continue;
        column.unset(row);
        setTargets(catalogue, table, other, row, [to.row]);
      }
    }
}

/** The one variant of a product becomes the product itself. */
export function makeSingle(work: Work, product: Row<"product">, variant: Row<"variant">): void {
  const { catalogue } = work;
  const products = catalogue.table("product");
  const variants = catalogue.table("variant");
  for (const { field } of soldTexts(catalogue.kinds, variants)) {
    const cell = variants.text(field, variant);
    if (cell !== undefined) products.setText(field, product, cell);
  }
  for (const field of soldReferences(catalogue.kinds, variants)) {
    const column = variants.referenceColumn(field);
    if (column.isSet(variant)) products.referenceColumn(field).set(product, column.get(variant));
  }
  for (const name of [...sellableParts(catalogue.kinds).entries, "pictures"]) {
    const [from, into] = [catalogue.table(`variant.${name}`), catalogue.table(`product.${name}`)];
    const own = [...from.childrenOf(variant)];
    if (own.length > 0 && name !== "pictures")
      for (const entry of [...into.childrenOf(product)]) into.reparent(entry, -1);
    for (const entry of own) copyEntry(from, entry, into, product);
  }
  setTargets(catalogue, products, "axes", product, []);
  work.sets("product", product, "axes");
  work.drop("variant", variant, undefined);
  lead(catalogue, { kind: "variant", row: variant }, { kind: "product", row: product });
}

/** Whether a category is another, or lies below it. */
export function liesIn(catalogue: ResolvedCatalogue, category: Row<"category">, above: number): boolean {
  const table = catalogue.table("category");
  const seen = new Set<number>();
  for (
    let at: number | undefined = category;
    at !== undefined && !seen.has(at);
    at = targetsOf(catalogue, table, "parent", at)[0]
  ) {
    if (at === above) return true;
    seen.add(at);
  }
  return false;
}
