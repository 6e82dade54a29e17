import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { after, before, test } from "node:test";
import { startStandIn, type StandIn } from "#src/index.js";

interface Row {
  line: number;
  item: string;
  code: string;
  outcome: string;
  reasons: string[];
  notes: string[];
}
interface Report {
  refused: string | null;
  rows: Row[];
}
interface Code {
  code: string;
  price: string;
  stock: number;
  tiers: unknown[];
  values: unknown[];
  picture: string | null;
}
interface Item {
  item: string;
  title: { en: string; de: string | null };
  text: { en: string | null };
  places: string[];
  goesWith: string[];
  visible: boolean;
  codes: Code[];
}
interface Shop {
  items: Item[];
  tree: { place: string; under: string | null; title: { en: string; de: string | null } }[];
}

const description = readFileSync(new URL("../../../../docs/standins/pennywort.md", import.meta.url), "utf8");
const example = /```csv\n([\s\S]*?)```/.exec(description)![1]!;

let shop: StandIn;
before(async () => {
  shop = await startStandIn("pennywort");
});
after(() => shop.stop());

const send = async (body: string | Uint8Array): Promise<Report> =>
  (await (await fetch(`${shop.url}/imports/a.csv`, { method: "POST", body })).json()) as Report;
const catalogue = async (): Promise<Shop> => (await (await fetch(`${shop.url}/catalogue`)).json()) as Shop;
const reset = () => fetch(`${shop.url}/reset`, { method: "POST" });
const outcomes = (report: Report) => report.rows.map((row) => row.outcome);
/** A file of one new item, with its cells replaced or added to. */
const one = (cells: Record<string, string>, ...further: Record<string, string>[]): string => {
  const rows = [{ Item: "a", Code: "A", "Title en": "A", Price: "1", ...cells }, ...further];
  const header = [...new Set(rows.flatMap((row) => Object.keys(row)))];
  return [header.join(";"), ...rows.map((row) => header.map((column) => row[column] ?? "").join(";"))].join("\n");
};

test("rebuilds the worked example, and finds nothing to change when it comes again", async () => {
  await reset();
  assert.deepEqual(outcomes(await send(example)), ["created", "created", "created", "created"]);
  const { items, tree } = await catalogue();
  assert.deepEqual(
    items.map((item) => [item.item, item.title.en, item.visible]),
    [
      ["hive-01", "Hive", true],
      ["stand-01", "Stand \\+ legs", true],
    ],
  );
  assert.deepEqual(items[0]!.codes[0]!.tiers, [
    { from: 5, club: null, price: "119" },
    { from: 10, club: null, price: "109" },
  ]);
  assert.deepEqual(
    tree.map((node) => [node.place, node.under, node.title.en]),
    [
      ["Hives", null, "Hives"],
      ["Hives/National", "Hives", "National"],
    ],
  );
  assert.deepEqual(outcomes(await send(example)), ["unchanged", "unchanged", "unchanged", "unchanged"]);
});

test("refuses a whole group for one wrong row and keeps the others", async () => {
  await reset();
  await send(example);
  const broken = example.replace("hive-01;HV-01-C;;", "hive-01;HV-01-C;Again;");
  const report = await send(broken);
  assert.deepEqual(outcomes(report), ["refused", "refused", "refused", "unchanged"]);
  assert.deepEqual(report.rows[0]!.reasons, ["item-cell-on-further-row"]);
});

const fileRefusals: Record<string, string | Uint8Array> = {
  "too-large": `Item\n${"a".repeat(4_000_001)}`,
  "not-utf-8": new Uint8Array([0x49, 0x74, 0x65, 0x6d, 0x0a, 0xfc]),
  "not-csv": 'Item\n"a"b\n',
  "ragged-row": "Item\na;b\n",
  empty: "",
  "unknown-column": "Item;Colour\na;b\n",
  "repeated-column": "Item;Code;Code\n",
  "no-item-column": "Code\n",
  "tiers-without-price-column": "Item;From\n",
  "too-many-rows": `Item\n${"a\n".repeat(200_001)}`,
  "too-many-items": ["Item", ...Array.from({ length: 121 }, (_, n) => `i${n}`)].join("\n"),
};
const axisCells = { "Differs by en": "Wood", "This one en": "Pine" };
const twoAxes = { "Differs by en": "Wood+Finish", "This one en": "Pine+Raw" };
const itemRefusals: Record<string, string> = {
  "row-without-item": "Item;Code\n;A\n",
  "group-too-long": `Item;Code\n${"a;A\n".repeat(10_001)}`,
  "continuation-fills-more": one({ From: "2", "Tier price": "1" }, { "Title en": "B", From: "3", "Tier price": "1" }),
  "continuation-without-code": one({ Code: "", Price: "" }, { From: "3", "Tier price": "1" }),
  "code-missing": one(axisCells, { Item: "a", Price: "1", "This one en": "Oak" }),
  "cells-without-code": one({ Code: "" }),
  "item-word": one({ Item: " a" }),
  "code-word": one({ Code: "A/1" }),
  "item-cell-on-further-row": one(axisCells, {
    Item: "a",
    Code: "B",
    Price: "1",
    "Title en": "B",
    "This one en": "Oak",
  }),
  "new-item-without-code": one({ Code: "", Price: "" }),
  "title-missing": one({ "Title en": "" }),
  "price-missing": one({ Price: "" }),
  "too-long": one({ ...twoAxes, "This one en": `${"a".repeat(120)}+${"b".repeat(120)}` }),
  "bad-flag": one({ Shown: "yes" }),
  "bad-money": one({ Price: "1.50" }),
  "bad-number": one({ Stock: "-1" }),
  "bad-barcode": one({ Barcode: "4012345678900" }),
  "was-not-above": one({ Was: "1,00" }),
  "bad-list": one({ "Place en": "Hives//National" }),
  "too-many-links": one({ Spares: Array.from({ length: 21 }, (_, n) => `i${n}`).join("+") }),
  "german-places-differ": one({ "Place en": "Hives/National", "Place de": "Beuten" }),
  "too-many-traits": one({ "Differs by en": "A+B+C+D+E", "This one en": "a+b+c+d+e" }),
  "german-traits-differ": one({ ...twoAxes, "Differs by de": "Holz++Farbe" }),
  "trait-repeated": one({ "Differs by en": "Wood+Wood", "This one en": "Pine+Oak" }),
  "traits-differ": `${one({ Item: "b", Code: "B", ...axisCells })}\nc;C;C;1;Wood;Pine\nb;B;B;1;Size;Pine`,
  "value-missing": one({ ...twoAxes, "This one en": "Pine" }),
  "value-without-trait": one({ "This one en": "Pine" }),
  "values-repeated": one(axisCells, { Item: "a", Code: "B", Price: "1", "This one en": "Pine" }),
  "one-code-only": one({}, { Item: "a", Code: "B", Price: "1" }),
  "tier-half": one({ From: "2", "Tier price": "" }),
  "tier-repeated": one({ From: "2", "Tier price": "1" }, { From: "2", "Tier price": "1" }),
};

test("has a case for each reason that the description lists", () => {
  const reasons = description.slice(description.indexOf("## 10.")).split("Notes:")[0]!;
  const listed = [...reasons.matchAll(/`([a-z0-9-]+)`/g)].map((match) => match[1]!);
  assert.ok(listed.length > 35);
  assert.deepEqual([...listed].sort(), Object.keys({ ...fileRefusals, ...itemRefusals }).sort());
});

for (const [reason, file] of Object.entries(fileRefusals)) {
  test(`refuses the file: ${reason}`, async () => {
    await reset();
    assert.deepEqual(await send(file), { file: "a.csv", refused: reason, rows: [] });
    assert.deepEqual((await catalogue()).items, []);
  });
}

for (const [reason, file] of Object.entries(itemRefusals)) {
  test(`refuses the item: ${reason}`, async () => {
    await reset();
    const refused = (await send(file)).rows.filter((row) => row.outcome === "refused");
    assert.ok(refused.length > 0);
    for (const row of refused) assert.ok(row.reasons.includes(reason), row.reasons.join());
  });
}

test("moves a code to the item that names it last, and deletes an item left without any", async () => {
  await reset();
  await send("Item;Code;Title en;Price;Goes with\na;A;First;1;\nb;B;Friend;1;a\n");
  const report = await send("Item;Code;Title en;Price\nc;A;Thief;2\n");
  assert.deepEqual(report.rows[0]!.notes, ["code-taken"]);
  const { items } = await catalogue();
  assert.deepEqual(
    items.map((item) => item.item),
    ["b", "c"],
  );
  assert.deepEqual(items[0]!.goesWith, []);
});

test("looks links up at the end of the file, leaves unknown ones out, and says so", async () => {
  await reset();
  const report = await send("Item;Code;Title en;Price;Goes with\na;A;First;1;b+x+a\nb;B;Friend;1;a\n");
  assert.deepEqual(
    report.rows.map((row) => row.notes),
    [["link-unknown"], []],
  );
  assert.deepEqual(
    (await catalogue()).items.map((item) => item.goesWith),
    [["b"], ["a"]],
  );
});

test("keeps pictures by file name and leaves missing ones out", async () => {
  await reset();
  // A stored (uncompressed) zip of one empty file, `p/a.png`, written out by hand.
  const local = [0x50, 0x4b, 3, 4, 10, 0, 0, 0, 0, 0, 0, 0, 0x21, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 7, 0, 0, 0];
  const central = [
    0x50,
    0x4b,
    1,
    2,
    10,
    0,
    10,
    0,
    0,
    0,
    0,
    0,
    0,
    0,
    0x21,
    0,
    ...new Array<number>(12).fill(0),
    7,
    ...new Array<number>(17).fill(0),
  ];
  const name = [...Buffer.from("p/a.png")];
  const end = [0x50, 0x4b, 5, 6, 0, 0, 0, 0, 1, 0, 1, 0, central.length + 7, 0, 0, 0, local.length + 7, 0, 0, 0, 0, 0];
  const zip = new Uint8Array([...local, ...name, ...central, ...name, ...end]);
  const stored = await fetch(`${shop.url}/pictures`, { method: "POST", body: zip });
  assert.deepEqual(await stored.json(), { stored: ["a.png"] });
  const report = await send(one({ "Code picture": "a.png", Pictures: "b.png" }));
  assert.deepEqual(report.rows[0]!.notes, ["picture-missing"]);
  assert.equal((await catalogue()).items[0]!.codes[0]!.picture, "a.png");
  assert.equal((await fetch(`${shop.url}/pictures`, { method: "POST", body: "no zip" })).status, 422);
});

test("cuts a long text and says so; leaves stock alone where the cell is blank", async () => {
  await reset();
  const report = await send(one({ "Text en": "x".repeat(2001), Stock: "5" }));
  assert.deepEqual(report.rows[0]!.notes, ["text-cut"]);
  await send(one({ Stock: "" }));
  const { items } = await catalogue();
  assert.equal(items[0]!.text.en!.length, 2000);
  assert.equal(items[0]!.codes[0]!.stock, 5);
});
