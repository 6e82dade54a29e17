/**
 * What is intended: the catalogue as the target could hold it at best, as a snapshot.
 *
 * Goes by what the target's columns say they carry, and reads it out of the catalogue by itself: no writer, no codec.
 */

import type { Lang, Row } from "../nominal.js";
import { firstOf, present } from "../checked.js";
import { entryKeyOf } from "../kind.js";
import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import type { CellValue } from "../codecs/codec.js";
import { heldRows, type HeldBack } from "../build/hold-back.js";
import { fieldName } from "../layout/bindings/feed-kinds.js";
import { hasConstants, type Fixed } from "./constants.js";
import type { Column, EntryField, Feed } from "../layout/layout.js";
import type { Target, TargetFile } from "../target/target.js";
import { pathKey, setField, sortTiers, type Snapshot } from "./snapshot.js";

type MutableRecord = Map<string, CellValue>;

const isOfAxes = ({ is }: Feed): boolean => is === "axis" || is === "axes";

/** Where a snapshot's record comes from in the catalogue. */
export interface Origin {
  readonly table: ReadonlyTable;
  readonly row: number;
}

export interface Intended {
  readonly snapshot: Snapshot;
  readonly origins: ReadonlyMap<string, Origin>;
}

export const originKey = (kind: string, key: string): string => `${kind} ${key}`;

export function intendedSnapshot(
  catalogue: ResolvedCatalogue,
  target: Target,
  file: TargetFile,
  heldBack: HeldBack,
): Intended {
  const products = catalogue.table("product");
  const variants = catalogue.table("variant");
  const origins = new Map<string, Origin>();
  const snapshot = {
    product: new Map<string, MutableRecord>(),
    variant: new Map<string, MutableRecord>(),
    category: new Map<string, MutableRecord>(),
  };
  const reader = new IntendedReader(catalogue, target, file);
  const categories = catalogue.table("category");
  const { main, others } = reader.languagesOfPlaces();
  const placed = new Set<number>();
  for (let product = 0; product < products.size; product++) {
    if (heldRows(heldBack, "product").has(product)) continue;
    const key = products.key(product);
    snapshot.product.set(key, reader.product(product, heldBack));
    origins.set(originKey("product", key), { table: products, row: product });
    for (const path of reader.placesOf(product)) addPlaces(path);
    const children = [...variants.childrenOf(product)].filter((row) => !heldRows(heldBack, "variant").has(row));
    const sold: readonly (readonly [ReadonlyTable, number])[] =
      children.length > 0 ? children.map((child) => [variants, child]) : [[products, product]];
    for (const [table, row] of sold) {
      const code = table.text("code", row) ?? "";
      snapshot.variant.set(code, reader.sellable(table, row, product));
      origins.set(originKey("variant", code), { table, row });
    }
  }
  return { snapshot, origins };

  /** A category that a product stands in, and those above it; each once. */
  function addPlaces(category: Row<"category">): void {
    for (
      let at: number | undefined = category;
      at !== undefined && !placed.has(at);
      at = targetsOf(catalogue, categories, "parent", at)[0]
    ) {
      placed.add(at);
      const record: MutableRecord = new Map();
      for (const lang of others) setField(record, `name@${lang}`, categories.text(`name@${lang}`, at) ?? undefined);
      const key = pathKey(pathNames(catalogue, at, main));
      snapshot.category.set(key, record);
      origins.set(originKey("category", key), { table: categories, row: at });
    }
  }
}

function pathNames(catalogue: ResolvedCatalogue, category: Row<"category">, lang: Lang): string[] {
  const categories = catalogue.table("category");
  const names: string[] = [];
  const seen = new Set<number>();
  let at: number | undefined = category;
  while (at !== undefined && !seen.has(at)) {
    seen.add(at);
    names.unshift(categories.text(`name@${lang}`, at) ?? "");
    at = targetsOf(catalogue, categories, "parent", at)[0];
  }
  return names;
}

class IntendedReader {
  readonly #columns: readonly { readonly column: Column; readonly feeds: Feed }[];

  constructor(
    readonly catalogue: ResolvedCatalogue,
    readonly target: Target,
    readonly file: TargetFile,
  ) {
    this.#columns = file.layout.columns.map((column) => ({ column, feeds: firstOf(column.bindings).feed }));
  }

  languagesOfPlaces(): { main: string; others: string[] } {
    const main =
      this.#columns.flatMap(({ feeds }) =>
        feeds.is === "reference" && feeds.spec.inTree ? (feeds.spec.lang ?? []) : [],
      )[0] ?? "";
    return { main, others: this.#columns.flatMap(({ feeds }) => (feeds.is === "naming" ? [feeds.lang] : [])) };
  }

  placesOf(product: Row<"product">): number[] {
    return targetsOf(this.catalogue, this.catalogue.table("product"), "categories", product);
  }

  product(product: Row<"product">, heldBack: HeldBack): MutableRecord {
    const table = this.catalogue.table("product");
    const record: MutableRecord = new Map();
    for (const { column, feeds } of this.#columns) {
      if (column.scope.is !== "parent" || isOfAxes(feeds) || feeds.is === "key" || feeds.is === "naming") continue;
      const value = this.#value(table, product, feeds, heldBack);
      setField(record, fieldName(feeds), value ?? this.file.rules.get(column.header)?.["starts as"]);
    }
    const axes = this.catalogue.table("axis");
    setField(
      record,
      "axes",
      targetsOf(this.catalogue, table, "axes", product).map((axis) => this.#words(axes, axis)),
    );
    return record;
  }

  /** A variant, or a product that is sold by itself. */
  sellable(table: ReadonlyTable, row: number, product: Row<"product">): MutableRecord {
    const { catalogue } = this;
    const products = catalogue.table("product");
    const record: MutableRecord = new Map([["product", products.key(product)]]);
    for (const { column, feeds } of this.#columns) {
      if (column.scope.is !== "child" || isOfAxes(feeds) || (feeds.is === "text" && feeds.field === "code")) continue;
      const own = this.#value(table, row, feeds);
      const inherits = table.name !== "product" && !(feeds.is === "text" && feeds.field === "barcode");
      const value = own ?? (inherits ? this.#value(products, product, feeds) : undefined);
      setField(record, fieldName(feeds), value ?? this.file.rules.get(column.header)?.["starts as"]);
    }
    if (table.name !== "product") {
      const values = catalogue.table("value");
      const own = targetsOf(catalogue, table, "values", row);
      const names = targetsOf(catalogue, products, "axes", product).map((axis) => {
        const value = own.find((one) => values.parent(one) === axis);
        return value === undefined ? this.target.languages.map(() => "") : this.#words(values, value);
      });
      setField(record, "values", names);
    }
    for (const lane of this.file.layout.lanes)
      setField(record, lane.name, this.#tiers(table, row, lane.collection, lane));
    return record;
  }

  #words(table: ReadonlyTable, row: number): string[] {
    return this.target.languages.map((lang) => table.text(`name@${lang}`, row) ?? "");
  }

  #value(table: ReadonlyTable, row: number, feeds: Feed, heldBack?: HeldBack): CellValue | undefined {
    const { catalogue } = this;
    if (feeds.is === "text") return table.text(feeds.field, row) ?? undefined;
    if (feeds.is === "reference") {
      const targets = targetsOf(catalogue, table, feeds.field, row);
      if (feeds.spec.inTree) return targets.map((category) => pathNames(catalogue, category, present(feeds.spec.lang)));
      return targets[0] === undefined
        ? undefined
        : this.#name(feeds.spec.to, targets[0], feeds.spec.by, feeds.spec.lang);
    }
    if (feeds.is !== "entry") return undefined;
    const entries = catalogue.table(`${table.kind.name}.${feeds.entries}`);
    const others = entryKeyOf(entries.kind).filter(
      (field) =>
        !Object.hasOwn(feeds.constants, field) && !feeds.parallel.includes(field) && field !== feeds.field.name,
    );
    const fitting = [...entries.childrenOf(row)].filter(
      (entry) =>
        hasConstants(catalogue, entries, entry, feeds) &&
        others.every(
          (field) =>
            entries.text(field, entry) === undefined && (entries.references.get(field)?.get(entry).length ?? 0) === 0,
        ),
    );
    const found = fitting.flatMap((entry) => this.#entryValue(entries, entry, feeds.field, heldBack) ?? []);
    return feeds.field.list ? [...new Set(found)] : found[0];
  }

  #entryValue(entries: ReadonlyTable, entry: number, field: EntryField, heldBack?: HeldBack): string | undefined {
    if (field.is === "text") return entries.text(field.name, entry) ?? undefined;
    const row = targetsOf(this.catalogue, entries, field.name, entry)[0];
    if (row === undefined || (heldBack && heldRows(heldBack, field.spec.to).has(row))) return undefined;
    return this.#name(field.spec.to, row, field.spec.by, field.spec.lang);
  }

  #name(kind: string, row: number, by: string, lang: Lang | undefined): string | undefined {
    const table = this.catalogue.table(kind);
    return by === "name" ? (table.text(`name@${lang}`, row) ?? undefined) : table.key(row);
  }

  #tiers(table: ReadonlyTable, row: number, name: string, fixed: Fixed): string[][] {
    const entries = this.catalogue.table(`${table.kind.name}.${name}`);
    const group = this.#columns.flatMap(({ column, feeds }) =>
      column.scope.is === "lane" && feeds.is === "entry" && feeds.field.name === "customerGroup" ? [feeds.field] : [],
    )[0];
    const tiers = [...entries.childrenOf(row)]
      .filter((entry) => hasConstants(this.catalogue, entries, entry, fixed))
      .map((entry) => {
        const groupName = (group && this.#entryValue(entries, entry, group)) ?? "";
        return [entries.text("quantityFrom", entry) ?? "", groupName, entries.text("amount", entry) ?? ""];
      })
      .filter(([from, group]) => from !== "" || group !== "");
    return sortTiers(tiers);
  }
}
