/** Several sources of one record: joined by key or by what a row is found by, with precedence where they disagree. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { Findings, type Source } from "#src/index.js";
import { Catalogue, readSources, resolveReferences } from "#src/parts.js";
import { dump } from "./dump.js";
import { codes, filesOf, kinds, layoutOf, one } from "./support.js";

const csv = "format: { csv: { delimiter: ';' } }";

type Given = Omit<Source, "layout"> & { readonly layout: string; readonly text: string };

async function readAll(sources: readonly Given[]) {
  const catalogue = new Catalogue(kinds);
  const findings = new Findings();
  const files = filesOf(Object.fromEntries(sources.map(({ file, text }) => [file, text])));
  await readSources(
    sources.map((source) => ({ ...source, layout: layoutOf(source.layout) })),
    catalogue,
    files,
    findings,
  );
  return { catalogue: resolveReferences(catalogue, findings).catalogue, findings };
}

const goods: Given = {
  file: "goods.csv",
  layout: `layout: g\n${csv}\nrows: { each: variant, of: product, grouped by: P }\ncolumns:\n  P: product.key\n  No: variant.code\n  Name: product.name@en\n  W: { axis: 1, holds: name }\n  V: { axis: 1, holds: value }\n  Price: { field: variant.prices(price).amount, as: decimal }`,
  text: "P;No;Name;W;V;Price\nhive;H-C;Hive;Wood;Cedar;9\nhive;H-P;;;Pine;8\nsmoker;S-1;Smoker;;;20\n",
};
const prices = (precedence?: number): Given => ({
  file: "prices.csv",
  layout: `layout: p\n${csv}\nrows: { each: variant, found by: { column: Code, names: code } }\ncolumns:\n  Price: { field: variant.prices(price).amount, as: decimal }\n  Kg: { field: variant.weight, as: decimal }`,
  text: "Code;Price;Kg\nH-C;9;14\nH-P;7.5;13\nS-1;;1\n",
  ...(precedence === undefined ? {} : { precedence }),
});

test("what another source adds is joined, what it says again has to agree", async () => {
  const { catalogue, findings } = await readAll([prices(), goods]);
  const lines = dump(catalogue);
  assert.ok(lines.includes("variant H-C code=H-C values=Wood/Cedar weight=14"), lines.join("\n"));
  assert.ok(lines.includes("product smoker code=S-1 name@en=Smoker weight=1"));
  const found = one(findings.list(), "read/sources-disagree");
  assert.deepEqual(found.facts, { here: "7.5", first: "8" });
  assert.deepEqual(
    [found.at?.file, found.at?.line, found.related[0]?.file, found.related[0]?.line],
    ["prices.csv", 3, "goods.csv", 3],
  );
  assert.deepEqual(
    lines.filter((line) => line.startsWith("variant H-P prices")),
    ["variant H-P prices role=price amount=8"],
  );
});

for (const [precedence, amount] of [
  [2, "7.5"],
  [0, "8"],
] as const)
  test(`of two sources that disagree the one with precedence wins, and it is reported: ${precedence}`, async () => {
    const { catalogue, findings } = await readAll([{ ...goods, precedence: 1 }, prices(precedence)]);
    one(findings.list(), "read/source-overruled");
    assert.ok(dump(catalogue).includes(`variant H-P prices role=price amount=${amount}`));
    const table = catalogue.table("variant");
    assert.equal(catalogue.location(table, 0, "weight").file, "prices.csv");
    assert.equal(catalogue.location(table, 0, "code").file, "goods.csv");
  });

test("a second full sheet joins by key: products, their variants, and singles", async () => {
  const more: Given = {
    file: "more.csv",
    layout: `layout: m\n${csv}\nrows: { each: variant, of: product, grouped by: P }\ncolumns:\n  P: product.key\n  No: variant.code\n  Text: product.description@en\n  Kg: { field: variant.weight, as: decimal }`,
    text: "P;No;Text;Kg\nhive;H-C;Warm;14\nhive;H-P;;13\nsmoker;S-1;Cool;1\n",
  };
  const { catalogue, findings } = await readAll([goods, more]);
  assert.deepEqual(codes(findings.list()), ["resolve/created", "resolve/created"]);
  const lines = dump(catalogue);
  assert.ok(lines.includes("product hive axes=Wood description@en=Warm name@en=Hive"), lines.join("\n"));
  assert.ok(lines.includes("variant H-P code=H-P values=Wood/Pine weight=13"));
  assert.ok(lines.includes("product smoker code=S-1 description@en=Cool name@en=Smoker weight=1"));
  assert.equal(catalogue.table("variant").size, 2);
});

test("a file for each language gives its texts to the records that are there", async () => {
  const german: Given = {
    file: "de.csv",
    translates: true,
    layout: `layout: d\n${csv}\nlanguage: de\nrows: { each: variant, of: product, grouped by: P }\ncolumns:\n  P: product.key\n  No: variant.code\n  Name: product.name\n  W: { axis: 1, holds: name }\n  V: { axis: 1, holds: value }`,
    text: "P;No;Name;W;V\nhive;H-P;Beute;Holz;Kiefer\nhive;H-C;;;Zeder\n",
  };
  const { catalogue, findings } = await readAll([german, goods]);
  assert.deepEqual(codes(findings.list()), ["resolve/created", "resolve/created"]);
  const lines = dump(catalogue);
  assert.ok(lines.includes("value Wood/Pine name@de=Kiefer name@en=Pine"), lines.join("\n"));
  assert.ok(lines.includes("axis Wood name@de=Holz name@en=Wood"));
  assert.equal(catalogue.table("value").size, 2);
});

test("a translator's sheet that gives a text it was not translated from is stale", async () => {
  const german: Given = {
    file: "de.csv",
    translates: true,
    layout: `layout: d\n${csv}\nlanguage: de\nrows: { each: product, found by: { column: P, names: key } }\ncolumns:\n  English: product.name@en\n  Deutsch: product.name`,
    text: "P;English;Deutsch\nhive;Beehive;Bienenstock\nsmoker;Smoker;Smoker\n",
  };
  const { catalogue, findings } = await readAll([goods, german]);
  assert.deepEqual(one(findings.list(), "read/stale-translation").facts, { here: "Beehive", first: "Hive" });
  assert.equal(catalogue.table("product").text("name@en", 0), "Hive");
  assert.equal(catalogue.table("product").text("name@de", 0), "Bienenstock");
});

test("variants in a sheet of their own name the product of another", async () => {
  const products: Given = {
    file: "p.csv",
    layout: `layout: p\n${csv}\nrows: { each: product }\ncolumns:\n  Id: product.key\n  Name: product.name@en`,
    text: "Id;Name\nhive;Hive\n",
  };
  const variants: Given = {
    file: "v.csv",
    layout: `layout: v\n${csv}\nrows: { each: variant, of: product, shared cells: own row, joined by: { column: Of, names: key } }\ncolumns:\n  No: variant.code\n  Wood: { axis: Wood, holds: value }`,
    text: "Of;No;Wood\nhive;H-C;Cedar\nhive;H-P;Pine\nstand;X;Oak\n",
  };
  const { catalogue, findings } = await readAll([products, variants]);
  assert.equal(one(findings.list(), "read/orphan-row").at?.line, 4);
  assert.ok(dump(catalogue).includes("product hive axes=Wood name@en=Hive"), dump(catalogue).join("\n"));
});

test("a word that several records have names none of them", async () => {
  const twice: Given = { ...goods, text: goods.text.replace("H-P", "H-C") };
  const { findings } = await readAll([twice, { ...prices(), text: "Code;Price;Kg\nH-C;9;14\n" }]);
  assert.equal((one(findings.list(), "read/names-several").facts as { count: number }).count, 2);
});

test("sheets of a workbook that no source reads are named", async () => {
  const { writeWorkbook } = await import("#src/index.js");
  const bytes = await writeWorkbook([
    { name: "Range", rows: [["Id"], ["hive"]] },
    { name: "Stock", rows: [["x"]] },
  ]);
  const layout = layoutOf(
    "layout: w\nformat: { workbook: { sheet: Range } }\nrows: { each: product }\ncolumns: { Id: product.key }",
  );
  const findings = new Findings();
  await readSources([{ file: "w.xlsx", layout }], new Catalogue(kinds), filesOf({ "w.xlsx": bytes }), findings);
  assert.deepEqual(one(findings.list(), "read/sheets-left").facts, { names: ["Stock"] });
});
