/** Catalogues to measure on, made by rule: the same size gives the same bytes. */

import { createWriteStream } from "node:fs";
import { once } from "node:events";
import { join } from "node:path";

export interface Workload {
  readonly name: "plain" | "features";
  readonly rows: number;
  /** The first has the records; the second, in another order, more of each of them. */
  readonly sources: readonly { readonly file: string; readonly layout: string }[];
  readonly target: string;
  readonly separators: { readonly delimiter: string };
  /** Which share of all cells is quoted in the sources. */
  readonly quoted: number;
}

const languages = ["en", "de", "fr", "es", "it"];
const plainHeader = [
  ...["Key", "Code", ...languages.map((lang) => `Name ${lang}`), ...languages.map((lang) => `Text ${lang}`)],
  ...["Brand", "Weight", "Barcode", "Price", "Was", "Shown"],
];
const plainStock = `layout: bench-stock
format: { csv: { delimiter: ";" } }
rows: { each: product, found by: { column: Code, names: code } }
columns:
  Stock: { field: product.stock.quantity, as: integer }
  Cost: { field: product.prices(cost).amount, as: { decimal: ",", places: 2 } }
`;
const plainColumns = (isTarget: boolean): string => `
    Key: product.key
    Code: product.code
${languages.map((lang) => `    Name ${lang}: product.name@${lang}\n    Text ${lang}: product.description@${lang}`).join("\n")}
    Brand: { field: product.brand, as: { by: name@en } }
    Weight: { field: product.weight, as: { decimal: "," } }
    Barcode: product.barcode
    Price: { field: product.prices(price).amount, as: { decimal: ",", places: 2 } }
    Was: { field: product.prices(was).amount, as: { decimal: ",", places: 2 } }
    Shown: { field: product.shown, as: { code words: { yes: true, no: false } } }
${
  isTarget
    ? `    Cost: { field: product.prices(cost).amount, as: { decimal: ",", places: 2 } }
    Stock: { field: product.stock.quantity, as: integer }
`
    : ""
}`;
const plainLayout = (name: string, isTarget: boolean): string =>
  `layout: ${name}\nformat: { csv: { delimiter: ";" } }\nrows: { each: product }\ncolumns:${plainColumns(isTarget).replaceAll("\n    ", "\n  ")}`;

/** A target that takes all there is, in one file, without limits. */
const plainTarget = `
target: bench-plain
version: 1
languages: [en]
endpoints: { pictures: /p, upload: /u, catalogue: /c }
files:
  items:
    layout:
${plainLayout("bench-out", true)
  .split("\n")
  .map((line) => `      ${line}`)
  .join("\n")}
    importer:
      refusal costs: record
      missing pictures: left out
      looked up: at the end of the file
      unknown names: create
imports:
  - { file: items }
`;

const pad = (number: number, digits: number): string => String(number).padStart(digits, "0");

function barcode(number: number): string {
  const digits = `29${pad(number, 10)}`;
  let sum = 0;
  for (let at = 0; at < 12; at++) sum += Number(digits[11 - at]) * (at % 2 === 0 ? 3 : 1);
  return digits + ((10 - (sum % 10)) % 10);
}

/** As a cell stands in the file. */
function inFile(cell: string): string {
  if (!/[";]/.test(cell)) return cell;
  cells.quoted++;
  return `"${cell.replaceAll('"', '""')}"`;
}

/** What was written so far, to tell how much of it is quoted. */
const cells = { quoted: 0, all: 0 };

function lineOf(texts: readonly string[]): string {
  cells.all += texts.length;
  return texts.map(inFile).join(";");
}

function plainRow(n: number): string {
  const price = `${10 + (n % 900)},${pad(n % 100, 2)}`;
  const was = `${1000 + (n % 900)},${pad(n % 100, 2)}`;
  // Of six texts one has a semicolon, and of thirty one has quotes.
  const texts = languages.map((lang, at) =>
    (n + at) % 6 === 0
      ? `Made up; for ${(n + at) % 30 === 0 ? 'so-called "measuring"' : "measuring"}, ${lang} ${n % (97 + at)}`
      : `Made up for measuring, ${lang} ${n % (97 + at)}`,
  );
  const names = languages.map((lang, at) => `Article ${n}${(n + at) % 5 === 0 ? ";" : ""} ${lang}`);
  return lineOf([
    `p-${n}`,
    `C-${pad(n, 8)}`,
    ...names,
    ...texts,
    `Maker ${n % 50}`,
    `${n % 30},${(n % 9) + 1}`,
    barcode(n),
    price,
    was,
    n % 7 ? "yes" : "no",
  ]);
}

const featureHeader =
  "Item no;Range;Name;Bezeichnung;Description;Beschreibung;Shelf;Maker;Sorts by;Sort;Price;Before;from pcs;for;then each;EAN;Photos;Own photo;Goes with;Spare parts;Web";

/** A product of six variant rows, with a continuation row for a tier on each second product: about six and a half rows. */
function featureRows(product: number): string[] {
  const rows: string[] = [];
  for (let v = 0; v < 6; v++) {
    const code = `F${product}-${v}`;
    const first = v === 0;
    const shown = (text: string): string => (first ? text : "");
    const category = `Branch ${product % 12} / Shelf ${product % 60} / Place ${product % 240}`;
    const price = `€ ${20 + (product % 400)},${pad((v * 15) % 100, 2)}`;
    const tier = product % 2 === 0 && first ? ["5", "Clubs", "15,00"] : ["", "", ""];
    rows.push(
      lineOf([
        ...[code, `range-${product}`, shown(`Made thing ${product}`), shown(`Gemachtes Ding ${product}`)],
        ...[
          shown(`A text of a usual length; for measuring ${product}.`),
          shown(`Ein Text von üblicher Länge; zum Messen ${product}.`),
          shown(category),
          shown(`Maker ${product % 50}`),
        ],
        ...[shown("Size + Colour + Finish"), `Size ${v % 3} + Colour ${v >> 1}; matt + Finish ${v % 2}`],
        ...[
          price,
          "",
          ...tier,
          barcode(product * 6 + v),
          "",
          "",
          shown(product > 3 ? `F${product - 1}-0, F${product - 3}-0` : ""),
          "",
          shown("yes"),
        ],
      ]),
    );
    if (product % 2 === 0 && first) rows.push(`${";".repeat(12)}10;Clubs;14,00${";".repeat(6)}`);
  }
  return rows;
}

async function writeLines(path: string, header: string, lines: Iterable<string>): Promise<void> {
  const file = createWriteStream(path);
  let text = `${header}\r\n`;
  for (const line of lines) {
    text += `${line}\r\n`;
    if (text.length < 1 << 18) continue;
    if (!file.write(text)) await once(file, "drain");
    text = "";
  }
  file.end(text);
  await once(file, "finish");
}

function quotedSince(before: typeof cells): number {
  return (cells.quoted - before.quoted) / (cells.all - before.all);
}

export async function plainWorkload(folder: string, rows: number): Promise<Workload> {
  const source = join(folder, `plain-${rows}.csv`);
  const stock = join(folder, `plain-${rows}-stock.csv`);
  const before = { ...cells };
  function* lines(): Generator<string> {
    for (let n = 0; n < rows; n++) yield plainRow(n);
  }
  function* stocks(): Generator<string> {
    for (let n = rows - 1; n >= 0; n--) yield lineOf([`C-${pad(n, 8)}`, String(n % 500), `${n % 9},5`]);
  }
  await writeLines(source, plainHeader.join(";"), lines());
  await writeLines(stock, "Code;Stock;Cost", stocks());
  return {
    name: "plain",
    rows,
    sources: [
      { file: source, layout: plainLayout("bench-in", false) },
      { file: stock, layout: plainStock },
    ],
    target: plainTarget,
    separators: { delimiter: ";" },
    quoted: quotedSince(before),
  };
}

const featureStock = `layout: bench-stock
format: { csv: { delimiter: ";" } }
rows: { each: variant, found by: { column: Item no, names: code } }
columns:
  In stock: { field: variant.stock.quantity, as: integer }
  kg: { field: variant.weight, as: { decimal: "," } }
`;

/** @param layout of the demo's range. @param target Pennywort's, whose limits are taken out: one file in, one file out. */
export async function featureWorkload(folder: string, rows: number, layout: string, target: string): Promise<Workload> {
  const source = join(folder, `features-${rows}.csv`);
  const stock = join(folder, `features-${rows}-stock.csv`);
  const before = { ...cells };
  let written = 0;
  let products = 0;
  function* lines(): Generator<string> {
    for (; written < rows; products++) {
      for (const line of featureRows(products)) {
        written++;
        yield line;
      }
    }
  }
  function* stocks(): Generator<string> {
    for (let product = products - 1; product >= 0; product--)
      for (let v = 0; v < 6; v++) yield lineOf([`F${product}-${v}`, String((product + v) % 99), `${v + 1},25`]);
  }
  await writeLines(source, featureHeader, lines());
  await writeLines(stock, "Item no;In stock;kg", stocks());
  const created = layout.replace(
    'of: { path: " / ", by: name@en } } }',
    'of: { path: " / ", by: name@en } }, missing: create }',
  );
  const inStock = /^ {2}(In stock|kg): .*\n/gm;
  return {
    name: "features",
    rows: written,
    sources: [
      { file: source, layout: created.replace(inStock, "") },
      { file: stock, layout: featureStock },
    ],
    target: target.replace(/^ {4}limits: .*$/m, ""),
    separators: { delimiter: ";" },
    quoted: quotedSince(before),
  };
}
