/**
 * The rough project: the clean sources with one of each kind of damage put in, and `damage.json`, which lists them for the tests.
 *
 * Each damage is an edit of one line, found by a text that stands on it alone.
 */

import { workbook } from "./more.js";
import { dsvFormat } from "d3-dsv";
import { cpSync, mkdirSync, rmSync, writeFileSync } from "node:fs";

const rough = new URL("../rough/", import.meta.url);
const clean = new URL("../clean/", import.meta.url);

/** A GTIN-12 that begins with a zero, as a spreadsheet leaves it. */
function withoutLeadingZero() {
  const digits = "06137004512";
  const sum = [...digits].reverse().reduce((total, digit, at) => total + Number(digit) * (at % 2 === 0 ? 3 : 1), 0);
  return `${digits}${(10 - (sum % 10)) % 10}`.slice(1);
}

const semicolons = dsvFormat(";");
const cell = (line, at, change) => {
  const [cells] = semicolons.parseRows(line);
  cells[at] = change(cells[at]);
  return semicolons.formatRow(cells);
};

const range = "sources/range.csv";
/** on: the line begins with this · edit: gives the damaged line, or several · code: the finding that tells of it. */
const damages = [
  { id: "code-twice", what: "Two products share a code.", file: range, on: "BC-FG;", edit: (line) => line.replace("BC-FG;", "BC-HJ;"), code: "check/repeated-code" },
  { id: "name-on-second-row", what: "A product's name stands again, changed, on a further row.", file: range, on: "BC-SM-SMAL-COPP;", edit: (line) => cell(line, 2, () => "Copper smoker"), code: "read/cells-disagree" },
  { id: "value-spelt-twice", what: "A value is written in two ways.", file: range, on: "BC-RG-PINE;", edit: (line) => cell(line, 9, () => "pine "), code: "check/look-alike-values", at: "elsewhere" },
  { id: "shelf-misspelt", what: "A category path that does not exist.", file: range, on: "BC-RF;", edit: (line) => cell(line, 6, () => "Hives / Boxes + floors / Floor and roofs"), code: "resolve/dangling" },
  { id: "category-in-itself", what: "A category lies below itself.", file: "sources/categories.csv", on: "home,", edit: (line) => line.replace("home,,", "home,home-candles,"), code: "plan/cycle" },
  { id: "category-twice", what: "Two categories of the same name below the same parent.", file: "sources/categories.csv", on: "frames-wax,", edit: (line) => [line, line.replace("frames-wax,", "frames-wax-old,")], code: "resolve/ambiguous", at: "elsewhere" },
  { id: "barcode-scientific", what: "A spreadsheet turned a barcode into a power of ten.", file: range, on: "BC-HC;", edit: (line) => cell(line, 17, () => "2,60041E+12"), code: "check/barcode" },
  { id: "barcode-zero-lost", what: "A spreadsheet took a barcode's leading zero.", file: range, on: "BC-WM;", edit: (line) => cell(line, 17, withoutLeadingZero), code: "check/barcode" },
  { id: "barcode-digit", what: "A barcode has a wrong digit.", file: range, on: "BC-BF;", edit: (line) => cell(line, 17, (code) => code.slice(0, -1) + ((Number(code.at(-1)) + 3) % 10)), code: "check/barcode" },
  { id: "price-with-point", what: "A price with a decimal point among prices with commas.", file: range, on: "BC-MB;", edit: (line) => cell(line, 10, () => "€ 6.40"), code: "cell/not-a-decimal" },
  { id: "price-other-currency", what: "A price with a currency that is not expected.", file: range, on: "BC-SS;", edit: (line) => cell(line, 10, () => "CHF 8,80"), code: "cell/other-sign" },
  { id: "row-far-away", what: "A row of a product stands far from the others.", file: range, on: "BC-TS-28CM;", edit: () => [], move: "end", code: "read/scattered-group" },
  { id: "value-gap", what: "A variant has no value for one of its product's axes.", file: range, on: "BC-LB-WHIT-100;", edit: (line) => cell(line, 9, (sort) => sort.split(" + ")[0]), code: "check/missing-value" },
  { id: "combination-twice", what: "Two variants of a product have the same values.", file: range, on: "BC-JK-LARG-KHAK;", edit: (line) => cell(line, 9, (sort) => sort.replace("Khaki", "White")), code: "check/repeated-combination" },
  { id: "no-name", what: "A product without a name.", file: range, on: "BC-FF;", edit: (line) => cell(line, 2, () => ""), code: "target/required" },
  { id: "long-name", what: "A name longer than the platform takes.", file: range, on: "BC-PF-2L;", edit: (line) => cell(line, 2, (name) => `${name} for syrup, turned over above the crown board, with a gauze lid and a handle of wire`), code: "target/too-long" },
  { id: "long-text", what: "A description that the platform cuts.", file: range, on: "BC-FO-SING;", edit: (line) => cell(line, 4, (text) => `${text} ${"Keep it cool and dry. ".repeat(100)}`.trim()), code: "target/cut" },
  { id: "picture-missing", what: "A picture that is not in the folder.", file: range, on: "BC-WK-1M;", edit: (line) => line.replace("wick.png", "wik.png"), code: "check/picture-missing" },
  { id: "relation-unknown", what: "A relation to a code that nothing has.", file: range, on: "BC-BD;", edit: (line) => cell(line, 20, () => "BC-PENCIL"), code: "resolve/dangling" },
  { id: "struck-below", what: "The earlier price (was) is below the price.", file: range, on: "BC-X2;", edit: (line) => cell(line, 11, () => "€ 259,00"), code: "check/was-not-above" },
  { id: "code-with-slash", what: "A code with a character that the platform refuses.", file: range, on: "BC-SR-BEEC;", edit: (line) => line.replace("BC-SR-BEEC;", "BC-SR/BEEC;"), code: "target/characters" },
  { id: "cell-too-many", what: "A text with the delimiter in it, without quotes.", file: range, on: "BC-CS;", edit: (line) => line.replace("The old straw hive, as a candle.", "The old straw hive; as a candle."), code: "read/ragged-row" },
  { id: "open-quote", what: "A quote that is never closed.", file: range, on: "BC-UB;", edit: (line) => line.replace("With a rest for frames", '"With a rest for frames'), code: "read/open-quote" },
  { id: "word-unknown", what: "A word where yes or no is intended.", file: range, on: "BC-VR;", edit: (line) => line.replace(/;yes$/, ";ja"), code: "cell/not-a-word" },
  { id: "not-shown", what: "A product that is not to be shown; no fault, but worth knowing.", file: range, on: "BC-VS;", edit: (line) => line.replace(/;yes$/, ";no"), code: null },
  { id: "tier-twice", what: "Two club prices from the same quantity.", file: range, on: "BC-BK-5L;", edit: (line) => [line, semicolons.formatRow(semicolons.parseRows(line)[0].map((text, at) => (at >= 12 && at <= 14 ? text : "")))], code: "check/repeated-tier", atLine: 1 },
  { id: "version-of-nothing", what: "A version that names an article that is not there.", file: "sources/queen-rearing.tsv", on: "version\tBC-QM-BLUE", edit: (line) => line.replace("marking-kit", "making-kit"), code: "read/orphan-row" },
  { id: "unseen-character", what: "A name with a character that nobody sees.", file: range, on: "BC-HT-YELL;", edit: (line) => cell(line, 2, (name) => `${name}\u200b`), code: "check/damaged-text" },
  { id: "misread-letters", what: "A name that was read in the wrong encoding before.", file: range, on: "BC-BR-BEEC;", edit: (line) => cell(line, 3, () => "BienenbÃ¼rste"), code: "check/damaged-text" },
  { id: "line-ends", what: "From here on lines end in the other way.", file: "sources/values.csv", on: "Pack;Packung;Single", edit: (line) => `${line}\u0000`, code: "read/mixed-line-ends" },
  { id: "stale-translation", what: "A translation made from a text that has changed since.", file: "sources/german.csv", on: "G-020;", edit: (line) => line.replace("Lantern", "Wind light"), code: "read/stale-translation" },
  { id: "translation-missing", what: "A name that nobody has translated.", file: "sources/german.csv", on: "first-book;", edit: (line) => line.replace("Pim und der hohle Stamm", ""), code: "check/missing-translation", at: "elsewhere" },
  { id: "translation-of-nothing", what: "A translation of a product that is not there.", file: "sources/german.csv", on: "refractometer;", edit: (line) => line.replace("refractometer", "refraktometer"), code: "read/names-none" },
  { id: "language-unknown", what: "A row in a language that the layout does not know.", file: "sources/languages.csv", on: "hive-tool;fr", edit: (line) => line.replace(";fr;", ";fx;"), code: "read/unknown-language" },
  { id: "photo-of-nothing", what: "A picture by a line that nothing stands on.", file: "sources/photos.csv", on: "8,", edit: (line) => line.replace("8,", "80,"), code: "read/names-none" },
  { id: "markup-unknown", what: "A text with markup that text cannot hold.", file: "sources/old-shop.csv", on: "0010-1;", edit: (line) => line.replace("will not come back.", "<table>"), code: "cell/other-markup" },
  { id: "address-twice", what: "Two products with one address.", file: "sources/old-shop.csv", on: "BC-SF;", edit: (line) => line.replace("lavender-smoker-fuel", "orchard-hive-complete"), code: "check/repeated-slug", at: "elsewhere" },
  { id: "document-barcode", what: "A barcode in a document with a wrong digit.", file: "sources/books.json", on: '          "gtin13": "2700501112308"', edit: (line) => line.replace("2308", "2309"), code: "check/barcode", at: "elsewhere" },
  { id: "bare-ampersand", what: "A bare & in a document: what comes behind cannot be read.", file: "sources/reedmace.xml", on: "      <about>Tells the water", edit: (line) => line.replace("water in honey", "water & honey"), code: "read/xml-broken" },
];

export function makeRough(sources, encodingOf) {
  const files = new Map(Object.entries(sources).map(([name, text]) => [`sources/${name}`, text.split("\r\n").map((line) => ({ line, damage: undefined }))]));
  for (const damage of damages) {
    const lines = files.get(damage.file);
    const found = lines.filter(({ line }) => line.startsWith(damage.on));
    if (found.length !== 1) throw new Error(`${damage.id}: ${found.length} lines begin with ${damage.on}`);
    const at = lines.indexOf(found[0]);
    const { line } = found[0];
    const edited = [damage.edit(line)].flat();
    if (edited.join() === line) throw new Error(`${damage.id} changes nothing`);
    lines.splice(at, 1, ...edited.map((text, place) => ({ line: text, damage: place === (damage.atLine ?? 0) ? damage.id : found[0].damage })));
    if (damage.move === "end") lines.splice(lines.length - 1, 0, { line, damage: damage.id });
  }
  for (const part of ["sources", "layouts", "pictures"]) rmSync(new URL(part, rough), { recursive: true, force: true });
  mkdirSync(new URL("sources", rough), { recursive: true });
  for (const [file, lines] of files) writeFileSync(new URL(file, rough), textOf(lines), encodingOf(file));
  writeFileSync(new URL("sources/glimmer.xlsx", rough), workbook(damageWorkbook));
  cpSync(new URL("layouts", clean), new URL("layouts", rough), { recursive: true });
  const list = damages.map(({ id, what, file, code, at }) => {
    const lines = files.get(file);
    return { id, what, file, ...(at === "elsewhere" ? {} : { line: lines.findIndex((one) => one.damage === id) + 1 }), code };
  });
  writeFileSync(new URL("damage.json", rough), `${JSON.stringify([...list, ...workbookDamages], null, 2)}\n`);
}

/** A mark at the end of a line: from it on lines end in the other way. */
function textOf(lines) {
  const at = lines.findIndex(({ line }) => line.endsWith("\u0000"));
  const own = lines.map(({ line }) => line.replace("\u0000", ""));
  if (at < 0) return own.join("\r\n");
  return `${own.slice(0, at).join("\r\n")}\r\n${own.slice(at).join("\n")}`;
}

const book = "sources/glimmer.xlsx";
/** What a workbook's damage is, and where it shows. */
const workbookDamages = [
  { id: "size-turned-into-date", what: "A spreadsheet turned a size into a date.", file: book, line: 8, code: "cell/turned-into-date" },
  { id: "zeros-only-shown", what: "A code stored as a number, its zeros only shown.", file: book, code: "cell/shown-otherwise" },
  { id: "formula-error", what: "A formula that ended in an error.", file: book, line: 4, code: "cell/formula-error" },
  { id: "hidden-row", what: "A hidden row.", file: book, code: "read/hidden" },
  { id: "merged-cells", what: "Cells merged over two articles.", file: book, code: "read/merged-cells" },
  { id: "sale-above-price", what: "An offer that is not cheaper.", file: book, line: 6, code: "check/offer-not-below" },
  { id: "below-cost", what: "A price below what the article costs.", file: book, line: 3, code: "check/below-cost" },
  { id: "cost-missing", what: "A cost that was forgotten.", file: book, line: 11, code: "check/no-cost" },
];

function damageWorkbook({ Articles, Prices }) {
  // A date as a spreadsheet makes it of "10-12".
  Articles.E8 = { t: "n", v: 45_941, z: "d-mmm" };
  Articles.F11 = { t: "n", v: 30, z: "0000" };
  Articles.G4 = { t: "e", v: 0x2a, w: "#N/A" };
  Articles["!rows"] = [{}, {}, {}, {}, {}, { hidden: true }];
  Articles["!merges"] = [{ s: { r: 3, c: 2 }, e: { r: 4, c: 2 } }];
  Prices.D6.v = 24;
  Prices.B3 = { t: "n", v: 5.5 };
  delete Prices.B9;
  Prices.A9 = { t: "n", v: 30, z: "0000" };
}
