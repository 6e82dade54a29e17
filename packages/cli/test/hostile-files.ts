/** Files that were made to do harm: each once crashed a reader, or kept it busy for ever; or is of the same class. */

import { strToU8, zipSync } from "fflate";

export type Files = Readonly<Record<string, string | Uint8Array>>;

export interface Hostile {
  readonly files: Files;
  /** Codes of findings, one of which is enough. */
  readonly says: readonly string[];
  readonly command?: readonly string[];
  /** Pipes to make in the folder. */
  readonly pipes?: readonly string[];
}

const csv = "{ csv: { delimiter: ',' } }";
const layout = (format: string, columns = "Key: product.key, Name: product.name@en") =>
  `layout: a\nformat: ${format}\nrows: { each: product }\ncolumns: { ${columns} }\n`;
const project = (file: string, more = "") =>
  `project: p\nsources: [{ file: ${file}, layout: l.yaml }]\ntargets: [{ target: pennywort }]\n${more}`;
const many = (count: number, make: (at: number) => string, between = "") =>
  Array.from({ length: count }, (_, at) => make(at)).join(between);
const source = (name: string, content: string | Uint8Array, own: string): Files => ({
  [name]: content,
  "l.yaml": own,
  "project.yaml": project(name),
});
const plain: Files = source("s.csv", "Key,Name\na,b\n", layout(csv));
const devices = "outside: [/dev]\n";
const withProject = (text: string): Files => ({ ...plain, "project.yaml": text });

const main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
const office = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
const packed = "http://schemas.openxmlformats.org/package/2006";
const headerRow =
  '<row r="1"><c r="A1" t="inlineStr"><is><t>Key</t></is></c><c r="B1" t="inlineStr"><is><t>Name</t></is></c></row>';

type Encoded = (text: string) => Uint8Array;

/** With one sheet of this XML, or without its part. @param encoded how the sheet's XML becomes bytes; @param ending of the part's name. */
export function workbook(sheet: string | undefined, encoded: Encoded = strToU8, ending = "xml"): Uint8Array {
  const part = `worksheets/sheet1.${ending}`;
  const own = sheet === undefined ? {} : { [`xl/${part}`]: encoded(`<worksheet xmlns="${main}">${sheet}</worksheet>`) };
  const parts: Record<string, string> = {
    "[Content_Types].xml": `<Types xmlns="${packed}/content-types"><Default Extension="xml" ContentType="application/xml"/><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/${part}" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>`,
    "_rels/.rels": `<Relationships xmlns="${packed}/relationships"><Relationship Id="r1" Type="${office}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    "xl/workbook.xml": `<workbook xmlns="${main}" xmlns:r="${office}"><sheets><sheet name="S" sheetId="1" r:id="rId1"/></sheets></workbook>`,
    "xl/_rels/workbook.xml.rels": `<Relationships xmlns="${packed}/relationships"><Relationship Id="rId1" Type="${office}/worksheet" Target="${part}"/></Relationships>`,
  };
  const texts = Object.fromEntries(Object.entries(parts).map(([name, text]) => [name, strToU8(text)]));
  return zipSync({ ...texts, ...own });
}
const book = (sheet: string | undefined, ...says: readonly string[]): Hostile => ({
  files: source("s.xlsx", workbook(sheet), layout("{ workbook: {} }")),
  says,
});
const inUtf16 = (text: string): Uint8Array => new Uint8Array(Buffer.from(`\ufeff${text}`, "utf16le"));
const farRow = '<row r="4294967295"><c r="ZZZZZZ4294967295"><v>1</v></c></row>';
const disguised = (...how: readonly [encoded?: Encoded, ending?: string]): Hostile => ({
  files: source("s.xlsx", workbook(rows(farRow), ...how), layout("{ workbook: {} }")),
  says: ["read/workbook-broken"],
});
const rows = (more: string, before = "") => `${before}<sheetData>${headerRow}${more}</sheetData>`;

const oasis = "urn:oasis:names:tc:opendocument:xmlns";
const odsCell = (text: string, times = 1) =>
  `<table:table-cell office:value-type="string" table:number-columns-repeated="${times}"><text:p>${text}</text:p></table:table-cell>`;
function ods(table: string, ...says: readonly string[]): Hostile {
  const content = `<office:document-content xmlns:office="${oasis}:office:1.0" xmlns:table="${oasis}:table:1.0" xmlns:text="${oasis}:text:1.0"><office:body><office:spreadsheet><table:table table:name="S"><table:table-row>${odsCell("Key")}${odsCell("Name")}</table:table-row>${table}</table:table></office:spreadsheet></office:body></office:document-content>`;
  const bytes = zipSync({
    mimetype: [strToU8("application/vnd.oasis.opendocument.spreadsheet"), { level: 0 }],
    "META-INF/manifest.xml": strToU8(`<manifest:manifest xmlns:manifest="${oasis}:manifest:1.0"/>`),
    "styles.xml": strToU8(`<office:document-styles xmlns:office="${oasis}:office:1.0"/>`),
    "content.xml": strToU8(content),
  });
  return { files: source("s.ods", bytes, layout("{ workbook: { kind: ods } }")), says };
}

const jsonLines = `layout: a\nformat: { json: { lines: true } }\nrows: { each: product, element: "" }\ncolumns: { /k: product.key, /n: product.name@en }\n`;
const json = `layout: a\nformat: { json: {} }\nrows: { each: product, element: /items }\ncolumns: { /k: product.key, /n: { field: product.weight, as: decimal } }\n`;
const xml = `layout: a\nformat: { xml: {} }\nrows: { each: product, element: /r/i }\ncolumns: { k: product.key }\n`;
const namespaces = many(20_000, (at) => `xmlns:n${at}="urn:${at}"`, " ");
const derive = (expression: string, names = "aaaa!") => ({
  ...source("s.csv", `Key,Name\n${many(50, (at) => `k${at},${names}\n`)}`, layout(csv)),
  "project.yaml": project("s.csv", `derive:\n  - { field: product.description@en, expression: '${expression}' }\n`),
});
const loop = (name: string, body: string) => `[1,2,3,4,5,6,7,8,9,10].all(${name},${body})`;
const categories = (up: (at: number) => string): Files =>
  source(
    "s.csv",
    `Key,Up\n${many(100_000, (at) => `k${at},${up(at)}\n`)}`,
    "layout: a\nrows: { each: category }\ncolumns: { Key: category.key, Up: { field: category.parent, as: { by: key } } }\n",
  );
const tags = (as: string) =>
  layout(csv, `Key: product.key, Tags: { field: product.categories, as: ${as}, missing: create }`);
const draft = (name: string, content: string): Hostile => ({
  files: { [name]: content },
  says: [],
  command: ["draft", name],
});

export const hostile: Readonly<Record<string, Hostile>> = {
  "a row beyond all rows": book(
    rows('<row r="4294967295"><c r="A4294967295"><v>1</v></c></row>'),
    "read/workbook-broken",
  ),
  "a far row in a sheet in UTF-16": disguised(inUtf16),
  "a far row in a sheet that is called a picture": disguised(strToU8, "png"),
  "a far row in a sheet in capitals": disguised(strToU8, "XML"),
  "a range of columns beyond all columns": book(
    rows("", '<cols><col min="1" max="999999999" hidden="1"/></cols>'),
    "read/workbook-broken",
  ),
  "a cell beyond all columns": book(rows('<row r="2"><c r="ZZZZZZ2"><v>1</v></c></row>'), "read/workbook-broken"),
  "a number beyond all numbers": book(rows('<row r="2"><c r="A2"><v>1e999</v></c></row>'), "cell/formula-error"),
  "a sheet that is missing": book(undefined, "read/workbook-broken"),
  "a sheet that is not XML": book("\u0001<<<", "read/empty-file", "read/workbook-broken"),
  "cells in the last column of many rows": book(
    rows(many(20_000, (at) => `<row r="${at + 2}"><c r="XFD${at + 2}"><v>1</v></c></row>`)),
    "read/over-cap",
  ),
  "merged cells over the whole sheet": book(
    `${rows('<row r="2"><c r="A2"><v>1</v></c></row>')}<mergeCells><mergeCell ref="A2:XFD1048576"/></mergeCells>`,
    "read/merged-cells",
  ),
  "a dimension beyond all cells": book(
    rows('<row r="2"><c r="A2"><v>1</v></c></row>', '<dimension ref="A1:ZZZZZZ999999999"/>'),
    "check/no-code",
  ),
  "cells that are repeated for ever": ods(
    `<table:table-row>${odsCell("x", 999_999_999)}</table:table-row>`,
    "read/workbook-broken",
  ),
  "rows that are repeated for ever": ods(
    `<table:table-row table:number-rows-repeated="999999999">${odsCell("x")}</table:table-row>`,
    "read/workbook-broken",
  ),
  "blank cells that are repeated for ever": ods(
    `<table:table-row><table:table-cell table:number-columns-repeated="999999999"/></table:table-row>`,
    "read/header-only",
  ),
  "JSON Lines, deep": {
    files: source("s.jsonl", `{"k":"a"}\n${"[".repeat(200_000)}${"]".repeat(200_000)}\n`, jsonLines),
    says: ["read/over-cap"],
  },
  "JSON Lines, deep within a value": {
    files: source("s.jsonl", `{"k":"a","n":${'{"a":'.repeat(100_000)}1${"}".repeat(100_000)}}\n`, jsonLines),
    says: ["read/over-cap"],
  },
  "JSON, deep": {
    files: source("s.json", `{"items":[${"[".repeat(200_000)}${"]".repeat(200_000)}]}`, json),
    says: ["read/over-cap"],
  },
  "JSON with numbers beyond all numbers": {
    files: source("s.json", `{"items":[{"k":"a","n":${"9".repeat(1_000_000)}},{"k":"b","n":1e999999999}]}`, json),
    says: ["check/no-code"],
  },
  "XML with 20 000 namespaces on one element": {
    files: source("s.xml", `<r><i ${namespaces}><k>a</k></i></r>`, xml),
    says: ["check/no-code"],
  },
  "XML with 20 000 namespaces above all elements": {
    files: source("s.xml", `<r ${namespaces}>${"<i><k>a</k></i>".repeat(2_000)}</r>`, xml),
    says: ["read/repeated-key"],
  },
  "XML, deep": { files: source("s.xml", `<r><i>${"<a>".repeat(100_000)}`, xml), says: ["read/over-cap"] },
  "one quote that is never closed": {
    files: source("s.csv", `Key,Name\n"${"abc,def\n".repeat(100_000)}`, layout(csv)),
    says: ["read/open-quote"],
  },
  "nothing but quotes": {
    files: source("s.csv", `Key,Name\n${'"'.repeat(20_000_000)}`, layout(csv)),
    says: ["read/gave-up", "read/over-cap"],
  },
  "a header as long as a book": {
    files: source("s.csv", `Key,Name,${"x".repeat(900_000)}\na,b,c\n`, layout(csv)),
    says: ["read/header-too-long"],
  },
  "a path of 100 000 shelves": {
    files: source(
      "s.csv",
      `Key,Tags\na,"${"x/".repeat(100_000)}y"\n`,
      tags("{ list: ';', of: { path: '/', by: name@en } }"),
    ),
    says: ["cell/too-many-parts"],
  },
  "categories in a circle of 100 000": { files: categories((at) => `k${(at + 1) % 100_000}`), says: ["plan/cycle"] },
  "categories 100 000 deep": {
    files: categories((at) => (at === 0 ? "" : `k${at - 1}`)),
    says: ["plan/nothing-to-upload"],
  },
  "an alias in itself": { files: withProject("project: p\nsources: &a [*a]\n"), says: ["given/not-yaml"] },
  "an alias in itself, in a layout": {
    files: { ...plain, "l.yaml": "layout: &a\n  x: *a\n" },
    says: ["given/not-yaml"],
  },
  "a file of quotes": { files: withProject(`project: ${'"'.repeat(5_000_000)}`), says: ["given/too-large"] },
  "lists within lists": { files: withProject(`project: ${"[".repeat(100_000)}`), says: ["given/not-yaml"] },
  "40 000 kinds": {
    files: withProject(project("s.csv", `kinds:\n${many(40_000, (at) => `  k${at}: { fields: { a: text } }\n`)}`)),
    says: ["project/mistake"],
  },
  "40 000 columns": {
    files: {
      ...plain,
      "l.yaml": `layout: a\nrows: { each: product }\ncolumns:\n  Key: product.key\n${many(40_000, (at) => `  c${at}: product.name@en\n`)}`,
    },
    says: ["read/column-missing"],
  },
  "a pattern that looks back": {
    files: derive('name.en.matches("^(a+)+$") ? "x" : "y"', "a".repeat(40) + "!"),
    says: ["check/no-code"],
  },
  "loops within loops": {
    files: derive(
      `${loop("a", loop("b", loop("c", loop("d", loop("e", loop("f", loop("g", "a > 0")))))))} ? "x" : "y"`,
    ),
    says: ["project/mistake"],
  },
  "a device as a source": { files: withProject(project("/dev/zero", devices)), says: ["read/unreadable"] },
  "a device as a layout": {
    files: withProject(project("s.csv", devices).replace("l.yaml", "/dev/zero")),
    says: ["read/unreadable"],
  },
  "a device as a ledger": {
    files: withProject(
      project("s.csv", devices).replace("{ target: pennywort }", "{ target: pennywort, ledger: /dev/zero }"),
    ),
    says: ["read/unreadable"],
    command: ["plan"],
  },
  "a pipe as a project": { files: { "l.yaml": plain["l.yaml"]! }, pipes: ["project.yaml"], says: ["read/unreadable"] },
  "a pipe as a source": {
    files: { "l.yaml": plain["l.yaml"]!, "project.yaml": project("s.csv") },
    pipes: ["s.csv"],
    says: ["read/unreadable"],
  },
  "a folder as a ledger": {
    files: withProject(project("s.csv", devices).replace("{ target: pennywort }", "{ target: pennywort, ledger: . }")),
    says: ["read/unreadable"],
    command: ["plan"],
  },
  "200 000 columns in draft": draft(
    "s.csv",
    `${many(200_000, (at) => `c${at}`, ",")}\n${many(200_000, String, ",")}\n`,
  ),
  "deep JSON in draft": draft("s.json", `${'{"a":'.repeat(100_000)}1${"}".repeat(100_000)}`),
  "a long header in draft": draft("s.csv", `Key,Name,${"x".repeat(500_000)}\na,b,c\n`),
  "quotes in draft": draft("s.csv", `Key,Name\n${'"'.repeat(20_000_000)}`),
};
