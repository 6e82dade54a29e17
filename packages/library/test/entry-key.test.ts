/** `entry key`: what it may name, and what becomes of entries that a platform does not tell apart. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { build, planUpload, rehearse, valueOf } from "#src/index.js";
import { blobFiles, memoryFolder } from "#src/web/index.js";
import { openSmall } from "./small-project.js";
import { codes, one, those } from "./support.js";

const goods = {
  layout: { layout: "source", rows: { each: "product" }, columns: { Key: "product.key", Name: "product.name@en" } },
  text: "Key,Name\na,Hive\nb,Veil\n",
};
const moved = {
  layout: {
    layout: "moved",
    rows: { each: "product", "found by": { column: "Of", names: "key" } },
    lanes: { old: { entries: "product.redirects" } },
    columns: { From: "old.from", In: "old.language" },
  },
  text: "Of,From,In\na,hive-old,en\na,bee-box,en\na,beute,de\nb,veil-old,en\n",
};

function opened(key: readonly string[] | undefined, isLinked = true) {
  const file = {
    ...(key ? { "entry key": key } : {}),
    layout: {
      layout: "bends",
      rows: { each: "product", ...(isLinked ? { "found by": { column: "Item", names: "key" } } : {}) },
      lanes: { bends: { entries: "product.redirects", ...(isLinked ? {} : { "continued when blank": ["Key"] }) } },
      columns: { ...(isLinked ? {} : { Key: "product.key" }), Was: "bends.from", Tongue: "bends.language" },
    },
  };
  const target = {
    target: "made-up",
    version: 1,
    languages: ["en"],
    endpoints: { pictures: "/p", upload: "/in/{name}", catalogue: "/all" },
    files: { goods: { layout: goods.layout }, bends: file },
    imports: [{ file: "goods" }, { file: "bends", mode: isLinked ? "update" : "create" }],
  };
  return openSmall([goods, moved], target, ["en"]);
}

test("of entries that a platform does not tell apart, the second is an error at its cell; held back, the rest is rebuilt", async () => {
  const target = valueOf(await opened(["Tongue"]));
  const refused = await build(target, { sink: memoryFolder().sink });
  assert.equal(refused.ok, false);
  const { facts, at } = one(refused.findings.list(), "target/repeated-entry");
  assert.deepEqual(facts, { columns: ["Tongue"], target: "made-up" });
  assert.deepEqual([at?.file, at?.line, at?.record?.key], ["sheet-1.csv", 3, "a"]);
  assert.ok(!codes(refused.findings.list()).some((code) => code.startsWith("rehearse/")));
  const { sink, files } = memoryFolder();
  assert.ok((await build(target, { sink, holdBack: true })).ok);
  const planned = valueOf(await planUpload(target, { holdBack: true }));
  assert.equal(valueOf(await rehearse(target, planned, { holdBack: true, files: blobFiles(files) })).rebuilt, true);
});

test("entries that the key tells apart, in one record or in two, are all there", async () => {
  for (const key of [["Was", "Tongue"], ["Was"], undefined]) {
    const target = valueOf(await opened(key));
    const { sink, files } = memoryFolder();
    const built = await build(target, { sink });
    assert.ok(built.ok, codes(built.findings.list()).join());
    const planned = valueOf(await planUpload(target));
    assert.equal(valueOf(await rehearse(target, planned, { files: blobFiles(files) })).rebuilt, true);
  }
});

for (const [what, key, isLinked, says] of [
  ["a column that is of no entry", ["Item", "Was"], true, /"Item" is not a column of entries/],
  ["no column of a list of entries", ["Item"], true, /no column of "bends" is in the entry key/],
  ["rows that are no entries of what is there", ["Was"], false, /"entry key" is not for these rows/],
] as const)
  test(`an entry key with ${what} is refused when the target is loaded`, async () => {
    const result = await opened(key, isLinked);
    assert.equal(result.ok, false);
    const mistakes = those(result.findings.list(), "target/mistake").map(({ facts }) => JSON.stringify(facts));
    assert.ok(
      mistakes.some((mistake) => says.test(mistake.replaceAll('\\"', '"'))),
      mistakes.join(),
    );
  });

test("an entry key of a column that tells no entries apart is refused at its line: its change would add an entry", async () => {
  const numbers = {
    "entry key": ["Value"],
    layout: {
      layout: "numbers",
      rows: { each: "product", "found by": { column: "Item", names: "key" } },
      lanes: { numbers: { entries: "product.identifiers" } },
      columns: { Sort: "numbers.type", Value: "numbers.value" },
    },
  };
  const target = {
    target: "made-up",
    version: 1,
    languages: ["en"],
    endpoints: { pictures: "/p", upload: "/in/{name}", catalogue: "/all" },
    files: { goods: { layout: goods.layout }, numbers },
    imports: [{ file: "goods" }, { file: "numbers", mode: "update" }],
  };
  const result = await openSmall([goods], target, ["en"]);
  const { facts, at } = one(result.findings.list(), "target/mistake");
  assert.match(JSON.stringify(facts), /does not tell entries apart/);
  assert.equal(at?.file, "made-up.yaml");
  const right = { ...target, files: { ...target.files, numbers: { ...numbers, "entry key": ["Sort"] } } };
  assert.ok((await openSmall([goods], right, ["en"])).ok);
});
