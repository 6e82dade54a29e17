/** Drafting a layout from a sample, and what a guide states for one. */

import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import * as xlsx from "@e965/xlsx";
import { strFromU8, unzipSync } from "fflate";
import { Findings, writeWorkbook, type Draft } from "#src/index.js";
import {
  calibrateLayout,
  columnGuide,
  draftLayout,
  emptyWorkbook,
  guideMarkdown,
  lookAt,
  parseTarget,
} from "#src/parts.js";
import { languageOf } from "#src/project/guide-example.js";
import { cellJudge } from "#src/target/cell-judge.js";
import { draftMistakes, judgeAll } from "./drafts.js";
import { bytesOf, filesOf, kinds, layoutOf, one, pennywort } from "./support.js";

async function draftOf(text: string, file = "given.csv"): Promise<Draft> {
  const [sample] = await lookAt(bytesOf(text), file, new Findings());
  return draftLayout(sample!, "given");
}
const lineOf = (draft: Draft, header: string) => draft.lines.find((line) => line.header === header)!;

test("of the twelve suppliers' columns nearly all are bound right, and hardly one wrong", async () => {
  const judged = (await judgeAll()).filter(({ name }) => !name.startsWith("demo"));
  const sum = (pick: "right" | "wrong" | "gaps") => judged.reduce((total, one) => total + one[pick].length, 0);
  assert.equal(judged.length, 13);
  assert.deepEqual(
    judged.flatMap(({ wrong }) => wrong),
    [],
  );
  assert.ok(sum("right") >= 95, `${sum("right")} right, ${sum("gaps")} left out`);
});

test("every drafted layout is one that can be run, and says why of each column", async () => {
  for (const { name, draft } of await judgeAll()) {
    if (draft.lines.every((line) => line.binding === undefined)) continue;
    assert.deepEqual(draftMistakes(draft), [], `${name}\n${draft.yaml}`);
    for (const line of draft.lines) assert.ok(line.why.length > 3, `${name}: ${line.header}`);
  }
});

const goods = "SKU;Name;Price;Colour\nA-1;Hive;10,50;red\nA-2;Box;8,00;blue\nA-3;Lid;3,20;red\n";

test("takes a header for what it says only where its cells agree", async () => {
  const draft = await draftOf(goods.replaceAll(/\d+,\d+/g, "on request"));
  assert.equal(lineOf(draft, "Price").binding, undefined);
  assert.match(lineOf(draft, "Price").why, /its cells are not amounts/);
  assert.equal(lineOf(draft, "SKU").binding, "product.code");
});

const sorts = (rows: string) => `No;Item;Name;Differs;Here;Price\n${rows}`;

test("takes lists of names on a product's row, with as many entries on each of its rows, for axes and values", async () => {
  const draft = await draftOf(
    sorts(
      "A1;a;Hive;Wood, Size;Oak, S;1\nA2;a;;;Oak, L;2\nB1;b;Jar;Volume, Lid;1 l, red;3\nB2;b;;;1 l, gold;3\nC1;c;Lid;;;4\n",
    ),
  );
  assert.deepEqual(lineOf(draft, "Differs").binding, { axes: "names@en", as: { list: ", " } });
  assert.deepEqual(lineOf(draft, "Here").binding, { axes: "values@en", as: { list: ", " } });
  assert.deepEqual(draftMistakes(draft), []);
});

for (const [what, rows] of [
  [
    "another number of entries on some row",
    "A1;a;Hive;Wood, Size;Oak, S;1\nA2;a;;;Oak;2\nB1;b;Jar;Volume, Lid;1 l, red;3\nB2;b;;;1 l, gold;3\n",
  ],
  [
    "two rows of a product alike",
    "A1;a;Hive;Wood, Size;Oak, S;1\nA2;a;;;Oak, S;2\nB1;b;Jar;Volume, Lid;1 l, red;3\nB2;b;;;1 l, gold;3\n",
  ],
  [
    "names that change within a product",
    "A1;a;Hive;Wood, Size;Oak, S;1\nA2;a;;Size, Wood;L, Oak;2\nB1;b;Jar;Volume, Lid;1 l, red;3\nB2;b;;;1 l, gold;3\n",
  ],
] as const)
  test(`takes no lists for axes with ${what}`, async () => {
    const draft = await draftOf(sorts(rows));
    assert.doesNotMatch(draft.yaml, /axes:/);
  });

test("leaves out both of two columns that would feed one field alike", async () => {
  const draft = await draftOf("SKU;Price;Retail\nA-1;1,50;2,00\nA-2;3,00;4,50\n");
  assert.equal(lineOf(draft, "Price").binding, undefined);
  assert.match(lineOf(draft, "Retail").why, /"Price" would be/);
});

test("says likely of a word that is nearly one it knows, and sure of those it knows", async () => {
  const draft = await draftOf("SKU;Descripton;Weight\nA-1;A warm hive;1.5\nA-2;A box;2.0\n");
  assert.equal(lineOf(draft, "Descripton").sure, "likely");
  assert.equal(lineOf(draft, "Weight").sure, "sure");
});

test("finds the header below notes, the delimiter, the decimal sign and the currency", async () => {
  const draft = await draftOf(
    `Price list;;;\nof this year;;;\n${goods.replaceAll(",50", ",50 €").replaceAll(",00", ",00 €").replaceAll(",20", ",20 €")}`,
  );
  assert.equal(draft.sample.headerLine, 3);
  assert.deepEqual(lineOf(draft, "Price").binding, {
    field: "product.prices(price).amount",
    as: { decimal: ",", sign: "€" },
  });
  assert.match(draft.yaml, /header: \{ line: 3 \}/);
});

test("drafts from a sheet whose rows are so short that very many come at once", async () => {
  const { lines } = await draftOf(`No;Name\n${"1;\n".repeat(400_000)}2;Hive\n`);
  assert.deepEqual(
    lines.map(({ header }) => header),
    ["No", "Name"],
  );
});

test("drafts nothing from a sheet without words it knows, and nothing from nothing", async () => {
  const draft = await draftOf("Foo;Bar\nx;y\nz;w\n");
  assert.ok(draft.lines.every((line) => line.sure === "left out"));
  assert.deepEqual(await lookAt(bytesOf(""), "empty.csv", new Findings()), []);
  assert.deepEqual(await lookAt(bytesOf("<a><b>"), "broken.xml", new Findings()), []);
  assert.deepEqual(await lookAt(bytesOf("{"), "broken.json", new Findings()), []);
  for (const deep of [`${'{"a":'.repeat(3_000)}1${"}".repeat(3_000)}`, "<a>".repeat(3_000), "[".repeat(100_000)])
    assert.deepEqual(await lookAt(bytesOf(deep), "deep", new Findings()), []);
});

const plain = layoutOf(
  "layout: p\nformat: { csv: { delimiter: ';' } }\nrows: { each: variant, of: product, grouped by: P }\ncolumns:\n  P: product.key\n  No: variant.code\n  Name: product.name@en\n  Price: { field: variant.prices(price).amount, as: { decimal: ',' } }\n  Web: { field: product.shown, as: { code words: { yes: true, no: false } } }",
);
const calibrated = async (text: string) => {
  const findings = new Findings();
  const result = findings.took(await calibrateLayout("s.csv", plain, kinds, filesOf({ "s.csv": text })));
  return { result: result!, findings };
};

test("calibrating tells equal cells, other forms, and cells that come back different", async () => {
  const { result } = await calibrated(
    "P;No;Name;Price;Web\nhive;A;Hive;9,50;yes\nhive;B;Hive;8,00;\nbox;C; Box;oops;no\n",
  );
  const column = (header: string) => result.columns.find((one) => one.header === header)!;
  assert.equal(column("P").equal, 3);
  assert.deepEqual([...column("Price").forms], [["another form of the same value", 2]]);
  assert.deepEqual(column("Price").different, [{ line: 4, was: "oops", is: "" }]);
  assert.deepEqual([...column("Name").forms], [["not repeated below the first row", 1]]);
});

test("calibrating says when the rows are cut otherwise", async () => {
  const { result, findings } = await calibrated("P;No;Name;Price;Web\nhive;A;Hive;9,50;yes\n;B;;8,00;\n");
  assert.equal(result.columns.length, 0);
  assert.deepEqual(one(findings.list(), "calibrate/rows-differ").facts, { read: 2, written: 1 });
});

test("a guide says what each column means, needs and takes, with an example in the cell's own form", () => {
  const target = pennywort();
  const file = [...target.files.values()][0]!;
  const rows = columnGuide(file.layout, kinds, file);
  const row = (column: string) => rows.find((one) => one.column === column)!;
  assert.deepEqual(
    [row("Code").required, row("Code").accepts],
    [true, "text; at most 32 characters; only A-Za-z0-9._-"],
  );
  assert.equal(row("Price").example, "189,00");
  assert.equal(row("Pictures").example, "orchard-hive.png");
  assert.deepEqual(row("Shown").choices, ["on", "off"]);
  assert.equal(rows.length, file.layout.columns.length);
  assert.ok(guideMarkdown(file.layout, rows).includes("| Title en | the name of the product (en) | yes |"));
});

test("the empty workbook has the header, drop-downs for words, and the guide beside it", async () => {
  const rows = columnGuide(plain, kinds);
  const bytes = await writeWorkbook(emptyWorkbook(plain, rows));
  const book = xlsx.read(bytes.slice(), { type: "array" });
  assert.deepEqual(book.SheetNames, ["To fill", "Columns"]);
  assert.deepEqual(xlsx.utils.sheet_to_json(book.Sheets["To fill"]!, { header: 1 })[0], [
    "P",
    "No",
    "Name",
    "Price",
    "Web",
  ]);
  const xml = strFromU8(unzipSync(bytes)["xl/worksheets/sheet1.xml"]!);
  assert.match(xml, /<dataValidation type="list"[^>]*sqref="E2:E10000"><formula1>"yes,no"<\/formula1>/);
  assert.match(xml, /<pane ySplit="1"/);
  assert.deepEqual(bytes, await writeWorkbook(emptyWorkbook(plain, rows)));
});

test("examples of a guide keep the rules of the target, and are in the language of their column", () => {
  for (const name of ["pennywort", "saltmarsh", "tollgate"]) {
    const text = readFileSync(new URL(`../../targets/${name}.yaml`, import.meta.url), "utf8");
    const parsed = parseTarget(text, `${name}.yaml`, kinds);
    assert.ok(parsed.ok);
    let examples = 0;
    for (const file of parsed.value.files.values())
      for (const layout of file.layouts)
        for (const { column, example } of columnGuide(layout, kinds, file)) {
          const bound = layout.columns.find(({ header }) => header === column)!;
          const rule = file.rules.get(column);
          if (example === "") continue;
          examples++;
          if (rule) assert.equal(cellJudge(bound, rule, name)(example), undefined, `${name} ${column}: ${example}`);
          const lang = languageOf(bound.bindings[0]!.feed);
          if (lang === "de") assert.doesNotMatch(example, /^(Orchard|A whole|Cedar|Wood|Hives)/, `${name} ${column}`);
        }
    assert.ok(examples > 10, `${name}: only ${examples} examples`);
  }
});

test("calibrating reports for each record whether it came back the same, whatever rows it stands on", async () => {
  const layout = layoutOf(
    "layout: l\nformat: { csv: { delimiter: ';' } }\nrows: { each: product }\ncolumns: { Key: product.key, Kg: { field: product.weight, as: { decimal: ',', places: 1 } } }\n",
  );
  const text = "Key;Kg\na;1,5\nb;2,0\n";
  const same = await calibrateLayout("s.csv", layout, kinds, filesOf({ "s.csv": text }));
  assert.ok(same.ok);
  assert.deepEqual(same.value.records, { records: 2, equal: 2, lost: [], made: [], different: [], differentCount: 0 });
  const other = await calibrateLayout("s.csv", layout, kinds, filesOf({ "s.csv": `${text}c;1,25\n` }));
  assert.ok(other.ok);
  const { equal, different } = other.value.records;
  assert.equal(equal, 2);
  assert.deepEqual(
    different.map(({ record, field, was, is, at }) => [record.key, field, was, is, at.line]),
    [["c", "weight", "1.25", "", 4]],
  );
});

test("one element with a text twice does not make a list of it for all the others", async () => {
  const item = (n: number, more = "") => `<item><sku>A-${n}</sku><title>Lamp no ${n}</title>${more}</item>`;
  const items = Array.from({ length: 60 }, (_, n) => item(n, n === 7 ? "<title>Lamp again</title>" : ""));
  const draft = await draftOf(`<feed>${items.join("")}</feed>`, "feed.xml");
  assert.equal(lineOf(draft, "title").binding, "product.name@en");
});

test("a header that is the name of a field binds itself; one that is left out has the nearest field", async () => {
  const draft = await draftOf(
    "sku;product.weight;searchTitle@de;Price\nA-1;1.5;Lampe;on request\nA-2;2.0;Korb;on request\n",
  );
  assert.deepEqual(lineOf(draft, "product.weight").binding, { field: "product.weight", as: "decimal" });
  assert.equal(lineOf(draft, "searchTitle@de").binding, "product.searchTitle@de");
  assert.equal(lineOf(draft, "Price").nearest, "product.prices(price).amount");
});
