/** The files of a target in every format: what `build` writes reads back as the records, and calibrating goes through the bytes. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { Findings, type Layout, type Plan, type Target, type TargetView } from "#src/index.js";
import {
  buildUpload,
  calibrateLayout,
  Catalogue,
  parseTarget,
  readSources,
  resolveReferences,
  uploadRows,
  writeLayout,
} from "#src/parts.js";
import { detectFormat } from "#src/formats/drivers/drivers.js";
import { nodeSha256 } from "#src/node/index.js";
import { base, sheetOf, shop, sorted } from "./shops.js";
import { filesOf, kinds, layoutOf, memorySink, one, read } from "./support.js";

const runs = Math.ceil(Number(process.env["PROPERTY_RUNS"] ?? 60) / 3);

const targetText = (file: string) => `target: bothy
version: 1
languages: [en, de]
endpoints: { pictures: /pictures, upload: "/in/{name}", catalogue: /all }
files:
  goods:
${file.replace(/^/gm, "    ")}
    importer: { refusal costs: file, looked up: at the end of the file, unknown names: create }
imports:
  - { file: goods }
`;
const plain = `layout:
  layout: goods
  rows: { each: product }
  columns: { Key: product.key, Name: product.name@en }`;

/** The target with other layouts for its file: what its platform cannot play is refused only when a target is loaded. */
function withLayouts(layouts: readonly Layout[]): Target {
  const findings = new Findings();
  const target = findings.took(parseTarget(targetText(plain), "bothy.yaml", kinds));
  assert.ok(target, JSON.stringify(findings.list()));
  const file = { ...target.files.get("goods")!, layout: layouts[0]!, layouts };
  const slots = target.slots.map((slot) => ({ ...slot, creates: ["category", "product", "variant"] }));
  return { ...target, files: new Map([["goods", file]]), slots };
}

interface Built {
  readonly files: Readonly<Record<string, Uint8Array>>;
  readonly plan: Plan;
}

async function built(catalogue: TargetView, target: Target): Promise<Built> {
  const sink = memorySink();
  const result = await buildUpload(
    {
      catalogue,
      target,
      project: "p",
      pictures: new Map(),
      holdBack: false,
      despite: new Set(["check/picture-missing"]),
      sha256: nodeSha256,
      found: new Findings(),
    },
    sink,
  );
  assert.ok(result.ok, JSON.stringify(result.findings.list().slice(0, 3)));
  return { files: sink.files, plan: result.value.plan };
}

const documentLayout = (
  format: string,
  element: string,
  at: (element: string, name: string) => string,
) => `layout: goods
format: ${format}
numbered: 2
rows: { each: variant, of: product, element: ${element}, child element: ${at("", "versions")} }
lanes:
  tiers: { entries: variant.prices, with: { role: tier }, element: ${at(at("", "versions"), "tiers")} }
  shots: { entries: product.pictures, with: { role: main }, element: ${at("", "shots")} }
columns:
  ${at("", "key")}: product.key
  ${at("", "en")}: product.name@en
  ${at("", "de")}: product.name@de
  ${at("", "axis{n}")}: { axis: "{n}", holds: name }
  ${at("", "axis{n}de")}: { axis: "{n}", holds: name@de }
  ${at(at("", "versions"), "code")}: variant.code
  ${at(at("", "versions"), "value{n}")}: { axis: "{n}", holds: value }
  ${at(at("", "versions"), "value{n}de")}: { axis: "{n}", holds: value@de }
  ${at(at("", "versions"), "price")}: { field: variant.prices(price).amount, as: decimal }
  ${at(at("", "versions"), "shed")}: { field: variant.stock(Shed).quantity, as: integer }
  ${at(at("", "versions"), "loft")}: { field: variant.stock(Loft).quantity, as: integer }
  ${at(at(at("", "versions"), "tiers"), "from")}: { field: tiers.quantityFrom, as: integer }
  ${at(at(at("", "versions"), "tiers"), "each")}: { field: tiers.amount, as: decimal }
  ${at(at("", "shots"), "file")}: shots.file
  ${at(at("", "shots"), "alt")}: shots.alternative@en
`;
const json = (element: string, name: string) => `${element}/${name}`;
const xml = (element: string, name: string) => (element === "" ? name : `${element}/${name}`);
const documents: Readonly<Record<string, string>> = {
  JSON: documentLayout("{ json: { envelope: { version: 2 } } }", "/range/items", json),
  "JSON Lines": documentLayout("{ json: { lines: true } }", '""', json),
  XML: documentLayout("{ xml: {} }", "/range/item", xml),
};

for (const [name, yaml] of Object.entries(documents))
  test(`an upload in ${name} reads back as the records, and its elements stand where tracing says`, async () => {
    const layout = layoutOf(yaml);
    const target = withLayouts([layout]);
    await fc.assert(
      fc.asyncProperty(shop, async (given) => {
        const { catalogue } = await read([{ layout: base, csv: sheetOf(given) }]);
        const { files, plan } = await built(catalogue, target);
        const file = Object.keys(files).find((one) => /goods\.(jsonl?|xml)$/.test(one))!;
        const again = new Catalogue(kinds);
        const findings = new Findings();
        await readSources([{ file, layout }], again, filesOf(files), findings);
        assert.deepEqual(sorted(resolveReferences(again, findings).catalogue), sorted(catalogue));
        const products = again.table("product");
        const step = plan.steps.find((one) => one.is === "upload");
        assert.ok(step?.is === "upload");
        for (const { row, line } of uploadRows(catalogue, target, step, step.files[0]!, { isLeftOut: () => false })
          .rows) {
          const there = products.find(catalogue.table("product").key(row.parent))!;
          assert.equal(line, products.line(there), Buffer.from(files[file]!).toString());
        }
      }),
      { numRuns: runs },
    );
  });

test("layouts that name sheets of their own are sheets of one workbook", async () => {
  const sheetOfKind = (kind: string, name: string) =>
    layoutOf(
      `layout: ${name}\nformat: { workbook: { sheet: ${name}, kind: xls } }\nrows: { each: ${kind} }\ncolumns:\n  ${name} key: ${kind}.key\n  ${name} name: ${kind}.name@en\n`,
    );
  const layouts = [sheetOfKind("category", "Shelves"), sheetOfKind("product", "Goods")];
  const { catalogue } = await read([
    {
      layout:
        "layout: a\nrows: { each: product }\ncolumns:\n  Key: product.key\n  Name: product.name@en\n  Shelf: { field: product.categories, as: { by: name@en }, missing: create }\n",
      csv: "Key,Name,Shelf\nhive,Hive,Bees\nbox,Box,Wood\n",
    },
  ]);
  const { files } = await built(catalogue, withLayouts(layouts));
  const file = Object.keys(files).find((name) => name.endsWith(".xls"))!;
  const again = new Catalogue(kinds);
  const findings = new Findings();
  await readSources(
    layouts.map((layout) => ({ file, layout })),
    again,
    filesOf(files),
    findings,
  );
  assert.deepEqual(findings.list(), []);
  const keysOf = (kind: string) => {
    const table = again.table(kind);
    return Array.from({ length: table.size }, (_, row) => table.key(row));
  };
  assert.deepEqual(keysOf("product"), ["hive", "box"]);
  assert.deepEqual(keysOf("category"), ["Bees", "Wood"]);
});

/** Each is written at the line where it stands in a target. */
const refused: Readonly<Record<string, readonly [layout: string, line: number]>> = {
  "an encoding that is only read": [
    "layout: goods\nformat: { csv: { encoding: shift_jis } }\nrows: { each: product }\ncolumns: { Key: product.key }",
    9,
  ],
  "cells that are joined where no header names them": [
    "layout: goods\nheader: none\ncells: { A: { split: '-', into: [X, Y] } }\nrows: { each: product }\ncolumns: { X: product.key, Y: product.code }",
    10,
  ],
  "groups that are found": [
    "layout: goods\nrows:\n  each: variant\n  of: product\n  grouped by: Key\n  found by: { column: Item, names: key }\ncolumns: { Key: product.key, Code: variant.code }",
    13,
  ],
};

for (const [name, [layout, line]] of Object.entries(refused))
  test(`refused when a target is loaded: ${name}`, () => {
    const given = `layout:\n${layout.replace(/^/gm, "  ")}`;
    const result = parseTarget(targetText(given), "bothy.yaml", kinds);
    assert.ok(!result.ok);
    const found = one(result.findings.list(), "target/mistake");
    assert.deepEqual([found.at?.file, found.at?.line], ["bothy.yaml", line]);
  });

test("refused when a target is loaded: layouts that name sheets of their own", () => {
  const sheet = (name: string) =>
    `layout: { layout: goods, format: { workbook: { sheet: ${name} } }, rows: { each: product }, columns: { Key: product.key } }`;
  const given = `${sheet("One")}\nmore: [{ ${sheet("Two")} }]`;
  const result = parseTarget(targetText(given), "bothy.yaml", kinds);
  const found = one(result.findings.list(), "target/mistake");
  assert.ok(!result.ok && JSON.stringify(found.facts).includes("several sheets"), JSON.stringify(found));
});

const text = "Key,Name\r\nhive,Bienenstöcke für Anfänger\r\nbox,Zarge – groß\r\n";

for (const encoding of ["utf-8", "utf-16le", "utf-16be", "windows-1252", "macintosh"])
  test(`calibrating writes and reads ${encoding}`, async () => {
    const layout = layoutOf(
      `layout: goods\nformat: { csv: { encoding: ${encoding}, quote: "'" } }\nrows: { each: product }\ncolumns: { Key: product.key, Name: product.name@de }\n`,
    );
    const first = await read([
      {
        layout: "layout: a\nrows: { each: product }\ncolumns: { Key: product.key, Name: product.name@de }\n",
        csv: text,
      },
    ]);
    const chunks = await writeLayout(first.catalogue, layout, { records: [0, 1] }, first.findings);
    const bytes = Buffer.concat([...chunks]);
    assert.equal(bytes.equals(Buffer.from(text)), encoding === "utf-8");
    const result = await calibrateLayout("goods.csv", layout, kinds, filesOf({ "goods.csv": bytes }));
    assert.ok(result.ok);
    assert.deepEqual(
      result.value.columns.map(({ cells, equal }) => [cells, equal]),
      [
        [2, 2],
        [2, 2],
      ],
    );
    assert.deepEqual(result.findings.list(), []);
  });

test("calibrating shows what a format loses, and says when it is written in another", async () => {
  const columns = "rows: { each: product }\ncolumns: { Key: product.key, Name: product.name@de }\n";
  const narrow = layoutOf(`layout: goods\nformat: { csv: { encoding: windows-1251 } }\n${columns}`);
  const result = await calibrateLayout("goods.csv", narrow, kinds, filesOf({ "goods.csv": "Key,Name\nhive,x\n" }));
  assert.ok(result.ok && result.findings.list().length === 0);
  const japanese = layoutOf(`layout: goods\nformat: { csv: { encoding: shift_jis } }\n${columns}`);
  const bytes = Buffer.concat([Buffer.from("Key,Name\nhive,"), Buffer.from([0x96, 0x49]), Buffer.from("\n")]);
  const other = await calibrateLayout("goods.csv", japanese, kinds, filesOf({ "goods.csv": bytes }));
  assert.ok(other.ok);
  assert.deepEqual(
    other.value.columns.map(({ equal }) => equal),
    [1, 1],
  );
  assert.equal(one(other.findings.list(), "calibrate/form-not-written").severity, "note");
});

test("the format of a written file is found from its beginning", async () => {
  const first = await read([
    { layout: "layout: a\nrows: { each: product }\ncolumns: { Key: product.key, Name: product.name@de }\n", csv: text },
  ]);
  const sheet = "rows: { each: product }\ncolumns: { Key: product.key, Name: product.name@de }\n";
  const written: Readonly<Record<string, string>> = {
    "csv utf-8": `format: { csv: {} }\n${sheet}`,
    "csv utf-16": `format: { csv: { encoding: utf-16le, mark: true } }\n${sheet}`,
    "workbook xlsx": `format: { workbook: {} }\n${sheet}`,
    "workbook xls": `format: { workbook: { kind: xls } }\n${sheet}`,
    "workbook ods": `format: { workbook: { kind: ods } }\n${sheet}`,
    "json false": "format: { json: {} }\nrows: { each: product, element: /items }\ncolumns: { /no: product.key }\n",
    "json true":
      'format: { json: { lines: true } }\nrows: { each: product, element: "" }\ncolumns: { /no: product.key }\n',
    xml: "format: { xml: {} }\nrows: { each: product, element: /shop/item }\ncolumns: { no: product.key }\n",
  };
  for (const [name, yaml] of Object.entries(written)) {
    const layout = layoutOf(`layout: any\n${yaml}`);
    const [bytes] = await writeLayout(first.catalogue, layout, { records: [0, 1] }, first.findings);
    const found = detectFormat(bytes!.subarray(0, 4_096));
    const [is, more] = name.split(" ");
    assert.equal(found.is, is, name);
    if (found.is === "workbook") assert.equal(found.kind, more);
    if (found.is === "json") assert.equal(String(found.lines), more);
  }
  assert.equal(detectFormat(new Uint8Array(0)).is, "csv");
});
