/** Damage that is recognised as such: each kind, where it stands, and the finding that tells of it. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { check, codes, one, pennywort, those } from "./support.js";
import { reportUncarried } from "#src/target/carries.js";
import { Findings } from "#src/index.js";

const layout = `layout: d
format: { csv: { delimiter: ";" } }
rows: { each: variant, of: product, grouped by: Key }
columns:
  Key: product.key
  Code: variant.code
  Name: product.name@en
  De: product.name@de
  Slug: product.slug@en
  Axis: { axis: 1, holds: name }
  Value: { axis: 1, holds: value }
  Cost: { field: variant.prices(cost).amount, as: decimal }
  Price: { field: variant.prices(price).amount, as: decimal }
  Sale: { field: variant.prices(offer).amount, as: decimal }
`;
const header = "Key;Code;Name;De;Slug;Axis;Value;Cost;Price;Sale";
type Row = Partial<
  Record<"Key" | "Code" | "Name" | "De" | "Slug" | "Axis" | "Value" | "Cost" | "Price" | "Sale", string>
>;
const csv = (...rows: readonly Row[]): string =>
  `${header}\n${rows
    .map((row) =>
      header
        .split(";")
        .map((name) => row[name as keyof Row] ?? "")
        .join(";"),
    )
    .join("\n")}\n`;
const goods = (row: Row, at = 0): Row => ({ Key: `k${at}`, Code: `C-${at}`, Name: "Hive", ...row });

const kinds: readonly (readonly [
  name: string,
  rows: readonly Row[],
  code: string,
  line: number,
  column: string | undefined,
])[] = [
  [
    "letters read in the wrong encoding",
    [goods({ Name: "Räucherer" }), goods({ Name: "RÃ¤ucherer" }, 1)],
    "check/damaged-text",
    3,
    "Name",
  ],
  ["characters that nobody sees", [goods({ Name: "Hive\u200b box" })], "check/damaged-text", 2, "Name"],
  ["letters lost in a conversion", [goods({ Name: "R\ufffducherer" })], "check/damaged-text", 2, "Name"],
  [
    "a size that became a date",
    [goods({ Axis: "Size", Value: "10" }), goods({ Code: "C-9", Axis: "", Value: "03. Mar" })],
    "check/damaged-text",
    3,
    undefined,
  ],
  [
    "values a letter apart",
    [goods({ Axis: "Wood", Value: "Spruced" }), goods({ Code: "C-9", Value: "Spruce" })],
    "check/look-alike-values",
    3,
    undefined,
  ],
  ["a offer that is none", [goods({ Price: "10", Sale: "10" })], "check/offer-not-below", 2, "Sale"],
  ["a price below the cost", [goods({ Price: "10", Cost: "12" })], "check/below-cost", 2, "Price"],
  [
    "a cost that is missing",
    [goods({ Price: "10", Cost: "5" }), goods({ Price: "9" }, 1)],
    "check/no-cost",
    3,
    undefined,
  ],
  [
    "a slug that two products have",
    [goods({ Slug: "hive" }), goods({ Slug: "hive" }, 1)],
    "check/repeated-slug",
    3,
    "Slug",
  ],
  [
    "a code that lost its zeros",
    [...Array.from({ length: 10 }, (_, at) => goods({ Code: `01234${at}` }, at)), goods({ Code: "45678" }, 10)],
    "check/short-code",
    12,
    "Code",
  ],
];

for (const [name, rows, code, line, column] of kinds)
  test(`reports ${name}: ${code}`, async () => {
    const { list } = await check([{ layout, csv: csv(...rows) }]);
    const found = one(list, code);
    assert.equal(found.at?.line, line);
    if (column !== undefined) assert.equal(found.at?.column, column);
  });

test("says nothing of texts that are sound, in any script", async () => {
  const names = ["Räucherer", "蜂箱（大）", "خلية نحل", "Ångström's «hive»", "naïve café €5", "Ãlvaro", "3/4 inch"];
  const { list } = await check([{ layout, csv: csv(...names.map((Name, at) => goods({ Name }, at))) }]);
  assert.deepEqual(codes(list), []);
});

test("says which texts are missing in a language that the project wants", async () => {
  const { list } = await check([{ layout, csv: csv(goods({ De: "Beute" }), goods({}, 1)) }], undefined, ["en", "de"]);
  const found = one(list, "check/missing-translation");
  assert.deepEqual(found.facts, { fields: ["name"], lang: "de" });
  assert.equal(found.at?.line, 3);
});

test("finds a broken letter in the last of many rows, and among few different texts", async () => {
  const rows = Array.from({ length: 5_000 }, (_, at) =>
    goods({ Name: at === 4_321 ? "BÃ¼rste" : at % 2 === 0 ? "Hive" : `Hive ${at}` }, at),
  );
  const { list } = await check([{ layout, csv: csv(...rows) }]);
  assert.equal(one(list, "check/damaged-text").at?.line, 4_323);
});

test("a target may advise shorter texts and fewer axes than it takes", async () => {
  const target = pennywort((text) =>
    text.replace("limits: { products: 120", 'limits: { "axes recommended": 1, products: 120'),
  );
  const two = layout.replace(
    "  Cost:",
    "  Axis 2: { axis: 2, holds: name }\n  Value 2: { axis: 2, holds: value }\n  Cost:",
  );
  const { catalogue } = await check([
    { layout: two, csv: `${header};Axis 2;Value 2\nk;C;Hive;;;Wood;Cedar;;;;Size;10\n` },
  ]);
  const findings = new Findings();
  reportUncarried(catalogue, target, findings);
  assert.deepEqual(those(findings.list(), "target/more-axes-than-recommended").length, 1);
});
