/**
 * L1 for row shapes with everything that goes with them: languages in columns, rows or files; lanes of entries and of references; rows that
 * are linked to records of another sheet. Each combination is carried.
 */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { Findings } from "#src/index.js";
import { calibrateLayout, Catalogue, readSources, resolveReferences } from "#src/parts.js";
import { base, sheetOf, shop, sorted, write, type Shop } from "./shops.js";
import { filesOf, kinds, layoutOf, read } from "./support.js";

const runs = Math.ceil(Number(process.env["PROPERTY_RUNS"] ?? 60) / 6);
const csv = "format: { csv: { delimiter: ';' } }";

/** The shelves of the shop's items: a list of references for the lanes that carry such. */
const shelves = `layout: shelves
${csv}
rows: { each: product, found by: { column: Item, names: key } }
lanes: { shelves: { entries: product.categories } }
columns:
  Item: { constant: '' }
  Shelf: { field: shelves.each, as: { by: name@en }, missing: create }
`;

type Place = "block" | "child" | "tier" | "shot" | "shelf";

/** How a shape names its columns, and what its rows and lanes are. */
interface RowForm {
  readonly format: string;
  readonly rows: string;
  readonly header: (place: Place, name: string) => string;
  readonly lane: (place: "tier" | "shot" | "shelf") => string;
  readonly marker?: string;
}

const sheet = (rows: string, blank = "[Code, Key]"): RowForm => ({
  format: "csv: { delimiter: ';' }",
  rows,
  header: (_, name) => name,
  lane: () => `continued when blank: ${blank}`,
});
const documentOf = (format: string, elements: Readonly<Record<Place, string>>, slash: string, marks = ""): RowForm => ({
  format: `${format}: {}`,
  rows: `element: ${format === "xml" ? "/shop/item" : "/items"}, child element: ${elements.child}`,
  header: (place, name) => `"${elements[place]}${elements[place] === "" && format === "xml" ? "" : slash}${name}"`,
  lane: (place) => `element: "${elements[place]}"`,
  marker: marks,
});
const xml: Readonly<Record<Place, string>> = {
  block: "",
  child: "versions/version",
  tier: "versions/version/tier",
  shot: "shots/shot",
  shelf: "shelf",
};
const json: Readonly<Record<Place, string>> = {
  block: "",
  child: "/versions",
  tier: "/versions/tiers",
  shot: "/shots",
  shelf: "/shelves",
};

const shapes: Readonly<Record<string, RowForm>> = {
  grouped: sheet("grouped by: Key"),
  "grouped, every row": sheet("grouped by: Key, shared cells: every row"),
  scattered: sheet("grouped by: Key, groups: scattered"),
  "own row, following": sheet(
    "shared cells: own row, marker: { column: Word, parent: P, child: V }, joined by: following",
    "[Code, Key, Word]",
  ),
  "own row, by key": sheet(
    "shared cells: own row, marker: { column: T, parent: P, child: V }, joined by: { column: Word, names: key }",
    "[Code, Key, Word]",
  ),
  XML: documentOf("xml", xml, "/"),
  JSON: documentOf("json", json, "/"),
};

const languages = ["a column", "a row", "a file"] as const;
type Languages = (typeof languages)[number];

/** The layouts of one combination, in the order in which the sheets are read. */
function layoutsOf(form: RowForm, inLanguages: Languages, isLinked: boolean, isBeside: boolean): readonly string[] {
  const { header, lane } = form;
  const isDocument = !form.format.startsWith("csv");
  const own = (language: "en" | "de") => {
    const rows = [
      `each: variant, of: product, ${form.rows}`,
      ...(inLanguages === "a row"
        ? [`language: { column: ${header("block", "lang")}, code words: { E: en, D: de } }`]
        : []),
      ...(isLinked ? [`found by: { column: ${header("block", "Item")}, names: key }`] : []),
    ];
    const runs = isBeside || isDocument ? "" : ", runs: on rows of its own";
    const texts = (place: Place, name: string, field: string): string[] =>
      inLanguages === "a column"
        ? [
            `${header(place, name)}: ${field.replace("TEXT", "@en")}`,
            `${header(place, `${name}-de`)}: ${field.replace("TEXT", "@de")}`,
          ]
        : [`${header(place, name)}: ${field.replace("TEXT", "")}`];
    return [
      "layout: any",
      `format: { ${form.format} }`,
      `language: ${language}`,
      `rows: { ${rows.join(", ")} }`,
      "lanes:",
      `  tiers: { entries: variant.prices, with: { role: tier }, ${lane("tier")} }`,
      `  shots: { entries: product.pictures, with: { role: main }, ${lane("shot")}${runs} }`,
      `  shelves: { entries: product.categories, ${lane("shelf")}${runs} }`,
      "columns:",
      ...[
        `${header("block", "Key")}: product.key`,
        `${header("child", "Code")}: variant.code`,
        ...texts("block", "Name", "product.nameTEXT"),
        ...[1, 2].flatMap((n) => [
          ...texts("block", `Axis-${n}`, `{ axis: ${n}, holds: nameTEXT }`),
          ...texts("child", `Value-${n}`, `{ axis: ${n}, holds: valueTEXT }`),
        ]),
        `${header("child", "Price")}: { field: variant.prices(price).amount, as: decimal }`,
        `${header("child", "Shed")}: { field: variant.stock(Shed).quantity, as: integer }`,
        `${header("child", "Loft")}: { field: variant.stock(Loft).quantity, as: integer }`,
        `${header("tier", "From")}: { field: tiers.quantityFrom, as: integer }`,
        `${header("tier", "Tier")}: { field: tiers.amount, as: decimal }`,
        `${header("shot", "File")}: shots.file`,
        `${header("shot", "Alt")}: shots.alternative@en`,
        `${header("shelf", "Shelf")}: { field: shelves.each, as: { by: name@en }, missing: create }`,
      ].map((line) => `  ${line}`),
    ].join("\n");
  };
  const identity = `layout: identity\n${csv}\nrows: { each: variant, of: product, grouped by: Key }\nnumbered: 2\ncolumns:\n  Key: product.key\n  Code: variant.code\n  Axis {n}: { axis: "{n}", holds: name }\n  Value {n}: { axis: "{n}", holds: value }\n`;
  return [...(isLinked ? [identity] : []), own("en"), ...(inLanguages === "a file" ? [own("de")] : [])];
}

const shelvesOf = ({ items, wordList }: Shop): string =>
  [
    "Item;Shelf",
    ...items.flatMap(({ stock }, at) =>
      stock.slice(0, 3).flatMap((one, nth) => (one === null ? [] : [`p${at};s${nth}${wordList[nth]?.length ?? 0}`])),
    ),
  ].join("\n");

for (const [name, form] of Object.entries(shapes))
  for (const inLanguages of languages)
    for (const isLinked of [false, true])
      for (const isBeside of form.format.startsWith("csv") ? [true, false] : [true])
        test(`${name}, ${inLanguages} a language${isLinked ? ", linked" : ""}${isBeside ? "" : ", lanes on rows of their own"}: read as it was written`, async () => {
          const layouts = layoutsOf(form, inLanguages, isLinked, isBeside).map((yaml) => layoutOf(yaml));
          let carried = 0;
          await fc.assert(
            fc.asyncProperty(shop, async (given) => {
              const first = await read([
                { layout: layoutOf(base), csv: sheetOf(given) },
                { layout: layoutOf(shelves), csv: shelvesOf(given) },
              ]);
              const findings = new Findings();
              const files: Record<string, Uint8Array | string> = {};
              for (const [at, layout] of layouts.entries())
                files[`f${at}`] = await write(first.catalogue, layout, findings);
              if (findings.list().length > 0) return;
              carried++;
              const again = new Catalogue(kinds);
              const sources = layouts.map((layout, at) => {
                const translates = layout.language === "de";
                return { file: `f${at}`, layout, translates };
              });
              await readSources(sources, again, filesOf(files), findings);
              const { catalogue } = resolveReferences(again, findings);
              const said = findings.list().filter(({ severity }) => severity !== "note");
              assert.deepEqual(said, [], JSON.stringify(files));
              assert.deepEqual(sorted(catalogue), sorted(first.catalogue), JSON.stringify(files));
            }),
            { numRuns: runs, includeErrorInReport: true },
          );
          assert.ok(carried > runs * 0.4, `only ${carried} of ${runs} could be carried`);
        });

/** Products with every combination of what their axes list, but some. */
const style = fc.record({
  name: fc.stringMatching(/^[a-z]{1,4}$/),
  first: fc.uniqueArray(fc.stringMatching(/^[a-d蜂]{1,2}$/), { minLength: 1, maxLength: 3 }),
  second: fc.option(fc.uniqueArray(fc.stringMatching(/^[x-z]{1,2}$/), { minLength: 1, maxLength: 3 })),
  isGerman: fc.boolean(),
  out: fc.nat(8),
});

const expandedLayout = (inLanguages: Languages, isLinked: boolean): string => {
  const languagesOf = inLanguages === "a row" ? ", language: { column: Lang, code words: { E: en, D: de } }" : "";
  const link = isLinked ? ", found by: { column: Item, names: key }" : "";
  const texts = (line: string) =>
    inLanguages === "a column"
      ? [line.replace("TEXT", "@en"), line.replace(":", " de:").replace("TEXT", "@de")]
      : [line.replace("TEXT", "")];
  const lines = [
    "Key: product.key",
    ...texts("Name: product.nameTEXT"),
    ...[1, 2].flatMap((n) => [
      ...texts(`Axis ${n}: { axis: ${n}, holds: nameTEXT }`),
      ...texts(`Values ${n}: { axis: ${n}, holds: valuesTEXT, as: { list: '|' } }`),
    ]),
    "Not: { constant: '' }",
    "Shelf: { field: shelves.each, as: { by: name@en }, missing: create }",
  ];
  return `layout: expanded\n${csv}\nrows: { each: variant, of: product, expanded: { code: "{key}-{1|letters}-{2|letters}", excluded: { column: Not, list: "|", parts: "+" } }${languagesOf}${link} }\nlanes: { shelves: { entries: product.categories, continued when blank: [Key] } }\ncolumns:\n${lines.map((line) => `  ${line}\n`).join("")}`;
};

for (const inLanguages of ["a column", "a row"] as const)
  for (const isLinked of [false, true])
    test(`expanded, ${inLanguages} a language${isLinked ? ", linked" : ""}: read as it was written`, async () => {
      const plain = layoutOf(expandedLayout("a column", false));
      const layout = layoutOf(expandedLayout(inLanguages, isLinked));
      const identity = layoutOf(`layout: identity\n${csv}\nrows: { each: product }\ncolumns:\n  Key: product.key\n`);
      let carried = 0;
      await fc.assert(
        fc.asyncProperty(fc.array(style, { minLength: 1, maxLength: 3 }), async (styles) => {
          const header =
            "Key;Name;Name de;Axis 1;Axis 1 de;Values 1;Values 1 de;Axis 2;Axis 2 de;Values 2;Values 2 de;Not;Shelf";
          const rows = styles.map(({ name, first, second, isGerman, out }, at) => {
            const de = (text: string) => (isGerman ? `${text}-de` : "");
            const listed = (list: readonly string[]) => [
              list.join("|"),
              list
                .map(de)
                .filter((one) => one !== "")
                .join("|"),
            ];
            const not =
              second && second.length > 1 && first.length > 1
                ? `${first[out % first.length]}+${second[out % second.length]}`
                : "";
            const other = second ? ["Size", de("Size"), ...listed(second)] : ["", "", "", ""];
            return [`p${at}`, name, de(name), "Wood", de("Wood"), ...listed(first), ...other, not, `s${out}`].join(";");
          });
          const first = await read([{ layout: plain, csv: [header, ...rows].join("\n") }]);
          const findings = new Findings();
          const file = await write(first.catalogue, layout, findings);
          // One of two products with the same value may have no German for it, where the other has.
          if (findings.list().length > 0) return;
          carried++;
          const keys = ["Key", ...styles.map((_, at) => `p${at}`)].join("\n");
          const again = await read([...(isLinked ? [{ layout: identity, csv: keys }] : []), { layout, csv: file }]);
          const said = again.findings.list().filter(({ severity }) => severity !== "note");
          assert.deepEqual(said, [], String(file));
          assert.deepEqual(sorted(again.catalogue), sorted(first.catalogue), String(file));
        }),
        { numRuns: runs * 2, includeErrorInReport: true },
      );
      assert.ok(carried > runs * 0.6, `only ${carried} of ${runs * 2} could be carried`);
    });

test("rows that are grouped by the column that finds their record: read, written and calibrated", async () => {
  const goods = layoutOf(
    `layout: goods\n${csv}\nrows: { each: product }\ncolumns: { No: product.key, Sku: product.code }\n`,
  );
  const layout = layoutOf(
    `layout: sizes\n${csv}\nrows: { each: variant, of: product, grouped by: Sku, found by: { column: Sku, names: code } }\ncolumns:\n  Sku: { constant: '' }\n  Axis: { axis: 1, holds: name@en }\n  Size: { axis: 1, holds: value@en }\n  Code: variant.code\n`,
  );
  const sheet = "Sku;Axis;Size;Code\nM-1;Size;S;a\nM-1;;L;b\nM-2;Size;S;c\nM-2;;L;d\n";
  const { catalogue, findings } = await read([
    { layout: goods, csv: "No;Sku\nmat;M-1\nrug;M-2\n" },
    { layout, csv: sheet },
  ]);
  assert.equal(catalogue.table("product").size, 2);
  assert.equal(catalogue.table("variant").size, 4);
  assert.equal(await write(catalogue, layout, findings), sheet);
  assert.deepEqual(
    findings.list().filter(({ severity }) => severity !== "note"),
    [],
  );
  const result = await calibrateLayout("s.csv", layout, kinds, filesOf({ "s.csv": sheet }));
  assert.ok(result.ok);
  for (const { cells, equal } of result.value.columns) assert.equal(equal, cells);
});
