/** L8: whatever the bytes, readers end with findings: never with an exception. Random bytes, and real ones that were damaged. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { zipSync, strToU8 } from "fflate";
import { Findings, writeWorkbook } from "#src/index.js";
import { Catalogue, readSources, resolveReferences } from "#src/parts.js";
import { filesOf, kinds, layoutOf } from "./support.js";

const runs = Number(process.env["PROPERTY_RUNS"] ?? 80);

const columns = (...paths: string[]) =>
  `columns: { "${paths[0]}": product.key, "${paths[1]}": product.name@en, "${paths[2]}": { field: product.weight, as: decimal } }\n`;
const csvText = 'Key,Name,Kg\nhive,"Hive, ""deep""",14.2\nsmoker,Räucherer,1\n';
const rows = [
  ["Key", "Name", "Kg"],
  ["hive", "Hive", "14.2"],
  ["smoker", "Räucherer", "1"],
];
const xmlText = `<?xml version="1.0"?>\n<!-- goods -->\n<a xmlns:g="urn:g"><b k="hive"><n>Hi &amp; <![CDATA[<ve>]]></n><w>14.2</w></b>\n<b k="smoker"><n>Räucherer</n></b></a>`;
const jsonText = `[{"k":"hive","n":"Hi\\u0076e","w":14.2},\n{"k":"smoker","n":"Räucherer","w":null}]`;
const utf16 = new Uint8Array(Buffer.from(csvText, "utf16le"));

const formats: Readonly<Record<string, { readonly layout: string; readonly bytes: () => Promise<Uint8Array> }>> = {
  CSV: {
    layout: `layout: f\nformat: { csv: {} }\nrows: { each: product }\n${columns("Key", "Name", "Kg")}`,
    bytes: () => Promise.resolve(strToU8(csvText)),
  },
  "CSV in UTF-16": {
    layout: `layout: f\nformat: { csv: {} }\nrows: { each: product }\n${columns("Key", "Name", "Kg")}`,
    bytes: () => Promise.resolve(utf16),
  },
  XLSX: {
    layout: `layout: f\nformat: { workbook: { sheet: 1 } }\nrows: { each: product }\n${columns("Key", "Name", "Kg")}`,
    bytes: () => writeWorkbook([{ name: "S", rows }]),
  },
  XLS: {
    layout: `layout: f\nformat: { workbook: { sheet: 1 } }\nrows: { each: product }\n${columns("Key", "Name", "Kg")}`,
    bytes: () => writeWorkbook([{ name: "S", rows }], "xls"),
  },
  XML: {
    layout: `layout: f\nformat: { xml: {} }\nrows: { each: product, element: /a/b }\n${columns("@k", "n", "w")}`,
    bytes: () => Promise.resolve(strToU8(xmlText)),
  },
  JSON: {
    layout: `layout: f\nformat: { json: {} }\nrows: { each: product, element: '' }\n${columns("/k", "/n", "/w")}`,
    bytes: () => Promise.resolve(strToU8(jsonText)),
  },
  "JSON lines": {
    layout: `layout: f\nformat: { json: { lines: true } }\nrows: { each: product, element: '' }\n${columns("/k", "/n", "/w")}`,
    bytes: () => Promise.resolve(strToU8(jsonText.slice(1, -1).replace("},", "}"))),
  },
  ZIP: {
    layout: `layout: f\nformat: { csv: {} }\nrows: { each: product }\n${columns("Key", "Name", "Kg")}`,
    bytes: () => Promise.resolve(zipSync({ "c.csv": strToU8(csvText) })),
  },
};

/** Changes, cuts, doublings, and bytes that mean something to one of the formats. */
const telling = [
  '"',
  "<",
  ">",
  "&",
  "{",
  "}",
  "[",
  "]",
  ",",
  "\n",
  "\r",
  "\0",
  "\u00ff",
  "PK\u0001\u0002",
  "PK\u0003\u0004",
  "<![CDATA[",
  "]]>",
  "\\u",
];
const damage = fc.array(
  fc.record({
    at: fc.double({ min: 0, max: 1, noNaN: true }),
    does: fc.constantFrom("set", "cut", "double", "put"),
    byte: fc.nat(255),
    text: fc.constantFrom(...telling),
  }),
  { minLength: 1, maxLength: 8 },
);

function damaged(
  bytes: Uint8Array,
  changes: readonly { at: number; does: string; byte: number; text: string }[],
): Uint8Array {
  let out = Buffer.from(bytes);
  for (const { at, does, byte, text } of changes) {
    const location = Math.min(out.length - 1, Math.floor(at * out.length));
    if (out.length === 0) break;
    if (does === "set") out[location] = byte;
    if (does === "cut") out = out.subarray(0, location);
    if (does === "double") out = Buffer.concat([out.subarray(0, location), out.subarray(Math.floor(location / 2))]);
    if (does === "put")
      out = Buffer.concat([out.subarray(0, location), Buffer.from(text, "latin1"), out.subarray(location)]);
  }
  return out;
}

async function readAny(layout: string, bytes: Uint8Array): Promise<Findings> {
  const findings = new Findings();
  const catalogue = new Catalogue(kinds);
  await readSources([{ file: "given", layout: layoutOf(layout) }], catalogue, filesOf({ given: bytes }), findings);
  resolveReferences(catalogue, findings);
  return findings;
}

for (const [name, { layout, bytes }] of Object.entries(formats)) {
  test(`${name}: real bytes are read without an error`, async () => {
    assert.equal((await readAny(layout, await bytes())).hasErrors, false);
  });
  test(`${name}: random and damaged bytes end in findings or records`, async () => {
    const real = await bytes();
    let said = 0;
    const any = fc.oneof(
      { weight: 1, arbitrary: fc.uint8Array({ maxLength: 400 }) },
      {
        weight: 1,
        arbitrary: fc.uint8Array({ maxLength: 200 }).map((tail) => new Uint8Array([...real.subarray(0, 8), ...tail])),
      },
      { weight: 4, arbitrary: damage.map((changes) => damaged(real, changes)) },
    );
    await fc.assert(
      fc.asyncProperty(any, async (given) => {
        if ((await readAny(layout, given)).list().length > 0) said++;
      }),
      { numRuns: runs, includeErrorInReport: true },
    );
    assert.ok(said > runs / 5, `only ${said} of ${runs} gave findings`);
  });
}
