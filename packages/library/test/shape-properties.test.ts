/** L1 for every row shape and format: what is written of generated records reads back as those records, or writing says what cannot be carried. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { dsvFormat } from "d3-dsv";
import fc from "fast-check";
import { Findings } from "#src/index.js";
import { Catalogue, readSources, resolveReferences } from "#src/parts.js";
import { base, sheetOf, shop, sorted, write } from "./shops.js";
import { filesOf, kinds, layoutOf, read } from "./support.js";

const runs = Number(process.env["PROPERTY_RUNS"] ?? 60);
const dsv = dsvFormat(";");
const csv = "format: { csv: { delimiter: ';' } }";

const axes = (of = "value") =>
  [1, 2]
    .map(
      (n) =>
        `  Axis ${n}: { axis: ${n}, holds: name }\n  Axis ${n} de: { axis: ${n}, holds: name@de }\n  Value ${n}: { axis: ${n}, holds: ${of}${of === "values" ? ", as: { list: '|', escape: '!' }" : ""} }\n  Value ${n} de: { axis: ${n}, holds: ${of}@de${of === "values" ? ", as: { list: '|', escape: '!' }" : ""} }\n`,
    )
    .join("");
const sold = `  Price: { field: variant.prices(price).amount, as: decimal }\n  Shed: { field: variant.stock(Shed).quantity, as: integer }\n  Loft: { field: variant.stock(Loft).quantity, as: integer }\n`;
const lists = (of: string) =>
  `  Tiers: { field: ${of}.prices(tier), as: { list: '|', escape: '!', of: { parts: ':', holds: [quantityFrom, { field: amount, as: { decimal: ',' } }] } } }\n`;
const shotLists = `  Shots: { field: product.pictures(main).file, as: { list: '|', escape: '!' } }\n  Alts: { field: product.pictures(main).alternative@en, as: { list: '|', escape: '!', blanks: true } }\n`;
const texts = `  En: product.name@en\n  De: product.name@de\n`;
const lanes = `lanes:
  tiers: { entries: variant.prices, with: { role: tier }, continued when blank: [Code, Key, Word] }
  shots: { entries: product.pictures, with: { role: main }, continued when blank: [Code, Key, Word] }
`;
const laneColumns = `  From: { field: tiers.quantityFrom, as: integer }\n  Tier: { field: tiers.amount, as: decimal }\n  Shot: shots.file\n  Alt: shots.alternative@en\n`;

const nested = (
  format: string,
  path: (name: string) => string,
  element: string,
  at: Record<string, string>,
) => `layout: nested
format: ${format}
rows: { each: variant, of: product, element: ${element}, child element: ${at["version"]} }
lanes:
  tiers: { entries: variant.prices, with: { role: tier }, element: ${at["version"]}${at["tier"]} }
  shots: { entries: product.pictures, with: { role: main }, element: ${at["shot"]} }
columns:
  ${path("key")}: product.key
  ${path("en")}: product.name@en
  ${path("de")}: product.name@de
  ${path("a1")}: { axis: 1, holds: name }
  ${path("a1d")}: { axis: 1, holds: name@de }
  ${path("a2")}: { axis: 2, holds: name }
  ${path("a2d")}: { axis: 2, holds: name@de }
  ${at["version"]}${at["/"]}code: variant.code
  ${at["version"]}${at["/"]}v1: { axis: 1, holds: value }
  ${at["version"]}${at["/"]}v1d: { axis: 1, holds: value@de }
  ${at["version"]}${at["/"]}v2: { axis: 2, holds: value }
  ${at["version"]}${at["/"]}v2d: { axis: 2, holds: value@de }
  ${at["version"]}${at["/"]}price: { field: variant.prices(price).amount, as: decimal }
  ${at["version"]}${at["/"]}shed: { field: variant.stock(Shed).quantity, as: integer }
  ${at["version"]}${at["/"]}loft: { field: variant.stock(Loft).quantity, as: integer }
  ${at["version"]}${at["tier"]}${at["/"]}from: { field: tiers.quantityFrom, as: integer }
  ${at["version"]}${at["tier"]}${at["/"]}each: { field: tiers.amount, as: decimal }
  ${at["shot"]}${at["/"]}file: shots.file
  ${at["shot"]}${at["/"]}alt: shots.alternative@en
`;

const grouped = (rows: string, name: string) =>
  `layout: ${name}\n${csv}\nrows: { each: variant, of: product, ${rows} }\n`;
const keyed = `  Key: product.key\n  Code: variant.code\n`;

/** Each way: the sheets that the records are written into, and read from, together. */
const kindsOfRows: Readonly<Record<string, readonly string[]>> = {
  "S2, first row": [base],
  "S2, every row": [
    `${grouped("grouped by: Key, shared cells: every row", "every")}columns:\n${keyed}${texts}${axes()}${sold}${lists("variant")}${shotLists}`,
  ],
  "S3, named by key": [
    `${grouped("shared cells: own row, marker: { column: T, parent: P, child: V }, joined by: { column: Word, names: key }", "by-key")}${lanes}columns:\n${keyed}${texts}${axes()}${sold}${laneColumns}`,
  ],
  "S3, following": [
    `${grouped("shared cells: own row, marker: { column: T, parent: P, child: V }, joined by: following", "following")}columns:\n${keyed}${texts}${axes()}${sold}${lists("variant")}${shotLists}`,
  ],
  "S5, XML": [
    nested("{ xml: {} }", (name) => (name === "key" ? '"@key"' : name), "/shop/item", {
      version: "versions/version",
      "/": "/",
      tier: "/tier",
      shot: "shot",
    }),
  ],
  "S5, JSON": [
    nested("{ json: {} }", (name) => `/${name}`, "/items", {
      version: "/versions",
      "/": "/",
      tier: "/tiers",
      shot: "/shots",
    }),
  ],
  "S5, XML, versions two levels down": [
    nested("{ xml: {} }", (name) => (name === "key" ? '"@key"' : name), "/shop/item", {
      version: "looks/look/version",
      "/": "/",
      tier: "/tiers/tier",
      shot: "shots/shot",
    })
      .replace(/look\/version\/(v1d?):/g, "look/$1:")
      .replace("looks/look/version/price:", '"looks/look/@price":'),
  ],
  "S5, JSON, lists in lists": [
    nested("{ json: {} }", (name) => `/${name}`, "/shop/items", {
      version: "/looks/versions",
      "/": "/",
      tier: "/tiers",
      shot: "/shots",
    }).replace(/looks\/versions\/(v1d?|price):/g, "looks/$1:"),
  ],
  "S7, S10: prices, stock and pictures in sheets of their own": [
    `${grouped("grouped by: Key", "goods")}columns:\n${keyed}${texts}${axes()}`,
    `layout: tiers\n${csv}\nrows: { each: variant, found by: { column: Item, names: code } }\nlanes: { tiers: { entries: variant.prices } }\ncolumns:\n  Item: { constant: '' }\n  Role: tiers.role\n  From: { field: tiers.quantityFrom, as: integer }\n  Each: { field: tiers.amount, as: decimal }\n`,
    `layout: stock\n${csv}\nrows: { each: variant, found by: { column: Item, names: code } }\nlisted: { place: [Shed, Loft] }\ncolumns:\n  "In {place}": { field: "variant.stock({place}).quantity", as: integer }\n`,
    `layout: shots\n${csv}\nrows: { each: product, found by: { column: Item, names: key } }\nlanes: { shots: { entries: product.pictures, with: { role: main } } }\ncolumns:\n  File: shots.file\n  Alt: shots.alternative@en\n`,
  ],
  "S8, a row a language": [
    `${grouped("grouped by: Key, language: { column: L, code words: { E: en, D: de } }", "languages")}columns:\n  L: { constant: '' }\n${keyed}  Name: product.name\n  Axis 1: { axis: 1, holds: name }\n  Axis 2: { axis: 2, holds: name }\n  Value 1: { axis: 1, holds: value }\n  Value 2: { axis: 2, holds: value }\n${sold}${lists("variant")}${shotLists}`,
  ],
  "S11, in a workbook below notes, cells cut and joined": [
    `layout: book\nformat: { workbook: {} }\nheader: { line: 3, notes: [Prices] }\ncells: { Stock: { split: '/', into: [Shed, Loft] }, Names: { json: { /en: En, /de: De } } }\nrows: { each: variant, of: product, grouped by: Key }\ncolumns:\n${keyed}${texts}${axes()}${sold}${lists("variant")}${shotLists}`,
  ],
};

/** Values that a row lists, and the codes that a pattern makes of them: what other kindsOfRows can say does not lie so. */
const expanded = `layout: expanded
${csv}
rows: { each: variant, of: product, expanded: { code: "{key}-{1|letters}-{2|letters}", excluded: { column: Not, list: "|", parts: "+" } } }
columns:
  Key: product.key
${texts}${axes("values")}  Not: { constant: '' }
  Price: { field: product.prices(price).amount, as: decimal }
${shotLists}`;

test("S4, expanded: generated products with every combination but some read back as they were written", async () => {
  const layout = layoutOf(expanded);
  const name = fc
    .array(fc.constantFrom("a", "B", "c", "ß", "蜂"), { minLength: 1, maxLength: 3 })
    .map((chars) => chars.join(""));
  const names = fc.uniqueArray(name, { minLength: 1, maxLength: 3 });
  const style = fc.record({ first: names, second: fc.option(names), out: fc.nat(8), price: fc.option(fc.nat(999)) });
  await fc.assert(
    fc.asyncProperty(fc.array(style, { minLength: 1, maxLength: 4 }), async (styles) => {
      const header =
        "Key,En,De,Axis 1,Axis 1 de,Value 1,Value 1 de,Axis 2,Axis 2 de,Value 2,Value 2 de,Not,Price,Shots,Alts".split(
          ",",
        );
      const rows = styles.map(({ first, second, out, price }, at) => {
        const isLarge = second && first.length > 1 && second.length > 1;
        const not = isLarge ? `${first[out % first.length]}+${second[out % second.length]}` : "";
        return [
          `p${at}`,
          `n${at}`,
          "",
          "Wood",
          "",
          first.join("|"),
          "",
          second ? "Size" : "",
          "",
          second?.join("|") ?? "",
          "",
          not,
          String(price ?? ""),
          "",
          "",
        ];
      });
      const sheet = [header, ...rows].map((row) => `${dsv.formatRow(row)}\n`).join("");
      const one = await read([{ layout, csv: sheet }]);
      const findings = new Findings();
      const again = await read([{ layout, csv: await write(one.catalogue, layout, findings) }]);
      assert.deepEqual(findings.list(), []);
      assert.deepEqual(sorted(again.catalogue), sorted(one.catalogue));
      const count = rows.reduce(
        (sum, _, at) =>
          sum + styles[at]!.first.length * (styles[at]!.second?.length ?? 1) - (rows[at]![11] === "" ? 0 : 1),
        0,
      );
      assert.equal(one.catalogue.table("variant").size, count);
    }),
    { numRuns: runs, includeErrorInReport: true },
  );
});

for (const [name, sheets] of Object.entries(kindsOfRows))
  test(`${name}: generated records read back as they were written`, async () => {
    const layouts = sheets.map((yaml) => layoutOf(yaml));
    let carried = 0;
    await fc.assert(
      fc.asyncProperty(shop, async (given) => {
        const first = await read([{ layout: base, csv: sheetOf(given) }]);
        assert.deepEqual(
          first.findings.list().filter(({ severity }) => severity !== "note"),
          [],
        );
        const findings = new Findings();
        const files: Record<string, Uint8Array | string> = {};
        for (const [at, layout] of layouts.entries()) files[`f${at}`] = await write(first.catalogue, layout, findings);
        if (findings.list().length > 0) return;
        carried++;
        const again = new Catalogue(kinds);
        await readSources(
          layouts.map((layout, at) => ({ file: `f${at}`, layout })),
          again,
          filesOf(files),
          findings,
        );
        const { catalogue } = resolveReferences(again, findings);
        // A sheet about nothing but prices is empty where there are none.
        const said = findings.list().filter(({ severity, code }) => severity !== "note" && code !== "read/header-only");
        assert.deepEqual(said, [], JSON.stringify(files));
        assert.deepEqual(sorted(catalogue), sorted(first.catalogue), JSON.stringify(files));
      }),
      { numRuns: runs, includeErrorInReport: true },
    );
    assert.ok(carried > runs * 0.5, `only ${carried} of ${runs} could be carried`);
  });
