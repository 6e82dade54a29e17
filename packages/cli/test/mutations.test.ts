/**
 * The proof must not agree with itself: one rule of the target is changed at a time, and generated shops have to show that the rehearsal
 * and the stand-in no longer agree.
 */

import assert from "node:assert/strict";
import { after, before, test } from "node:test";
import fc from "fast-check";
import { startStandIn, type StandIn } from "@zest-tier/standins";
import type { Target } from "zest-tier";
import { damaged, pennywort, readShop, shop, type Block } from "./generate.js";
import { build, disagreements, play, reset, emptyPlatform } from "./rehearsed-and-uploaded.js";

const tries = 250;

let standIn: StandIn;
before(async () => {
  standIn = await startStandIn("pennywort");
});
after(() => standIn.stop());

/**
 * What is changed in the target's text. That further rows may fill a product's cells is not among them: no file that is written here does, so it
 * makes no difference by itself.
 */
const mutations: readonly (readonly [string, string, string])[] = [
  ["a blank stock clears", "Stock: { blank: leave, ", "Stock: { "],
  ["a blank flag clears", "Shown: { blank: leave, ", "Shown: { "],
  ["a blank German title is left", "Title {other}: { ", "Title {other}: { blank: leave, "],
  ["a blank text is left", "Text {main}: { ", "Text {main}: { blank: leave, "],
  ["a new code has no stock", 'starts as: "0", ', ""],
  ["a new item is shown", 'starts as: "false"', 'starts as: "true"'],
  [
    "titles may be longer",
    "Title {main}: { required: true, blank: refuse, characters at most: 80 }",
    "Title {main}: { required: true, blank: refuse, characters at most: 200 }",
  ],
  ["titles are not needed", "Title {main}: { required: true, blank: refuse,", "Title {main}: {"],
  [
    "long texts are refused",
    "Text {main}: { characters at most: 2000, over: cut }",
    "Text {main}: { characters at most: 2000 }",
  ],
  ["codes may hold a slash", "only: A-Za-z0-9._-", "only: A-Za-z0-9._/-"],
  ["barcodes are not checked", "Barcode: { gtin: true }", "Barcode: {}"],
  ["paths may be deeper", "deep at most: 6", "deep at most: 9"],
  [
    "stock may be negative",
    'Stock: { blank: leave, starts as: "0", from: "0"',
    'Stock: { blank: leave, starts as: "0", from: "-9"',
  ],
  ["a struck price may be lower", ", above: Price", ""],
  [
    "half a tier will do",
    'From: { from: "2", to: "999999", together with: Tier price }',
    'From: { from: "2", to: "999999" }',
  ],
  ["a code of another product is refused", "child of another parent: moves", "child of another parent: refuse"],
  ["a product without codes stays", "parent without children: deleted", "parent without children: kept"],
  ["axes of a known product are replaced", "axes of a known parent: must match", "axes of a known parent: replace"],
  ["a missing picture refuses", "missing pictures: left out", "missing pictures: refuse"],
  ["pictures are not looked for", "Pictures: { picture: true }", "Pictures: {}"],
  [
    "two columns are swapped",
    "Goes with: { field: product.relations(goes-with).to",
    "Goes with: { field: product.relations(spare-part).to",
  ],
  [
    "another separator is written",
    "Pictures: { field: product.pictures.file, as: { list: +,",
    "Pictures: { field: product.pictures.file, as: { list: '&',",
  ],
  [
    "a decimal point is written",
    'Weight kg: { field: variant.weight, as: { decimal: "," } }',
    "Weight kg: { field: variant.weight, as: { decimal: . } }",
  ],
  [
    "product cells are written on every row",
    "grouped by: Item, shared cells: first row",
    "grouped by: Item, shared cells: every row",
  ],
];

/** The pair of shops that has shown a change; where it no longer does, all are tried. */
const shownBy: Readonly<Record<string, number>> = {
  "a blank stock clears": 16,
  "a blank flag clears": 2,
  "a blank German title is left": 5,
  "a blank text is left": 21,
  "a new code has no stock": 0,
  "a new item is shown": 1,
  "titles may be longer": 3,
  "titles are not needed": 58,
  "long texts are refused": 0,
  "codes may hold a slash": 10,
  "barcodes are not checked": 3,
  "paths may be deeper": 16,
  "stock may be negative": 18,
  "a struck price may be lower": 11,
  "half a tier will do": 7,
  "a code of another product is refused": 39,
  "a product without codes stays": 39,
  "axes of a known product are replaced": 0,
  "a missing picture refuses": 4,
  "pictures are not looked for": 4,
  "two columns are swapped": 0,
  "another separator is written": 0,
  "a decimal point is written": 0,
};

/** Two shops one after the other: what is taken over, left and cleared shows only on the second. */
const uploads = fc.sample(fc.tuple(damaged(5), damaged(5)), { numRuns: tries, seed: 20_260_101 });

const clean = fc.sample(shop(5), { numRuns: 10, seed: 20_260_102 });

/** Whether a clean shop is not rebuilt. */
async function isUnlike(wrong: Target, blocks: readonly Block[]): Promise<boolean> {
  const read = await readShop(blocks);
  return !(await play(read, (await build(read, wrong))!, wrong)).rebuilt;
}

/** Whether a pair of shops makes rehearsal and stand-in disagree. */
async function isShownBy(right: Target, wrong: Target, pair: readonly (readonly Block[])[]): Promise<boolean> {
  await reset(standIn);
  const onto = emptyPlatform(wrong);
  for (const blocks of pair) {
    const read = await readShop(blocks);
    const built = (await build(read, wrong))!;
    if ((await disagreements(standIn, right, built, await play(read, built, wrong, onto))).length > 0) return true;
  }
  return false;
}

/** Whether any pair of shops makes rehearsal and stand-in disagree, or a shop without fault is not rebuilt. The noted pair is tried first. */
async function isCaught(what: string, from: string, to: string): Promise<boolean> {
  const right = await pennywort();
  const wrong = await pennywort((text) => {
    assert.ok(text.includes(from), from);
    return text.replace(from, to);
  });
  const noted = shownBy[what];
  if (noted !== undefined && (await isShownBy(right, wrong, uploads[noted]!))) return true;
  for (const blocks of clean) if (await isUnlike(wrong, blocks)) return true;
  for (const [at, pair] of uploads.entries()) if (at !== noted && (await isShownBy(right, wrong, pair))) return true;
  return false;
}

for (const [what, from, to] of mutations) {
  test(`catches a target that says: ${what}`, async () => {
    assert.ok(await isCaught(what, from, to));
  });
}

test("finds nothing to catch in the target as it is", async () => {
  const first = uploads.slice(0, 60);
  const right = await pennywort();
  for (const pair of first) {
    await reset(standIn);
    const onto = emptyPlatform(right);
    for (const blocks of pair) {
      const read = await readShop(blocks);
      const built = (await build(read, right))!;
      assert.deepEqual(await disagreements(standIn, right, built, await play(read, built, right, onto)), []);
    }
  }
});
