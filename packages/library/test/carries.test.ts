/** What a target has no place for, and what it asks of cells in parts: known before anything is written. */

import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import { Findings, valueOf, type Target } from "#src/index.js";
import { parseTarget, prepareBuild } from "#src/parts.js";
import { codes, kinds, one, pennywort, pennywortText, read, those } from "./support.js";

const shipped = (name: string): Target => {
  const findings = new Findings();
  const text = readFileSync(new URL(`../../targets/${name}.yaml`, import.meta.url), "utf8");
  const target = findings.took(parseTarget(text, name, kinds));
  assert.deepEqual(findings.list(), []);
  return target!;
};

const sources = [
  {
    layout: `
layout: range
format: { csv: { delimiter: ";" } }
rows: { each: product }
columns:
  Key: product.key
  Code: product.code
  Name: product.name@en
  Price: product.prices(price).amount
  Options: { field: product.optionGroups, as: { list: ",", of: { by: key } } }
  Parts: { field: product.components, as: { list: " + ", of: { quantity: x, holds: [quantity, variant] } } }
`,
    csv: "Key;Code;Name;Price;Options;Parts\na;A;A;1.00;g;\nb;B;B;2.00;;0xA\n",
  },
  {
    layout:
      'layout: options\nformat: { csv: { delimiter: ";" } }\nrows: { each: choice, of: option-group, grouped by: Group, shared cells: every row }\ncolumns:\n  Group: option-group.key\n  Title: option-group.name@en\n  Must: { field: option-group.required, as: { code words: { yes: true, no: false } } }\n  Choice: choice.key\n  Says: choice.name@en\n',
    csv: "Group;Title;Must;Choice;Says\ng;Branding;no;own;Own text\n",
  },
  {
    layout:
      'layout: sets\nformat: { csv: { delimiter: ";" } }\nrows: { each: assortment }\ncolumns:\n  Key: assortment.key\n  Rule: assortment.rule\n',
    csv: "Key;Rule\nnew;true\n",
  },
];

async function prepared(target: Target) {
  const { catalogue } = await read(sources);
  const findings = new Findings();
  findings.took(
    prepareBuild({ catalogue, target, holdBack: false, despite: new Set(), pictureNames: [], found: new Findings() }),
  );
  return findings.list();
}

test("states for kinds, fields, references and entries that a target has no place for them", async () => {
  const list = await prepared(pennywort());
  const kindsLost = those(list, "target/uncarried-kind").map((each) => (each.facts as { kind: string }).kind);
  assert.deepEqual(kindsLost, ["option-group", "choice", "assortment"]);
  const fields = those(list, "target/uncarried").map((each) => (each.facts as { field: string }).field);
  for (const field of ["product.optionGroups", "product.components.quantity"])
    assert.ok(fields.includes(field), `${field} is not among ${fields.join(", ")}`);
});

test("says where a cell in parts lacks a part, or has a quantity below the least", async () => {
  const list = await prepared(shipped("tollgate"));
  const missing = those(list, "target/part-missing");
  const columnsOf = (found: typeof missing) => found.map(({ facts }) => (facts as { column: string }).column);
  assert.deepEqual(columnsOf(missing), ["Options/choice/surcharge"]);
  const low = those(list, "target/out-of-range");
  assert.deepEqual(columnsOf(low), ["Parts/quantity"]);
  assert.ok(
    [...missing, ...low].every(({ at }) => at?.line !== undefined),
    "each at the line of its source",
  );
  assert.equal(one(list, "target/uncarried-kind").code, "target/uncarried-kind");
  assert.ok(!codes(list).includes("plan/no-order"));
});

const withStockSetting = pennywortText.replace(
  "settings:\n",
  "settings:\n  stock: { choices: [kept, not kept], preset: kept, drops: { not kept: [Stock] }, renames: { kept: { Barcode: GTIN } } }\n",
);

test("leaves out, or calls otherwise, the columns that the account's settings drop or rename", () => {
  const columnsWith = (settings: Record<string, string>) => {
    const findings = new Findings();
    const target = findings.took(parseTarget(withStockSetting, "p.yaml", kinds, { settings, at: undefined }));
    assert.deepEqual(findings.list(), []);
    return target!.files.get("items")!.layout.columns.map((column) => column.header);
  };
  const kept = columnsWith({});
  assert.ok(kept.includes("Stock") && kept.includes("GTIN") && !kept.includes("Barcode"));
  const not = columnsWith({ stock: "not kept" });
  assert.ok(!not.includes("Stock") && not.includes("Barcode"));
});

test("the account's languages say which columns there are, and which of them are needed", () => {
  const targetIn = (languages: string) => {
    const settings = { "shop languages": languages };
    return valueOf(parseTarget(pennywortText, "p.yaml", kinds, { settings, at: undefined }));
  };
  const headersOf = (languages: string): string[] =>
    targetIn(languages)
      .files.get("items")!
      .layout.columns.map(({ header }) => header as string)
      .filter((header) => / (en|de)$/.test(header));
  assert.equal(headersOf("en de").length, 10);
  assert.deepEqual(
    headersOf("de"),
    headersOf("en de").filter((header) => header.endsWith("de")),
  );
  assert.deepEqual(headersOf("de en").slice(0, 4), ["Title de", "Title en", "Text de", "Text en"]);
  const german = targetIn("de").files.get("items")!;
  assert.equal(german.rules.get("Title de")?.required, true);
  assert.equal(targetIn("en de").files.get("items")!.rules.get("Title de")?.required, false);
  assert.deepEqual(targetIn("de en").languages, ["de", "en"]);
});

test("a file for each further language is there only where the account has any", () => {
  const text = `target: p
version: 1
languages: [en, de]
settings:
  shop languages: { choices: [en de, de en, de], preset: en de, languages: { en de: [en, de], de en: [de, en], de: [de] } }
endpoints: { pictures: /pictures, upload: "/in/{name}", catalogue: /all }
files:
  items:
    layout:
      layout: items
      rows: { each: product }
      columns: { Item: product.key, "Title {main}": "product.name@{main}" }
  words:
    languages: ["{other}"]
    layout:
      layout: words
      rows: { each: product, found by: { column: Item, names: key } }
      columns: { Item: product.key, "Says {lang}": "product.searchText@{lang}" }
imports: [{ file: words, mode: update }, { file: items }]
`;
  const namesWith = (languages: string) => {
    const { files, slots } = valueOf(
      parseTarget(text, "p.yaml", kinds, { settings: { "shop languages": languages }, at: undefined }),
    );
    return [[...files.keys()], slots.map(({ name }) => name)];
  };
  assert.deepEqual(namesWith("de"), [["items"], ["items"]]);
  assert.deepEqual(namesWith("de en"), [
    ["items", "words-en"],
    ["words-en", "items"],
  ]);
});

test("settings that cannot be are refused at their line", () => {
  const cases: readonly (readonly [string, string, RegExp])[] = [
    ["    preset: en de", "    preset: en fr", /not a choice/],
    ["    preset: en de", "    preset: en de\n    drops: { en: [Titel] }", /no file has a column "Titel"/],
    ["    preset: en de", "    preset: en de\n    renames: { en: { Titel: Name } }", /no file has a column "Titel"/],
    ["    preset: en de", "    preset: en de\n    drops: { no: [Stock] }", /not a choice/],
    ["en: [en], de: [de] }", "en: [en] }", /languages of "de" are missing/],
    ["en: [en], de: [de] }", "en: [en], de: [nl] }", /"nl" is not a language of pennywort/],
    ["en: [en], de: [de] }", "en: [en], de: [de, de] }", /"de" occurs twice/],
    [
      "    languages: { en de",
      "  shop:\n    choices: [a, b]\n    preset: a\n    languages: { a: [en], b: [de] }\n  more:\n    choices: [en de, de en, en, de]\n    preset: en\n    languages: { en de",
      /setting "shop"/,
    ],
    ["        Barcode: variant.barcode", '        Barcode: "product.name@{other}"', /names of columns/],
  ];
  for (const [from, to, says] of cases) {
    assert.ok(pennywortText.includes(from), from);
    const text = pennywortText
      .replace(from, to)
      .replace(/ {2}shop languages:\n {4}choices: .*\n {4}preset: en de\n(?= {2}shop:)/, "");
    const findings = new Findings();
    assert.equal(findings.took(parseTarget(text, "p.yaml", kinds)), undefined, to);
    const { facts, at } = one(findings.list(), "target/mistake");
    assert.match(String((facts as { problem: unknown }).problem), says);
    const shown = text.split("\n")[(at?.line ?? 0) - 1] ?? "";
    assert.ok(
      to.split("\n").some((line) => shown.includes(line.trim())) || shown.includes(to),
      `${shown} at ${at?.line}`,
    );
  }
});

test("says a setting that there is not, and a value that it does not take", () => {
  for (const settings of [{ stocks: "kept" }, { stock: "keep" }]) {
    const findings = new Findings();
    assert.equal(
      findings.took(parseTarget(withStockSetting, "p.yaml", kinds, { settings, at: { file: "project.yaml" } })),
      undefined,
    );
    const mistake = one(findings.list(), "project/mistake");
    assert.equal(mistake.at?.file, "project.yaml");
    assert.ok((mistake.facts as { nearest: string | undefined }).nearest);
  }
});
