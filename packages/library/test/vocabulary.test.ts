import assert from "node:assert/strict";
import { test } from "node:test";
import Big from "big.js";
import fc from "fast-check";
import { formatLocation } from "#src/index.js";
import { barcodeProblem, Kinds, builtInKinds, type KindSpec } from "#src/parts.js";
import { IntList } from "#src/catalogue/int-list.js";
import { ReferenceColumn } from "#src/catalogue/reference-column.js";
import { noReference, ReferencePool } from "#src/catalogue/reference-pool.js";
import { Table } from "#src/catalogue/table.js";
import { addDecimals, canonicalDecimal, compareDecimals, decimalPlaces } from "#src/decimal.js";
import { nearestSpelling } from "#src/spelling.js";
import { compareLocations, compareText } from "#src/location.js";

const digits = fc.string({ unit: fc.constantFrom(..."0123456789"), minLength: 1, maxLength: 18 });
const written = fc
  .tuple(fc.constantFrom("", "-"), digits, fc.option(digits, { nil: undefined }))
  .map(([sign, whole, places]) => `${sign}${whole}${places === undefined ? "" : `.${places}`}`);

test("gives every decimal the one form that its amount has", () => {
  fc.assert(
    fc.property(written, (text) => {
      const value = canonicalDecimal(text)!;
      assert.ok(new Big(value).eq(new Big(text)));
      assert.equal(canonicalDecimal(value), value);
      assert.match(value, /^(0|-?(0|[1-9]\d*)(\.\d*[1-9])?)$/);
      assert.equal(canonicalDecimal(text.replace(".", ","), ","), value);
      assert.equal(decimalPlaces(value), value.includes(".") ? value.split(".")[1]!.length : 0);
    }),
    { numRuns: 500 },
  );
});

test("takes nothing for a decimal that is none", () => {
  for (const text of ["", "-", ".", "1.2.3", "1,5", "1e3", " 1", "1 ", "+1", "--1", "0x1", "१", "9".repeat(61), ".5"])
    assert.equal(canonicalDecimal(text), undefined, text);
  assert.equal(canonicalDecimal("1.5", ","), undefined);
  assert.equal(canonicalDecimal("5."), "5");
  assert.equal(canonicalDecimal("-0.00"), "0");
});

test("compares and adds decimals exactly, however long", () => {
  fc.assert(
    fc.property(written, written, (a, b) => {
      const [x, y] = [canonicalDecimal(a)!, canonicalDecimal(b)!];
      assert.equal(Math.sign(compareDecimals(x, y)), new Big(x).cmp(new Big(y)));
      assert.ok(new Big(addDecimals(x, y)).eq(new Big(x).plus(new Big(y))));
    }),
  );
  assert.equal(addDecimals("0.1", "0.2"), "0.3");
});

test("knows a GTIN by its length and check digit, and what a spreadsheet did to it", () => {
  for (const right of ["40123455", "036000291452", "4006381333931", "10012345678902"])
    assert.equal(barcodeProblem(right), undefined, right);
  assert.match(String(barcodeProblem("4006381333932")), /check digit/);
  assert.match(String(barcodeProblem("36000291452")), /leading zeros up to 12/);
  assert.match(String(barcodeProblem("4.00638E+12")), /scientific/);
  assert.match(String(barcodeProblem("40 0638 1333931")), /more than digits/);
  assert.match(String(barcodeProblem("123")), /3 digits/);
});

test("a wrong digit anywhere in a GTIN is noticed", () => {
  fc.assert(
    fc.property(fc.nat(12), fc.integer({ min: 1, max: 9 }), (at, by) => {
      const wrong = [..."4006381333931"]
        .map((digit, location) => (location === at ? String((Number(digit) + by) % 10) : digit))
        .join("");
      assert.notEqual(barcodeProblem(wrong), undefined);
    }),
  );
});

test("says places as short as what is known, and puts them in source order", () => {
  assert.equal(formatLocation({ file: "a.csv" }), "a.csv");
  assert.equal(formatLocation({ file: "a.csv", line: 3, column: "EAN" }), "a.csv:3 [EAN]");
  assert.equal(formatLocation({ file: "a.yaml", line: 3, char: 5 }), "a.yaml:3:5");
  const places = [
    { file: "b" },
    { file: "a", line: 10 },
    { file: "a", line: 9, column: "Z" },
    { file: "a", line: 9, column: "B" },
    undefined,
  ];
  assert.deepEqual([...places].sort(compareLocations), [
    { file: "a", line: 9, column: "B" },
    { file: "a", line: 9, column: "Z" },
    { file: "a", line: 10 },
    { file: "b" },
    undefined,
  ]);
  assert.deepEqual(["ä", "z", "Z", "a"].sort(compareText), ["Z", "a", "z", "ä"]);
});

test("suggests the word that is spelt most alike, and none that is far away", () => {
  assert.equal(nearestSpelling("grouped bi", ["groups", "grouped by", "each"]), "grouped by");
  assert.equal(nearestSpelling("EACH", ["each"]), "each");
  assert.equal(nearestSpelling("zzzzzz", ["each", "of"]), undefined);
});

test("a list of integers is as long as what was put into it, 0 beyond", () => {
  const list = new IntList();
  for (let at = 0; at < 1_000; at++) list.push(at * 2);
  list.set(5_000, 7);
  assert.deepEqual(
    [list.length, list.get(999), list.get(2_000), list.get(5_000), list.get(9_999)],
    [5_001, 1_998, 0, 7, 0],
  );
  assert.equal(list.toArray().length, 5_001);
});

test("a column of references tells a list that is empty from one that was never set", () => {
  const column = new ReferenceColumn();
  column.set(3, []);
  column.set(5, [7, 8]);
  column.set(5, [9, 8, 7]);
  assert.deepEqual([column.isSet(3), column.isSet(4), column.first(3), column.first(5)], [true, false, -1, 9]);
  assert.deepEqual(column.get(5), [9, 8, 7]);
  const seen: number[] = [];
  column.each(5, (number) => seen.push(number));
  assert.deepEqual(seen, [9, 8, 7]);
});

test("the pool keeps each reference once, and tells those within another apart", () => {
  const pool = new ReferencePool();
  const met = { sheet: 0, line: 1 };
  const spec = pool.specNumber({ to: "category", by: "name", lang: "en", missing: "create", inTree: true });
  assert.equal(pool.specNumber({ to: "category", by: "name", lang: "en", missing: "create", inTree: true }), spec);
  const hives = pool.intern(spec, noReference, "Hives", met);
  const parts = pool.intern(spec, hives, "Parts", met);
  const other = pool.intern(spec, pool.intern(spec, noReference, "Frames", met), "Parts", met);
  assert.notEqual(parts, other);
  assert.equal(pool.intern(spec, hives, "Parts", { sheet: 3, line: 9 }), parts);
  assert.deepEqual(pool.texts(other), ["Frames", "Parts"]);
  assert.deepEqual(pool.met(parts), met);
});

test("a table finds the children of a parent in the order in which they came, after more were added too", () => {
  const kind: KindSpec = { name: "variant", of: "product", fields: [] };
  const table = new Table(kind, "variant");
  for (const [line, parent] of [2, 0, 2, 1, 2].entries()) table.append(0, line, parent);
  assert.deepEqual([...table.childrenOf(2)], [0, 2, 4]);
  assert.deepEqual([...table.childrenOf(9)], []);
  table.append(0, 5, 9);
  assert.deepEqual([...table.childrenOf(9)], [5]);
  assert.equal(
    table.findChild(2, (row) => row > 0),
    2,
  );
  assert.equal(
    table.findChild(7, () => true),
    -1,
  );
  assert.deepEqual(
    table.childrenWhere(2, (row) => row !== 2),
    [0, 4],
  );
  assert.deepEqual(
    table.childrenWhere(3, () => true),
    [],
  );
});

test("kinds are data: each reference points at a kind, each collection at an embedded one, each key field at a field", () => {
  const kinds = new Kinds();
  for (const kind of builtInKinds) {
    for (const field of kind.fields) {
      if (field.reference) assert.ok(kinds.find(field.reference.to), `${kind.name}.${field.name}`);
      assert.notEqual(
        field.type === undefined,
        field.reference === undefined,
        `${kind.name}.${field.name} is either a value or a reference`,
      );
    }
    for (const embedded of Object.values(kind.entries ?? {})) assert.ok(kinds.get(embedded).entryKey);
    for (const key of kind.entryKey ?? []) assert.ok(kind.fields.some((field) => field.name === key));
    if (kind.of !== undefined) assert.equal(kinds.childOf(kind.of), kind);
  }
});

test("a user's kind goes the way of the built-in ones", () => {
  const workshop: KindSpec = {
    name: "workshop",
    fields: [
      { name: "name", type: "text", perLanguage: true },
      { name: "about", reference: { to: "product", dependency: "linking", missing: "error" } },
    ],
  };
  const kinds = new Kinds([...builtInKinds, workshop]);
  assert.equal(kinds.find("workshop"), workshop);
  assert.ok(kinds.roots.includes(workshop));
  assert.throws(() => kinds.get("wokshop"), /no kind wokshop/);
});
