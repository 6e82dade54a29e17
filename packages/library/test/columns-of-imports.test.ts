/** What columns ask of each other in imports: cells that wait for a later upload, lists that stay whole, rules that compare. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { build, planUpload, rehearse, valueOf } from "#src/index.js";
import { blobFiles, memoryFolder } from "#src/web/index.js";
import { openSmall } from "./small-project.js";
import { codes, those } from "./support.js";

const columns = {
  Key: "product.key",
  Name: "product.name@en",
  Note: "product.searchTitle@en",
  Links: { field: "product.relations(goes-with).to", as: { list: "|", of: { by: "key" } } },
};
const goods = {
  layout: { layout: "source", rows: { each: "product" }, columns },
  text: "Key,Name,Note,Links\na,Hive,With b,b\nb,Veil,With a,a\n",
};

/** Each names the other: one of the two links has to wait. */
const opened = (rules: Readonly<Record<string, unknown>>) =>
  openSmall(
    [goods],
    {
      target: "made-up",
      version: 1,
      languages: ["en"],
      endpoints: { pictures: "/p", upload: "/in/{name}", catalogue: "/all" },
      importer: { "looked up": "as rows arrive" },
      files: { goods: { layout: { ...goods.layout, layout: "goods" }, columns: rules } },
      imports: [{ file: "goods" }, { name: "links", file: "goods", mode: "update", columns: ["Key", "Note", "Links"] }],
    },
    ["en"],
  );

test("a link that has to wait is set by a later upload", async () => {
  for (const rules of [{}, { Links: { "together with": "Note" } }]) {
    const target = valueOf(await opened(rules));
    const { sink, files } = memoryFolder();
    assert.ok((await build(target, { sink })).ok);
    assert.equal(
      await files.get("01-goods.csv")!.text(),
      "Key,Name,Note,Links\r\na,Hive,With b,\r\nb,Veil,With a,a\r\n",
    );
    const verdict = valueOf(await rehearse(target, valueOf(await planUpload(target)), { files: blobFiles(files) }));
    assert.equal(verdict.rebuilt, true);
  }
});

for (const [what, rules] of Object.entries({
  "has to be filled": { Links: { required: true } },
  "is refused where it is blank": { Links: { blank: "refuse" } },
  "may be needed": { Links: { "needed if": { field: "sort", is: "hire" } } },
  "another column is taken only with": { Note: { "together with": "Links" } },
}))
  test(`a link cannot wait in a column that ${what}: that is an error before anything is built`, async () => {
    const target = valueOf(await opened(rules));
    const result = await build(target, { sink: memoryFolder().sink });
    assert.equal(result.ok, false);
    const [late] = those(result.findings.list(), "plan/late-link");
    assert.deepEqual([late?.at?.line, late?.at?.record?.key], [2, "a"]);
    assert.ok(!codes(result.findings.list()).some((code) => code.startsWith("rehearse/")));
  });

const linked = {
  layout: {
    layout: "more",
    rows: { each: "product", "found by": { column: "Item", names: "key" } },
    columns: { Name: "product.name@en", Note: "product.searchTitle@en" },
  },
};
const twice = (columns: readonly (readonly string[])[], rules: Readonly<Record<string, unknown>>) =>
  openSmall(
    [{ ...goods, text: "Key,Name,Note,Links\na,Hive,,\nb,Veil,Light,\n" }],
    {
      target: "made-up",
      version: 1,
      languages: ["en"],
      endpoints: { pictures: "/p", upload: "/in/{name}", catalogue: "/all" },
      files: {
        keys: { layout: { layout: "keys", rows: { each: "product" }, columns: { Key: "product.key" } } },
        more: { ...linked, columns: rules },
      },
      imports: [
        { file: "keys" },
        ...columns.map((own, at) => ({ name: `part-${at}`, file: "more", mode: "update", columns: own })),
      ],
    },
    ["en"],
  );

test("an import of some columns names the column by which its rows are found", async () => {
  const target = valueOf(
    await twice(
      [
        ["Item", "Name"],
        ["Item", "Note"],
      ],
      {},
    ),
  );
  const { sink, files } = memoryFolder();
  assert.ok((await build(target, { sink })).ok);
  assert.equal(await files.get("03-part-1.csv")!.text(), "Item,Note\r\nb,Light\r\n");
  const left = await twice([["Name"]], {});
  assert.match(JSON.stringify(left.findings.list().map(({ facts }) => facts)), /tells what a row is/);
});

const sizes = {
  layout: "sizes",
  rows: { each: "product" },
  columns: { Key: "product.key", Weight: "product.weight", Length: "product.length" },
};

test("a rule that compares columns holds where two imports write them", async () => {
  const target = {
    target: "made-up",
    version: 1,
    languages: ["en"],
    endpoints: { pictures: "/p", upload: "/in/{name}", catalogue: "/all" },
    files: { sizes: { layout: sizes, columns: { Length: { above: "Weight" } } } },
    imports: [
      { file: "sizes", columns: ["Key", "Weight"] },
      { name: "lengths", file: "sizes", mode: "update", columns: ["Key", "Length"] },
    ],
  };
  const opened = valueOf(
    await openSmall([{ layout: sizes, text: "Key,Weight,Length\na,5,3\nb,5,7\n" }], target, ["en"]),
  );
  const { ok, findings } = await build(opened, { sink: memoryFolder().sink });
  assert.equal(ok, false);
  const [found] = those(findings.list(), "target/not-fitting");
  assert.deepEqual([found?.at?.line, found?.at?.column], [2, "Length"]);
  assert.ok(!codes(findings.list()).some((code) => code.startsWith("rehearse/")));
});

test("columns of one list of entries cannot be split between two imports", async () => {
  const layout = {
    layout: "prices",
    rows: { each: "product" },
    columns: {
      Key: "product.key",
      Price: { field: "product.prices(price).amount", as: "decimal" },
      Was: { field: "product.prices(was).amount", as: "decimal" },
    },
  };
  const target = {
    target: "made-up",
    version: 1,
    languages: ["en"],
    endpoints: { pictures: "/p", upload: "/in/{name}", catalogue: "/all" },
    files: { prices: { layout } },
    imports: [
      { file: "prices", columns: ["Key", "Price"] },
      { name: "was", file: "prices", mode: "update", columns: ["Key", "Was"] },
    ],
  };
  const { ok, findings } = await openSmall([{ layout, text: "Key,Price,Was\na,5,9\n" }], target, ["en"]);
  assert.equal(ok, false);
  const [first] = those(findings.list(), "target/mistake");
  assert.match(JSON.stringify(first?.facts), /belong together/);
});

test("an import without the columns of a list of references leaves the list as it is", async () => {
  const layout = {
    layout: "more",
    rows: { each: "product", "found by": { column: "Item", names: "key" } },
    lanes: { groups: { entries: "product.optionGroups" } },
    columns: { Name: "product.name@en", Group: { field: "groups.each", as: { by: "name@en" }, missing: "create" } },
  };
  const { missing, ...group } = layout.columns.Group;
  const target = {
    target: "made-up",
    version: 1,
    languages: ["en"],
    endpoints: { pictures: "/p", upload: "/in/{name}", catalogue: "/all" },
    files: {
      keys: { layout: { layout: "keys", rows: { each: "product" }, columns: { Key: "product.key" } } },
      more: {
        layout: { ...layout, columns: { ...layout.columns, Group: group } },
        columns: { Group: { unknown: missing } },
      },
    },
    imports: [
      { file: "keys" },
      { file: "more", mode: "update", columns: ["Item", "Group"] },
      { name: "names", file: "more", mode: "update", columns: ["Item", "Name"] },
    ],
  };
  const keys = {
    layout: { layout: "keys", rows: { each: "product" }, columns: { Key: "product.key" } },
    text: "Key\na\nb\n",
  };
  const more = { layout, text: "Item,Name,Group\na,Hive,Roof\na,,Floor\nb,Veil,\n" };
  const opened = valueOf(await openSmall([keys, more], target, ["en"]));
  const { sink, files } = memoryFolder();
  const built = await build(opened, { sink, despite: new Set(["check/no-code", "check/no-choice"]) });
  assert.ok(built.ok, JSON.stringify(built.findings.list().filter(({ severity }) => severity === "error")));
  const planned = valueOf(await planUpload(opened, { despite: new Set(["check/no-code", "check/no-choice"]) }));
  const verdict = valueOf(await rehearse(opened, planned, { files: blobFiles(files) }));
  assert.equal(verdict.rebuilt, true, JSON.stringify(verdict.differences));
});

test("a rule that compares columns counts what a blank cell starts as", async () => {
  const rules = { Length: { above: "Weight" }, Weight: { "starts as": "4" } };
  const target = {
    target: "made-up",
    version: 1,
    languages: ["en"],
    endpoints: { pictures: "/p", upload: "/in/{name}", catalogue: "/all" },
    files: { sizes: { layout: sizes, columns: rules } },
    imports: [{ file: "sizes" }],
  };
  const opened = valueOf(
    await openSmall([{ layout: sizes, text: "Key,Weight,Length\na,,3\nb,,5\nc,2,3\n" }], target, ["en"]),
  );
  const { ok, findings } = await build(opened, { sink: memoryFolder().sink });
  assert.equal(ok, false);
  const places = those(findings.list(), "target/not-fitting").map(({ at }) => [at?.line, at?.column]);
  assert.deepEqual(places, [[2, "Length"]]);
  assert.ok(!codes(findings.list()).some((code) => code.startsWith("rehearse/")));
});
