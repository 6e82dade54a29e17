/** Words of layouts that have to work when writing, or say what they cannot write; and those that are refused where they stand. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { Findings, type Finding } from "#src/index.js";
import { compileLayout, parseGiven } from "#src/parts.js";
import { givenLayout } from "#src/schemas.js";
import { write } from "./shops.js";
import { codes, kinds, layoutOf, one, read } from "./support.js";

const csv = "format: { csv: { delimiter: ';' } }";
const layout = (columns: string, rows = "{ each: product }", more = "") =>
  `layout: words\n${csv}\nrows: ${rows}\n${more}columns:\n${columns.replace(/^/gm, "  ")}\n`;

const factsOf = ({ facts }: Finding): Readonly<Record<string, unknown>> => ({ ...facts });

/** What writing reports for records that a plain sheet gives. */
async function written(
  plain: string,
  sheet: string,
  asked: string,
): Promise<{ file: string; list: readonly Finding[] }> {
  const { catalogue } = await read([{ layout: plain, csv: sheet }]);
  const findings = new Findings();
  const file = String(await write(catalogue, layoutOf(asked), findings));
  return { file, list: findings.list() };
}

const unwritten: Readonly<Record<string, readonly [plain: string, sheet: string, asked: string, column: string]>> = {
  "a blank that means something, for a record that says nothing": [
    layout("No: product.key\nWeb: product.shown"),
    "No;Web\na;\n",
    layout("No: product.key\nWeb: { field: product.shown, as: { code words: { y: true, n: false } }, blank means: n }"),
    "Web",
  ],
  "two fields of a column that differ": [
    layout("No: product.key\nTitle: product.searchTitle@en\nSlug: product.slug@en"),
    "No;Title;Slug\na;one;two\n",
    layout("No: product.key\nBoth: [product.searchTitle@en, product.slug@en]"),
    "Both",
  ],
  "a text that a fix changes": [
    layout("No: product.key\nEAN: product.barcode"),
    "No;EAN\na;123\n",
    layout("No: product.key\nEAN: { field: product.barcode, fix: { pad: 8 } }"),
    "EAN",
  ],
  "a record whose blank would be read as the cell above": [
    layout("No: product.key\nWeb: product.searchTitle@en"),
    "No;Web\na;One\nb;\n",
    layout("No: product.key\nWeb: product.searchTitle@en", undefined, "filled down: [Web]\n"),
    "Web",
  ],
  "a record that reads like the model row": [
    layout("No: product.key\nName: product.name"),
    "No;Name\na;Model\n",
    layout("No: product.key\nName: product.name", undefined, "model row: { column: Name, is: Model }\n"),
    "Name",
  ],
  "a code word and another text": [
    layout("No: product.key\nSort: product.sort\nUnit: product.unit"),
    "No;Sort;Unit\na;hire;day\n",
    layout(
      "No: product.key\nSort: { field: product.sort, as: { code words: { H: hire } }, other words: product.unit }",
    ),
    "Sort",
  ],
  "two records where one can stand": [
    layout(
      "No: product.key\nShelf: { field: product.categories, as: { list: ',', of: { by: name@en } }, missing: create }",
    ),
    "No;Shelf\na;Hives,Tools\n",
    layout("No: product.key\nShelf: { field: product.categories, as: { by: name@en }, missing: create }"),
    "Shelf",
  ],
  "two entries where one can stand": [
    layout("No: product.key\nFrom: { field: product.supplies.supplier, as: { list: ',', of: { by: name@en } } }"),
    "No;From\na;Sandhopper,Thornapple\n",
    layout("No: product.key\nFrom: { field: product.supplies.supplier, as: { by: name@en } }"),
    "From",
  ],
  "a record without the name that the column takes": [
    layout("No: product.key\nMaker: { field: product.brand, as: { by: name@en }, missing: create }"),
    "No;Maker\na;Thornapple\n",
    layout("No: product.key\nMaker: { field: product.brand, as: { by: name@de }, missing: create }"),
    "Maker",
  ],
  "the line of a record that another file gave": [
    layout("No: product.key\nText: product.description"),
    "No;Text\na;warm\n",
    layout("Text: product.description", "{ each: product, found by: { column: Line, names: line, sheet: range.csv } }"),
    "Line",
  ],
};

for (const [what, [plain, sheet, asked, column]] of Object.entries(unwritten))
  test(`${what} is reported when it is written`, async () => {
    const { list } = await written(plain, sheet, asked);
    assert.equal(factsOf(one(list, "write/cannot-be-written"))["column"], column);
  });

test("names that have no place without others beside them are reported, and left out", async () => {
  const paths = (by: string) => `{ list: ',', of: { path: '/', by: ${by} } }`;
  const columns = (as: typeof paths) =>
    `No: product.key\nShelf: { field: product.categories, as: ${as("name@en")}, missing: create }\nRegal: { beside: Shelf, as: ${as("name@de")} }`;
  const plain = `${columns(paths)}\nWurzel: { field: product.categories.name@de, node: 1 }`.replace(/\nRegal.*/, "");
  const { file, list } = await written(layout(plain), "No;Shelf;Wurzel\na;Hives/Full;Beuten\n", layout(columns(paths)));
  assert.deepEqual(one(list, "write/names-incomplete").facts, { column: "Regal", names: ["Beuten"], lang: "de" });
  assert.equal(file.split("\n")[1], "a;Hives/Full;");
});

test("rows name the line of their product in the file that is written, also below texts of several lines", async () => {
  const plain = layout(
    "Key: product.key\nCode: variant.code\nText: product.description@en\nAxis: { axis: 1, holds: name }\nIs: { axis: 1, holds: value }",
    "{ each: variant, of: product, grouped by: Key }",
  );
  const rows = "{ each: variant, of: product, shared cells: own row, joined by: { column: Of, names: line } }";
  const asked = layout(
    "Key: product.key\nCode: variant.code\nText: product.description@en\nAxis: { axis: 1, holds: name }\nIs: { axis: 1, holds: value }",
    rows,
  );
  const sheet = 'Key;Code;Text;Axis;Is\na;a1;"two\nlines";Size;S\na;a2;;;L\nb;b1;;Size;S\nb;b2;;;L\n';
  const { file, list } = await written(plain, sheet, asked);
  assert.deepEqual(list, []);
  // The text of two lines makes the second product stand on the sixth.
  assert.deepEqual(
    [...file.matchAll(/^(\d+);/gm)].map(([, line]) => line),
    ["2", "2", "6", "6"],
  );
  const again = await read([{ layout: asked, csv: file }]);
  assert.deepEqual(codes(again.findings.list()), ["resolve/created", "resolve/created"]);
  assert.deepEqual([...again.catalogue.table("variant").keys()], ["a1", "a2", "b1", "b2"]);
});

test("rows about variants say which of them empties a field", async () => {
  const goods = layout(
    "Key: product.key\nCode: variant.code\nIs: { axis: Size, holds: value }",
    "{ each: variant, of: product, grouped by: Key }",
  );
  const taxes = layout(
    "No: { constant: '' }\nTax: { field: variant.tax, blank: emptied }",
    "{ each: variant, found by: { column: No, names: code } }",
  );
  const { catalogue, findings } = await read([
    { layout: goods, csv: "Key;Code;Is\na;a1;S\na;a2;L\nb;b1;S\nb;b2;L\nc;c1;\n" },
    { layout: taxes, csv: "No;Tax\na2;\nb1;low\nc1;\n" },
  ]);
  assert.equal(String(await write(catalogue, layoutOf(taxes), findings)), "No;Tax\na2;\nb1;low\nc1;\n");
});

test("the root word alone is a path of nothing", async () => {
  const { catalogue, findings } = await read([
    {
      layout: layout(
        "No: product.key\nShelf: { field: product.categories, as: { path: '>', by: name, root: Shop }, missing: create }",
      ),
      csv: "No;Shelf\na;Shop\nb;Shop>Hives\n",
    },
  ]);
  assert.deepEqual(codes(findings.list()), ["resolve/created"]);
  assert.deepEqual([...catalogue.table("category").keys()], ["Hives"]);
});

test("a quantity may stand before or behind, in the order of the two fields", async () => {
  const set = (holds: string, more = "") =>
    layout(
      `No: product.key\nSet: { field: product.components, as: { list: '; ', of: { quantity: ' x '${more}, holds: ${holds} } } }`,
    );
  const product = "{ field: product, as: { by: key } }";
  const plain = set(`[quantity, ${product}]`);
  for (const [asked, cell] of [
    [set(`[quantity, ${product}]`), "2 x b; 3 x c"],
    [set(`[${product}, quantity]`), "b x 2; c x 3"],
    [set(`[quantity, ${product}]`, ", side: behind"), "b x 2; c x 3"],
  ] as const) {
    const { file, list } = await written(
      plain,
      "No;Set\na;2 x b; 3 x c\nb;\nc;\n".replace("2 x b; 3 x c", '"2 x b; 3 x c"'),
      asked,
    );
    assert.deepEqual(list, []);
    assert.equal(file.split("\n")[1], `a;"${cell}"`);
    const { catalogue } = await read([{ layout: asked, csv: file }]);
    assert.deepEqual(
      [0, 1].map((at) => catalogue.table("product.components").text("quantity", at)),
      ["2", "3"],
    );
  }
});

for (const [format, cell] of [
  ["csv: { delimiter: ';' }", "No;Kg;Unit\na;7;GRM\n"],
  ["json: {}", '[{"No":"a","Kg":7,"Unit":"GRM"}]'],
] as const)
  test(`a text in place of a constant is reported at its cell: ${format}`, async () => {
    const isJson = format.startsWith("json");
    const at = isJson ? "/" : "";
    const { findings } = await read([
      {
        layout: `layout: c\nformat: { ${format} }\nrows: { each: product${isJson ? ", element: ''" : ""} }\ncolumns: { ${at}No: product.key, ${at}Kg: product.weight, ${at}Unit: { constant: KGM } }\n`,
        csv: cell,
      },
    ]);
    const found = one(findings.list(), "read/not-the-constant");
    assert.deepEqual(found.facts, { text: "GRM", constant: "KGM" });
    assert.equal(found.at?.column, `${at}Unit`);
  });

const refused: Readonly<Record<string, readonly [yaml: string, line: number, problem: RegExp]>> = {
  "missing without a reference": [
    layout("No: product.key\nKg: { field: product.weight, missing: create }"),
    6,
    /"missing"/,
  ],
  "node of a plain field": [layout("No: product.key\nKg: { field: product.weight, node: 1 }"), 6, /"node"/],
  "emptying a reference": [layout("No: product.key\nMaker: { field: product.brand, blank: emptied }"), 6, /"blank"/],
  "other words without code words": [
    layout("No: product.key\nT: { field: product.unit, other words: product.tax }"),
    6,
    /"other words" need/,
  ],
  "by for a text": [layout("No: product.key\nT: { field: product.unit, as: { by: key } }"), 6, /"by"/],
  "a quantity of two texts": [
    layout("No: product.key\nS: { field: product.stock, as: { quantity: x, holds: [location, location] } }"),
    6,
    /has to be a number/,
  ],
  "a side against the order": [
    layout(
      "No: product.key\nS: { field: product.stock, as: { quantity: x, side: before, holds: [location, quantity] } }",
    ),
    6,
    /is "before"/,
  ],
  "an ending of nothing": [
    layout(
      "No: product.key\nS: { field: product.stock, as: { parts: ':', holds: [{ field: location, ending: { a: Shed } }, quantity] } }",
    ),
    6,
    /needs a part of its own before it/,
  ],
  "an ending of an ending": [
    layout(
      "No: product.key\nS: { field: product.stock, as: { parts: ':', holds: [quantity, { field: location, ending: { a: Shed } }, { field: reorderAt, ending: { b: 5 } }] } }",
    ),
    6,
    /needs a part of its own before it/,
  ],
  "an ending that holds a separator": [
    layout(
      "No: product.key\nS: { field: product.stock, as: { list: ';', of: { parts: ':', holds: [quantity, { field: location, ending: { 'a;': Shed } }] } } }",
    ),
    6,
    /"a;" holds a separator/,
  ],
  "an ending of a quantity": [
    layout(
      "No: product.key\nS: { field: product.stock, as: { quantity: x, holds: [quantity, { field: location, ending: { a: Shed } }] } }",
    ),
    6,
    /an "ending" needs "parts"/,
  ],
  "a lane without columns": [
    layout("No: product.key", undefined, "lanes: { tiers: { entries: product.prices, continued when blank: [No] } }\n"),
    4,
    /lane has no column/,
  ],
  "an element in a sheet": [
    layout(
      "No: product.key\nF: t.file",
      undefined,
      "lanes: { t: { entries: product.pictures, continued when blank: [No], element: x } }\n",
    ),
    4,
    /"element" is not for these rows/,
  ],
  "a constant of a lane that no entry has": [
    layout(
      "No: product.key\nF: t.file",
      undefined,
      "lanes: { t: { entries: product.pictures, with: { rol: main }, continued when blank: [No] } }\n",
    ),
    4,
    /"rol" is not a field/,
  ],
  "numbers without a numbered header": [
    layout("No: product.key", undefined, "numbered: 3\n"),
    4,
    /no header contains \{n\}/,
  ],
  "listed words without a header": [
    layout("No: product.key", undefined, "listed: { place: [Shed] }\n"),
    4,
    /no header contains \{place\}/,
  ],
  "more notes than lines": [
    layout("No: product.key", undefined, "header: { line: 2, notes: [a, b] }\n"),
    4,
    /more notes/,
  ],
  "a field of a field of an entry": [
    layout("No: product.key\nT: product.prices(price).customerGroup.name@en"),
    6,
    /leads further/,
  ],
};

test("a part that has a form has no ending", () => {
  const findings = new Findings();
  const part = "{ field: location, as: text, ending: { a: Shed } }";
  const yaml = layout(`No: product.key\nS: { field: product.stock, as: { parts: ':', holds: [quantity, ${part}] } }`);
  assert.equal(findings.took(parseGiven(yaml, "layout.yaml", givenLayout)), undefined);
  const found = one(findings.list(), "given/wrong-value");
  assert.equal(found.at?.line, 6);
  assert.match(JSON.stringify(found.facts), /has either/);
});

for (const [what, [yaml, line, problem]] of Object.entries(refused))
  test(`refused when it is loaded: ${what}`, () => {
    const findings = new Findings();
    const given = findings.took(parseGiven(yaml, "layout.yaml", givenLayout));
    assert.ok(given);
    assert.equal(findings.took(compileLayout(given.value, given.at, kinds)), undefined);
    const found = one(findings.list(), "layout/mistake");
    assert.match(String(factsOf(found)["problem"]), problem);
    assert.equal(found.at?.line, line);
  });
