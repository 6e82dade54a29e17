/** Small platforms, each with one thing that others do not have. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { build, planUpload, rehearse, valueOf, type OpenedTarget } from "#src/index.js";
import { blobFiles, memoryFolder } from "#src/web/index.js";
import { openSmall, type SmallSheet } from "./small-project.js";

type Given = Readonly<Record<string, unknown>>;

const endpoints = { pictures: "/p", upload: "/in/{name}", catalogue: "/all" };
const sheet = (columns: Given, text: string, rows: Given = { each: "product" }, more: Given = {}): SmallSheet => ({
  layout: { layout: "sheet", format: { csv: { delimiter: ";" } }, rows, columns, ...more },
  text,
});
const goods = (columns: Given, more: Given = {}, rows: Given = { each: "product" }): Given => ({
  layout: { layout: "goods", rows, columns },
  ...more,
});
const opened = (sheets: readonly SmallSheet[], files: Given, more: Given = {}, languages = ["en"]) =>
  openSmall(
    sheets,
    { target: "made-up", version: 1, languages, endpoints, files, imports: [{ file: "goods" }], ...more },
    languages,
  );

/** What is found while building, and what the rehearsal of the folder says. */
async function tried(target: OpenedTarget, despite: readonly string[] = []) {
  const { sink, files } = memoryFolder();
  const built = await build(target, { sink, despite: new Set(despite) });
  const found = built.findings.list().map(({ code }) => code);
  if (!built.ok) return { found, differences: undefined };
  const planned = valueOf(await planUpload(target, { despite: new Set(despite) }));
  const { differences } = valueOf(await rehearse(target, planned, { files: blobFiles(files) }));
  return { found, differences: differences.map(({ key, field, intended }) => `${key} ${field}: ${intended}`) };
}

test("a picture that is left out takes its text along, and no other's", async () => {
  const columns = {
    Key: "product.key",
    Photos: { field: "product.pictures(detail).file", as: { list: "," } },
    Texts: { field: "product.pictures(detail).alternative@en", as: { list: ",", blanks: true } },
  };
  const sheets = [sheet(columns, "Key;Photos;Texts\na;one.png,two.png;first,second\n")];
  const rules = { Photos: { picture: true }, Texts: { "as many as": "Photos" } };
  const target = valueOf(
    await opened(
      sheets,
      { goods: goods(columns, { columns: rules }) },
      { importer: { "missing pictures": "left out" } },
    ),
  );
  // No picture file is there: both are told of by the rehearsal, entry by entry.
  const { differences } = await tried(target, ["rehearse/different"]);
  assert.equal(differences?.length, 2);
  assert.match(differences.join(), /first, file one\.png.*second, file two\.png/);
});

test("codes are asked for where some file takes them, and nowhere else", async () => {
  const columns = { Key: "product.key", Name: "product.name@en" };
  const sheets = [sheet(columns, "Key;Name\na;Jar\n")];
  const without = valueOf(await opened(sheets, { goods: goods(columns) }));
  assert.deepEqual(await tried(without), { found: [], differences: [] });
  const withCodes = valueOf(await opened(sheets, { goods: goods({ ...columns, No: "product.code" }) }));
  assert.ok((await tried(withCodes)).found.includes("check/no-code"));
});

test("variants without codes are told apart by what they are on each axis", async () => {
  const columns = {
    Item: "product.name@en",
    Size: { axis: "Size", holds: "value@en" },
    Price: { field: "variant.prices(price).amount", as: "decimal" },
  };
  const rows = { each: "variant", of: "product", "grouped by": "Item" };
  const sheets = [sheet(columns, "Item;Size;Price\nJar;small;1\nJar;large;2\nLid;;3\n", rows)];
  const target = valueOf(await opened(sheets, { goods: goods(columns, {}, rows) }));
  assert.deepEqual(await tried(target), { found: ["resolve/created", "resolve/created"], differences: [] });
});

test("rows find records by a name, in a language too", async () => {
  const first = { Key: "product.key", Name: "product.name@en", "Name de": "product.name@de" };
  const sheets = [
    sheet(first, "Key;Name;Name de\na;Jar;Glas\nb;Lid;Deckel\n"),
    sheet({ Weight: { field: "product.weight", as: "decimal" } }, "Name;Weight\nGlas;0.5\n", {
      each: "product",
      "found by": { column: "Name", names: "name@de" },
    }),
  ];
  const weights = {
    layout: {
      layout: "weights",
      rows: { each: "product", "found by": { column: "Called", names: "name" } },
      columns: { Weight: { field: "product.weight", as: "decimal" } },
    },
  };
  const imports = [{ file: "goods" }, { file: "weights", mode: "update" }];
  const target = valueOf(await opened(sheets, { goods: goods(first), weights }, { imports }, ["en", "de"]));
  const { differences, found } = await tried(target);
  assert.deepEqual(differences, [], found.join());
  const unknown = sheet({ Weight: "product.weight" }, "Name;Weight\n", {
    each: "product",
    "found by": { column: "Name", names: "weight@de" },
  });
  assert.ok(!(await opened([...sheets, unknown], { goods: goods(first) })).ok);
});

test("a list of references goes on in rows that name their record", async () => {
  const columns = { Key: "product.key" };
  const groups = { layout: "groups", rows: { each: "product", "found by": { column: "Key", names: "key" } } };
  const lanes = { seen: { entries: "product.visibleTo" } };
  const By = { field: "seen.each", as: { by: "name@en" } };
  const sheets = [
    sheet(columns, "Key\na\nb\n"),
    sheet({ By: { ...By, missing: "create" } }, "Key;By\na;Clubs\na;Schools\nb;Clubs\n", groups.rows, { lanes }),
  ];
  const target = valueOf(
    await opened(
      sheets,
      {
        goods: goods(columns),
        groups: { layout: { ...groups, lanes, columns: { By } }, columns: { By: { unknown: "create" } } },
      },
      { imports: [{ file: "goods" }, { file: "groups", mode: "update" }] },
    ),
  );
  assert.deepEqual((await tried(target)).differences, []);
});

test("a warning about something else does not hide a difference", async () => {
  const path = { path: "/", by: "name@en" };
  const shelves = {
    Name: "category.name@en",
    Text: "category.description@en",
    Under: { field: "category.parent", as: { by: "name@en" } },
  };
  const sheets = [
    sheet(shelves, "Name;Text;Under\nWax;;\nCandles;Poured by hand;Wax\n", { each: "category" }),
    sheet({ Key: "product.key", On: { field: "product.categories", as: path } }, "Key;On\nx;Wax/Candles\n"),
  ];
  // Only the first shelf of a path has a place for its text.
  const columns = {
    Key: "product.key",
    On: { field: "product.categories", as: path },
    Text: { field: "product.categories.description@en", node: 1 },
  };
  const rules = { On: { unknown: "create" } };
  const target = valueOf(await opened(sheets, { goods: goods(columns, { columns: rules }) }, {}, ["en", "de"]));
  const { found } = await tried(target);
  assert.ok(found.includes("check/missing-translation") && found.includes("rehearse/different"), found.join());
});

test("rules that compare columns need columns of the same rows", async () => {
  const columns = {
    Item: "product.key",
    Code: "variant.code",
    Tags: { field: "product.visibleTo", as: { list: ",", of: { by: "name@en" } } },
    Parts: { field: "variant.supplies.supplier", as: { list: ",", of: { by: "name@en" } } },
  };
  const rules = { Tags: { unknown: "create", "as many as": "Parts" }, Parts: { unknown: "create" } };
  const rows = { each: "variant", of: "product", "grouped by": "Item" };
  const refused = await opened([sheet({ Key: "product.key" }, "Key\n")], {
    goods: goods(columns, { columns: rules }, rows),
  });
  assert.match(JSON.stringify(refused.findings.list()), /not for a column like Parts/);
});
