/** Row shapes and what stands in cells, one by one: a sheet is read, and written again exactly. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { dsvFormat } from "d3-dsv";
import { Findings, type ResolvedCatalogue, type Text } from "#src/index.js";
import { writeSheet, writtenKind } from "#src/parts.js";
import { dump } from "./dump.js";
import { codes, layoutOf, one, read, recordIn, those } from "./support.js";

const csv = "format: { csv: { delimiter: ';' } }";
const dsv = dsvFormat(";");

/** What the sheets before it give, the sheet itself, and a few things that have to be in the catalogue then. */
interface Case {
  readonly before?: readonly { layout: string; csv: string; file?: string }[];
  readonly layout: string;
  readonly csv: string;
  readonly holds: readonly string[];
}

const products = {
  layout: `layout: p\n${csv}\nrows: { each: variant, of: product, grouped by: P }\ncolumns:\n  P: product.key\n  No: variant.code\n  Name: product.name@en\n  W: { axis: 1, holds: name }\n  V: { axis: 1, holds: value }`,
  csv: "P;No;Name;W;V\nhive;H-C;Hive;Wood;Cedar\nhive;H-P;;;Pine\nsmoker;S-1;Smoker;;\n",
  file: "products.csv",
};

const cases: Readonly<Record<string, Case>> = {
  "S4, values that a row lists, for every combination but those left out": {
    layout: `layout: a\n${csv}\nrows: { each: variant, of: product, expanded: { code: "{key}-{1|first 2|upper}-{2}", excluded: { column: Not, list: ", ", parts: " / " } } }\ncolumns:\n  Style: product.key\n  Name: product.name@en\n  A: { axis: 1, holds: name@en }\n  As: { axis: 1, holds: values@en, as: { list: ", " } }\n  A de: { axis: 1, holds: values@de, as: { list: ", " } }\n  B: { axis: 2, holds: name@en }\n  Bs: { axis: 2, holds: values@en, as: { list: ", " } }\n  Not: { constant: '' }`,
    csv: "Style;Name;A;As;A de;B;Bs;Not\nhive;Hive;Wood;Cedar, Pine;Zeder, Kiefer;Size;10, 12;Pine / 12\ntool;Tool;;;;;;\n",
    holds: ["variant hive-CE-10", "variant hive-PI-10", "variant hive-CE-12", "value Wood/Cedar name@de=Zeder"],
  },
  "S7, prices in a sheet of their own, for variants and for singles, named by code": {
    before: [products],
    layout: `layout: a\n${csv}\nrows: { each: variant, found by: { column: Item, names: code } }\nlanes: { prices: { entries: variant.prices, with: { role: price } } }\ncolumns:\n  From: { field: prices.quantityFrom, as: integer }\n  Each: { field: prices.amount, as: { decimal: ',' } }`,
    csv: "Item;From;Each\nH-C;;9,5\nH-C;5;9\nS-1;;30\n",
    holds: ["variant H-C prices role=price amount=9.5", "product smoker prices role=price amount=30"],
  },
  "S7, pictures named by the line of a row elsewhere": {
    before: [products],
    layout: `layout: a\n${csv}\nrows: { each: product, found by: { column: Line, names: line, sheet: products.csv } }\nlanes: { shots: { entries: product.pictures } }\ncolumns:\n  As: shots.role\n  File: shots.file`,
    csv: "Line;As;File\n2;main;a.png\n2;detail;b.png\n4;main;c.png\n",
    holds: ["product hive pictures role=main file=a.png", "product smoker pictures role=main file=c.png"],
  },
  "S7, memberships in a sheet of their own": {
    before: [
      {
        layout: `layout: c\n${csv}\nrows: { each: category }\ncolumns: { Id: category.key, Name: category.name@en }`,
        csv: "Id;Name\na;A\nb;B\n",
        file: "c.csv",
      },
      products,
    ],
    layout: `layout: a\n${csv}\nrows: { each: product, found by: { column: Item, names: key } }\nlanes: { shelves: { entries: product.categories } }\ncolumns:\n  Shelf: { field: shelves.each, as: { by: key } }`,
    csv: "Item;Shelf\nhive;a\nhive;b\nsmoker;b\n",
    holds: ["product hive categories=a,b"],
  },
  "S8, a row for each language": {
    layout: `layout: a\n${csv}\nrows: { each: variant, of: product, grouped by: P, language: { column: L, code words: { E: en, D: de } } }\ncolumns:\n  L: { constant: '' }\n  P: product.key\n  No: variant.code\n  Name: product.name\n  W: { axis: 1, holds: name }\n  V: { axis: 1, holds: value }`,
    csv: "L;P;No;Name;W;V\nE;hive;H-C;Hive;Wood;Cedar\nE;hive;H-P;;;Pine\nD;hive;H-C;Beute;Holz;Zeder\nD;hive;H-P;;;Kiefer\nE;smoker;S-1;Smoker;;\n",
    holds: [
      "product hive name@de=Beute",
      "axis Wood name@de=Holz",
      "value Wood/Pine name@de=Kiefer",
      "variant H-P code=H-P",
    ],
  },
  "S10, a column for each place, named in the header": {
    layout: `layout: a\n${csv}\nrows: { each: product }\nlisted: { place: [Shed, Loft] }\ncolumns:\n  Key: product.key\n  "In {place}": "product.stock({place}).quantity"`,
    csv: "Key;In Shed;In Loft\nhive;3;\nsmoker;;7\n",
    holds: ["product hive stock location=Shed quantity=3", "product smoker stock location=Loft quantity=7"],
  },
  "S11, a header further down, notes above it, a column that stays though empty": {
    layout: `layout: a\n${csv}\nheader: { line: 3, notes: ["Price list", "all without tax"] }\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Later: { constant: '' }\n  Name: product.name@en`,
    csv: "Price list\nall without tax\nKey;Later;Name\nhive;;Hive\n",
    holds: ["product hive name@en=Hive"],
  },
  "S11, no header at all": {
    layout: `layout: a\n${csv}\nheader: none\nrows: { each: product }\ncolumns:\n  A: product.key\n  C: product.name@en\nignore: [B]`,
    csv: "hive;;Hive\nsmoker;;Smoker\n",
    holds: ["product smoker name@en=Smoker"],
  },
  "C1, a measure in another unit": {
    layout: `layout: a\n${csv}\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Weight: { field: product.weight, as: { measure: { g: '0.001', kg: '1' }, decimal: ',' } }`,
    csv: "Key;Weight\nhive;14200 g\nsmoker;512,5 g\n",
    holds: ["product hive weight=14.2", "product smoker weight=0.5125"],
  },
  "C4, positional parts, and lists of them": {
    layout: `layout: a\n${csv}\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Tiers: { field: product.prices(price), as: { list: ' | ', of: { parts: ':', holds: [quantityFrom, { field: customerGroup, as: { by: name@en } }, { field: amount, as: { decimal: ',' } }] } } }`,
    csv: "Key;Tiers\nhive;5:Clubs:9,5 | 10::9\n",
    holds: [
      "product hive prices role=price quantityFrom=5 customerGroup=Clubs amount=9.5",
      "product hive prices role=price quantityFrom=10 amount=9",
    ],
  },
  "C4, nested: axes with their values in one cell": {
    layout: `layout: a\n${csv}\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Axes: { field: product.axes, as: { list: ' | ', of: { parts: ':', holds: [name@en, name@de, { field: value, as: { list: ',', of: { parts: '=', holds: [name@en, position] } } }] } } }`,
    csv: "Key;Axes\nhive;Wood:Holz:Cedar=1,Pine=2 | Size::10=1\n",
    holds: [
      "axis Wood name@de=Holz",
      "value Wood/Pine position=2",
      "value Size/10 position=1",
      "product hive axes=Wood,Size",
    ],
  },
  "C6, how many of what": {
    layout: `layout: a\n${csv}\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Where: { field: product.stock, as: { list: ', ', of: { quantity: ' x ', holds: [quantity, location] } } }`,
    csv: "Key;Where\nhive;3 x Shed, 1 x Loft\n",
    holds: ["product hive stock location=Shed quantity=3", "product hive stock location=Loft quantity=1"],
  },
  "C7, lists that run parallel in several cells": {
    layout: `layout: a\n${csv}\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Files: { field: product.pictures.file, as: { list: ',' } }\n  Roles: { field: product.pictures.role, as: { list: ',', blanks: true } }\n  Alts: { field: product.pictures.alternative@en, as: { list: ',', blanks: true } }`,
    csv: "Key;Files;Roles;Alts\nhive;a.png,b.png;main,detail;,from below\n",
    holds: ["product hive pictures role=detail file=b.png alternative@en=from below"],
  },
  "C8, JSON in a cell, for several fields": {
    layout: `layout: a\n${csv}\ncells: { Texts: { json: { /name/en: E, /name/de: D } } }\nrows: { each: product }\ncolumns:\n  Key: product.key\n  E: product.name@en\n  D: product.name@de`,
    csv: 'Key;Texts\nhive;"{""name"":{""en"":""Hive"",""de"":""Beute""}}"\n',
    holds: ["product hive name@en=Hive", "product hive name@de=Beute"],
  },
  "C8, text in markup": {
    layout: `layout: a\n${csv}\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Text: { field: product.description@en, as: { markup: text } }`,
    csv: 'Key;Text\nhive;"Salt &amp; honey<br>&lt;raw&gt;"\n',
    holds: ["product hive description@en=Salt & honey\n<raw>"],
  },
  "C9, one cell cut into several fields, several joined into one": {
    layout: `layout: a\n${csv}\ncells: { Dims: { split: ' x ', into: [Kg, Pcs] }, Full: { join: [Line, Model], with: ' ' } }\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Kg: { field: product.weight, as: { decimal: ',' } }\n  Pcs: { field: product.stock(Shed).quantity, as: integer }\n  Full: product.name@en`,
    csv: "Key;Dims;Line;Model\nhive;1,5 x 3;Orchard;hive deep\nsmoker;2;Smoker;\n",
    holds: ["product hive weight=1.5", "product hive name@en=Orchard hive deep", "product smoker weight=2"],
  },
  "fields of referenced records, and of one node of a path": {
    layout: `layout: a\n${csv}\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Shelf: { field: product.categories, as: { path: ' / ', by: name@en }, missing: create }\n  Top: { field: product.categories.description@en, node: 1 }\n  Maker: product.brand\n  Makers: product.brand.name@de`,
    csv: "Key;Shelf;Top;Maker;Makers\nhive;Hives / Full;All hives;Thorn;Dorn\nbox;Hives / Parts;All hives;Thorn;Dorn\n",
    holds: ["category Hives description@en=All hives", "brand Thorn name@de=Dorn"],
  },
  "dates in more than one form": {
    layout: `layout: a\n${csv}\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Name: { field: product.name@en, as: { date: [D.M.YYYY, YYYY-MM-DD] } }`,
    csv: "Key;Name\nhive;3.11.2026\n",
    holds: ["product hive name@en=2026-11-03"],
  },
};

/** Whether a line of a dump is of the same record and has the fields that are wanted. */
function isIn(wanted: string, line: string): boolean {
  const [head, ...fields] = wanted.split(/ (?=[\w@]+=)/);
  const [ownHead, ...own] = line.split(/ (?=[\w@]+=)/);
  return head === ownHead && fields.every((field) => own.includes(field));
}

async function readCase({
  before = [],
  layout,
  csv: text,
}: Case): Promise<{ catalogue: ResolvedCatalogue; findings: Findings }> {
  return read([...before, { layout, csv: text, file: "sheet.csv" }]);
}

for (const [name, one] of Object.entries(cases))
  test(`${name}: reads, and is written again exactly`, async () => {
    const { catalogue, findings } = await readCase(one);
    assert.deepEqual(
      findings.list().filter(({ code }) => code !== "resolve/created"),
      [],
    );
    const lines = dump(catalogue);
    for (const line of one.holds)
      assert.ok(
        lines.some((own) => isIn(line, own)),
        `${line}\n${lines.join("\n")}`,
      );
    const layout = layoutOf(one.layout);
    const again = new Findings();
    const records = Array.from({ length: catalogue.table(writtenKind(layout, catalogue)).size }, (_, row) => row);
    const { above, rows } = writeSheet(catalogue, layout, { records }, again);
    const written = [...above, ...rows].map((row) => `${dsv.formatRow([...row])}\n`).join("");
    assert.deepEqual(again.list(), []);
    assert.equal(written, one.csv);
  });

test("blank cells stand for the cell above where a layout says so, and count as blank", async () => {
  const layout = `layout: a
${csv}
rows: { each: variant, of: product, grouped by: Model, shared cells: first row }
filled down: [Model, Main, Sub]
cells: { Place: { join: [Main, Sub], with: "/" } }
columns:
  Model: product.key
  Code: variant.code
  Name: product.name@en
  Place: { field: product.categories, as: { path: "/", by: name@en }, missing: create }
  Colour: { axis: Colour, holds: value@en }
`;
  const text = "Model;Code;Name;Main;Sub;Colour\nm1;m1-1;Lamp;Home;Light;Red\n;m1-2;;;;Blue\nm2;m2-1;Jar;;Storing;\n";
  const { catalogue, findings } = await read([{ layout, csv: text }]);
  assert.deepEqual(codes(findings.list().filter(({ severity }) => severity !== "note")), []);
  assert.deepEqual(
    [recordIn(catalogue, "variant", "m1-2")?.of, recordIn(catalogue, "product", "m2")?.references["categories"]],
    ["m1", ["Home/Storing"]],
  );
  const above = await read([{ layout, csv: text.replace("m1;m1-1;Lamp", ";m1-1;Lamp").replace("m2", "") }]);
  assert.equal(codes(above.findings.list()).includes("read/row-without-group"), true);
});

test("a model row gives what blank cells stand for, and is counted", async () => {
  const layout = `layout: a\n${csv}\nmodel row: { column: Key, is: MODEL }\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Kg: product.weight\n  Web: { field: product.shown, blank means: no }`;
  const { catalogue } = await read([{ layout, csv: "Key;Kg;Web\nMODEL;2;\nhive;;\nsmoker;1;yes\n" }]);
  assert.deepEqual(dump(catalogue), ["product hive shown=false weight=2", "product smoker shown=true weight=1"]);
});

test("fixes what is declared, and says what it did", async () => {
  const layout = `layout: a\n${csv}\nrows: { each: product }\ncolumns:\n  Key: { field: product.key, fix: [{ pad: 5 }] }\n  Name: { field: product.name@en, fix: [mojibake, invisible, spaces] }\n  EAN: { field: product.barcode, fix: [spreadsheet text, digits] }`;
  const { catalogue, findings } = await read([
    { layout, csv: 'Key;Name;EAN\n42;KÃ¼che;4.012345678901E+12\n00043; Dee\u00adp  box;"=""0012"""\n' },
  ]);
  assert.deepEqual(dump(catalogue), [
    "product 00042 barcode=4012345678901 name@en=Küche",
    "product 00043 barcode=0012 name@en=Deep box",
  ]);
  const fixed = those(findings.list(), "read/fixed");
  assert.deepEqual(fixed.map(({ facts, at }) => `${at?.column} ${(facts as { fix: string }).fix}`).sort(), [
    "EAN digits",
    "EAN spreadsheet text",
    "Key pad 5",
    "Name invisible",
    "Name mojibake",
    "Name spaces",
  ]);
});

const wrong: readonly (readonly [name: string, layout: string, text: string, code: string])[] = [
  [
    "a row that names nothing",
    `layout: a\n${csv}\nrows: { each: variant, found by: { column: Item, names: code } }\ncolumns: { Kg: variant.weight }`,
    "Item;Kg\nH-9;1\n",
    "read/names-none",
  ],
  [
    "a row in no language of the layout",
    `layout: a\n${csv}\nrows: { each: product, language: { column: L, code words: { E: en } } }\ncolumns: { Key: product.key }`,
    "L;Key\nX;hive\n",
    "read/unknown-language",
  ],
  [
    "a combination left out that there is not",
    `layout: a\n${csv}\nrows: { each: variant, of: product, expanded: { excluded: { column: Not, list: ',', parts: '/' } } }\ncolumns:\n  Key: product.key\n  A: { axis: 1, holds: name }\n  As: { axis: 1, holds: values, as: { list: ',' } }`,
    "Key;A;As;Not\nhive;Wood;Cedar,Pine;Oak\n",
    "read/excluded-unknown",
  ],
  [
    "a cell with more parts than are declared",
    `layout: a\n${csv}\nrows: { each: product }\ncolumns:\n  Key: product.key\n  S: { field: product.stock, as: { parts: ':', holds: [location, quantity] } }`,
    "Key;S\nhive;a:1:2\n",
    "cell/too-many-parts",
  ],
  [
    "a measure in a unit that is not declared",
    `layout: a\n${csv}\nrows: { each: product }\ncolumns:\n  Key: product.key\n  W: { field: product.weight, as: { measure: { kg: '1' } } }`,
    "Key;W\nhive;3 lb\n",
    "cell/not-a-measure",
  ],
  [
    "markup that text cannot hold",
    `layout: a\n${csv}\nrows: { each: product }\ncolumns:\n  Key: product.key\n  T: { field: product.name@en, as: { markup: text } }`,
    "Key;T\nhive;<b>x</b>\n",
    "cell/other-markup",
  ],
  [
    "a cell that cannot be cut",
    `layout: a\n${csv}\ncells: { D: { split: x, into: [A, B] } }\nrows: { each: product }\ncolumns:\n  Key: product.key\n  A: product.weight\n  B: product.barcode`,
    "Key;D\nhive;1x2x3\n",
    "cell/not-cut",
  ],
  [
    "lists that should run parallel and do not",
    `layout: a\n${csv}\nrows: { each: product }\ncolumns:\n  Key: product.key\n  F: { field: product.pictures.file, as: { list: ',' } }\n  R: { field: product.pictures.role, as: { list: ',' } }`,
    "Key;F;R\nhive;a,b;main\n",
    "read/not-parallel",
  ],
  [
    "line ends of two kinds",
    `layout: a\n${csv}\nrows: { each: product }\ncolumns: { Key: product.key }`,
    "Key\r\na\r\nb\nc\r\n",
    "read/mixed-line-ends",
  ],
];

for (const [name, layout, text, code] of wrong)
  test(`reports ${name}: ${code}`, async () => {
    const { findings } = await read([products, { layout, csv: text, file: "sheet.csv" }]);
    const found = one(findings.list(), code);
    assert.equal(found.at?.file, "sheet.csv");
    assert.ok(code === "read/names-none" || codes(findings.list()).includes(code));
  });

test("rows that are expected to name nothing are counted, not listed", async () => {
  const layout = `layout: a\n${csv}\nrows: { each: variant, found by: { column: Item, names: code, otherwise: ignored } }\ncolumns: { Kg: variant.weight }`;
  const { catalogue, findings } = await read([
    products,
    { layout, csv: "Item;Kg\nX-1;1\nH-C;2\nX-2;3\n", file: "kg.csv" },
  ]);
  const { rows, why } = one(findings.list(), "read/rows-ignored").facts as { rows: number; why: Text };
  assert.deepEqual([rows, String(why)], [2, "no variant has the code that they name"]);
  assert.equal(catalogue.table("variant").text("weight", 0), "2");
});
