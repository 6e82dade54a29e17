/** The catalogue as the pages show it: the tree, the products in a category, one product with all that belongs to it. */

import {
  BundleReader,
  combinationsOf,
  money,
  plainPrice,
  sellableText,
  targetsOf,
  translationsOf,
  type Location,
  type ResolvedCatalogue,
  type ReadonlyTable,
  type TranslationItem,
  type OpenedTarget,
} from "zest-tier";
import type { FindingIndex } from "./finding-index.js";
import { noFindings } from "./finding-index.js";
import type { Matrix, MatrixCell, ProductLine, ProductView, TextRow, TreeNode } from "./views.js";

/** Combinations that are shown; beyond, the counts say it. */
const mostCells = 2_000;

export class ProductShelf {
  readonly #catalogue: ResolvedCatalogue;
  readonly #products: ReadonlyTable;
  readonly #byCategory = new Map<number, number[]>();
  readonly #counts = new Map<string, { error: number; warning: number; note: number }>();
  #work: ReadonlyMap<string, readonly (readonly [lang: string, item: TranslationItem])[]> | undefined;

  constructor(
    readonly reading: OpenedTarget,
    readonly found: FindingIndex,
  ) {
    this.#catalogue = reading.catalogue;
    this.#products = this.#catalogue.table("product");
    this.#languages = languagesOf(reading);
    for (let row = 0; row < this.#products.size; row++)
      for (const category of targetsOf(this.#catalogue, this.#products, "categories", row)) {
        const own = this.#byCategory.get(category);
        if (own) own.push(row);
        else this.#byCategory.set(category, [row]);
      }
    const variants = this.#catalogue.table("variant");
    for (const { at, severity } of found.all) {
      if (!at?.record) continue;
      const { kind, key } = at.record;
      const variant = kind === "variant" ? variants.find(key) : undefined;
      const product =
        kind === "product" ? key : variant === undefined ? undefined : this.#products.key(variants.parent(variant));
      if (product === undefined) continue;
      const counts = this.#counts.get(product) ?? { ...noFindings };
      counts[severity]++;
      this.#counts.set(product, counts);
    }
  }

  readonly #languages: readonly string[];

  #name(table: ReadonlyTable, row: number): string {
    for (const lang of this.#languages) {
      const name = table.text(`name@${lang}`, row);
      if (typeof name === "string" && name !== "") return name;
    }
    return table.key(row);
  }

  tree(): { readonly roots: readonly TreeNode[]; readonly loose: number; readonly all: number } {
    const categories = this.#catalogue.table("category");
    const children = new Map<number, number[]>();
    for (let row = 0; row < categories.size; row++) {
      const parent = targetsOf(this.#catalogue, categories, "parent", row)[0] ?? -1;
      const own = children.get(parent);
      if (own) own.push(row);
      else children.set(parent, [row]);
    }
    const seen = new Set<number>();
    const node = (row: number): { readonly view: TreeNode; readonly products: ReadonlySet<number> } => {
      seen.add(row);
      const below = (children.get(row) ?? []).filter((one) => !seen.has(one)).map(node);
      // A product that is in several of them counts once.
      const products = new Set(this.#byCategory.get(row));
      for (const one of below) for (const product of one.products) products.add(product);
      const view = {
        key: categories.key(row),
        name: this.#name(categories, row),
        products: products.size,
        children: below.map((one) => one.view),
      };
      return { view, products };
    };
    const roots = (children.get(-1) ?? []).map((row) => node(row).view);
    // A circle has no root: its nodes are shown anyway.
    for (let row = 0; row < categories.size; row++) if (!seen.has(row)) roots.push(node(row).view);
    let loose = 0;
    for (let row = 0; row < this.#products.size; row++) if (this.#isLoose(row)) loose++;
    return { roots, loose, all: this.#products.size };
  }

  #isLoose(row: number): boolean {
    return targetsOf(this.#catalogue, this.#products, "categories", row).length === 0;
  }

  /** @param category a key; `""` for products in none; undefined for all. */
  products(
    category: string | undefined,
    search: string,
    from: number,
    count: number,
  ): { readonly total: number; readonly rows: ProductLine[] } {
    const rows = this.#rowsOf(category).filter((row) => this.#isNamed(row, search.trim().toLowerCase()));
    return { total: rows.length, rows: rows.slice(from, from + count).map((row) => this.#line(row)) };
  }

  #rowsOf(category: string | undefined): number[] {
    const all = Array.from({ length: this.#products.size }, (_, row) => row);
    if (category === undefined) return all;
    if (category === "") return all.filter((row) => this.#isLoose(row));
    const row = this.#catalogue.table("category").find(category);
    return row === undefined ? [] : [...new Set(this.#below(row, new Set()))];
  }

  #below(category: number, seen: Set<number>): number[] {
    if (seen.has(category)) return [];
    seen.add(category);
    const categories = this.#catalogue.table("category");
    const children = Array.from({ length: categories.size }, (_, row) => row).filter((row) =>
      targetsOf(this.#catalogue, categories, "parent", row).includes(category),
    );
    return [...(this.#byCategory.get(category) ?? []), ...children.flatMap((row) => this.#below(row, seen))];
  }

  #isNamed(row: number, texts: string): boolean {
    if (texts === "") return true;
    const variants = this.#catalogue.table("variant");
    const own = [this.#products.key(row), this.#products.text("code", row), ...this.#namesOf(row)];
    const codes = [...variants.childrenOf(row)].map((variant) => variants.text("code", variant));
    return [...own, ...codes].some((text) => typeof text === "string" && text.toLowerCase().includes(texts));
  }

  #namesOf(row: number) {
    return this.#languages.map((lang) => this.#products.text(`name@${lang}`, row));
  }

  #line(row: number): ProductLine {
    const key = this.#products.key(row);
    const variants = this.#catalogue.table("variant").childrenOf(row).length;
    const code = this.#products.text("code", row) ?? "";
    return { key, name: this.#name(this.#products, row), variants, code, found: this.#counts.get(key) ?? noFindings };
  }

  product(key: string): ProductView | undefined {
    const row = this.#products.find(key);
    if (row === undefined) return undefined;
    const catalogue = this.#catalogue;
    const products = this.#products;
    const location: Location = catalogue.location(products, row);
    const isOwn = ({ at }: (typeof this.found.all)[number]) => at?.record && this.#isOf(at.record, row);
    return {
      key,
      name: this.#name(products, row),
      location,
      source: this.found.sourceOf(location),
      facts: this.#facts(row),
      categories: targetsOf(catalogue, products, "categories", row).map((one) => this.#path(one)),
      matrix: this.#matrix(row),
      optionGroups: this.#optionGroups(row),
      components: this.#components(row),
      sums: this.#sums(row),
      pictures: this.#pictures(row),
      texts: this.#texts(row),
      relations: this.#relations(row),
      findings: this.found.all
        .filter(isOwn)
        .slice(0, 50)
        .map((one) => this.found.view(one)),
    };
  }

  #isOf({ kind, key }: { readonly kind: string; readonly key: string }, product: number): boolean {
    if (kind === "product") return this.#products.find(key) === product;
    const variants = this.#catalogue.table("variant");
    const row = kind === "variant" ? variants.find(key) : undefined;
    return row !== undefined && variants.parent(row) === product;
  }

  #path(category: number): string {
    const categories = this.#catalogue.table("category");
    const names: string[] = [];
    const seen = new Set<number>();
    for (let row: number | undefined = category; row !== undefined && !seen.has(row);) {
      seen.add(row);
      names.unshift(this.#name(categories, row));
      row = targetsOf(this.#catalogue, categories, "parent", row)[0];
    }
    return names.join(" › ");
  }

  #facts(row: number): [string, string][] {
    const plain = this.#products.kind.fields.filter((field) => !field.perLanguage && !field.reference);
    const own = plain.flatMap(({ name }): [string, string][] => {
      const text = this.#products.text(name, row);
      return typeof text === "string" && text !== "" ? [[name, text]] : [];
    });
    const brand = targetsOf(this.#catalogue, this.#products, "brand", row)[0];
    const price = plainPrice(this.#catalogue, { table: this.#products, row, product: row }, "price");
    return [
      ...own,
      ...(brand === undefined
        ? []
        : [["brand", this.#name(this.#catalogue.table("brand"), brand)] as [string, string]]),
      ...(price === undefined ? [] : [["price", this.#money(price)] as [string, string]]),
    ];
  }

  #matrix(product: number): Matrix | undefined {
    const catalogue = this.#catalogue;
    const { axes, values, possible, variantOf } = combinationsOf(catalogue, product);
    if (axes.length === 0) return undefined;
    const variants = catalogue.table("variant");
    const named = catalogue.table("value");
    const cellOf = (combination: readonly number[]): MatrixCell | undefined => {
      const row = variantOf(combination);
      if (row === undefined) return undefined;
      const sellable = { table: variants, row, product };
      const price = plainPrice(catalogue, sellable, "price") ?? "";
      const status = sellableText(catalogue, sellable, "status") ?? "";
      return { code: variants.text("code", row) ?? "", price: price === "" ? "" : this.#money(price), status };
    };
    const across = values[values.length - 1]!;
    let down: number[][] = [[]];
    for (const own of values.slice(0, -1)) {
      down = down.flatMap((one) => own.map((value) => [...one, value]));
      if (down.length * across.length > mostCells) break;
    }
    const shown = down.slice(0, Math.max(1, Math.floor(mostCells / Math.max(1, across.length))));
    return {
      axes: axes.map((axis) => this.#name(catalogue.table("axis"), axis)),
      across: across.map((value) => this.#name(named, value)),
      down: shown.map((one) => ({
        values: one.map((value) => this.#name(named, value)),
        cells: across.map((value) => cellOf([...one, value])),
      })),
      made: variants.childrenOf(product).length,
      possible,
      isCut: possible > shown.length * across.length,
    };
  }

  #optionGroups(product: number): ProductView["optionGroups"] {
    const groups = this.#catalogue.table("option-group");
    const choices = this.#catalogue.table("choice");
    return targetsOf(this.#catalogue, this.#products, "optionGroups", product).map((row) => ({
      name: this.#name(groups, row),
      isRequired: groups.text("required", row) === "true",
      choices: [...choices.childrenOf(row)].map((choice) => ({
        name: this.#name(choices, choice),
        surcharge: choices.text("surcharge", choice) ?? "",
        isPercent: choices.text("surchargeIs", choice) === "percent",
      })),
    }));
  }

  #components(product: number): ProductView["components"] {
    const reader = new BundleReader(this.#catalogue);
    return reader.componentsOf({ table: this.#products, row: product, product }).map(({ item, quantity }) => ({
      key: this.#products.key(item.product),
      name: this.#name(this.#products, item.product),
      code: item.table.text("code", item.row) ?? "",
      quantity,
    }));
  }

  /** An amount with the currency of the project. */
  #money(amount: string): string {
    return money(amount, this.reading.project.currency);
  }

  #sums(product: number): ProductView["sums"] {
    const sums = new BundleReader(this.#catalogue).sumsOf({ table: this.#products, row: product, product });
    return sums && { price: sums.sum && this.#money(sums.sum), weight: sums.weight, available: sums.available };
  }

  #pictures(product: number): ProductView["pictures"] {
    const own = (owner: string, row: number) => {
      const pictures = this.#catalogue.table(`${owner}.pictures`);
      return [...pictures.childrenOf(row)].map((entry) => ({
        file: pictures.text("file", entry) ?? "",
        alternative: pictures.text(`alternative@${this.#languages[0] ?? "en"}`, entry) ?? "",
      }));
    };
    const variants = [...this.#catalogue.table("variant").childrenOf(product)];
    const all = [...own("product", product), ...variants.flatMap((row) => own("variant", row))];
    return [...new Map(all.map((one) => [one.file, one])).values()].map((one) => ({
      ...one,
      isThere: this.reading.pictureNames.includes(one.file),
    }));
  }

  /** WorkbenchTexts of all languages side by side. */
  #texts(product: number): TextRow[] {
    const [source = "en", ...others] = this.#languages;
    const key = this.#products.key(product);
    const work = (this.#work ??= this.#workByRecord(others)).get(key) ?? [];
    const fields = this.#products.kind.fields.filter((field) => field.perLanguage);
    return fields.flatMap(({ name }): TextRow[] => {
      const text = this.#products.text(`${name}@${source}`, product);
      const cells = others.map((lang) => {
        const item = work.find(([own, one]) => own === lang && one.field === name)?.[1];
        const texts = this.#products.text(`${name}@${lang}`, product) ?? undefined;
        return {
          lang,
          text: texts,
          state: item?.state ?? (texts === undefined ? ("missing" as const) : ("done" as const)),
        };
      });
      if (typeof text !== "string" && cells.every((cell) => cell.text === undefined)) return [];
      const first = { lang: source, text: text ?? undefined, state: "source" as const };
      return [{ field: name, source: text ?? "", cells: [first, ...cells] }];
    });
  }

  #workByRecord(others: readonly string[]) {
    const work = new Map<string, (readonly [string, TranslationItem])[]>();
    for (const lang of others)
      for (const item of translationsOf(this.reading, lang)) {
        if (item.kind !== "product") continue;
        const own = work.get(item.key);
        if (own) own.push([lang, item]);
        else work.set(item.key, [[lang, item]]);
      }
    return work;
  }

  #relations(product: number): ProductView["relations"] {
    const relations = this.#catalogue.table("product.relations");
    return [...relations.childrenOf(product)].flatMap((entry) =>
      targetsOf(this.#catalogue, relations, "to", entry).map((to) => ({
        name: relations.text("name", entry) ?? "",
        key: this.#products.key(to),
        title: this.#name(this.#products, to),
      })),
    );
  }
}

/** The languages that the project wants, the source language first, and those that the catalogue has besides. */
export function languagesOf({ project, catalogue }: OpenedTarget): readonly string[] {
  const met = new Set<string>(project.languages);
  if (met.size === 0) met.add(project.sources[0]?.layout.language ?? "en");
  for (const table of catalogue.tables)
    for (const field of table.texts.keys()) if (field.includes("@")) met.add(field.slice(field.indexOf("@") + 1));
  return [...met];
}
