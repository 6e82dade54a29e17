/** How cells name records: in several ways in order, with what is created, and what is reported where nothing has the name. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { targetsOf } from "#src/index.js";
import { one, read, those } from "./support.js";

const brandsAnd = (columns: string, csv: string) =>
  [
    {
      layout: `layout: brands\nformat: { csv: {} }\nrows: { each: brand }\ncolumns: { No: brand.key, Id: brand.id, Name: brand.name@en }\n`,
      csv: "No,Id,Name\nth,100,Thornapple\nsh,101,Sandhopper\n",
    },
    {
      layout: `layout: goods\nformat: { csv: {} }\nrows: { each: product }\ncolumns: { Key: product.key, ${columns} }\n`,
      csv,
    },
  ] as const;

test("a record is named by its name, else by the platform's id or its key", async () => {
  const given = brandsAnd(
    "Maker: { field: product.brand, as: { by: name or id or key }, missing: error }",
    "Key,Maker\na,Thornapple\nb,101\nc,th\nd,Glimmer\n",
  );
  const { catalogue, findings } = await read(given);
  const products = catalogue.table("product");
  assert.deepEqual(
    [0, 1, 2, 3].map((row) =>
      targetsOf(catalogue, products, "brand", row).map((brand) => catalogue.table("brand").key(brand)),
    ),
    [["th"], ["sh"], ["th"], []],
  );
  assert.equal(one(findings.list(), "resolve/dangling").at?.line, 5);
});

test("a record that is missing is created by its key only where the layout says so, and listed in full", async () => {
  const column = (missing: string) => `Maker: { field: product.brand, as: { by: key }${missing} }`;
  const csv = `Key,Maker\n${[1, 2, 3, 4, 5, 6, 7].map((at) => `p${at},b${at}`).join("\n")}\n`;
  const created = await read(brandsAnd(column(", missing: create"), csv));
  assert.equal(created.catalogue.table("brand").size, 9);
  const { facts } = one(created.findings.list(), "resolve/created");
  assert.deepEqual(facts, { kind: "brand", count: 7, examples: ["b1", "b2", "b3", "b4", "b5", "b6", "b7"] });
  const refused = await read(brandsAnd(column(""), csv));
  assert.equal(those(refused.findings.list(), "resolve/dangling").length, 7);
});

test("what names nothing says whether there is another kind of record of that name", async () => {
  const { findings } = await read(
    brandsAnd("Shelf: { field: product.categories, as: { by: name@en }, missing: error }", "Key,Shelf\na,Thornapple\n"),
  );
  const { facts } = one(findings.list(), "resolve/dangling");
  assert.deepEqual((facts as { elsewhere: readonly string[] }).elsewhere, ["brand"]);
});
