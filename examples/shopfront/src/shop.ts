/**
 * The shop: out of what is on a platform, what a shopper meets. Platforms store the same in several ways; each way is read here, and the
 * pages know only the shop.
 */

import { isList, listOf, textOf, textsOf, type Fields, type PlatformData, type Value } from "./platform-data.js";

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
  /** The product of a code, or of a key. */
  readonly productOf: (word: string) => Product | undefined;
}

const none: ReadonlyMap<string, Fields> = new Map();
const noFields: Fields = new Map();

export function shopOf(onPlatform: PlatformData): ShownShop {
  const records = (kind: string) => onPlatform.get(kind) ?? none;
  const languages = languagesOf(onPlatform);
  const products = new Map(
    [...records("product")].map(([key, fields]) => [key, productOf(key, fields, onPlatform, languages)]),
  );
  const byCode = new Map<string, Product>();
  for (const product of products.values()) for (const { code } of product.variants) byCode.set(code, product);
  return {
    languages,
    tree: treeOf(onPlatform),
    products,
    productOf: (word) => products.get(word) ?? byCode.get(word),
  };
}

/** The languages of names, the one that most products have first. */
function languagesOf(onPlatform: PlatformData): string[] {
  const counts = new Map<string, number>();
  for (const [kind, records] of onPlatform)
    for (const fields of records.values())
      for (const field of fields.keys()) {
        if (!field.startsWith("name@")) continue;
        const lang = field.slice("name@".length);
        counts.set(lang, (counts.get(lang) ?? 0) + (kind === "product" ? 1 : 0));
      }
  return [...counts].sort((a, b) => b[1] - a[1]).map(([lang]) => lang);
}

function textsIn(fields: Fields, name: string): Texts {
  return new Map(
    [...fields].flatMap(([field, value]): [string, string][] =>
      field.startsWith(`${name}@`) && typeof value === "string" ? [[field.slice(name.length + 1), value]] : [],
    ),
  );
}

/** A text in a language, or in the first that it is there in. */
export const inLanguage = (texts: Texts, lang: string): string => texts.get(lang) ?? [...texts.values()][0] ?? "";

const plainText = (text: string): Texts => new Map([["", text]]);
const separator = " / ";

/** Nodes by their key where each is a record, else by the names of their path. */
function treeOf(onPlatform: PlatformData): Node[] {
  const categories = onPlatform.get("category") ?? none;
  const isByKey = [...categories.values()].some((fields) =>
    [...fields.keys()].some((field) => field === "parent" || field === "name@en"),
  );
  const names = new Map<string, Texts>();
  const parents = new Map<string, string | undefined>();
  if (isByKey)
    for (const [key, fields] of categories) {
      names.set(key, textsIn(fields, "name"));
      parents.set(key, textOf(fields.get("parent")));
    }
  else {
    const paths = [...categories.keys()].map((key) => key.split(separator));
    for (const fields of (onPlatform.get("product") ?? none).values())
      for (const path of listOf(fields.get("categories"))) if (isList(path)) paths.push(textsOf(path));
    for (const path of paths)
      path.forEach((name, at) => {
        const id = path.slice(0, at + 1).join(separator);
        const own = textsIn(categories.get(id) ?? noFields, "name");
        names.set(id, new Map([["en", name], ...own]));
        parents.set(id, at === 0 ? undefined : path.slice(0, at).join(separator));
      });
  }
  const node = (id: string): Node => ({
    id,
    names: names.get(id)!,
    children: [...names.keys()].filter((one) => parents.get(one) === id && one !== id).map(node),
  });
  return [...names.keys()].filter((id) => !names.has(parents.get(id) ?? "")).map(node);
}

function productOf(key: string, fields: Fields, onPlatform: PlatformData, languages: readonly string[]): Product {
  const variants = [...(onPlatform.get("variant") ?? none)].filter(([, own]) => textOf(own.get("product")) === key);
  const axes = axesOf(fields, variants, onPlatform, languages);
  const isSingle = variants.length === 0;
  return {
    key,
    names: textsIn(fields, "name"),
    descriptions: textsIn(fields, "description"),
    brand: textOf(fields.get("brand")),
    sort: textOf(fields.get("nature")),
    nodes: listOf(fields.get("categories")).map((one) => (isList(one) ? textsOf(one).join(separator) : String(one))),
    axes,
    variants: isSingle
      ? [versionOf("product", key, fields, noFields, [], onPlatform)]
      : variants.map(([code, own]) => versionOf("variant", code, own, fields, axes, onPlatform)),
    optionGroups: optionGroupsOf(fields, onPlatform),
    parts: [
      ...listOf(fields.get("components")),
      ...variants.flatMap(([, own]) => listOf(own.get("components"))),
    ].flatMap((part) => {
      const [name, quantity] = textsOf(part);
      return name === undefined ? [] : [{ name, quantity: quantity ?? "1" }];
    }),
    pictures: picturesOf(fields),
    related: relatedOf(fields),
    isShown: textOf(fields.get("shown")) !== "false",
  };
}

type Variants = readonly (readonly [string, Fields])[];

/** What identifies the value that a variant has on an axis. */
function valueOn(own: Fields, at: number, axisKey: string | undefined, onPlatform: PlatformData): string | undefined {
  const numbered = textOf(own.get(`value ${at + 1}`));
  if (numbered !== undefined) return numbered;
  const values = listOf(own.get("values"));
  if (axisKey !== undefined) {
    const known = onPlatform.get("value") ?? none;
    const found = textsOf(own.get("values")).find((value) => textOf(known.get(value)?.get("axis")) === axisKey);
    if (found !== undefined) return found;
  }
  const value = values[at];
  return isList(value) ? textsOf(value).join("\u001f") : value;
}

function axesOf(fields: Fields, variants: Variants, onPlatform: PlatformData, languages: readonly string[]): Axis[] {
  const given = listOf(fields.get("axes"));
  const numbered = [1, 2, 3, 4, 5, 6].flatMap((n) => textOf(fields.get(`axis ${n}`)) ?? []);
  const axes = given.length > 0 ? given : numbered;
  const known = onPlatform.get("axis") ?? none;
  const named = onPlatform.get("value") ?? none;
  return axes.map((axis, at) => {
    const axisKey = typeof axis === "string" && known.has(axis) ? axis : undefined;
    const ids = [...new Set(variants.flatMap(([, own]) => valueOn(own, at, axisKey, onPlatform) ?? []))];
    return {
      names: namesOf(axis, known, languages),
      values: ids.map((id) => ({
        id,
        names: named.has(id)
          ? textsIn(named.get(id)!, "name")
          : namesOf(id.includes("\u001f") ? id.split("\u001f") : id, named, languages),
      })),
    };
  });
}

/** A key of a record, a list of names by language, or a plain name. */
function namesOf(value: Value, known: ReadonlyMap<string, Fields>, languages: readonly string[]): Texts {
  if (typeof value === "string") return known.has(value) ? textsIn(known.get(value)!, "name") : plainText(value);
  const texts = textsOf(value);
  return new Map(texts.map((text, at) => [languages[at] ?? "", text]));
}

function versionOf(
  kind: string,
  key: string,
  own: Fields,
  product: Fields,
  axes: readonly Axis[],
  onPlatform: PlatformData,
): ShopVariant {
  const prices = [...listOf(own.get("prices")), ...(own.has("prices") ? [] : listOf(product.get("prices")))].map(
    (price) => textsOf(price),
  );
  // Role, quantity, group, from, until, rental, amount.
  const plain = (role: string) =>
    prices.find((price) => price[0] === role && price.slice(1, -1).every((part) => part === ""))?.at(-1);
  const field = (name: string) => textOf(own.get(name)) ?? textOf(product.get(name));
  const given = listOf(product.get("axes"));
  const known = onPlatform.get("axis") ?? none;
  return {
    kind,
    key,
    code: textOf(own.get("code")) ?? key,
    values: axes.map((_, at) => {
      const axis = given[at];
      return valueOn(own, at, typeof axis === "string" && known.has(axis) ? axis : undefined, onPlatform);
    }),
    price: field("prices(price).amount") ?? plain("price"),
    was: field("prices(was).amount") ?? plain("was"),
    tiers: tiersOf(own, prices),
    stock: stockOf(own),
    status: field("status") ?? "selling",
    pictures: picturesOf(own),
  };
}

/** Prices that hold from a quantity, for a group, or for a time of hire. */
function tiersOf(own: Fields, prices: readonly (readonly string[])[]): ShopVariant["tiers"] {
  const records = prices
    .filter((price) => price[0] === "price" && (price[1] !== "" || price[2] !== "" || price[5] !== ""))
    .map(([, from = "", group = "", , , hire = "", amount = ""]) => ({ from, group, hire, amount }));
  const lane = [...own].flatMap(([field, value]) =>
    /^prices\(price\)\[\]|^tiers$|^club$/.test(field) ? listOf(value) : [],
  );
  return [
    ...records,
    ...lane.flatMap((tier) => {
      const parts = textsOf(tier);
      return parts.length < 2
        ? []
        : [{ from: parts[0]!, group: parts.length > 2 ? parts[1]! : "", hire: "", amount: parts.at(-1)! }];
    }),
  ];
}

function stockOf(own: Fields): number | undefined {
  const plain = [...own].flatMap(([field, value]) =>
    /^stock(\([^)]*\))?\.quantity$/.test(field) ? (textOf(value) ?? []) : [],
  );
  const listed = listOf(own.get("stock")).flatMap((one) => textsOf(one)[1] ?? []);
  const all = [...plain, ...listed].map(Number).filter((count) => Number.isFinite(count));
  return all.length === 0 ? undefined : all.reduce((sum, count) => sum + count, 0);
}

const isPicture = /\.(png|jpe?g|webp|gif)$/i;

function picturesOf(fields: Fields): string[] {
  const named = [...fields].flatMap(([field, value]) =>
    /^pictures?(\([^)]*\))?\.file$/.test(field) ? (isList(value) ? textsOf(value) : [String(value)]) : [],
  );
  // Entries come in no order of their own: a name before those that it begins.
  const stem = (file: string) => file.replace(isPicture, "");
  const listed = listOf(fields.get("pictures"))
    .flatMap((one) =>
      isList(one)
        ? textsOf(one)
            .filter((part) => isPicture.test(part))
            .slice(0, 1)
        : [],
    )
    .sort((a, b) => (stem(a) < stem(b) ? -1 : 1));
  return [...new Set([...named, ...listed])].filter((name) => name !== "");
}

function relatedOf(fields: Fields): Product["related"] {
  const named = [...fields].flatMap(([field, value]) => {
    const word = /^relations\(([^)]+)\)\.to$/.exec(field)?.[1];
    return word === undefined ? [] : textsOf(value).map((key) => ({ word, key }));
  });
  const listed = listOf(fields.get("relations")).flatMap((one) => {
    const [word, key] = textsOf(one);
    return word === undefined || key === undefined ? [] : [{ word, key }];
  });
  return [...named, ...listed];
}

/** Groups that are records of their own, or stand in the product. */
function optionGroupsOf(fields: Fields, onPlatform: PlatformData): ShopOptionGroup[] {
  return listOf(fields.get("optionGroups")).flatMap((given): ShopOptionGroup[] => {
    if (typeof given === "string") {
      const group = onPlatform.get("option-group")?.get(given);
      if (!group) return [];
      const choices = [...(onPlatform.get("choice") ?? none).values()].filter(
        (one) => textOf(one.get("option-group")) === given,
      );
      return [
        {
          names: textsIn(group, "name"),
          isRequired: textOf(group.get("required")) === "true",
          choices: choices.map((one) =>
            choiceOf(textsIn(one, "name"), textOf(one.get("surcharge")), textOf(one.get("surchargeIs"))),
          ),
        },
      ];
    }
    const [name, required, choices] = given;
    if (typeof name !== "string") return [];
    return [
      {
        names: plainText(name),
        isRequired: required === "true",
        choices: listOf(choices).map((one) => {
          const [own = "", surcharge, is] = textsOf(one);
          return choiceOf(plainText(own), surcharge, is);
        }),
      },
    ];
  });
}

const choiceOf = (names: Texts, surcharge: string | undefined, is: string | undefined): Choice => ({
  names,
  surcharge: Number(surcharge ?? 0) || 0,
  isPercent: is === "percent",
});

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
