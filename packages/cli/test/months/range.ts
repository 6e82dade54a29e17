/** A made-up range in four languages with variants and kits, as the files of a project; and the same range a month later. */

import { oneOf, randomOf, type Random } from "../fuzz/mutate.js";

/** One version of a product, or a single. */
interface Version {
  readonly code: string;
  readonly values: readonly string[];
  price: number;
  stock: number;
}

interface Product {
  readonly key: string;
  readonly axes: readonly string[];
  readonly versions: Version[];
  readonly parts: readonly (readonly [code: string, times: number])[];
  names: Record<string, string>;
  text: Record<string, string>;
  shelf: string;
  brand: string;
  grams: number;
}

/** What is sold in a month. Months are made from one another: nothing is changed in place. */
export interface Range {
  readonly seed: number;
  readonly month: number;
  readonly products: readonly Product[];
  readonly operations: readonly object[];
}

const shelfCount = 60;
const axisValues: Readonly<Record<string, readonly (readonly [en: string, de: string])[]>> = {
  Size: [
    ["Small", "Klein"],
    ["Medium", "Mittel"],
    ["Large", "Groß"],
  ],
  Wood: [
    ["Pine", "Kiefer"],
    ["Oak", "Eiche"],
    ["Elm", "Ulme"],
  ],
};
const things = [
  ["Hive", "Beute", "Ruche", "巣箱"],
  ["Smoker", "Rauchgerät", "Enfumoir", "燻煙器"],
  ["Veil", "Schleier", "Voile", "面布"],
  ["Stand", "Ständer", "Support", "台"],
  ["Feeder", "Futtertrog", "Nourrisseur", "給餌器"],
] as const;
const languages = ["en", "de", "fr", "ja"] as const;

/** @param count of products. */
export function firstRange(seed: number, count: number): Range {
  const next = randomOf(seed);
  const products: Product[] = [];
  for (let at = 0; at < count; at++) products.push(productOf(`p${at}`, at, next, products));
  return { seed, month: 1, products, operations: [] };
}

function productOf(key: string, at: number, next: Random, others: readonly Product[]): Product {
  const pick = <T>(list: readonly T[]): T => oneOf(next, list);
  const thing = pick(things);
  const kind = next();
  const isKit = others.length > 20 && kind < 0.1;
  const axes = isKit || kind < 0.55 ? [] : kind < 0.8 ? ["Size"] : ["Size", "Wood"];
  const combinations = axes.reduce<string[][]>(
    (all, axis) => all.flatMap((one) => axisValues[axis]!.map(([en]) => [...one, en])),
    [[]],
  );
  const versions = combinations
    .slice(0, axes.length === 0 ? 1 : 2 + Math.floor(next() * (combinations.length - 1)))
    .map((values, n) => ({
      code: (axes.length === 0 ? `C-${key}` : `C-${key}-${n}`).toUpperCase(),
      values,
      price: 100 + Math.floor(next() * 20_000),
      stock: Math.floor(next() * 90),
    }));
  const sold = () => pick(pick(others).versions).code;
  const parts = isKit
    ? [...new Set([sold(), sold(), sold()])].map((code) => [code, 1 + Math.floor(next() * 3)] as const)
    : [];
  return {
    key,
    axes,
    versions,
    parts,
    names: Object.fromEntries(languages.map((lang, n) => [lang, `${thing[n]} ${at}`])),
    text: { en: `Made for bees, number ${at}.`, de: `Für Bienen gemacht, Nummer ${at}.` },
    shelf: `s${Math.floor(next() * shelfCount)}`,
    brand: `Maker ${Math.floor(next() * 40)}`,
    grams: Math.floor(next() * 9_000),
  };
}

/** A month later: prices, names, texts, shelves, products that come and go; in the third month products are combined and split too. */
export function nextRange({ seed, month, products, operations }: Range): Range {
  const next = randomOf(seed * 1_000 + month);
  const isPart = new Set(products.flatMap(({ parts }) => parts.map(([code]) => code)));
  const reshaped = new Set(operations.flatMap((one) => Object.values(one).flat() as string[]));
  const mayGo = ({ key, versions, parts }: Product) =>
    parts.length === 0 && !reshaped.has(key) && !versions.some(({ code }) => isPart.has(code));
  const kept = products.filter((product) => !(mayGo(product) && next() < 0.01));
  const changed = kept.map((product): Product => {
    const versions = product.versions.map((one) => (next() < 0.05 ? { ...one, price: one.price + 50 } : one));
    const names = next() < 0.02 ? { ...product.names, en: `${product.names["en"]} plus` } : product.names;
    const text = next() < 0.02 ? { ...product.text, de: `${product.text["de"]} Neu.` } : product.text;
    const shelf = next() < 0.01 ? `s${Math.floor(next() * shelfCount)}` : product.shelf;
    const grams = next() < 0.01 ? product.grams + 1_000 : product.grams;
    return { ...product, versions, names, text, shelf, grams };
  });
  const fresh = Math.ceil(products.length / 50);
  const first = products.length + month * 1_000;
  for (let at = 0; at < fresh; at++) changed.push(productOf(`p${first + at}`, first + at, next, changed));
  return {
    seed,
    month: month + 1,
    products: changed,
    operations: month < 2 ? operations : [...operations, ...reshapings(changed, isPart)],
  };
}

/** Two singles that become one product, and a product that is split. */
function reshapings(products: readonly Product[], isPart: ReadonlySet<string>): object[] {
  const isFree = ({ versions, parts }: Product) => parts.length === 0 && !versions.some(({ code }) => isPart.has(code));
  const [one, other] = products.filter((product) => product.axes.length === 0 && isFree(product));
  const whole = products.find((product) => product.axes.length === 2 && isFree(product) && woodsOf(product) > 1);
  return [
    {
      combine: [one!.key, other!.key],
      into: "combined",
      axis: "Kind",
      values: { [one!.key]: "First", [other!.key]: "Second" },
      name: { en: "Combined", de: "Zusammen" },
      take: Object.fromEntries(
        ["description@en", "description@de", "categories", "brand"].map((field) => [field, one!.key]),
      ),
    },
    { split: whole!.key, along: "Wood" },
  ];
}

const woodsOf = ({ versions }: Product): number => new Set(versions.map(({ values }) => values[1])).size;

const money = (cents: number): string => `${Math.floor(cents / 100)}.${String(cents % 100).padStart(2, "0")}`;
const lines = (rows: readonly (readonly string[])[]): string => rows.map((row) => `${row.join(";")}\n`).join("");
const csv = "format: { csv: { delimiter: ';' } }";

/** The files of a project of this range. @param gone what becomes of products that are no longer sold. */
export function filesOfRange(
  { products, operations }: Range,
  languagesCarried: readonly string[],
): Record<string, string> {
  const stockIn = [
    { field: "product.stock.location", constant: "Barn" },
    { field: "variant.stock.location", constant: "Barn" },
  ];
  const shelves = Array.from({ length: shelfCount }, (_, at) => [
    `s${at}`,
    at < 6 ? "" : `s${at % 6}`,
    `Shelf ${at}`,
    `Regal ${at}`,
  ]);
  return {
    "project.yaml": JSON.stringify({
      project: "months",
      languages: languagesCarried,
      currency: "EUR",
      sources: ["shelves", "values", "range", "kits"].map((name) => ({ file: `${name}.csv`, layout: `${name}.yaml` })),
      derive: [
        { field: "product.slug@en", slug: "product.name@en" },
        { field: "product.shown", constant: "true" },
      ],
      operations,
      targets: [
        { target: "pennywort", changes: { gone: "hide" } },
        {
          target: "saltmarsh",
          changes: { gone: "hide" },
          derive: [...stockIn, { field: "category.shown", constant: "true" }],
        },
        { target: "tollgate", derive: stockIn },
      ],
    }),
    "shelves.yaml": `layout: shelves\n${csv}\nrows: { each: category }\ncolumns: { Id: category.key, Below: { field: category.parent, as: { by: key } }, English: category.name@en, Deutsch: category.name@de }\n`,
    "shelves.csv": lines([["Id", "Below", "English", "Deutsch"], ...shelves]),
    "values.yaml": `layout: values\n${csv}\nrows: { each: value, of: axis, grouped by: Axis, shared cells: every row }\ncolumns: { Axis: axis.name@en, Achse: axis.name@de, Value: value.name@en, Wert: value.name@de }\n`,
    "values.csv": lines([
      ["Axis", "Achse", "Value", "Wert"],
      ...Object.entries(axisValues).flatMap(([axis, values]) =>
        values.map(([en, de]) => [axis, axis === "Size" ? "Größe" : "Holz", en, de]),
      ),
      ["Kind", "Art", "First", "Erste"],
      ["Kind", "Art", "Second", "Zweite"],
    ]),
    "range.yaml": `layout: range\n${csv}\nrows: { each: variant, of: product, grouped by: Key, shared cells: every row }\ncolumns:\n  Key: product.key\n  Code: variant.code\n${languages.map((lang) => `  Name ${lang}: product.name@${lang}\n`).join("")}  Text en: product.description@en\n  Text de: product.description@de\n  Shelf: { field: product.categories, as: { by: key } }\n  Brand: { field: product.brand, as: { by: name@en }, missing: create }\n  Axes: { axes: names@en, as: { list: " + " } }\n  Values: { axes: values@en, as: { list: " + " } }\n  Price: variant.prices(price).amount\n  Stock: { field: variant.stock.quantity, as: integer }\n  kg: product.weight\n`,
    "range.csv": lines([
      [
        "Key",
        "Code",
        ...languages.map((lang) => `Name ${lang}`),
        "Text en",
        "Text de",
        "Shelf",
        "Brand",
        "Axes",
        "Values",
        "Price",
        "Stock",
        "kg",
      ],
      ...products.flatMap(({ key, axes, versions, names, text, shelf, brand, grams }) =>
        versions.map(({ code, values, price, stock }) => [
          ...[key, code, ...languages.map((lang) => names[lang]!), text["en"]!, text["de"]!, shelf, brand],
          ...[axes.join(" + "), values.join(" + "), money(price), String(stock), String(grams / 1_000)],
        ]),
      ),
    ]),
    "kits.yaml": `layout: kits\n${csv}\nrows: { each: product, found by: { column: Kit, names: key } }\nlanes: { parts: { entries: product.components } }\ncolumns:\n  Part: { field: parts.variant, as: { by: code } }\n  Times: { field: parts.quantity, as: integer }\n`,
    "kits.csv": lines([
      ["Kit", "Part", "Times"],
      ...products.flatMap(({ key, parts }) => parts.map(([code, times]) => [key, code, String(times)])),
    ]),
  };
}
