/**
 * Writes the demo's sources and pictures from `range.js`: as a supplier, a category manager and a second supplier would write them.
 * The same range gives the same bytes. Run with `npm run make -w @zest-tier/demo`.
 */

import { mkdirSync, rmSync, writeFileSync } from "node:fs";
import { categories, products, rearing, valueNames } from "./range.js";
import { picture } from "./draw.js";
import { books, german, languages, machines, morePictures, oldShop, photos, workbook } from "./more.js";
import { assortments, extras, facts, mill, moved, offers, options, optionUse, sets, shelfTexts, sizes, supplied, properties } from "./third.js";
import { makeLater } from "./later.js";
import { makeRough } from "./rough.js";

const folder = new URL("../clean/", import.meta.url);
const numbers = { next: 100 };

/** GS1: from the right, weights 3 and 1 in turn. 20 to 29 are for use within a shop. */
function barcode() {
  const digits = `26${String(41_370_000 + numbers.next++ * 37).padStart(10, "0")}`;
  const sum = [...digits].reverse().reduce((total, digit, at) => total + Number(digit) * (at % 2 === 0 ? 3 : 1), 0);
  return digits + ((10 - (sum % 10)) % 10);
}

const quote = (cell, delimiter) => (cell.includes(delimiter) || cell.includes('"') || cell.includes("\n") ? `"${cell.replaceAll('"', '""')}"` : cell);
export const csv = (rows, delimiter) => rows.map((row) => row.map((cell) => quote(cell, delimiter)).join(delimiter)).join("\r\n") + "\r\n";
const comma = (number) => number.toFixed(2).replace(".", ",");
const kg = (number) => String(Number(number.toFixed(3))).replace(".", ",");

const pathOf = (id) => {
  const [, parent, name] = categories.find((category) => category[0] === id);
  return parent === "" ? name : `${pathOf(parent)} / ${name}`;
};

/** Every combination of a product's values, in the order of its features. */
function combinations({ features, skip = () => false }) {
  return features.reduce((all, [, values]) => all.flatMap((rest) => values.map((value) => [...rest, value])), [[]]).filter((values) => !skip(values));
}

const count = (value) => Number(/^(\d+) pieces$/.exec(value)?.[1] ?? 1);
const suffix = (value) => value.replace(/ pieces$/, "").replace(/[^A-Za-z0-9]+/g, "").toUpperCase().slice(0, 4);

/** What each version of a product adds to its price: dearer with each step, times the pieces of a pack. */
function priced(product, values) {
  const steps = product.features.reduce((sum, [, all], at) => sum + all.indexOf(values[at]), 0);
  const pieces = product.packPrices ? values.reduce((most, value) => Math.max(most, count(value)), 1) : 1;
  const rebate = pieces > 10 ? 0.9 : pieces > 1 ? 0.95 : 1;
  const grown = product.packPrices ? product.price * pieces * rebate : product.price;
  return { price: Math.round(grown * (1 + 0.08 * steps) * 20) / 20, weight: product.kg * pieces * (1 + 0.03 * steps), pieces };
}

const header = ["Item no", "Range", "Name", "Bezeichnung", "Description", "Beschreibung", "Shelf", "Maker", "Sorts by", "Sort", "Price", "Before", "from pcs", "for", "then each", "In stock", "kg", "EAN", "Photos", "Own photo", "Goes with", "Spare parts", "Web"];

/** The first item number of a product: what the supplier's lists refer to it by. */
const firstCode = (key) => {
  const product = [...products, ...rearing].find((one) => one.key === key);
  return codeOf(product, combinations(product)[0]);
};
const codeOf = (product, values) => [`BC-${product.stem}`, ...values.map(suffix)].join("-");

function rangeRows() {
  const rows = [header];
  for (const product of products) {
    combinations(product).forEach((values, at) => {
      const first = at === 0;
      const { price, weight, pieces } = priced(product, values);
      const shown = (cell) => (first ? cell : "");
      const tiers = (product.club ?? []).map(([from, each]) => [String(from), "Beekeeping clubs", comma(Math.round(price * (each / product.price > 1 ? 0.9 : each / product.price) * 20) / 20)]);
      const names = product.features.map(([name]) => name);
      if ([...names, ...values].some((word) => word.includes(" + "))) throw new Error(`${product.key}: " + " in a word`);
      rows.push([
        codeOf(product, values),
        product.key,
        shown(product.en),
        shown(product.de),
        shown(product.text),
        shown(product.texte),
        shown(product.shelves.map(pathOf).join("; ")),
        shown(product.maker),
        shown(names.join(" + ")),
        values.join(" + "),
        `€ ${comma(price)}`,
        product.before ? `€ ${comma(Math.round(price * (product.before / product.price) * 20) / 20)}` : "",
        ...(tiers[0] ?? ["", "", ""]),
        String(((at * 7 + product.key.length * 5) % 40) + (pieces > 1 ? 3 : 0)),
        kg(weight),
        barcode(),
        shown(pictures(product).join(", ")),
        product.features[0]?.[0] === "Colour" ? ownPicture(product, values[0]) : "",
        shown((product.goes ?? []).map(firstCode).join(", ")),
        shown((product.spares ?? []).map(firstCode).join(", ")),
        shown("yes"),
      ]);
      for (const tier of tiers.slice(1)) rows.push(header.map((column) => ({ "from pcs": tier[0], for: tier[1], "then each": tier[2] })[column] ?? ""));
    });
  }
  return rows;
}

const pictures = (product) => [`${product.key}.png`, ...(product.features.length > 1 ? [`${product.key}-detail.png`] : [])];
const ownPicture = (product, value) => `${product.key}-${value.toLowerCase()}.png`;

/** The second supplier lists an article's own row, then a row for each version. */
function rearingRows() {
  const rows = [["Row", "No", "Article", "English", "German", "Notes", "Anmerkungen", "Group", "Trait A", "A", "Trait B", "B", "Net of VAT", "Retail", "Pieces", "kg", "GTIN", "Photo", "Online"]];
  for (const product of rearing) {
    const all = combinations(product);
    const sold = (values) => {
      const { price, weight } = priced(product, values);
      return [(price / 1.2).toFixed(2), price.toFixed(2), String((product.key.length * 3 + values.join("").length) % 25), String(Number(weight.toFixed(3))), barcode()];
    };
    const single = all.length === 1 ? sold([]) : ["", "", "", "", ""];
    rows.push(["article", all.length === 1 ? codeOf(product, []) : "", product.key, product.en, product.de, product.text, product.texte, product.shelves.map(pathOf).join(" | "), product.features[0]?.[0] ?? "", "", product.features[1]?.[0] ?? "", "", ...single, pictures(product)[0], "1"]);
    if (all.length > 1) for (const values of all) rows.push(["version", codeOf(product, values), product.key, "", "", "", "", "", "", values[0] ?? "", "", values[1] ?? "", ...sold(values), "", ""]);
  }
  return rows;
}

function categoryRows() {
  return [["Id", "Below", "English", "Deutsch", "Order"], ...categories.map(([id, parent, en, de], at) => [id, parent, en, de, String((at + 1) * 10)])];
}

function valueRows() {
  const rows = [["Feature", "Merkmal", "Value", "Wert"]];
  for (const [feature, [german, values]] of Object.entries(valueNames)) {
    const all = new Set([...products, ...rearing].flatMap((product) => product.features.filter(([name]) => name === feature).flatMap(([, own]) => own)));
    for (const value of all) rows.push([feature, german, value, values[value] ?? value]);
  }
  return rows;
}

const sources = {
  "categories.csv": csv(categoryRows(), ","),
  "values.csv": csv(valueRows(), ";"),
  "range.csv": csv(rangeRows(), ";"),
  "queen-rearing.tsv": csv(rearingRows(), "\t"),
  "reedmace.xml": machines.replaceAll("\n", "\r\n"),
  "german.csv": csv(german, ";"),
  "languages.csv": csv(languages, ";"),
  "photos.csv": csv(photos, ","),
  "old-shop.csv": csv(oldShop, ";"),
  "books.json": `${JSON.stringify(books, null, 2)}\n`.replaceAll("\n", "\r\n"),
};
const third = {
  "extras.csv": csv(extras, ";"),
  "sets.csv": csv(sets, ";"),
  "options.csv": csv(options, ";"),
  "option-use.csv": csv(optionUse, ";"),
  "offers.csv": csv(offers, ";"),
  "mill.csv": csv(mill, ";"),
  "supplied.csv": csv(supplied, ";"),
  "assortments.csv": csv(assortments, ";"),
  "properties.csv": csv(properties, ";"),
  "facts.csv": csv(facts, ";"),
  "sizes.csv": csv(sizes, ";"),
  "moved.csv": csv(moved, ";"),
  "shelf-texts.csv": csv(shelfTexts, ";"),
};
/** The old shop wrote its export in the encoding of its time. */
export const encodingOf = (name) => (name.endsWith("old-shop.csv") ? "latin1" : "utf8");
rmSync(new URL("sources", folder), { recursive: true, force: true });
rmSync(new URL("pictures", folder), { recursive: true, force: true });
mkdirSync(new URL("sources", folder), { recursive: true });
mkdirSync(new URL("pictures", folder), { recursive: true });
for (const [name, text] of Object.entries({ ...sources, ...third })) writeFileSync(new URL(`sources/${name}`, folder), text, encodingOf(name));
writeFileSync(new URL("sources/glimmer.xlsx", folder), workbook());
const names = new Set([...products.flatMap((product) => [...pictures(product), ...(product.features[0]?.[0] === "Colour" ? product.features[0][1].map((value) => ownPicture(product, value)) : [])]), ...rearing.map((product) => pictures(product)[0]), ...morePictures]);
for (const name of names) writeFileSync(new URL(`pictures/${name}`, folder), picture(name));
makeRough(sources, encodingOf);
makeLater();
const variants = [...products, ...rearing].map((product) => combinations(product).length);
console.log(`${variants.length} products, ${variants.filter((n) => n > 1).length} with variants, ${variants.filter((n) => n > 1).reduce((a, b) => a + b, 0)} variants, ${names.size} pictures`);
