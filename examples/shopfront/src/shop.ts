/** The shop: out of the records that are on a platform, what a shopper meets. The pages know only the shop. */

import type { RecordEntry, PlatformRecord, Records } from "./platform-data.js";

/** A text by language; `""` is of no language. */
export type Texts = ReadonlyMap<string, string>;

export interface Node {
  readonly id: string;
  readonly names: Texts;
  readonly children: readonly Node[];
}

export interface Axis {
  readonly names: Texts;
  readonly values: readonly { readonly id: string; readonly names: Texts }[];
}

export interface ShopVariant {
  /** The record of it: what differences are named by. */
  readonly kind: string;
  readonly key: string;
  readonly code: string;
  /** The id of its value on each axis; undefined for a gap. */
  readonly values: readonly (string | undefined)[];
  readonly price: string | undefined;
  readonly was: string | undefined;
  readonly tiers: readonly {
    readonly from: string;
    readonly group: string;
    readonly hire: string;
    readonly amount: string;
  }[];
  readonly stock: number | undefined;
  readonly status: string;
  readonly pictures: readonly string[];
}

export interface Choice {
  readonly names: Texts;
  readonly surcharge: number;
  readonly isPercent: boolean;
}

export interface ShopOptionGroup {
  readonly names: Texts;
  readonly isRequired: boolean;
  readonly choices: readonly Choice[];
}

export interface Product {
  readonly key: string;
  readonly names: Texts;
  readonly descriptions: Texts;
  readonly brand: string | undefined;
  readonly sort: string | undefined;
  /** Ids of the nodes that it stands at. */
  readonly nodes: readonly string[];
  readonly axes: readonly Axis[];
  readonly variants: readonly ShopVariant[];
  readonly optionGroups: readonly ShopOptionGroup[];
  readonly parts: readonly { readonly name: string; readonly quantity: string }[];
  readonly pictures: readonly string[];
  readonly related: readonly { readonly word: string; readonly key: string }[];
  readonly isShown: boolean;
}

export interface ShownShop {
  readonly languages: readonly string[];
  readonly tree: readonly Node[];
  readonly products: ReadonlyMap<string, Product>;
  /** The product of a key, or of the key or code of one of its versions. */
  readonly productOf: (word: string) => Product | undefined;
}

export function shopOf(records: Records): ShownShop {
  const products = new Map(records.of("product").map((record) => [record.key, productOf(record, records)]));
  const byCode = new Map<string, Product>();
  for (const product of products.values())
    for (const { key, code } of product.variants) byCode.set(key, product).set(code, product);
  return {
    languages: languagesOf(records),
    tree: treeOf(records),
    products,
    productOf: (word) => products.get(word) ?? byCode.get(word),
  };
}

/** The languages of names, the one that most products have first. */
function languagesOf(records: Records): string[] {
  const counts = new Map<string, number>();
  for (const { kind, texts } of records.all)
    for (const lang of textsIn(texts, "name").keys())
      counts.set(lang, (counts.get(lang) ?? 0) + (kind === "product" ? 1 : 0));
  return [...counts].sort((a, b) => b[1] - a[1]).map(([lang]) => lang);
}

function textsIn(texts: RecordEntry["texts"], name: string): Texts {
  const own = Object.entries(texts).filter(([field]) => field.startsWith(`${name}@`));
  return new Map(own.map(([field, text]) => [field.slice(name.length + 1), text]));
}

/** A text in a language, or in the first that it is there in. */
export const inLanguage = (texts: Texts, lang: string): string => texts.get(lang) ?? [...texts.values()][0] ?? "";

function treeOf(records: Records): Node[] {
  const all = records.of("category");
  const parentOf = ({ references }: PlatformRecord) => references["parent"]?.[0];
  const node = ({ key, texts }: PlatformRecord): Node => ({
    id: key,
    names: textsIn(texts, "name"),
    children: all.filter((one) => parentOf(one) === key && one.key !== key).map(node),
  });
  return all.filter((one) => !records.find("category", parentOf(one))).map(node);
}

function productOf(record: PlatformRecord, records: Records): Product {
  const { key, texts, references } = record;
  const variants = records.of("variant").filter(({ of }) => of === key);
  const axes = axesOf(record, variants, records);
  return {
    key,
    names: textsIn(texts, "name"),
    descriptions: textsIn(texts, "description"),
    brand: records
      .referred("brand", record, "brand")
      .map(({ texts: own, key: word }) => inLanguage(textsIn(own, "name"), "") || word)[0],
    sort: texts["sort"],
    nodes: references["categories"] ?? [],
    axes: axes.map(({ names, values }) => ({ names, values })),
    variants:
      variants.length === 0
        ? [versionOf(record, undefined, [], records)]
        : variants.map((variant) => versionOf(variant, record, axes, records)),
    optionGroups: optionGroupsOf(record, records),
    parts: [record, ...variants].flatMap(({ entries }) => entries["components"] ?? []).flatMap(partOf),
    pictures: picturesOf(record),
    related: (record.entries["relations"] ?? []).flatMap(({ texts: own, references: to }) =>
      (to["to"] ?? []).map((one) => ({ word: own["name"] ?? "", key: one })),
    ),
    isShown: texts["shown"] !== "false",
  };
}

function partOf({ texts, references }: RecordEntry): Product["parts"] {
  const [name] = [...(references["variant"] ?? []), ...(references["product"] ?? [])];
  return name === undefined ? [] : [{ name, quantity: texts["quantity"] ?? "1" }];
}

/** An axis with the key by which values know it. */
interface KeyedAxis extends Axis {
  readonly key: string;
}

function axesOf(product: PlatformRecord, variants: readonly PlatformRecord[], records: Records): KeyedAxis[] {
  const used = new Set(variants.flatMap(({ references }) => references["values"] ?? []));
  const values = [...used].flatMap((key) => records.find("value", key) ?? []);
  return records.referred("axis", product, "axes").map(({ key, texts }) => ({
    key,
    names: textsIn(texts, "name"),
    values: values
      .filter(({ of }) => of === key)
      .map((value) => ({ id: value.key, names: textsIn(value.texts, "name") })),
  }));
}

/** @param product undefined for one that is sold by itself. */
function versionOf(
  record: PlatformRecord,
  product: PlatformRecord | undefined,
  axes: readonly KeyedAxis[],
  records: Records,
): ShopVariant {
  const { kind, key, texts, entries } = record;
  const values = records.referred("value", record, "values");
  const prices = entries["prices"] ?? product?.entries["prices"] ?? [];
  const stocks = (entries["stock"] ?? []).map((one) => Number(one.texts["quantity"])).filter(Number.isFinite);
  return {
    kind,
    key,
    code: texts["code"] ?? key,
    values: axes.map((axis) => values.find(({ of }) => of === axis.key)?.key),
    price: plainPrice(prices, "price"),
    was: plainPrice(prices, "was"),
    tiers: tiersOf(prices, records),
    stock: stocks.length === 0 ? undefined : stocks.reduce((sum, one) => sum + one, 0),
    status: texts["status"] ?? product?.texts["status"] ?? "selling",
    pictures: picturesOf(record),
  };
}

/** What tells a price from the plain one of its role. */
const conditions = ["quantityFrom", "from", "until", "hire"];

const isPlain = ({ texts, references }: RecordEntry): boolean =>
  conditions.every((field) => texts[field] === undefined) && references["customerGroup"] === undefined;

const plainPrice = (prices: readonly RecordEntry[], role: string): string | undefined =>
  prices.find((one) => one.texts["role"] === role && isPlain(one))?.texts["amount"];

/** Prices that hold from a quantity, for a group, or for a time of hire. */
function tiersOf(prices: readonly RecordEntry[], records: Records): ShopVariant["tiers"] {
  return prices
    .filter((one) => one.texts["role"] === "price" && !isPlain(one))
    .map((one) => {
      const { quantityFrom = "", hire = "", amount = "" } = one.texts;
      const [group] = records.referred("customer-group", one, "customerGroup");
      const name = group && inLanguage(textsIn(group.texts, "name"), "");
      return { from: quantityFrom, group: name === undefined || name === "" ? (group?.key ?? "") : name, hire, amount };
    });
}

function picturesOf({ entries }: PlatformRecord): string[] {
  const files = (entries["pictures"] ?? []).map(({ texts }) => texts["file"] ?? "");
  return [...new Set(files)].filter((file) => file !== "");
}

function optionGroupsOf(product: PlatformRecord, records: Records): ShopOptionGroup[] {
  return records.referred("option-group", product, "optionGroups").map(({ key, texts }) => ({
    names: textsIn(texts, "name"),
    isRequired: texts["required"] === "true",
    choices: records
      .of("choice")
      .filter(({ of }) => of === key)
      .map((choice) => ({
        names: textsIn(choice.texts, "name"),
        surcharge: Number(choice.texts["surcharge"] ?? 0) || 0,
        isPercent: choice.texts["surchargeIs"] === "percent",
      })),
  }));
}

/** What a version costs with what was chosen on top, in cents, so that sums are exact. */
export function priceWith(
  price: string,
  chosen: readonly Choice[],
): { readonly whole: number; readonly surcharge: number } {
  const base = Math.round(Number(price) * 100);
  const surcharge = chosen.reduce(
    (sum, choice) =>
      sum + (choice.isPercent ? Math.round((base * choice.surcharge) / 100) : Math.round(choice.surcharge * 100)),
    0,
  );
  return { whole: base + surcharge, surcharge };
}
