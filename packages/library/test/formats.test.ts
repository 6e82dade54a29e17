/** Formats: what is written is read again, what is damaged or hostile gives a finding. */

import assert from "node:assert/strict";
import { readFile } from "node:fs/promises";
import { test } from "node:test";
import fc from "fast-check";
import { Zip, ZipPassThrough, zipSync, strToU8, unzipSync, strFromU8 } from "fflate";
import * as xlsx from "@e965/xlsx";
import { Findings, writeWorkbook, writeZip, type ResolvedCatalogue } from "#src/index.js";
import { csvLine, writeDocument, writeSheet, writtenKind } from "#src/parts.js";
import { dump } from "./dump.js";
import { check, codes, layoutOf, one, read, those } from "./support.js";

const rowsOf = (catalogue: ResolvedCatalogue, yaml: string) =>
  Array.from({ length: catalogue.table(writtenKind(layoutOf(yaml), catalogue)).size }, (_, row) => row);

function written(catalogue: ResolvedCatalogue, yaml: string): string {
  const findings = new Findings();
  const text = [...writeDocument(catalogue, layoutOf(yaml), { records: rowsOf(catalogue, yaml) }, findings)].join("");
  assert.deepEqual(findings.list(), []);
  return text;
}

const xmlLayout = `layout: x
format: { xml: { namespaces: { g: "urn:goods" } } }
rows: { each: variant, of: product, element: /g:feed/articles/article, child element: versions/version }
lanes:
  shots: { entries: product.pictures, with: { role: main }, element: photos/photo }
  tiers: { entries: variant.prices, with: { role: price }, element: versions/version/tier }
columns:
  "@no": product.key
  "title[@lang='en']": product.name@en
  "title[@lang='de']": product.name@de
  "text": product.description@en
  "trait": { axis: 1, holds: name@en }
  "photos/photo/@file": shots.file
  "photos/photo/caption": shots.alternative@en
  "versions/version/@sku": variant.code
  "versions/version/is": { axis: 1, holds: value@en }
  "versions/version/price": { field: variant.prices(price).amount, as: { decimal: . } }
  "versions/version/tier/@from": { field: tiers.quantityFrom, as: integer }
  "versions/version/tier/text()": { field: tiers.amount, as: { decimal: . } }
`;
const xml = `<?xml version="1.0" encoding="UTF-8"?>
<g:feed xmlns:g="urn:goods"><articles>
<article no="hive"><title lang="en">Hive &amp; stand</title><title lang="de">Beute</title><text>One &lt;b&gt;</text><trait>Wood</trait><photos><photo file="a.png"><caption>from above</caption></photo><photo file="b.png"/></photos><versions><version sku="H-C"><is>Cedar</is><price>129.5</price><tier from="5">119</tier><tier from="10">109</tier></version><version sku="H-P"><is>Pine</is><price>99</price></version></versions></article>
<article no="smoker"><title lang="en">Smoker</title><versions><version sku="S-1"><price>20</price></version></versions></article>
</articles></g:feed>
`;

const jsonLayout = `layout: j
format: { json: {} }
rows: { each: variant, of: product, element: /articles, child element: /versions }
lanes:
  shots: { entries: product.pictures, with: { role: main }, element: /photos }
columns:
  /no: product.key
  /title/en: product.name@en
  /title/de: product.name@de
  /web: { field: product.shown, as: { code words: { "true": true, "false": false } } }
  /trait: { axis: 1, holds: name@en }
  /photos: shots.file
  /versions/sku: variant.code
  /versions/is: { axis: 1, holds: value@en }
  /versions/price: { field: variant.prices(price).amount, as: { decimal: . } }
`;
const json = `{"articles":[
{"no":"hive","title":{"en":"Hive \\"one\\"","de":"Beute"},"web":true,"trait":"Wood","photos":["a.png","b.png"],"versions":[{"sku":"H-C","is":"Cedar","price":12345678901234567.25},{"sku":"H-P","is":"Pine","price":99}]},
{"no":"smoker","title":{"en":"Smoker"},"versions":[{"sku":"S-1","price":20}]}
]}
`;

test("XML: nested elements, attributes, namespaces and lists read, and are written again exactly", async () => {
  const { catalogue, findings } = await read([{ layout: xmlLayout, csv: xml, file: "feed.xml" }]);
  assert.deepEqual(codes(findings.list()), ["resolve/created", "resolve/created"]);
  const lines = dump(catalogue);
  assert.ok(
    lines.includes("product hive axes=Wood description@en=One <b> name@de=Beute name@en=Hive & stand"),
    lines.join("\n"),
  );
  assert.ok(lines.includes("variant H-C prices role=price amount=119 quantityFrom=5"));
  assert.ok(lines.includes("product smoker code=S-1 name@en=Smoker"));
  assert.equal(written(catalogue, xmlLayout), xml);
});

test("XML: CDATA, mixed content, other prefixes for the same namespace, fields taken from the parent", async () => {
  const layout = `layout: x\nformat: { xml: { namespaces: { g: "urn:goods" } } }\nrows: { each: product, element: /g:feed/g:group/g:item }\ncolumns:\n  "g:id": product.key\n  "g:name": product.name@en\n  "../@name": { field: product.categories, as: { path: " / ", by: name@en }, missing: create }\n  "../g:maker": product.brand\n`;
  const text = `<?xml version="1.0"?>\n<feed xmlns="urn:goods"><group name="Hives"><maker>Thorn</maker>\n<item><id>a</id><name><![CDATA[A <b> & c]]></name></item>\n<item><id>b</id><name>One <i>two</i> three</name></item></group></feed>`;
  const { catalogue, findings } = await read([{ layout, csv: text, file: "feed.xml" }]);
  assert.deepEqual(codes(findings.list()), ["resolve/created", "resolve/created"]);
  const lines = dump(catalogue);
  assert.ok(lines.includes("product a brand=Thorn categories=Hives name@en=A <b> & c"), lines.join("\n"));
  assert.ok(lines.includes("product b brand=Thorn categories=Hives name@en=One two three"));
  assert.equal(catalogue.table("product").line(1), 4);
});

test("fixes in a document are counted, as in a sheet", async () => {
  const layout =
    "layout: j\nformat: { json: {} }\nrows: { each: product, element: '' }\ncolumns: { /k: { field: product.key, fix: { pad: 3 } } }\n";
  const { catalogue, findings } = await read([{ layout, csv: '[{"k":"7"},{"k":"008"},{"k":9}]', file: "f.json" }]);
  assert.deepEqual(one(findings.list(), "read/fixed").facts, { fix: "pad 3", count: 2, before: "7", after: "007" });
  assert.equal(catalogue.table("product").key(2), "009");
});

test("says which paths of a layout lead to nothing in a document", async () => {
  const { findings } = await read([
    { layout: jsonLayout, csv: '{"articles":[{"no":"a","title":{"en":"A"}}]}', file: "f.json" },
  ]);
  assert.ok(those(findings.list(), "read/nothing-there").some(({ at }) => at?.column === "/title/de"));
});

test("JSON: nested values and numbers of any length read, and are written again exactly", async () => {
  const { catalogue, findings } = await read([{ layout: jsonLayout, csv: json, file: "feed.json" }]);
  assert.deepEqual(codes(findings.list()), ["resolve/created", "resolve/created"]);
  const lines = dump(catalogue);
  assert.ok(lines.includes("variant H-C prices role=price amount=12345678901234567.25"), lines.join("\n"));
  assert.ok(lines.includes("product hive pictures role=main file=b.png"));
  assert.equal(written(catalogue, jsonLayout), json);
});

test("JSON: a document a line, a single object, and the pointer in a finding's place", async () => {
  const flat = (format: string, element: string) =>
    `layout: j\nformat: { json: ${format} }\nrows: { each: product, element: '${element}' }\ncolumns: { /k: product.key, /w: { field: product.weight, as: { decimal: . } } }\n`;
  const lines = await read([
    { layout: flat("{ lines: true }", ""), csv: '{"k":"a","w":1}\n\n{"k":"b","w":"x"}\n', file: "l.json" },
  ]);
  assert.deepEqual(one(lines.findings.list(), "cell/not-a-decimal").at?.line, 3);
  assert.equal(lines.catalogue.table("product").size, 2);
  const single = await read([{ layout: flat("{}", ""), csv: '{"k":"a","w":1}', file: "l.json" }]);
  assert.equal(single.catalogue.table("product").size, 1);
  const listed = await read([
    { layout: flat("{}", "/goods/all"), csv: '{"goods":{"all":[{"k":"a"},{"k":"b","w":"x"}]}}', file: "l.json" },
  ]);
  assert.equal(one(listed.findings.list(), "cell/not-a-decimal").at?.pointer, "/goods/all/1");
});

const plain = `layout: w\nformat: { workbook: { sheet: Range } }\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Code: product.code\n  Name: product.name@en\n  Kg: { field: product.weight, as: decimal }\n  EAN: product.barcode\n`;
const cells = [
  ["Key", "Code", "Name", "Kg", "EAN"],
  ["hive", "007", "Hive <one> & co", "14.25", "4012345678901"],
  ["smoker", "1E5", "=1+1", "0.1", ""],
];

for (const kind of ["xlsx", "xls"] as const)
  test(`${kind}: text stays text, leading zeros and all; written and read again`, async () => {
    const bytes = await writeWorkbook([{ name: "Range", rows: cells }], kind);
    const { catalogue, findings } = await read([{ layout: plain, csv: bytes, file: `range.${kind}` }]);
    assert.deepEqual(findings.list(), []);
    const layout = layoutOf(plain);
    const { above, rows } = writeSheet(catalogue, layout, { records: [0, 1] }, findings);
    assert.deepEqual([...above, ...rows], cells);
    assert.deepEqual(bytes, await writeWorkbook([{ name: "Range", rows: cells }], kind));
  });

function bookOf(
  change: (sheet: xlsx.WorkSheet, book: xlsx.WorkBook) => void,
  bookType: xlsx.BookType = "xlsx",
): Uint8Array {
  const sheet = xlsx.utils.aoa_to_sheet(cells);
  const book = xlsx.utils.book_new();
  xlsx.utils.book_append_sheet(book, sheet, "Range");
  change(sheet, book);
  return new Uint8Array(xlsx.write(book, { type: "array", bookType }) as ArrayBuffer);
}
const put = (sheet: xlsx.WorkSheet, at: string, cell: xlsx.CellObject) =>
  ((sheet as Record<string, unknown>)[at] = cell);

test("ODS is read", async () => {
  const { catalogue, findings } = await read([
    { layout: plain, csv: bookOf(() => undefined, "ods"), file: "range.ods" },
  ]);
  assert.deepEqual(findings.list(), []);
  assert.equal(catalogue.table("product").text("code", 0), "007");
});

test("a workbook's damage is reported from what is stored and what is shown", async () => {
  const bytes = bookOf((sheet, book) => {
    put(sheet, "B2", { t: "n", v: 7, z: "00000" });
    put(sheet, "C2", { t: "d", v: new Date(Date.UTC(2026, 2, 2)), z: "d-mmm" });
    put(sheet, "D2", { t: "n", v: 0.1 + 0.2 });
    put(sheet, "C3", { t: "e", v: 0x2a, w: "#N/A" });
    put(sheet, "E2", { t: "n", v: 4012345678901 });
    sheet["!merges"] = [{ s: { r: 1, c: 0 }, e: { r: 2, c: 0 } }];
    sheet["!rows"] = [{}, {}, { hidden: true }];
    sheet["!cols"] = [{}, { hidden: true }];
    xlsx.utils.book_append_sheet(book, xlsx.utils.aoa_to_sheet([["x"]]), "Notes");
  });
  const { catalogue, findings } = await read([{ layout: plain, csv: bytes, file: "range.xlsx" }]);
  const list = findings.list();
  assert.deepEqual(one(list, "cell/turned-into-date").facts, { shown: "2-Mar", stored: "2026-03-02" });
  assert.deepEqual(one(list, "cell/turned-into-date").at, {
    file: "range.xlsx",
    sheet: "Range",
    line: 2,
    column: "Name",
  });
  assert.deepEqual(
    those(list, "cell/shown-otherwise").map(({ facts, at }) => [at?.column, (facts as { shown: string }).shown]),
    [
      ["Code", "00007"],
      ["EAN", "4.01235E+12"],
    ],
  );
  assert.equal(one(list, "cell/formula-error").at?.line, 3);
  assert.deepEqual(
    those(list, "read/hidden").map(({ facts }) => (facts as { what: string }).what),
    ["row", "column"],
  );
  one(list, "read/merged-cells");
  assert.equal(catalogue.table("product").text("weight", 0), "0.3");
  assert.equal(catalogue.table("product").text("barcode", 0), "4012345678901");
});

test("hidden rows are left out, and merged cells repeated, where the layout says so", async () => {
  const bytes = bookOf((sheet) => {
    sheet["!merges"] = [{ s: { r: 1, c: 2 }, e: { r: 2, c: 2 } }];
    delete (sheet as Record<string, unknown>)["C3"];
    sheet["!rows"] = [{}, {}, {}, { hidden: true }];
    xlsx.utils.sheet_add_aoa(sheet, [["gone", "G-1", "Gone", "1", ""]], { origin: 3 });
  });
  const layout = plain.replace("sheet: Range", "sheet: 1, hidden rows: left out, merged cells: repeated");
  const { catalogue } = await read([{ layout, csv: bytes, file: "range.xlsx" }]);
  assert.deepEqual(
    dump(catalogue).map((line) => /name@en=[^=]*(?= weight)/.exec(line)?.[0]),
    ["name@en=Hive <one> & co", "name@en=Hive <one> & co"],
  );
});

test("a formula without a result is not a blank cell", async () => {
  const entries = unzipSync(bookOf((sheet) => put(sheet, "C3", { t: "n", v: 2, f: "1+1" })));
  const path = "xl/worksheets/sheet1.xml";
  entries[path] = strToU8(strFromU8(entries[path]!).replace("<f>1+1</f><v>2</v>", "<f>1+1</f>"));
  const { findings } = await read([{ layout: plain, csv: zipSync(entries), file: "range.xlsx" }]);
  assert.equal(one(findings.list(), "cell/formula-without-result").at?.column, "Name");
});

test("says which sheets there are where it is not clear which is intended", async () => {
  const bytes = bookOf((_, book) => xlsx.utils.book_append_sheet(book, xlsx.utils.aoa_to_sheet([["x"]]), "Notes"));
  const facts = one(
    (await read([{ layout: plain.replace("sheet: Range", ""), csv: bytes }])).findings.list(),
    "read/which-sheet",
  ).facts;
  assert.deepEqual((facts as { names: string[] }).names, ["Range", "Notes"]);
});

const category =
  "layout: c\nformat: { csv: {} }\nrows: { each: category }\ncolumns: { Id: category.key, Name: category.name@en }\n";

test("a zip holding a sheet is read, by the name within it or when it is the only one", async () => {
  const content = new TextEncoder().encode("Id,Name\na,A\n");
  const { catalogue } = await read([{ layout: category, csv: writeZip(new Map([["c.csv", content]])), file: "c.zip" }]);
  assert.equal(catalogue.table("category").key(0), "a");
  const two = writeZip(
    new Map([
      ["c.csv", content],
      ["d.csv", content],
    ]),
  );
  const { findings } = await read([{ layout: category, csv: two, file: "c.zip" }]);
  assert.deepEqual((one(findings.list(), "read/not-in-zip").facts as { names: string[] }).names, ["c.csv", "d.csv"]);
});

for (const [name, encoding, text] of [
  ["windows-1252", "windows-1252", "Küche, Größe, Straße, à la crème"],
  ["old Mac", "macintosh", "Küche, Größe, Straße, Räucherbox, schön für Bienen"],
  ["windows-1250", "windows-1250", "Ramka łąkowa, pszczoła, święta, źródło, wąż, żółty"],
  ["windows-1251", "windows-1251", "Улей деревянный, рамка для мёда, пчеловодство"],
  ["UTF-16 without a mark", "utf-16le", "Küche, Größe, Straße"],
] as const)
  test(`finds out that bytes are ${name}, and says so`, async () => {
    const layout =
      "layout: c\nformat: { csv: { delimiter: ';' } }\nrows: { each: category }\ncolumns: { Id: category.key, Name: category.name@en }\n";
    const bytes = encode(`Id;Name\na;${text}\nb;${text}\n`, encoding);
    const { catalogue, findings } = await read([{ layout, csv: bytes }]);
    assert.equal(catalogue.table("category").text("name@en", 0), text);
    if (encoding !== "utf-16le") assert.deepEqual(one(findings.list(), "read/encoding-guessed").facts, { encoding });
  });

/** The bytes of a text in an encoding of single bytes, by decoding each of them. */
function encode(text: string, encoding: string): Uint8Array {
  if (encoding === "utf-16le") return Buffer.from(text, "utf16le");
  const bytes = new Map(
    Array.from({ length: 256 }, (_, byte) => [
      new TextDecoder(encoding).decode(new Uint8Array([byte]), { stream: true }),
      byte,
    ]),
  );
  return Uint8Array.from([...text].map((char) => bytes.get(char)!));
}

const xmlPlain = `layout: x\nformat: { xml: {} }\nrows: { each: product, element: /a/b }\ncolumns: { "@k": product.key }\n`;
const jsonPlain = `layout: x\nformat: { json: {} }\nrows: { each: product, element: '' }\ncolumns: { /k: product.key }\n`;
/** An archive whose second file has the name of the first: programs differ in which they take. */
function twice(): Uint8Array {
  const parts: Uint8Array[] = [];
  const zip = new Zip((_, chunk) => void parts.push(chunk));
  for (const text of ["Key\na\n", "Key\nb\n"]) {
    const file = new ZipPassThrough("c.csv");
    zip.add(file);
    file.push(strToU8(text), true);
  }
  zip.end();
  return Buffer.concat(parts);
}

const bomb = () => zipSync({ "c.csv": strToU8("Id,Name\n" + `a,${"b".repeat(2_000)}\n`.repeat(60_000)) }, { level: 9 });
const tampered = (bytes: Uint8Array, from: string, to: string) =>
  Buffer.from(Buffer.from(bytes).toString("latin1").replaceAll(from, to), "latin1");

const hostile: readonly (readonly [
  name: string,
  layout: string,
  content: () => string | Uint8Array,
  code: string,
  line?: number,
])[] = [
  [
    "entities that expand",
    xmlPlain,
    () => `<!DOCTYPE a [<!ENTITY x "yyyyyyyyyy"><!ENTITY z "&x;&x;&x;">]>\n<a>\n<b k="1">&z;</b></a>`,
    "read/xml-broken",
    3,
  ],
  [
    "an entity from outside",
    xmlPlain,
    () => `<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]>\n<a><b k="&x;"/></a>`,
    "read/xml-broken",
    2,
  ],
  ["a bare ampersand", xmlPlain, () => `<a>\n<b k="1">\nSalt & honey\n</b>\n</a>`, "read/xml-broken", 3],
  ["an element that is not closed", xmlPlain, () => `<a><b k="1"></a>`, "read/xml-broken", 1],
  ["elements a hundred thousand deep", xmlPlain, () => `<a>${"<b>".repeat(100_000)}`, "read/over-cap", 1],
  [
    "a bare ampersand among many, with a hundred thousand literals that never end",
    xmlPlain,
    () => `<a>\n<b k="1">${" & ".repeat(50_000)}${"<![CDATA[".repeat(100_000)}`,
    "read/xml-broken",
    2,
  ],
  [
    "XML with a hundred thousand different elements beside the path",
    xmlPlain,
    () => `<a>${Array.from({ length: 100_000 }, (_, at) => `<c${at}/>`).join("")}</a>`,
    "read/no-element",
  ],
  [
    "a document with a million attributes that are never closed",
    xmlPlain,
    () => `<a><b ${'k="1" '.repeat(1_000_000)}`,
    "read/xml-broken",
    1,
  ],
  ["XML without the element", xmlPlain, () => `<a><c/></a>`, "read/no-element"],
  ["JSON that ends too early", jsonPlain, () => `[{"k":"a"},{"k":`, "read/json-broken"],
  ["JSON that is none", jsonPlain, () => `[{"k":"a"} x`, "read/json-broken"],
  ["JSON a hundred thousand deep", jsonPlain, () => "[".repeat(100_000), "read/over-cap"],
  ["a zip that is none", category, () => Buffer.from("PK\u0003\u0004nothing more"), "read/zip-broken"],
  ["a zip with two files of one name", category, twice, "read/zip-broken"],
  ["a zip that unpacks without bound", category, bomb, "read/zip-broken"],
  [
    "a zip whose names leave the folder",
    category,
    () => zipSync({ "../../evil.csv": strToU8("Id,Name\n") }),
    "read/zip-broken",
  ],
  [
    "a zip with a damaged file",
    category,
    () => tampered(zipSync({ "c.csv": strToU8("Id,Name\na,Alpha\n") }, { level: 0 }), "Alpha", "Alphb"),
    "read/zip-broken",
  ],
  ["a workbook that is none", plain, () => "Key;Name\n", "read/workbook-broken"],
  [
    "a workbook that unpacks without bound",
    plain,
    () => zipSync({ "xl/worksheets/sheet1.xml": new Uint8Array(120_000_000) }, { level: 9 }),
    "read/workbook-broken",
  ],
];

for (const [name, layout, content, code, line] of hostile)
  test(`${name}: ${code}`, async () => {
    const { findings } = await read([{ layout, csv: content(), file: "given" }]);
    const found = one(findings.list(), code);
    if (line !== undefined) assert.equal(found.at?.line, line);
  });

test("names of object internals are names like others", async () => {
  const layout =
    "layout: c\nrows: { each: product }\ncolumns: { constructor: product.key, toString: product.name@en }\n";
  const csv = "__proto__,constructor,toString\nx,hive,Hive\n";
  const { catalogue, findings } = await read([{ layout, csv }]);
  assert.deepEqual(dump(catalogue), ["product hive name@en=Hive"]);
  assert.equal(one(findings.list(), "read/column-unbound").at?.column, "__proto__");
  assert.equal(({} as Record<string, unknown>)["name"], undefined);
});

test("schema.org ProductGroup documents are read and written by the shipped layout", async () => {
  const { shippedLayout } = await import("#src/node/index.js");
  const yaml = (await shippedLayout("schema-org"))!;
  const books = await readFile(new URL("../../../../demo/clean/sources/books.json", import.meta.url), "utf8");
  const { catalogue } = await read([{ layout: yaml, csv: books, file: "books.json" }]);
  const own = JSON.parse(books) as { "@graph": { hasVariant: { offers: { price: unknown } }[] }[] };
  // A price may be a text or a number; it is written as a number.
  for (const group of own["@graph"])
    for (const variant of group.hasVariant) variant.offers.price = Number(variant.offers.price);
  assert.deepEqual(JSON.parse(written(catalogue, yaml)), own);
});

const decimals = [
  '{ decimal: ",", thousands: "." }',
  '{ decimal: ".", thousands: "," }',
  '{ decimal: ",", sign: € }',
  '{ decimal: ",", places: 1 }',
  '{ between: ["about ", " or so"], of: { decimal: "," } }',
  '{ measure: { kg: "1", g: "0.001" }, decimal: ",", bare: kg }',
  "decimal",
];
const numbersOnly = (as: string, format = "workbook: {}") =>
  `layout: n\nformat: { ${format} }\nrows: { each: product${format.startsWith("json") ? ", element: /goods" : ""} }\ncolumns:\n  ${format.startsWith("json") ? "/key" : "Key"}: product.key\n  ${format.startsWith("json") ? "/kg" : "Kg"}: { field: product.weight, as: ${as} }\n`;

for (const as of decimals)
  test(`a cell that is stored as a number is that number, whatever text the column expects: ${as}`, async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: -9_999_999, max: 9_999_999 }), fc.nat(4), async (digits, places) => {
        const number = digits / 10 ** places;
        const sheet = xlsx.utils.aoa_to_sheet([
          ["Key", "Kg"],
          ["a", number],
        ]);
        const book = xlsx.utils.book_new();
        xlsx.utils.book_append_sheet(book, sheet, "Range");
        const bytes = new Uint8Array(xlsx.write(book, { type: "array", bookType: "xlsx" }) as ArrayBuffer);
        const json = `{"goods":[{"key":"a","kg":${number}}]}`;
        for (const given of [
          { layout: numbersOnly(as), csv: bytes, file: "n.xlsx" },
          { layout: numbersOnly(as, "json: {}"), csv: json, file: "n.json" },
        ]) {
          const { catalogue, findings } = await read([given]);
          assert.deepEqual(codes(findings.list()), []);
          assert.equal(catalogue.table("product").text("weight", 0), String(number === 0 ? 0 : number));
        }
      }),
      { numRuns: 25 },
    );
  });

test("a number that a list would cut in two is reported, not cut", async () => {
  const layout = `layout: n\nformat: { workbook: {} }\nrows: { each: product }\ncolumns:\n  Key: product.key\n  With: { field: product.relations(goes-with).to, as: { list: ".", of: { by: code } } }\n`;
  const sheet = xlsx.utils.aoa_to_sheet([
    ["Key", "With"],
    ["a", 12.5],
    ["b", 7],
  ]);
  const book = xlsx.utils.book_new();
  xlsx.utils.book_append_sheet(book, sheet, "Range");
  const bytes = new Uint8Array(xlsx.write(book, { type: "array", bookType: "xlsx" }) as ArrayBuffer);
  const { catalogue, findings } = await read([{ layout, csv: bytes, file: "n.xlsx" }]);
  assert.deepEqual([one(findings.list(), "cell/number-cut").at?.line, catalogue.pool.size], [2, 1]);
});

test("a layout whose thousands and decimal signs are the same is refused", () => {
  const findings = new Findings();
  assert.throws(() => layoutOf(numbersOnly('{ decimal: ",", thousands: "," }'), findings));
  assert.equal(codes(findings.list())[0], "given/wrong-value");
});

const awkward = fc
  .array(
    fc.constantFrom(
      "_x0041_",
      "_x005F_",
      "_x000D_",
      "_",
      "x",
      "\r\n",
      "\r",
      "\n",
      "&",
      "<b>",
      '"',
      "'",
      ";",
      " ",
      "é",
      "🐝",
    ),
    { minLength: 1, maxLength: 8 },
  )
  .map((parts) => `a${parts.join("")}`);

for (const file of ["t.xlsx", "t.xls", "t.csv"])
  test(`${file}: a text comes back as it was written, or is reported before: escapes of the format, line ends`, async () => {
    const format = file.endsWith("csv") ? "csv: { delimiter: ';' }" : "workbook: {}";
    const layout = layoutOf(
      `layout: t\nformat: { ${format} }\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Name: product.name@en\n  Story: product.description@en\n`,
    );
    await fc.assert(
      fc.asyncProperty(awkward, awkward, async (name, story) => {
        const { catalogue } = await read([
          {
            layout: numbersOnly("decimal", "json: {}").replace(
              "/kg: { field: product.weight, as: decimal }",
              "/name: product.name@en\n  /story: product.description@en",
            ),
            csv: JSON.stringify({ goods: [{ key: "a", name, story }] }),
            file: "t.json",
          },
        ]);
        const findings = new Findings();
        const { above, rows } = writeSheet(catalogue, layout, { records: [0] }, findings);
        const all = [...above, ...rows];
        const bytes = file.endsWith("csv")
          ? all.map(csvLine({ delimiter: ";", lineEnd: "\r\n" })).join("")
          : await writeWorkbook([{ name: "S", rows: all }], file.endsWith("xls") ? "xls" : "xlsx");
        const again = await read([{ layout, csv: bytes, file }]);
        const isReported = (field: string) =>
          findings.list().some(({ at, code }) => code === "write/cannot-be-written" && at?.column === field);
        const products = again.catalogue.table("product");
        if (!isReported("/name")) assert.equal(products.text("name@en", 0), name);
        if (!isReported("/story")) assert.equal(products.text("description@en", 0), story);
        assert.ok(!isReported("/name"));
        assert.ok(!isReported("/story") || story.endsWith("\r"));
      }),
      { numRuns: 60 },
    );
  });

test("half of a character is reported, where a whole one is not", async () => {
  const layout = numbersOnly("decimal", "json: {}").replace(
    "/kg: { field: product.weight, as: decimal }",
    "/name: product.name@en",
  );
  const given =
    '{"goods":[{"key":"a","name":"Bee \\ud83d"},{"key":"b","name":"Bee 🐝"},{"key":"c","name":"\\udc1d Bee"}]}';
  const { list } = await check([{ layout, csv: given, file: "t.json" }]);
  assert.deepEqual(
    those(list, "check/half-character").map(({ at }) => at?.record?.key),
    ["a", "c"],
  );
});
