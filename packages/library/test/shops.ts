/** Generated shops, in the plainest sheet, and whatever a layout writes of them: what every other way of laying records down is compared with. */

import { dsvFormat } from "d3-dsv";
import fc from "fast-check";
import { writeWorkbook, type Findings, type Layout, type ResolvedCatalogue } from "#src/index.js";
import { writeDocument, writeSheet, writtenKind } from "#src/parts.js";
import { dump } from "./dump.js";

const dsv = dsvFormat(";");

/** The records, laid down in the plainest way: what every other way is compared with. */
export const base = `layout: base
format: { csv: { delimiter: ';' } }
rows: { each: variant, of: product, grouped by: Key }
lanes:
  tiers: { entries: variant.prices, with: { role: tier }, continued when blank: [Key, Code] }
  shots: { entries: product.pictures, with: { role: main }, continued when blank: [Key, Code] }
columns:
  Key: product.key
  Code: variant.code
  En: product.name@en
  De: product.name@de
  Axes: { axes: names@en, as: { list: "|", escape: "!" } }
  Axes de: { axes: names@de, as: { list: "|", escape: "!", blanks: true } }
  Values: { axes: values@en, as: { list: "|", escape: "!" } }
  Values de: { axes: values@de, as: { list: "|", escape: "!", blanks: true } }
  Price: { field: variant.prices(price).amount, as: decimal }
  Shed: { field: variant.stock(Shed).quantity, as: integer }
  Loft: { field: variant.stock(Loft).quantity, as: integer }
  From: { field: tiers.quantityFrom, as: integer }
  Tier: { field: tiers.amount, as: decimal }
  Shot: shots.file
  Alt: shots.alternative@en
`;

const char = fc.constantFrom(
  "a",
  "B",
  "ß",
  "蜂",
  "ع",
  " ",
  ";",
  ",",
  "|",
  "!",
  ":",
  "'",
  '"',
  "&",
  "<",
  "]",
  "0",
  "/",
  "=",
  "\n",
);
const word = fc.array(char, { minLength: 1, maxLength: 6 }).map((chars) => `n${chars.join("")}.`);
const amount = fc.integer({ min: 0, max: 99_999 }).map((cents) => String(cents / 100));
const item = fc.record({
  en: word,
  de: fc.option(word),
  axes: fc.integer({ min: 0, max: 2 }),
  values: fc.uniqueArray(fc.tuple(fc.integer({ min: 0, max: 2 }), fc.integer({ min: 0, max: 2 })), {
    minLength: 1,
    maxLength: 4,
    selector: String,
  }),
  prices: fc.array(fc.option(amount), { minLength: 4, maxLength: 4 }),
  stock: fc.array(fc.option(fc.integer({ min: 0, max: 99 })), { minLength: 8, maxLength: 8 }),
  tiers: fc.array(amount, { maxLength: 2 }),
  shots: fc.array(fc.tuple(word, fc.option(word)), { maxLength: 3 }),
});
export const shop = fc.record({
  items: fc.array(item, { minLength: 1, maxLength: 5 }),
  wordList: fc.array(word, { minLength: 8, maxLength: 8 }),
  isGerman: fc.boolean(),
});
export type Shop = typeof shop extends fc.Arbitrary<infer T> ? T : never;

/** The rows of the plainest sheet. */
export function sheetOf({ items, wordList, isGerman }: Shop): string {
  const rows = ["Key,Code,En,De,Axes,Axes de,Values,Values de,Price,Shed,Loft,From,Tier,Shot,Alt".split(",")];
  items.forEach((one, at) => {
    const count = one.axes;
    // Values that differ on the axes there are.
    const seen = new Set<string>();
    const values =
      count === 0
        ? [[0, 0]]
        : one.values.filter((pair) => !seen.has(pair.slice(0, count).join()) && seen.add(pair.slice(0, count).join()));
    const listOf = (word: (axis: number) => string): string =>
      Array.from({ length: count }, (_, axis) => word(axis).replace(/[|!]/g, "!$&")).join("|");
    const inBoth = (en: (axis: number) => string, de: (axis: number) => string): string[] => [
      listOf(en),
      isGerman ? listOf(de) : "",
    ];
    const names = inBoth(
      (axis) => `A${axis}${wordList[axis]}`,
      (axis) => `D${axis}${wordList[axis]}`,
    );
    values.forEach((pair, location) => {
      const ownValues = inBoth(
        (axis) => `V${pair[axis]}${wordList[2 + axis]}`,
        (axis) => `W${pair[axis]}${wordList[4 + axis]}`,
      );
      const shared = location === 0 ? [one.en, one.de ?? ""] : ["", ""];
      const own = [one.prices[location] ?? "", ...[0, 1].map((side) => String(one.stock[location * 2 + side] ?? ""))];
      const tiers = location === 0 ? one.tiers : [];
      const shots = location === 0 ? one.shots : [];
      const shot = (at: number) => (shots[at] ? [`s${at}${shots[at][0]}`, shots[at][1] ?? ""] : ["", ""]);
      const tier = (at: number) => (tiers[at] === undefined ? ["", ""] : [String(5 + at), tiers[at]]);
      rows.push([
        `p${at}`,
        `c${at}-${location}`,
        ...shared,
        ...(location === 0 ? names : ["", ""]),
        ...ownValues,
        ...own,
        ...tier(0),
        ...shot(0),
      ]);
      for (let more = 1; more < Math.max(tiers.length, shots.length); more++)
        rows.push([...new Array<string>(11).fill(""), ...tier(more), ...shot(more)]);
    });
  });
  return rows.map((row) => `${dsv.formatRow(row)}\n`).join("");
}

export async function write(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  findings: Findings,
): Promise<Uint8Array | string> {
  const records = Array.from({ length: catalogue.table(writtenKind(layout, catalogue)).size }, (_, row) => row);
  if (layout.format.is === "xml" || layout.format.is === "json")
    return [...writeDocument(catalogue, layout, { records }, findings)].join("");
  const { above, rows } = writeSheet(catalogue, layout, { records }, findings);
  const all = [...above, ...rows];
  if (layout.format.is === "workbook") return writeWorkbook([{ name: "Range", rows: all.map((row) => [...row]) }]);
  return all.map((row) => `${dsv.formatRow([...row])}\n`).join("");
}

export const sorted = (catalogue: ResolvedCatalogue): string[] => dump(catalogue).sort();
