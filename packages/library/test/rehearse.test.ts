/** The rehearsal by itself, on files written by hand: what each rule of the target comes to. The stand-in says the same in the laws. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { Findings, plainRecords, type RehearsedFile } from "#src/index.js";
import { asTargetView, Catalogue, resolveReferences, SimulatedPlatform } from "#src/parts.js";
import { hiddenIn } from "#src/verdict/hidden.js";
import { bytesOf, entryText, kinds, pennywort, recordIn } from "./support.js";

const target = pennywort();
const items = target.files.get("items")!;
const nothing = asTargetView(resolveReferences(new Catalogue(kinds), new Findings()).catalogue);
/** A platform, and what it holds. */
class Shop {
  readonly platform = new SimulatedPlatform(target, kinds);
  held = () => this.platform.held(nothing).catalogue;
  count = () => [...this.platform.counts()].reduce((sum, [, count]) => sum + count, 0);
}
const play = (shop: Shop, csv: string, file = items): Promise<RehearsedFile> =>
  shop.platform.play(file, "items.csv", bytesOf(csv), "create");
const outcomes = (file: RehearsedFile): string[] => file.rows.map((row) => row.outcome);
const product = (shop: Shop, word: string) => recordIn(shop.held(), "product", word);
const keysOf = ({ held }: Shop, kind: string) =>
  plainRecords(held()).flatMap((one) => (one.kind === kind ? one.key : []));

const hive =
  "Item;Code;Title en;Place en;Differs by en;This one en;Price;Stock;Shown\nhive;H-1;Hive;Hives/Full;Wood;Oak;10,00;5;on\nhive;H-2;;;;Elm;12,00;;\n";

test("creates, then finds nothing to change", async () => {
  const shop = new Shop();
  assert.deepEqual(outcomes(await play(shop, hive)), ["created", "created"]);
  assert.deepEqual(outcomes(await play(shop, hive)), ["unchanged", "unchanged"]);
  assert.deepEqual(product(shop, "hive")!.references["categories"], ["Hives/Full"]);
});

test("updates what a row changes, leaves what it leaves, clears what it clears", async () => {
  const shop = new Shop();
  await play(shop, hive);
  const changed = hive.replace("10,00;5", "11,00;").replace("Hives/Full", "");
  assert.deepEqual(outcomes(await play(shop, changed)), ["updated", "unchanged"]);
  const first = recordIn(shop.held(), "variant", "H-1");
  assert.deepEqual([entryText(first, "prices", "amount", "price"), entryText(first, "stock", "quantity")], ["11", "5"]);
  assert.equal(product(shop, "hive")!.references["categories"], undefined);
});

test("changes only what a file has columns for", async () => {
  const shop = new Shop();
  await play(shop, hive);
  assert.deepEqual(outcomes(await play(shop, "Item;Title en\nhive;Beehive\n")), ["updated"]);
  assert.equal(product(shop, "hive")!.texts["name@en"], "Beehive");
  assert.equal(keysOf(shop, "variant").length, 2);
});

test("refuses a file without a column that it must have", async () => {
  const strict = { ...items, mustHave: ["Item", "Price"] };
  const played = await play(new Shop(), "Item;Title en\nhive;Hive\n", strict);
  assert.equal(played.refused, 'no column "Price"');
});

test("keeps nothing of a product when one of its rows is refused", async () => {
  const shop = new Shop();
  const { rows } = await play(shop, hive.replace("12,00", "12.00"));
  assert.deepEqual(
    rows.map((row) => row.outcome),
    ["refused", "refused"],
  );
  assert.match(rows[0]!.reasons.join(), /Price: "12\.00" is not a decimal with a comma/);
  assert.equal(shop.count(), 0);
});

test("moves a code to the product that names it last, and removes a product left with none", async () => {
  const shop = new Shop();
  await play(shop, "Item;Code;Title en;Price;Goes with\na;A;First;1;\nb;B;Friend;1;a\n");
  const file = await play(shop, "Item;Code;Title en;Price\nc;A;Thief;1\n");
  assert.deepEqual([...file.rows[0]!.notes], ["the code was another product's"]);
  assert.deepEqual(keysOf(shop, "product").sort(), ["b", "c"]);
  assert.deepEqual(
    product(shop, "b")!.entries["relations"]!.map(({ references }) => references["to"]),
    [undefined],
  );
});

test("looks links up at the end of the file, and leaves out what leads nowhere", async () => {
  const shop = new Shop();
  const file = await play(shop, "Item;Code;Title en;Price;Goes with\na;A;First;1;b+x+a\nb;B;Friend;1;a\n");
  assert.deepEqual(
    product(shop, "a")!.entries["relations"]!.map(({ references }) => references["to"]),
    [["b"]],
  );
  assert.deepEqual(
    file.rows.map((row) => row.notes.size),
    [1, 0],
  );
});

const refusals: readonly (readonly [string, string])[] = [
  ["it is empty", ""],
  ['unknown column "Colour"', "Item;Colour\na;b\n"],
  ["a column comes twice", "Item;Code;Code\na;b;c\n"],
  ['no column "Item"', "Code\nA\n"],
  ["a row is longer than the header", "Item\na;b\n"],
  ["more than 120 products", `Item\n${Array.from({ length: 121 }, (_, at) => `i${at}`).join("\n")}\n`],
  ["more than 4000000 bytes", `Item\n${"x".repeat(4_000_001)}\n`],
  ["it cannot be read", 'Item;Code\n"a;b\n'],
];

for (const [reason, csv] of refusals) {
  test(`refuses the whole file: ${reason}`, async () => {
    const shop = new Shop();
    assert.deepEqual(await play(shop, csv), { name: "items.csv", refused: reason, rows: [] });
    assert.equal(shop.count(), 0);
  });
}

test("says which link of the chain hides a product from shoppers", async () => {
  const shop = new Shop();
  await play(shop, "Item;Code;Title en;Place en;Price;Shown\na;A;A;Hives;1;on\nb;B;B;;1;on\nc;C;C;Hives;0;\n");
  assert.deepEqual(hiddenIn(shop.platform.held(nothing).catalogue, target), [
    { product: "b", because: ["it stands at no place"] },
    { product: "c", because: ["it is not shown", "none of its codes has a price above 0"] },
  ]);
});
