/**
 * The balance of an operation: what can be sold, at which prices, how much of it is where, which pictures and relations there are, before
 * and after. Nothing may be lost that the operation does not say.
 */

import { fitting } from "../checked.js";
import { referenceOf } from "../kind.js";
import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { sellables, type Sellable } from "../catalogue/sellables.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { phrase, type Text } from "../phrases/phrase.js";

/** What a catalogue sells, shows and links, to compare before with after. */
export interface Measure {
  /** By code: prices and stock, each as one text. */
  readonly sold: ReadonlyMap<string, { readonly prices: string; readonly stock: string }>;
  readonly pictures: ReadonlySet<string>;
  /** What bundles are made of: by the bundle's code, the part's, and how many. */
  readonly parts: readonly (readonly [bundle: string, part: string, count: string])[];
  /** `name from to`, by the products' keys. */
  readonly relations: ReadonlySet<string>;
}

/** Counts what must not be lost when a catalogue is reshaped. */
export function measure(catalogue: ResolvedCatalogue): Measure {
  const sold = new Map<string, { prices: string; stock: string }>();
  const products = catalogue.table("product");
  const [prices, stock] = [soldEntries(catalogue, "prices"), soldEntries(catalogue, "stock")];
  for (const one of sellables(catalogue)) {
    const code = one.table.text("code", one.row);
    if (typeof code === "string") sold.set(code, { prices: prices(one), stock: stock(one) });
  }
  const parts: [string, string, string][] = [];
  const codeOf = (of: ReadonlyTable, one: number) => of.text("code", one) ?? of.key(one);
  for (const { table, row, product } of sellables(catalogue)) {
    const own = catalogue.table(`${table.name}.components`);
    const isOwn = table === products || own.countChildren(row) > 0;
    const components = isOwn ? own : catalogue.table("product.components");
    for (const entry of components.childrenOf(isOwn ? row : product))
      for (const kind of ["variant", "product"])
        for (const part of targetsOf(catalogue, components, kind, entry))
          parts.push([
            codeOf(table, row),
            codeOf(catalogue.table(kind), part),
            components.text("quantity", entry) ?? "",
          ]);
  }
  const pictures = new Set<string>();
  for (const name of ["product.pictures", "variant.pictures", "category.pictures"]) {
    const table = catalogue.table(name);
    for (let row = 0; row < table.size; row++) {
      const file = table.parent(row) < 0 ? undefined : table.text("file", row);
      if (typeof file === "string") pictures.add(file);
    }
  }
  const relations = new Set<string>();
  const table = catalogue.table("product.relations");
  for (let row = 0; row < table.size; row++)
    for (const to of targetsOf(catalogue, table, "to", row))
      if (table.parent(row) >= 0)
        relations.add(relationOf(table.text("name", row) ?? "", products.key(table.parent(row)), products.key(to)));
  return { sold, pictures, parts, relations };
}

export const relationOf = (name: string, from: string, to: string): string => JSON.stringify([name, from, to]);

/** The entries of what is sold, by itself or else by its product, as one text. */
function soldEntries(catalogue: ResolvedCatalogue, collection: string): (one: Sellable) => string {
  const ofProduct = tuplesOf(catalogue, catalogue.table(`product.${collection}`));
  const ofVariant = tuplesOf(catalogue, catalogue.table(`variant.${collection}`));
  return ({ table, row, product }) => {
    const own = table.name === "product" ? ofProduct(row) : ofVariant(row);
    const all = own.length > 0 || table.name === "product" ? own : ofProduct(product);
    return all.sort().join("\n");
  };
}

/** How to read the entries of a record, each as one text. */
function tuplesOf(catalogue: ResolvedCatalogue, entries: ReadonlyTable): (owner: number) => string[] {
  const texts = [...entries.texts].sort(([a], [b]) => (a < b ? -1 : 1));
  const references = [...entries.references.keys()].sort().map((field) => {
    const { to } = referenceOf(fitting(entries.kind.fields, ({ name }) => name === field));
    return { field, keys: catalogue.table(to) };
  });
  return (owner) =>
    Array.from(entries.childrenOf(owner), (entry) => {
      let all = "";
      for (const [field, column] of texts) all += fieldText(field, column.get(entry));
      for (const { field, keys } of references)
        for (const row of targetsOf(catalogue, entries, field, entry)) all += fieldText(field, keys.key(row));
      return all;
    });
}

/** With its length before it, no text can be taken for two. */
const fieldText = (field: string, text: string | null | undefined): string =>
  text === undefined || text === null ? "" : `${field} ${text.length} ${text};`;

/** What an operation says that it changes. */
export interface Explained {
  /** Codes that are called otherwise: old to new. */
  readonly codes: ReadonlyMap<string, string>;
  /** Products that became others: old key to new keys. */
  readonly products: ReadonlyMap<string, readonly string[]>;
  /** Pictures that were left out, as they show the same as another. */
  readonly pictures: ReadonlySet<string>;
  /** Relations that it adds or takes away by itself. */
  readonly relations: ReadonlySet<string>;
}

/** How many there were of something before an operation, and after. */
export interface BalanceLine {
  /** Codes, prices, stock, components, pictures, relations; or a field of a kind: `product.brand`. */
  readonly what: string;
  readonly before: number;
  readonly after: number;
  /** Why they differ, where they may. */
  readonly because: Text | undefined;
  /** What is missing, or too much, without a reason. */
  readonly unexplained: readonly string[];
}

/** Compares what was with what is. */
export function balance(before: Measure, after: Measure, explained: Explained): BalanceLine[] {
  const codeOf = (code: string) => explained.codes.get(code) ?? code;
  const codes = new Set([...before.sold.keys()].map(codeOf));
  const missing = [...codes].filter((code) => !after.sold.has(code));
  const tooMuch = [...after.sold.keys()].filter((code) => !codes.has(code));
  const differing = (field: "prices" | "stock") =>
    [...before.sold].flatMap(([code, { [field]: value }]) => {
      const now = after.sold.get(codeOf(code));
      return now && now[field] !== value ? [codeOf(code)] : [];
    });
  const part = ([bundle, own, count]: Measure["parts"][number]) => JSON.stringify([codeOf(bundle), codeOf(own), count]);
  const partsThen = new Set(before.parts.map(part));
  const partsNow = new Set(after.parts.map((one) => JSON.stringify(one)));
  const parts = [...partsThen]
    .filter((one) => !partsNow.has(one))
    .concat([...partsNow].filter((one) => !partsThen.has(one)));
  const lost = [...before.pictures].filter((file) => !after.pictures.has(file) && !explained.pictures.has(file));
  const expected = new Set<string>();
  let dropped = 0;
  for (const relation of before.relations) {
    const [name, from, to] = JSON.parse(relation) as [string, string, string];
    for (const one of explained.products.get(from) ?? [from])
      for (const other of explained.products.get(to) ?? [to])
        if (one === other) dropped++;
        else expected.add(relationOf(name, one, other));
  }
  const isOwn = (relation: string) => explained.relations.has(relation);
  const relations = [
    ...[...expected].filter((one) => !after.relations.has(one) && !isOwn(one)),
    ...[...after.relations].filter((one) => !expected.has(one) && !isOwn(one)),
  ];
  const count = (sold: Measure["sold"], field: "prices" | "stock") =>
    [...sold.values()].reduce((sum, one) => sum + (one[field] === "" ? 0 : one[field].split("\n").length), 0);
  const shown =
    explained.products.size > 0
      ? dropped > 0
        ? phrase("they follow the new products; {0} would lead from a product to itself", dropped)
        : phrase("they follow the new products")
      : undefined;
  return [
    {
      what: "codes",
      before: before.sold.size,
      after: after.sold.size,
      because: undefined,
      unexplained: [...missing, ...tooMuch],
    },
    {
      what: "prices",
      before: count(before.sold, "prices"),
      after: count(after.sold, "prices"),
      because: undefined,
      unexplained: differing("prices"),
    },
    {
      what: "stock",
      before: count(before.sold, "stock"),
      after: count(after.sold, "stock"),
      because: undefined,
      unexplained: differing("stock"),
    },
    {
      what: "components",
      before: before.parts.length,
      after: after.parts.length,
      because: undefined,
      unexplained: parts,
    },
    {
      what: "pictures",
      before: before.pictures.size,
      after: after.pictures.size,
      because: explained.pictures.size > 0 ? phrase("{0} equal to others", explained.pictures.size) : undefined,
      unexplained: lost,
    },
    {
      what: "relations",
      before: before.relations.size,
      after: after.relations.size,
      because: shown,
      unexplained: relations,
    },
  ];
}
