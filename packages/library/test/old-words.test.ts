/** Words of layouts and rules that were renamed: each is a finding at its place, and is never read as something else. */

import assert from "node:assert/strict";
import { test } from "node:test";
import { describeFinding, Findings } from "#src/index.js";
import { compileLayout, Kinds, parseGiven } from "#src/parts.js";
import { givenLayout } from "#src/schemas.js";
import { kinds } from "./support.js";

const head = "layout: old\nrows: { each: product }\ncolumns:\n  Key: product.key\n";

function findingsOf(yaml: string): [number | undefined, string][] {
  const findings = new Findings();
  const given = findings.took(parseGiven(yaml, "old.yaml", givenLayout));
  if (given) findings.took(compileLayout(given.value, given.at, kinds));
  return findings.list().map((one) => [one.at?.line, `${one.code}: ${describeFinding(one).message}`]);
}

const cases: readonly (readonly [string, string, string])[] = [
  ["the word for fixes", "  Name: { field: product.name, mend: trim }\n", '"mend" is now called "fix"'],
  [
    "code words",
    "  Web: { field: product.shown, as: { words: { yes: true } } }\n",
    '"words" is now called "code words"',
  ],
  ["a price role in a field", "  Price: product.prices(regular).amount\n", '"regular" is now called "price"'],
  ["an offer", "  Offer: { field: product.prices(sale).amount, as: decimal }\n", '"sale" is now called "offer"'],
  ["the former price", '  Was: "product.prices(struck-through).amount"\n', '"struck-through" is now called "was"'],
  [
    "a sort of product among code words",
    "  Kind: { field: product.sort, as: { code words: { hire: rental } } }\n",
    '"rental" is now called "hire"',
  ],
];
for (const [what, column, message] of cases)
  test(`reports an old word at its line: ${what}`, () => {
    assert.deepEqual(findingsOf(head + column), [[5, `given/old-word: ${message}`]]);
  });

test("reports an old role of a lane", () => {
  const yaml =
    "layout: old\nrows: { each: product, found by: { column: Key, names: key } }\nlanes: { l: { entries: product.prices, with: { role: regular } } }\ncolumns: { A: l.amount }\n";
  assert.deepEqual(findingsOf(yaml), [[3, 'given/old-word: "regular" is now called "price"']]);
});

test("a field that was renamed says so, unless the project has one of that name", () => {
  const column = "  Nature: product.nature\n";
  assert.deepEqual(findingsOf(head + column), [[5, 'layout/mistake: "nature" is now called "sort"']]);
  const [product, ...others] = [kinds.get("product"), ...kinds.all.filter(({ name }) => name !== "product")];
  const own = new Kinds([{ ...product, fields: [...product.fields, { name: "nature", type: "text" }] }, ...others]);
  const findings = new Findings();
  const given = findings.took(parseGiven(head + column, "own.yaml", givenLayout));
  assert.ok(findings.took(compileLayout(given!.value, given!.at, own)));
});

test("words that are not old in their place stay: a language called sale, a column called mend", () => {
  const yaml =
    "layout: fine\nrows: { each: product, language: { column: L, code words: { sale: en, rental: de } } }\ncolumns: { mend: product.key, L: { constant: '' } }\n";
  assert.deepEqual(findingsOf(yaml), []);
});
