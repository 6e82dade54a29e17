/** Whether a shopper would see each product of a catalogue, and if not, which link of the chain hides it. */

import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { entryLookup } from "../catalogue/entry-lookup.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { compareDecimals } from "../decimal.js";
import { parseWritten } from "../field-name.js";
import { entryKeyOf } from "../kind.js";
import { compareText } from "../location.js";
import type { VisibleRule } from "../target/schema.js";
import type { Target } from "../target/target.js";
import type { Hidden } from "../rehearse/visible.js";
import { layoutsOf } from "../compare/held-form.js";

export function hiddenIn(catalogue: ResolvedCatalogue, target: Target): Hidden[] {
  const shop = new Shown(catalogue, target);
  const products = catalogue.table("product");
  const hidden: Hidden[] = [];
  for (let row = 0; row < products.size; row++) {
    const because = target.visible.filter((rule) => !shop.holds(rule, row)).map(({ otherwise }) => otherwise);
    if (because.length > 0) hidden.push({ product: products.key(row), because });
  }
  return hidden.sort((a, b) => compareText(a.product, b.product));
}

const isAbove = (value: string | undefined, least: string): boolean =>
  value !== undefined && value !== "" && compareDecimals(value, least) > 0;

/** A record that is sold: by its table and row. */
interface Sold {
  readonly table: ReadonlyTable;
  readonly row: number;
}

class Shown {
  constructor(
    readonly catalogue: ResolvedCatalogue,
    readonly target: Target,
  ) {}

  holds(rule: VisibleRule, product: number): boolean {
    const products = this.catalogue.table("product");
    if ("variant field" in rule)
      return this.#sold(product).some((one) => isAbove(this.#value(one, rule["variant field"]), rule.above));
    if ("in" in rule)
      return targetsOf(this.catalogue, products, rule.in, product).some((node) => this.#isOpen(node, rule.all));
    if ("entry" in rule) return this.#hasEntry(rule, product);
    if ("variant" in rule) {
      const prices = this.#isHired(product) ? rule["rented above 0"] : rule["above 0"];
      return this.#sold(product).some(
        (one) =>
          this.#value(one, rule.variant) === rule.is && prices.some((price) => isAbove(this.#value(one, price), "0")),
      );
    }
    if ("is" in rule) return products.text(rule.field, product) === rule.is;
    return (products.text(rule.field, product) ?? "") !== "" || products.referencesOf(rule.field).first(product) >= 0;
  }

  #isHired(product: number): boolean {
    return this.catalogue.table("product").text("sort", product) === "hire";
  }

  /** The variants of a product; itself, where it has none. */
  #sold(product: number): Sold[] {
    const variants = this.catalogue.table("variant");
    const rows = [...variants.childrenOf(product)];
    return rows.length > 0
      ? rows.map((row) => ({ table: variants, row }))
      : [{ table: this.catalogue.table("product"), row: product }];
  }

  /** By what is asked for: how it is read. */
  readonly #readers = new Map<string, (row: number) => string | undefined>();

  #value({ table, row }: Sold, name: string): string | undefined {
    const asked = `${table.name}.${name}`;
    let read = this.#readers.get(asked);
    if (!read) this.#readers.set(asked, (read = this.#reader(table, asked)));
    return read(row);
  }

  /** `variant.weight`, or `variant.prices(price, hire: day).amount`: of an entry that has no more to tell it apart. */
  #reader(table: ReadonlyTable, asked: string): (row: number) => string | undefined {
    const written = parseWritten(asked);
    if (!written) return () => undefined;
    const { field, constants, inner } = written;
    if (inner === undefined) return (row) => table.text(field, row) ?? undefined;
    const entries = this.catalogue.table(`${table.name}.${field}`);
    const [first = "", ...others] = (constants ?? "").split(", ");
    const given = Object.fromEntries([
      ...(first === "" ? [] : [[entryKeyOf(entries.kind)[0] ?? "", first]]),
      ...others.map((other) => other.split(": ")),
    ]) as Readonly<Record<string, string>>;
    const { first: find } = entryLookup(entries, given);
    return (row) => {
      const entry = find(row);
      return entry < 0 ? undefined : (entries.text(inner, entry) ?? undefined);
    };
  }

  /** Whether a node of the tree, and all above it, have a flag. */
  #isOpen(node: number, flag: string): boolean {
    const categories = this.catalogue.table("category");
    const seen = new Set<number>();
    for (
      let at: number | undefined = node;
      at !== undefined && !seen.has(at);
      at = targetsOf(this.catalogue, categories, "parent", at)[0]
    ) {
      seen.add(at);
      if (categories.text(flag, at) !== "true") return false;
    }
    return true;
  }

  #hasEntry(rule: Extract<VisibleRule, { entry: string }>, product: number): boolean {
    const fields = this.#fieldsOf(rule.entry);
    const isFree = (at: number) => this.#isHired(product) && at === rule["for a time at"];
    const amount = fields[fields.length - 1] ?? "";
    const records = [{ table: this.catalogue.table("product"), row: product }, ...this.#sold(product)];
    return records.some(({ table, row }) => {
      const entries = this.catalogue.table(`${table.name}.${rule.entry}`);
      return [...entries.childrenOf(row)].some(
        (entry) =>
          isAbove(entries.text(amount, entry) ?? undefined, "0") &&
          rule.is.every((word, at) => isFree(at) || this.#word(entries, entry, fields[at] ?? "") === word),
      );
    });
  }

  /** What an entry has in a field; of what it leads to, that it leads there. */
  #word(entries: ReadonlyTable, entry: number, field: string): string {
    const [led] = targetsOf(this.catalogue, entries, field, entry);
    return led === undefined ? (entries.text(field, entry) ?? "") : `row ${led}`;
  }

  /** The fields of a list's entries, in the order of the columns that hold them. */
  #fieldsOf(list: string): readonly string[] {
    for (const layout of layoutsOf(this.target)) {
      const lane = layout.lanes.find(({ collection }) => collection === list);
      const columns = layout.columns.filter(({ scope }) => lane && scope.is === "lane" && scope.lane === lane.name);
      const fields = columns.flatMap(({ bindings }) =>
        bindings.flatMap(({ feed }) => (feed.is === "entry" ? [feed.field.name] : [])),
      );
      if (fields.length > 0) return fields;
    }
    return [];
  }
}
