/** Exports of platforms in their own files: several make one catalogue, and an unchanged one shows no difference. */

import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import { Findings, reviewPlatform, valueOf, type Target, type TargetView } from "#src/index.js";
import { nothingHeldBack, parseTarget, writeLayout, writtenKind } from "#src/parts.js";
import { readExports } from "#src/workflow/exports.js";
import { codes, filesOf, kinds, one, read, recordIn } from "./support.js";

const shipped = (name: string): Target =>
  valueOf(parseTarget(readFileSync(new URL(`../../targets/${name}.yaml`, import.meta.url), "utf8"), name, kinds));

const csv = "format: { csv: { delimiter: ';' } }";
const goods = {
  file: "goods.csv",
  layout: `layout: goods
${csv}
rows: { each: variant, of: product, grouped by: P, shared cells: every row }
columns:
  P: product.key
  Id: product.id
  No: variant.code
  VId: variant.id
  Name: product.name@en
  Brand: { field: product.brand, as: { by: key } }
  Shelf: { field: product.categories, as: { by: key } }
  Wood: { axis: Wood, holds: value }
  Price: variant.prices(price).amount
  Stock: variant.stock(Barn).quantity
`,
  csv: "P;Id;No;VId;Name;Brand;Shelf;Wood;Price;Stock\nhive;11;H1;21;Hive;th;hives;Oak;9.5;3\nhive;11;H2;22;Hive;th;hives;Elm;8;\nlid;12;L1;;Lid;;full;;2;7\n",
};
const named = (kind: string, ...rows: readonly string[]) => ({
  file: `${kind}.csv`,
  layout: `layout: ${kind}\n${csv}\nrows: { each: ${kind} }\ncolumns: { Key: ${kind}.key, Id: ${kind}.id, Name: ${kind}.name@en${kind === "category" ? ", In: { field: category.parent, as: { by: key } }" : ""} }\n`,
  csv: `Key;Id;Name${kind === "category" ? ";In" : ""}\n${rows.join("\n")}\n`,
});
const sources = [
  named("brand", "th;31;Thornapple"),
  named("category", "hives;41;Hives;", "full;42;Full;hives"),
  { ...named("axis", "Wood;51;Wood"), file: "axis.csv" },
  {
    file: "values.csv",
    layout: `layout: values\n${csv}\nrows: { each: value }\ncolumns: { Key: value.key, Id: value.id, Axis: { field: value.axis, as: { by: key } }, Name: value.name@en }\n`,
    csv: "Key;Id;Axis;Name\nWood/Oak;61;Wood;Oak\nWood/Elm;62;Wood;Elm\n",
  },
  goods,
];

/** The files of a target, as it would export them. */
async function exported(target: Target, catalogue: TargetView) {
  const files: Record<string, Uint8Array> = {};
  const findings = new Findings();
  for (const { name, layouts } of target.files.values())
    for (const layout of layouts) {
      // Rows about variants are about singles too: they are not written twice.
      if (layout.link && layouts.some(({ shape }) => shape.parent.of === layout.shape.parent.name)) continue;
      const records = Array.from({ length: catalogue.table(writtenKind(layout, catalogue)).size }, (_, row) => row);
      const chunks = await writeLayout(catalogue, layout, { records, copiesShared: true }, findings);
      const bytes = Buffer.concat([...chunks]);
      // Rows of several kinds stand below one header.
      const known = files[`${name}.csv`];
      if (layout.format.is === "workbook") files[`${name}.xlsx`] = bytes;
      else files[`${name}.csv`] = known ? Buffer.concat([known, bytes.subarray(bytes.indexOf(10) + 1)]) : bytes;
    }
  assert.deepEqual(codes(findings.list()), []);
  return files;
}

for (const name of ["pennywort", "tollgate", "saltmarsh"])
  test(`a platform's unchanged own files show no difference: ${name}`, async () => {
    const target = shipped(name);
    const { catalogue, findings } = await read(sources);
    assert.deepEqual(codes(findings.list()), []);
    const files = await exported(target, catalogue);
    const own = new Findings();
    const given = Object.keys(files).map((file) => ({ file, files: filesOf(files) }));
    const held = await readExports(given, target, kinds, catalogue, own);
    assert.ok(held, JSON.stringify(own.list()));
    assert.deepEqual(reviewPlatform(catalogue, target, nothingHeldBack, held).differences, []);
    assert.equal(held.catalogue.table("product").size, 2);
    // One of several that is needed and not there is reported by its name.
    if (given.length > 1) {
      const lacking = new Findings();
      const rest = given.filter(({ file }) => file !== "goods.csv");
      assert.equal(await readExports(rest, target, kinds, catalogue, lacking), undefined);
      assert.deepEqual(one(lacking.list(), "compare/exports-missing").facts, { missing: ["goods"], target: name });
    }
  });

test("a review shows both sides of each record: what differs, what is missing, and what only the platform has", async () => {
  const target = shipped("saltmarsh");
  const { catalogue } = await read(sources);
  const there = await read(
    sources.map(({ file, layout, csv: text }) => ({
      file,
      layout,
      csv:
        file === "goods.csv"
          ? `${text.replace("Lid", "Cover").replace(/^hive;.*\n/m, "")}net;13;N1;;Net;;full;;1;1\n`
          : text,
    })),
  );
  const files = await exported(target, there.catalogue);
  const given = Object.keys(files).map((file) => ({ file, files: filesOf(files) }));
  const told = await readExports(given, target, kinds, catalogue, new Findings());
  const review = reviewPlatform(catalogue, target, nothingHeldBack, told!);
  const different = review.records.flatMap(({ kind, key, isAlone, fields }) =>
    isAlone
      ? [`${kind} ${key} alone`]
      : fields.flatMap(({ field, intended, onPlatform, isSame }) =>
          isSame ? [] : [`${kind} ${key} ${field}: ${intended} ${onPlatform}`],
        ),
  );
  assert.deepEqual(different, ["product lid name@en: Lid Cover", "product net alone", "variant H1 alone"]);
  assert.deepEqual(
    review.differences.map(({ at }) => at && `${at.line} ${at.column ?? ""}`),
    ["4 Name", undefined, "2 "],
  );
  assert.ok(review.records.some(({ fields }) => fields.length > 2 && fields.every(({ isSame }) => isSame)));
});

test("what is wrong with an export is reported: columns that it lacks, and cells that cannot be read", async () => {
  const target = shipped("pennywort");
  const { catalogue } = await read(sources);
  const files = await exported(target, catalogue);
  const [file = ""] = Object.keys(files);
  const text = new TextDecoder().decode(files[file]);
  const reported = async (changed: string) => {
    const findings = new Findings();
    const given = [{ file, files: filesOf({ [file]: changed }) }];
    assert.equal(await readExports(given, target, kinds, catalogue, findings), undefined);
    return findings.list();
  };
  const lacking = one(await reported(text.replace("Brand;", "Marke;")), "compare/other-export");
  assert.deepEqual(lacking.facts, { missing: ["Brand"], target: "pennywort" });
  const [unreadable] = await reported(text.replace("9,5", "9,5,5"));
  assert.deepEqual([unreadable?.code, unreadable?.at?.line], ["cell/not-a-decimal", 2]);
});

test("a document is known by its lists: those of another platform, a part of it, no whole document", async () => {
  const reported = async (text: string) => {
    const findings = new Findings();
    const given = [{ file: "held.json", files: filesOf({ "held.json": text }) }];
    const told = await readExports(given, shipped("pennywort"), kinds, undefined, findings);
    return { told, found: findings.list() };
  };
  const { told } = await reported('{ "items": [], "tree": [] }');
  assert.equal(told?.catalogue.table("product").size, 0, "a platform that has nothing yet");
  const lacking = one((await reported('{ "items": [] }')).found, "compare/other-export");
  assert.deepEqual(lacking.facts, { missing: ["/tree"], target: "pennywort" });
  assert.deepEqual(codes((await reported('{ "wares": [] }')).found), ["compare/other-export"]);
  for (const broken of ['{ "items": [], "tree": [', '{ "items": [}', "{"])
    assert.deepEqual(one((await reported(broken)).found, "compare/not-whole").at, { file: "held.json" }, broken);
});

test("an export of some records leads to others that it does not contain: that is reported, and they are left out", async () => {
  const item = { item: "a", goesWith: ["b"], spares: [], places: [], traits: [], pictures: [], codes: [{ code: "A" }] };
  const text = JSON.stringify({ items: [item], tree: [] });
  const findings = new Findings();
  const given = [{ file: "held.json", files: filesOf({ "held.json": text }) }];
  const told = await readExports(given, shipped("pennywort"), kinds, undefined, findings);
  const { facts, at } = one(findings.list(), "compare/names-missing");
  assert.deepEqual([facts, at?.pointer], [{ count: 1 }, "/items/0/goesWith/0"]);
  const relations = told && recordIn(told.catalogue, "product", "a")?.entries["relations"];
  assert.deepEqual(
    relations?.map(({ references }) => references["to"]),
    [undefined],
  );
});

test("a value that products call otherwise in another language is one, and that is reported", async () => {
  const item = (word: string, de: string) => ({
    item: word,
    traits: [{ en: "Size", de: "Größe" }],
    codes: [{ code: word.toUpperCase(), values: [{ en: "small", de }] }],
  });
  const text = JSON.stringify({ items: [item("a", "klein"), item("b", "winzig")], tree: [] });
  const findings = new Findings();
  const given = [{ file: "held.json", files: filesOf({ "held.json": text }) }];
  const told = await readExports(given, shipped("pennywort"), kinds, undefined, findings);
  assert.deepEqual(one(findings.list(), "compare/names-differ").facts, { count: 1 });
  assert.equal(told?.catalogue.table("value").size, 1);
});

const quayText = readFileSync(new URL("../../test/fennel-quay/target.yaml", import.meta.url), "utf8");
const quayWith = (exports: string): Target =>
  valueOf(parseTarget(`${quayText}exports:\n${exports}`, "fennel-quay.yaml", kinds));

/** How a platform might tell its wares in a form that it does not take. */
const toldForms: Readonly<
  Record<
    string,
    { readonly rows: string; readonly at: (name: string) => string; readonly child?: (name: string) => string }
  >
> = {
  "csv: { delimiter: '|' }": {
    rows: "{ each: variant, of: product, grouped by: no, shared cells: every row }",
    at: (name) => name,
  },
  "workbook: { kind: xlsx }": {
    rows: "{ each: variant, of: product, grouped by: no, shared cells: first row }",
    at: (name) => name,
  },
  "json: {}": {
    rows: "{ each: variant, of: product, element: /wares, child element: /sorts }",
    at: (name) => `/${name}`,
    child: (name) => `/sorts/${name}`,
  },
  "xml: {}": {
    rows: "{ each: variant, of: product, element: all/ware, child element: sort }",
    at: (name) => `'@${name}'`,
    child: (name) => `'sort/@${name}'`,
  },
};

for (const [format, { rows, at, child = at }] of Object.entries(toldForms))
  test(`a platform's export in a form of its own shows no difference: ${format}`, async () => {
    const isFlat = !rows.includes("element");
    const wares = `{ layout: told, format: { ${format} }, numbered: 1, rows: ${rows}, columns: { ${[
      `${at("no")}: product.key`,
      `${child("ticket")}: variant.code`,
      `${at("sign")}: product.name@en`,
      `${at("shelf")}: { field: product.categories, as: { by: key } }`,
      `${at("by")}: { field: product.brand, as: { by: name@en } }`,
      `${at("differs")}: { axis: 1, holds: name }`,
      `${child("is")}: { axis: 1, holds: value }`,
      `${child("pounds")}: { field: variant.prices(price).amount, as: decimal }`,
      `${child("crate")}: { field: variant.stock.quantity, as: integer }`,
    ].join(", ")} } }`;
    const shelves = `{ layout: places, format: { ${format} }, rows: { each: category${isFlat ? "" : `, element: ${format.startsWith("json") ? "/places" : "all/place"}`} }, columns: { ${[
      `${at("place")}: category.key`,
      `${at("within")}: { field: category.parent, as: { by: key } }`,
      `${at("label")}: category.name@en`,
    ].join(", ")} } }`;
    const target = quayWith(`  wares: { layouts: [${wares}] }\n  places: { layouts: [${shelves}] }\n`);
    const { catalogue } = await read(sources);
    const files: Record<string, Uint8Array> = {};
    for (const [name, { layouts }] of target.exports)
      for (const layout of layouts) {
        const records = Array.from({ length: catalogue.table(writtenKind(layout, catalogue)).size }, (_, row) => row);
        const findings = new Findings();
        files[`${name}.txt`] = Buffer.concat([
          ...(await writeLayout(catalogue, layout, { records, copiesShared: true }, findings)),
        ]);
        assert.deepEqual(findings.list(), []);
      }
    const given = Object.keys(files).map((file) => ({ file, files: filesOf(files) }));
    const own = new Findings();
    const held = await readExports(given, target, kinds, catalogue, own);
    assert.ok(held, JSON.stringify(own.list()));
    assert.deepEqual(reviewPlatform(catalogue, target, nothingHeldBack, held).differences, []);
    assert.equal(held.catalogue.table("product").size, 2);
    // What no export tells is not known: it is asked for by the fields.
    const lacking = new Findings();
    const rest = given.filter(({ file }) => file !== "places.txt");
    assert.equal(await readExports(rest, target, kinds, catalogue, lacking), undefined);
    const { missing } = one(lacking.list(), "compare/exports-missing").facts as { missing: readonly string[] };
    assert.ok(missing.includes("category.name@en") && missing.includes("category.parent"), missing.join());
  });

const signs = (format: string, element: string) =>
  `{ layout: signs, format: ${format}, rows: { each: product, element: '${element}' }, columns: { ${format.includes("xml") ? "'@no'" : "/no"}: product.key } }`;

for (const [name, format, element, text] of [
  ["a list that is the whole document", "{ json: {} }", "", '[{ "no": "lid" }, { "no": "hive" }]'],
  ["a document on each line", "{ json: { lines: true } }", "", '{ "no": "lid" }\n{ "no": "hive" }\n'],
] as const)
  test(`an export in JSON may be ${name}`, async () => {
    const target = quayWith(`  signs: { layouts: [${signs(format, element)}] }\n`);
    const findings = new Findings();
    const given = [{ file: "signs.json", files: filesOf({ "signs.json": text }) }];
    const told = await readExports(given, target, kinds, undefined, findings);
    assert.equal(told?.catalogue.table("product").size, 2, JSON.stringify(findings.list()));
  });

test("an element that a document in XML lacks does not count as an empty list: nothing is settled with it", async () => {
  const others = signs("{ xml: {} }", "all/box")
    .replace("layout: signs", "layout: boxes")
    .replace(/product/g, "brand");
  const target = quayWith(`  signs: { layouts: [${signs("{ xml: {} }", "all/ware")}, ${others}] }\n`);
  const findings = new Findings();
  const given = [{ file: "signs.xml", files: filesOf({ "signs.xml": '<all><ware no="lid"/></all>' }) }];
  assert.equal(await readExports(given, target, kinds, undefined, findings), undefined);
  assert.ok(codes(findings.list()).includes("read/no-element"), codes(findings.list()).join());
});

test("a document with several lists is read by a layout for each", async () => {
  const layouts = [
    "{ layout: goods, format: { json: {} }, rows: { each: product, element: /wares }, columns: { /no: product.key, /sign: product.name@en, /ticket: product.code, /on: { field: product.categories, as: { by: key } } } }",
    "{ layout: places, format: { json: {} }, rows: { each: category, element: /places }, columns: { /place: category.key, /label: category.name@en } }",
  ];
  const target = quayWith(`  all: { layouts: [${layouts.join(", ")}] }\n`);
  const text = JSON.stringify({
    wares: [{ no: "lid", sign: "Lid", ticket: "L1", on: "hives" }],
    places: [{ place: "hives", label: "Hives" }],
  });
  const { catalogue } = await read([
    {
      layout: `layout: g\n${csv}\nrows: { each: product }\ncolumns: { K: product.key, N: product.name@en, C: product.code, S: { field: product.categories, as: { by: key } } }`,
      csv: "K;N;C;S\nlid;Lid;L1;hives\n",
    },
    {
      layout: `layout: c\n${csv}\nrows: { each: category }\ncolumns: { K: category.key, N: category.name@en }`,
      csv: "K;N\nhives;Hives\n",
    },
  ]);
  const own = new Findings();
  const held = await readExports(
    [{ file: "all.json", files: filesOf({ "all.json": text }) }],
    target,
    kinds,
    catalogue,
    own,
  );
  assert.ok(held, JSON.stringify(own.list()));
  assert.deepEqual(reviewPlatform(catalogue, target, nothingHeldBack, held).differences, []);
  const broken = new Findings();
  const half = [{ file: "all.json", files: filesOf({ "all.json": text.slice(0, 60) }) }];
  assert.equal(await readExports(half, target, kinds, catalogue, broken), undefined);
  assert.ok(broken.hasErrors);
});
