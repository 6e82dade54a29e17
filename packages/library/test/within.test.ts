/** Names within a product: option groups and properties that belong to one product, and mean nothing on another. */

import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import fc from "fast-check";
import { findingTable, Findings, plainRecords, targetsOf, valueOf, type ResolvedCatalogue } from "#src/index.js";
import {
  buildUpload,
  Catalogue,
  compileLayout,
  parseGiven,
  parseTarget,
  playUpload,
  readSource,
  resolveReferences,
  writeSheet,
} from "#src/parts.js";
import { keyWithin } from "#src/catalogue/made-key.js";
import { nodeSha256 } from "#src/node/index.js";
import { givenLayout } from "#src/schemas.js";
import { codes, filesOf, kinds, layoutOf, memorySink, one, read, those, type Given } from "./support.js";

const runs = Number(process.env["PROPERTY_RUNS"] ?? 60) * 5;
const csv = "format: { csv: { delimiter: ';' } }";
const choices =
  "as: { list: '|', of: { parts: ':', holds: [name@en, { field: choice, as: { list: ',', of: { parts: '=', holds: [name@en, surcharge] } } }] } }";
const goods = (columns: string, ...rows: readonly string[]): Given => ({
  file: "goods.csv",
  layout: `layout: goods\n${csv}\nrows: { each: product }\ncolumns:\n  Key: product.key\n${columns}`,
  csv: `${rows.join("\n")}\n`,
});
const options = `  Options: { field: product.optionGroups, ${choices}, missing: create, within: product }\n`;

const groupsOf = (catalogue: ResolvedCatalogue, product: number): Record<string, string[]> => {
  const [groups, choice] = [catalogue.table("option-group"), catalogue.table("choice")];
  return Object.fromEntries(
    targetsOf(catalogue, catalogue.table("product"), "optionGroups", product).map((group) => [
      groups.key(group),
      [...choice.childrenOf(group)].map((row) => `${choice.text("name@en", row)}=${choice.text("surcharge", row)}`),
    ]),
  );
};

test("option groups of one name belong to each product, with choices of its own", async () => {
  const { catalogue, findings } = await read([
    goods(options, "Key;Options", "kit;First aid:none=0,small=4", "tent;First aid:large=9"),
  ]);
  assert.deepEqual(codes(findings.list()), ["resolve/created", "resolve/created"]);
  assert.deepEqual(groupsOf(catalogue, 0), { "kit/First aid": ["none=0", "small=4"] });
  assert.deepEqual(groupsOf(catalogue, 1), { "tent/First aid": ["large=9"] });
  const groups = catalogue.table("option-group");
  assert.deepEqual(targetsOf(catalogue, groups, "product", 1), [1]);
});

test("a sheet of its own tells of such groups: by product and name, whatever slashes they have", async () => {
  const sheet: Given = {
    file: "groups.csv",
    layout: `layout: groups\n${csv}\nrows: { each: choice, of: option-group, grouped by: Group }\ncolumns:\n  For: { field: option-group.product, as: { by: key } }\n  Group: option-group.name@en\n  Must: { field: option-group.required, as: { code words: { yes: true } } }\n  Choice: choice.name@en\n`,
    csv: "For;Group;Must;Choice\na;b/c;yes;S\n;b/c;;M\na/b;c;;L\na;c;;T\n;c;;U\n",
  };
  const names = "  Options: { field: product.optionGroups, as: { list: '|', of: { by: name@en } }, within: product }\n";
  const { catalogue, findings } = await read([sheet, goods(names, "Key;Options", "a;b/c|c", "a/b;c")]);
  assert.deepEqual(codes(findings.list()), []);
  assert.deepEqual(groupsOf(catalogue, 0), {
    "a/b\\/c": ["S=undefined", "M=undefined"],
    "a/c": ["T=undefined", "U=undefined"],
  });
  assert.deepEqual(groupsOf(catalogue, 1), { "a/b/c": ["L=undefined"] });
  assert.equal(catalogue.table("option-group").text("required", 0), "true");
});

test("a name within a product leads to no record of another, and one of all to none of a product", async () => {
  const groups: Given = {
    layout: `layout: groups\n${csv}\nrows: { each: option-group }\ncolumns:\n  For: { field: option-group.product, as: { by: key } }\n  Group: option-group.name@en\n`,
    csv: "For;Group\n;Engraving\na;Size\n",
  };
  const columns =
    "  Own: { field: product.optionGroups, as: { by: name@en }, within: product }\n  All: { field: product.visibleTo, as: { by: name@en }, missing: create }\n";
  const within = await read([groups, goods(columns, "Key;Own;All", "a;Size;", "b;Size;", "c;Engraving;")]);
  assert.deepEqual(
    those(within.findings.list(), "resolve/dangling").map(({ at }) => at?.line),
    [3, 4],
  );
  const shared = "  All: { field: product.optionGroups, as: { by: name@en } }\n";
  const ofAll = await read([groups, goods(shared, "Key;All", "a;Size", "b;Engraving")]);
  assert.deepEqual(
    those(ofAll.findings.list(), "resolve/dangling").map(({ at }) => at?.line),
    [2],
  );
});

test("properties belong to products in the same way, and columns that are called by a property are of all products", async () => {
  const columns =
    "  Facts: { field: product.properties, as: { list: '|', of: { parts: ':', holds: [{ field: property, as: { by: name@en } }, value] } }, missing: create, within: product }\n  Volts: product.properties(Volts).value\n";
  const { catalogue } = await read([goods(columns, "Key;Facts;Volts", "a;Volts:12|Age:3;230", "b;Age:4;")]);
  const properties = catalogue.table("property");
  const keys = Array.from({ length: properties.size }, (_, row) => properties.key(row)).sort();
  assert.deepEqual(keys, ["Volts", "a/Age", "a/Volts", "b/Age"]);
});

test("names in another language are given to the groups of the product", async () => {
  const findings = new Findings();
  const catalogue = new Catalogue(kinds);
  const german =
    "  Optionen: { field: product.optionGroups, as: { list: '|', of: { by: name@de } }, within: product }\n";
  for (const { file = "", layout, csv: text, translates } of [
    { ...goods(options, "Key;Options", "kit;First aid:none=0", "tent;First aid:large=9"), translates: false },
    { ...goods(german, "Key;Optionen", "tent;Verbandskasten"), file: "de.csv", translates: true },
  ])
    await readSource(
      { file, layout: layoutOf(layout as string), translates },
      catalogue,
      filesOf({ [file]: text }),
      findings,
    );
  const groups = resolveReferences(catalogue, findings).catalogue.table("option-group");
  assert.deepEqual(codes(findings.list()), ["resolve/created", "resolve/created"]);
  assert.deepEqual(
    [0, 1].map((row) => groups.text("name@de", row)),
    [undefined, "Verbandskasten"],
  );
});

test("a platform that keeps option groups with each product gets each product's own", async () => {
  const text = readFileSync(new URL("../../targets/tollgate.yaml", import.meta.url), "utf8");
  const target = valueOf(parseTarget(text, "tollgate", kinds));
  const told = options.replace("[name@en, {", "[name@en, required, {").replace("surcharge]", "surcharge, surchargeIs]");
  const { catalogue, findings } = await read([
    goods(
      `${told}  Code: product.code\n  Name: product.name@en\n  Price: product.prices(price).amount\n`,
      "Key;Options;Code;Name;Price",
      "kit;Size:yes:S=1=amount,M=2=amount;K-1;Kit;3",
      "tent;Size:no:L=3=percent;T-1;Tent;4",
    ),
  ]);
  assert.deepEqual(codes(findings.list()), ["resolve/created", "resolve/created"]);
  const sink = memorySink();
  const despite = new Set(Object.keys(findingTable));
  const given = { project: "p", pictures: new Map(), holdBack: false, despite, sha256: nodeSha256 };
  const upload = valueOf(await buildUpload({ catalogue, target, ...given, found: new Findings() }, sink));
  const played = valueOf(await playUpload({ catalogue, target, ...upload, files: filesOf(sink.files) }));
  const records = plainRecords(played.held.catalogue);
  const choices = records.filter(({ kind }) => kind === "choice");
  assert.deepEqual(
    records
      .filter(({ kind }) => kind === "option-group")
      .map(({ key, texts, references }) => [
        references["product"],
        texts["name@en"],
        texts["required"],
        choices
          .filter(({ of }) => of === key)
          .map(({ texts: own }) => [own["name@en"], own["surcharge"], own["surchargeIs"]]),
      ]),
    [
      [
        ["kit"],
        "Size",
        "true",
        [
          ["S", "1", "amount"],
          ["M", "2", "amount"],
        ],
      ],
      [["tent"], "Size", "false", [["L", "3", "percent"]]],
    ],
  );
  assert.deepEqual(played.differences, []);
});

test("what would lead elsewhere when it is read again is not written", async () => {
  const groups: Given = {
    layout: `layout: groups\n${csv}\nrows: { each: option-group }\ncolumns:\n  No: option-group.key\n  For: { field: option-group.product, as: { by: key } }\n  Group: option-group.name@en\n`,
    csv: "No;For;Group\n1;;Engraving\n2;a;Size\n3;b;Wood\n",
  };
  const keys = "  Groups: { field: product.optionGroups, as: { list: '|', of: { by: key } } }\n";
  const { catalogue } = await read([groups, goods(keys, "Key;Groups", "a;1|2", "b;2|3", "c;1", "d;3")]);
  const written = (column: string) => {
    const findings = new Findings();
    const layout = layoutOf(String(goods(`  Groups: ${column}\n`).layout));
    const { rows } = writeSheet(catalogue, layout, { records: [0, 1, 2, 3] }, findings);
    const cells = [...rows].map(([, cell]) => cell);
    return [
      cells,
      those(findings.list(), "write/cannot-be-written").map(({ facts }) => (facts as { text: string }).text),
    ];
  };
  const byName = "as: { list: '|', of: { by: name@en } }";
  assert.deepEqual(written(`{ field: product.optionGroups, ${byName}, within: product }`), [
    ["", "", "", ""],
    ["Engraving", "Size", "Engraving", "Wood"],
  ]);
  assert.deepEqual(written(`{ field: product.optionGroups, ${byName} }`), [
    ["", "", "Engraving", ""],
    ["Size", "Size", "Wood"],
  ]);
});

test("where names cannot count within a product is refused at its line", () => {
  const mistakeOf = (column: string, rows = "{ each: product }", key = "product.key") => {
    const findings = new Findings();
    const yaml = `layout: goods\n${csv}\nrows: ${rows}\ncolumns:\n  Key: ${key}\n  It: ${column}\n`;
    const given = valueOf(parseGiven(yaml, "layout.yaml", givenLayout));
    assert.ok(!findings.took(compileLayout(given.value, given.at, kinds)));
    const found = one(findings.list(), "layout/mistake");
    assert.ok(found.at?.line === 3 || found.at?.line === 6);
    return String((found.facts as { problem: unknown }).problem);
  };
  assert.match(mistakeOf("{ field: product.brand, as: { by: name }, within: product }"), /belong to no other/);
  assert.match(mistakeOf("{ field: product.optionGroups, as: { by: name }, within: category }"), /belong to a product/);
  assert.match(mistakeOf("{ field: product.optionGroups, as: { by: key }, within: product }"), /by their names/);
  assert.match(mistakeOf("{ field: product.name, within: product }"), /"within" is not for/);
  assert.match(
    mistakeOf(
      "option-group.product",
      "{ each: choice, of: option-group, grouped by: Key, groups: scattered }",
      "option-group.name",
    ),
    /tells groups apart/,
  );
});

test("names within a product are made where it names them; a target in which nothing would make them is refused at its line", () => {
  const target = (column: string, unknown = "create") =>
    parseTarget(
      `target: bothy
version: 1
languages: [en]
endpoints: { pictures: /pictures, upload: "/in/{name}", catalogue: /all }
importer: { refusal costs: file, looked up: at the end of the file, unknown names: ${unknown} }
files:
  goods:
    layout:
      layout: goods
      format: { csv: {} }
      rows: { each: product }
      columns:
        No: product.key
        It: ${column}
imports: [{ file: goods }]
`,
      "bothy.yaml",
      kinds,
    );
  const asList = "as: { list: '|', of: { by: name@en } }";
  assert.ok(target(`{ field: product.optionGroups, ${asList} }`).ok);
  for (const column of [
    `{ field: product.optionGroups, ${asList}, within: product }`,
    `{ field: product.properties.property, ${asList}, within: product }`,
  ]) {
    assert.ok(target(column).ok);
    const refused = target(column, "leave out");
    const found = one(refused.findings.list(), "target/mistake");
    assert.ok(!refused.ok);
    assert.equal(found.at?.line, 14);
  }
});

test("keys of two parts are different wherever one of the parts is", () => {
  const text = fc.string({ unit: fc.constantFrom("/", "\\", " ", "a") });
  fc.assert(
    fc.property(
      fc.option(text, { nil: undefined }),
      fc.array(text, { minLength: 1, maxLength: 3 }),
      fc.option(text, { nil: undefined }),
      fc.array(text, { minLength: 1, maxLength: 3 }),
      (one, names, other, others) => {
        fc.pre(JSON.stringify([one, names]) !== JSON.stringify([other, others]));
        assert.notEqual(keyWithin(one, ...names), keyWithin(other, ...others));
      },
    ),
    { numRuns: runs * 20 },
  );
});
