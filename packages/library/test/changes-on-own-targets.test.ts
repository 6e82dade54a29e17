/** Changes on small targets of one's own, from an export in the target's own file: what a change may leave alone, and what it has to name. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { build, openTarget, valueOf, type OpenedTarget } from "#src/index.js";
import { blobFiles, memoryFolder } from "#src/web/index.js";
import { openSources } from "./small-project.js";
import { filesOf, one } from "./support.js";

const source = {
  layout: {
    layout: "source",
    rows: { each: "variant", of: "product", "grouped by": "Key", "shared cells": "every row" },
    columns: {
      Key: "product.key",
      No: "variant.code",
      Name: "product.name@en",
      Slug: "product.slug@en",
      Wood: { axis: "Wood", holds: "value" },
      Price: "variant.prices(price).amount",
    },
  },
  text: "Key,No,Name,Slug,Wood,Price\na,A1,New hive,new-hive,Oak,5\na,A2,New hive,new-hive,Elm,6\nb,B1,Veil,veil,Oak,7\n",
};
const held = "P,C,T,S,W,E\na,A1,Hive,hive,Oak,5\na,A2,Hive,hive,Elm,6\nb,B1,Veil,veil,Oak,7\n";

/** @param more the words of its file besides the layout. @param price how its last column is bound. */
async function opened(
  more: object,
  importer: object = {},
  own = source,
  there = held,
  price: object | string = "variant.prices(price).amount",
): Promise<OpenedTarget> {
  const target = {
    target: "made-up",
    version: 1,
    languages: ["en"],
    endpoints: { pictures: "/p", upload: "/in/{name}", catalogue: "/all" },
    importer,
    settings: { rate: { choices: ["7.5", "8"], preset: "7.5" } },
    files: {
      goods: {
        layout: {
          layout: "goods",
          rows: { each: "variant", of: "product", "grouped by": "P", "shared cells": "every row" },
          columns: {
            P: "product.key",
            C: "variant.code",
            T: "product.name@en",
            S: "product.slug@en",
            W: { axis: "Wood", holds: "value" },
            E: price,
          },
        },
        ...more,
      },
    },
    imports: [{ file: "goods" }],
  };
  const sources = valueOf(await openSources([own], target, ["en"]));
  const given = { given: [{ file: "goods.csv", files: filesOf({ "goods.csv": there }) }], isWholeRange: false };
  return valueOf(await openTarget(sources, { target: "made-up", export: given }));
}

/** The files of rows that a build writes, by their names. */
async function built(target: OpenedTarget, holdBack = false): Promise<Record<string, string>> {
  const { sink, files } = memoryFolder();
  const upload = valueOf(await build(target, { sink, holdBack }));
  const read = blobFiles(files);
  const texts: Record<string, string> = {};
  for (const { name } of upload.files) {
    if (!name.endsWith(".csv") || name.startsWith("rollback")) continue;
    let text = "";
    for await (const chunk of valueOf(await read.read(name))) text += new TextDecoder().decode(chunk);
    texts[name] = text.replaceAll("\r\n", "\n");
  }
  return texts;
}

test("what is fixed stays as on the platform: it is reported, and the change brings the rest", async () => {
  const target = await opened({ columns: { S: { fixed: true } } });
  const { facts } = one(target.findings.list(), "change/never-changes");
  assert.deepEqual(facts, { count: 1, examples: ["product a: slug@en"], target: "made-up" });
  assert.deepEqual(await built(target), { "01-goods-changes.csv": "P,T\na,New hive\n" });
});

test("a row of a product alone would delete its variants where rows have to name them: then all are named", async () => {
  assert.deepEqual(await built(await opened({})), { "01-goods-changes.csv": "P,T,S\na,New hive,new-hive\n" });
  assert.deepEqual(await built(await opened({}, { "children not named": "deleted" })), {
    "01-goods-changes.csv": "P,C,T,S\na,A1,New hive,new-hive\na,A2,New hive,new-hive\n",
  });
});

test("a column that the file must have comes with its key, and with what has to stand beside it", async () => {
  const files = await built(await opened({ "must have": ["E"], columns: { E: { "together with": "W" } } }));
  const [text = ""] = Object.values(files);
  assert.match(text, /^P,(C,)?T,S,W,E\n/);
});

test("what a blank cell comes to is not said, where its column would refuse it or the account has it inherit", async () => {
  const priced = "Key,No,Name,Slug,Wood,Price\na,A1,Hive,hive,Oak,\na,A2,Hive,hive,Elm,25\nb,B1,Veil,veil,Oak,30\n";
  const there = 'P,C,T,S,W,E\na,A1,Hive,hive,Oak,"7,50"\na,A2,Hive,hive,Elm,"21,00"\nb,B1,Veil,veil,Oak,"30,00"\n';
  const price = { field: "variant.prices(price).amount", as: { decimal: ",", places: 2 } };
  const cellOf = async (rule: object): Promise<string | undefined> => {
    const file = { "must have": ["C", "W", "E"], columns: { E: rule } };
    const opening = opened(file, { "children not named": "deleted" }, { ...source, text: priced }, there, price);
    const { "01-goods-changes.csv": text = "" } = await built(await opening);
    assert.match(text, /^a,A2,Elm,"25,00"$/m);
    return /^a,A1,Oak,(.*)$/m.exec(text)?.[1];
  };
  assert.equal(await cellOf({ from: "20", "starts as": "7.5" }), "");
  assert.equal(await cellOf({ blank: "inherit", inherits: "rate" }), "");
  assert.equal(await cellOf({ from: "5", "starts as": "7.5" }), '"7,50"');
});

test("a start that its column refuses is refused where blank cells are refused too", async () => {
  const openingWith = (rule: object) => opened({ columns: { E: { blank: "refuse", "starts as": "7", ...rule } } });
  await openingWith({ from: "5" });
  for (const rule of [{ from: "20" }, { to: "6" }, { only: "[A-Z]+" }])
    await assert.rejects(openingWith(rule), /the column refuses/);
});

test("a comparison states entries by themselves, who changed them, and where yours come from", async () => {
  const target = await opened({});
  const [record, ...others] = target.compared!.comparison.records;
  assert.deepEqual(others, []);
  assert.deepEqual([record!.kind, record!.key, record!.state, record!.at?.line], ["product", "a", "changed", 2]);
  assert.deepEqual(
    record!.fields.map(({ field, onPlatform, intended, by }) => [field, onPlatform, intended, by]),
    [
      ["name@en", "Hive", "New hive", "not known"],
      ["slug@en", "hive", "new-hive", "not known"],
    ],
  );
});

test("a single that is held back stays as it is there, its variant's cells too; the rest is changed", async () => {
  const text = source.text
    .replace(/a,A2.*\n/, "")
    .replace("Oak,5", ",5.12345")
    .replace("Oak,7", ",8");
  const there = held.replace(/a,A2.*\n/, "").replaceAll("Oak", "");
  const target = await opened({ columns: { E: { "places at most": 2 } } }, {}, { ...source, text }, there);
  const files = await built(target, true);
  assert.deepEqual(Object.values(files), ["P,C,E\nb,B1,8\n"]);
});
