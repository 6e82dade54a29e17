/** Every rule of columns, in files of every form: what the check reports is what the rehearsal refuses, and what it lets pass is taken. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { Findings, findingTable, valueOf } from "#src/index.js";
import { buildUpload, parseTarget, playUpload } from "#src/parts.js";
import { nodeSha256 } from "#src/node/index.js";
import { columnRules } from "#src/target/rules/rules.js";
import { filesOf, kinds, memorySink, read } from "./support.js";

const columnsOf = (sellable: "product" | "variant") => `
        Item: product.key
        Code: ${sellable}.code
        Title: product.name@en
        Seek: product.searchTitle@en
        Ean: product.searchText@en
        Sort: { field: product.sort, as: { code words: { G: goods, R: hire } } }
        Place: { field: product.categories, as: { list: "|", of: { path: /, by: name@en } } }
        Pictures: { field: product.pictures.file, as: { list: "|" } }
        Says: { field: product.pictures.alternative@en, as: { list: "|", blanks: true } }
        Price: { field: ${sellable}.prices(price).amount, as: decimal }
        Was: { field: ${sellable}.prices(was).amount, as: decimal }
        Least: { field: ${sellable}.quantityLeast, as: integer }
        Most: { field: ${sellable}.quantityMost, as: integer }`;

/** How the rows of a file can stand, with how such a file is processed. */
const forms: Readonly<Record<string, readonly [string, string, "product" | "variant"]>> = {
  "grouped rows": [
    "{ each: variant, of: product, grouped by: Item, shared cells: first row }",
    "{ refusal costs: record, looked up: at the end of the file, unknown names: leave out }",
    "variant",
  ],
  "own rows": [
    "{ each: variant, of: product, shared cells: own row, marker: { column: Row, parent: P, child: V }, joined by: { column: Item, names: key } }",
    "{ refusal costs: row }",
    "variant",
  ],
  "a row a record": ["{ each: product }", "{ refusal costs: row }", "product"],
};

function targetOf(form: string, rules: string, csv = "{}") {
  const [rows, importer, sellable] = forms[form]!;
  const text = `target: bothy
version: 1
languages: [en]
endpoints: { pictures: /pictures, upload: "/in/{name}", catalogue: /all }
files:
  goods:
    layout:
      layout: goods
      format: { csv: ${csv} }
      language: en
      rows: ${rows}
      columns:${columnsOf(sellable)}
    columns: { Place: { unknown: create${rules.startsWith("Place: { ") ? `, ${rules.slice(9)}` : " }"}${rules.startsWith("Place: { ") ? "" : `, ${rules}`} }
    importer: ${importer}
imports: [{ file: goods }]
`;
  return valueOf(parseTarget(text, "bothy.yaml", kinds));
}

const headers = [
  "Item",
  "Code",
  "Title",
  "Seek",
  "Ean",
  "Sort",
  "Place",
  "Pictures",
  "Says",
  "Price",
  "Was",
  "Least",
  "Most",
];
const usual: Readonly<Record<string, string>> = { Item: "a", Code: "A1", Title: "Kettle", Place: "Home", Price: "5" };

/** What the check reports of one product, and what the rehearsal makes of its row. */
async function met(form: string, rules: string, row: Readonly<Record<string, string>>, csv?: string) {
  const cells = { ...usual, ...row };
  const { catalogue } = await read([
    {
      layout: `layout: source\nformat: { csv: { delimiter: ";" } }\nrows: { each: product }\ncolumns:${columnsOf("product").replaceAll("by: name@en } } }", "by: name@en } }, missing: create }")}`,
      csv: `${headers.join(";")}\n${headers.map((header) => cells[header as keyof typeof cells] ?? "").join(";")}\n`,
    },
  ]);
  const target = targetOf(form, rules, csv);
  const sink = memorySink();
  const findings = new Findings();
  const pictures = new Map(["x.png", "y.png"].map((name) => [name, new Uint8Array([1])] as const));
  const built = await buildUpload(
    {
      catalogue,
      target,
      project: "p",
      pictures,
      holdBack: false,
      despite: new Set(Object.keys(findingTable)),
      sha256: nodeSha256,
      found: findings,
    },
    sink,
  );
  const reported = [...findings.list(), ...built.findings.list()].map(({ code }) => code);
  assert.ok(built.ok, JSON.stringify(built.findings.list()));
  const playAs = async (platform: typeof target) =>
    valueOf(await playUpload({ catalogue, target: platform, ...built.value, files: filesOf(sink.files) }));
  const verdict = await playAs(target);
  const written = Object.entries(sink.files).map(([name, bytes]) =>
    name.endsWith(".csv") ? new TextDecoder().decode(bytes) : "",
  );
  return { reported, verdict, playAs, written: written.join("") };
}
const margin =
  "Was: { condition: { holds: '!has(prices.was) || prices.was > prices.price * 2', otherwise: too dear } }";
const cases: readonly (readonly [
  string,
  string,
  string,
  Readonly<Record<string, string>>,
  Readonly<Record<string, string>>,
])[] = [
  ["required", "Seek: { required: true }", "target/required", {}, { Seek: "x" }],
  ["characters at most", "Title: { characters at most: 6 }", "target/too-long", { Title: "Kettles" }, {}],
  ["only", "Seek: { only: a-z }", "target/characters", { Seek: "A" }, { Seek: "a" }],
  ["trimmed", "Seek: { trimmed: true }", "target/characters", { Seek: "a " }, { Seek: "a" }],
  ["from", 'Price: { from: "5" }', "target/out-of-range", { Price: "4.99" }, {}],
  ["to", 'Price: { to: "5" }', "target/out-of-range", { Price: "5.01" }, {}],
  ["places at most", "Price: { places at most: 1 }", "target/out-of-range", { Price: "5.25" }, { Price: "5.5" }],
  ["gtin", "Ean: { gtin: true }", "target/not-fitting", { Ean: "4006381333932" }, { Ean: "4006381333931" }],
  [
    "entries at most",
    "Pictures: { entries at most: 1 }",
    "target/too-many-entries",
    { Pictures: "x.png|y.png" },
    { Pictures: "x.png" },
  ],
  ["deep at most", "Place: { deep at most: 1 }", "target/too-deep", { Place: "Home/Tea" }, {}],
  ["above", "Was: { above: Price }", "target/not-fitting", { Was: "5" }, { Was: "6" }],
  [
    "not below",
    "Most: { not below: Least }",
    "target/not-fitting",
    { Least: "3", Most: "2" },
    { Least: "2", Most: "2" },
  ],
  [
    "as many as",
    "Says: { as many as: Pictures }",
    "target/not-fitting",
    { Pictures: "", Says: "one" },
    { Pictures: "x.png", Says: "one" },
  ],
  ["together with", "Least: { together with: Most }", "target/half", { Least: "1" }, { Least: "1", Most: "2" }],
  ["condition", margin, "target/condition", { Was: "9" }, { Was: "11" }],
  [
    "only if",
    "Was: { only if: { field: sort, is: hire } }",
    "target/not-fitting",
    { Was: "6" },
    { Was: "6", Sort: "R" },
  ],
  [
    "needed if",
    "Was: { needed if: { field: sort, is: hire } }",
    "target/needed",
    { Sort: "R" },
    { Sort: "R", Was: "6" },
  ],
];

for (const form of Object.keys(forms))
  for (const [word, rules, code, bad, good] of cases)
    test(`${form}: what "${word}" forbids is reported and refused, what it allows is taken`, async () => {
      const wrong = await met(form, rules, bad);
      assert.ok(wrong.reported.includes(code as never), wrong.reported.join());
      assert.ok(wrong.verdict.counts.refused > 0, "the rehearsal refuses it");
      const right = await met(form, rules, good);
      assert.ok(!right.reported.includes(code as never), right.reported.join());
      assert.equal(right.verdict.counts.refused, 0, JSON.stringify(right.verdict.files));
    });

test("every rule that a row can break is in the table of cases", () => {
  const checked = Object.entries(columnRules).flatMap(([word, kind]) =>
    "cell" in kind || "row" in kind ? [word] : [],
  );
  const elsewhere = ["holds", "over", "characters recommended", "parts", "once"];
  const covered = new Set(cases.map(([word]) => word));
  assert.deepEqual(
    checked.filter((word) => !covered.has(word) && !elsewhere.includes(word)),
    [],
  );
});

for (const form of Object.keys(forms))
  test(`texts that begin like formulas, in ${form}: as they are, neutralised and taken back, or refused`, async () => {
    const row = { Title: "=1+1", Seek: "'-it" };
    const plain = await met(form, "Item: {}", row);
    assert.ok(plain.reported.includes("target/formula"));
    assert.equal(plain.verdict.rebuilt, true);
    const neutral = await met(form, "Item: {}", row, "{ formulas: neutralise }");
    assert.ok(!neutral.reported.includes("target/formula"));
    assert.ok(neutral.written.includes("'=1+1") && neutral.written.includes("''-it"), neutral.written);
    assert.equal(neutral.verdict.rebuilt, true, JSON.stringify(neutral.verdict.differences));
    const refused = await met(form, "Item: {}", row, "{ formulas: refuse }");
    assert.ok(refused.reported.includes("write/cannot-be-written"), refused.reported.join());
    assert.ok(!refused.written.includes("=1+1"));
    const taken = await plain.playAs(targetOf(form, "Item: {}", "{ formulas: refuse }"));
    assert.equal(taken.counts.refused, 1, "the platform refuses what it was not written for");
  });

test("a source that takes no formulas: each is a finding at its cell, and the cell is blank", async () => {
  const layout = `layout: source\nformat: { csv: { delimiter: ";", formulas: refuse } }\nrows: { each: product }\ncolumns:\n  Item: product.key\n  Title: product.name@en\n  Size: product.searchTitle@en\n`;
  const { catalogue, findings } = await read([{ layout, csv: "Item;Title;Size\na;=1+1;-5,5\n" }]);
  const [found, ...more] = findings.list().filter(({ code }) => code === "cell/formula");
  assert.deepEqual([found?.at?.line, found?.at?.column, more.length], [2, "Title", 0]);
  const products = catalogue.table("product");
  assert.equal(products.text("name@en", 0), undefined);
  assert.equal(products.text("searchTitle@en", 0), "-5,5");
});
