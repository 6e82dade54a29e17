import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { isProblem, type CellValue, type Codec } from "#src/codecs/codec.js";
import { escaped, listCodec } from "#src/codecs/lists.js";
import { betweenCodec, dateCodec, decimalCodec, integerCodec, textCodec, codeWordsCodec } from "#src/codecs/scalars.js";
import { markupCodec } from "#src/codecs/markup.js";
import { measureCodec } from "#src/codecs/measures.js";
import { multiplyDecimals } from "#src/decimal.js";
import { codecOf } from "#src/layout/compile/codec-of.js";

const decimalText = fc
  .tuple(
    fc.integer({ min: -999_999, max: 999_999 }),
    fc.oneof(fc.integer({ min: 0, max: 999 }), fc.constantFrom(0, 500, 250)),
  )
  .map(([whole, fraction]) => {
    const text = fraction === 0 ? String(whole) : `${whole}.${String(fraction).padStart(3, "0").replace(/0+$/, "")}`;
    return text === "-0" ? "0" : text;
  });
const word = fc.oneof(
  fc.constantFrom("Hives", "Boxes and floors", "x"),
  fc
    .string({ unit: fc.constantFrom("a", "B", " ", "/", "+", "\\", ";", "é", "蜂", '"'), minLength: 1, maxLength: 8 })
    .filter((text) => text.trim() !== ""),
);

/** So many places, some of them blank, not all. */
function places(of: fc.Arbitrary<string>, count: number): fc.Arbitrary<CellValue> {
  return fc
    .array(fc.oneof({ weight: 3, arbitrary: of }, { weight: 1, arbitrary: fc.constant("") }), {
      minLength: count,
      maxLength: count,
    })
    .filter((all) => all.some((one) => one !== ""));
}

/** parse(format(value)) is the value, or format says why it cannot be. */
function roundTrips(codec: Codec, values: fc.Arbitrary<CellValue>, mayRefuse: boolean): void {
  let written = 0;
  fc.assert(
    fc.property(values, (value) => {
      const text = codec.format(value);
      if (typeof text !== "string") return mayRefuse;
      written++;
      assert.deepEqual(codec.parse(text), value);
      return true;
    }),
  );
  assert.ok(written > 20, "nothing was written");
}

const cases: readonly (readonly [string, Codec, fc.Arbitrary<CellValue>, boolean])[] = [
  ["text", textCodec, word, false],
  ["a decimal with a comma", decimalCodec({ point: "," }), decimalText, false],
  ["a decimal with a point", decimalCodec({ point: "." }), decimalText, false],
  ["money with two places", decimalCodec({ point: ",", places: 2 }), decimalText, true],
  ["an integer", integerCodec, fc.integer().map(String), false],
  ["code words", codeWordsCodec({ on: "true", off: "false" }), fc.constantFrom("true", "false"), false],
  [
    "a date",
    dateCodec(["DD.MM.YYYY"]),
    fc
      .date({ min: new Date("1900-01-01"), max: new Date("2099-12-31"), noInvalidDate: true })
      .map((date) => date.toISOString().slice(0, 10)),
    false,
  ],
  ["a fixed beginning and ending", betweenCodec("no. ", " pc", decimalCodec({ point: "." })), decimalText, false],
  [
    "a list with an escape",
    codecOf({ list: "+", escape: "\\" }, "text").codec,
    fc.array(word, { minLength: 1, maxLength: 4 }),
    false,
  ],
  [
    "a list without an escape",
    codecOf({ list: "; " }, "text").codec,
    fc.array(word, { minLength: 1, maxLength: 4 }),
    true,
  ],
  [
    "a path with a root word",
    codecOf({ path: " / ", root: "Shop", by: "name@en" }, undefined).codec,
    fc.array(word, { minLength: 1, maxLength: 4 }),
    true,
  ],
  ["a measure in grams", measureCodec({ units: { g: "0.001", kg: "1" }, point: "," }), decimalText, false],
  [
    "a measure in inches",
    measureCodec({ units: { in: "0.0254" }, point: "." }),
    decimalText.map((one) => multiplyDecimals(one, "0.0254")),
    false,
  ],
  ["text in markup", markupCodec(false), word, false],
  [
    "a date of single digits",
    dateCodec(["D.M.YYYY", "YYYY-MM-DD"]),
    fc
      .date({ min: new Date("1900-01-01"), max: new Date("2099-12-31"), noInvalidDate: true })
      .map((date) => date.toISOString().slice(0, 10)),
    false,
  ],
  ["a list with blanks", codecOf({ list: "|", blanks: true }, "text").codec, places(word, 2), true],
  ["parts without an escape", codecOf({ parts: ":", holds: ["a", "b", "c"] }, "text").codec, places(word, 3), true],
  ["a decimal with a plus", codecOf({ decimal: ",", places: 4, plus: true }, "decimal").codec, decimalText, true],
  [
    "parts, one of them an ending of the one before",
    codecOf(
      {
        parts: "=",
        escape: "\\",
        holds: [
          "name",
          { field: "n", as: { decimal: ".", plus: true } },
          { field: "is", ending: { "": "amount", "%": "percent", "%%": "twice" } },
          "note",
        ],
      },
      "text",
    ).codec,
    fc.tuple(word, decimalText, fc.constantFrom("amount", "percent", "twice"), word),
    false,
  ],
  [
    "parts, a text with an ending",
    codecOf({ parts: ":", holds: ["name", { field: "is", ending: { "": "plain", s: "one", ss: "two" } }] }, "text")
      .codec,
    fc.tuple(fc.oneof(word, fc.constantFrom("a", "as", "ass", "s")), fc.constantFrom("plain", "one", "two")),
    true,
  ],
  [
    "a list of parts with escapes, one of them a list",
    codecOf({ list: "|", escape: "\\", of: { parts: ":", holds: ["a", { field: "b", as: { list: "," } }] } }, "text")
      .codec,
    fc.array(fc.tuple(word, fc.array(word, { minLength: 1, maxLength: 3 })), { minLength: 1, maxLength: 3 }),
    false,
  ],
  [
    "a list of decimals with the list's own separator",
    codecOf({ list: ",", escape: "\\", of: { decimal: "," } }, "decimal").codec,
    fc.array(decimalText, { minLength: 1, maxLength: 3 }),
    false,
  ],
  [
    "how many of what, the number first",
    codecOf({ quantity: "x ", holds: ["n", "thing"] }, "text").codec,
    fc.tuple(fc.integer({ min: 0, max: 999 }).map(String), word),
    true,
  ],
  [
    "how many of what, the number behind",
    codecOf({ quantity: " x", side: "behind", holds: ["n", "thing"] }, "text").codec,
    fc.tuple(fc.integer({ min: 0, max: 999 }).map(String), word),
    true,
  ],
  [
    "a list of paths with escapes",
    codecOf({ list: "+", escape: "\\", of: { path: "/", by: "name@en" } }, undefined).codec,
    fc.array(fc.array(word, { minLength: 1, maxLength: 3 }), { minLength: 1, maxLength: 2 }),
    false,
  ],
  [
    "a list of paths without escapes",
    codecOf({ list: "; ", of: { path: " / ", by: "name@en" } }, undefined).codec,
    fc.array(fc.array(word, { minLength: 1, maxLength: 3 }), { minLength: 1, maxLength: 2 }),
    true,
  ],
];

for (const [name, codec, values, mayRefuse] of cases)
  test(`reads what it wrote: ${name}`, () => roundTrips(codec, values, mayRefuse));

test("never throws, whatever a cell holds", () => {
  fc.assert(
    fc.property(fc.string({ unit: "binary", minLength: 1 }), (text) => {
      for (const [, codec] of cases) codec.parse(text);
    }),
  );
});

const problemOf = (codec: Codec, text: string): string | undefined => {
  const value = codec.parse(text);
  return isProblem(value) ? value.problem : undefined;
};

test("says what is wrong with a number as someone who has seen it before", () => {
  const comma = decimalCodec({ point: ",", sign: "€" });
  assert.equal(comma.parse("€ 1234,50"), "1234.5");
  assert.equal(comma.parse("007,10 €"), "7.1");
  assert.equal(problemOf(comma, "4,01234E+12"), "scientific");
  assert.equal(problemOf(comma, "CHF 8,80"), "other-sign");
  assert.equal(problemOf(comma, "1.234,50"), "thousands");
  assert.equal(problemOf(comma, "€ 6.40"), "not-a-decimal");
  assert.equal(problemOf(comma, "on request"), "not-a-decimal");
  assert.equal(decimalCodec({ point: ",", thousands: "." }).parse("1.234,50"), "1234.5");
  assert.equal(problemOf(integerCodec, "1.5"), "not-an-integer");
  assert.equal(problemOf(dateCodec(["DD.MM.YYYY"]), "31.02.2026"), "not-a-date");
  assert.equal(problemOf(codeWordsCodec({ yes: "true" }), "Yes"), "not-a-word");
});

test("says what a fixed beginning or a root word is missing", () => {
  assert.equal(problemOf(betweenCodec("no. ", "", textCodec), "12"), "no-beginning");
  assert.equal(
    problemOf(codecOf({ path: "/", root: "Shop", by: "name@en" }, undefined).codec, "Hives/Full"),
    "no-beginning",
  );
  assert.deepEqual(JSON.parse(JSON.stringify(decimalCodec({ point: ",", places: 2 }).format("1.505"))), {
    text: "1.505",
    wanted: "at most 2 decimals",
  });
});

test("keeps a number of any length exact, and a hostile exponent out", () => {
  const long = "12345678901234567890123456789.123456789";
  assert.equal(decimalCodec({ point: "." }).parse(long), long);
  assert.equal(problemOf(decimalCodec({ point: "." }), "1e99999999"), "scientific");
});

test("refuses an escape before anything that needs none", () => {
  const codec = listCodec({ separator: "+", escape: "\\", of: escaped("\\", ["+"], textCodec) }, "a list");
  assert.deepEqual(codec.parse("a\\+b+c\\\\"), ["a+b", "c\\"]);
  assert.equal(problemOf(codec, "a\\n"), "bad-escape");
  assert.equal(problemOf(codec, "a\\"), "bad-escape");
  assert.equal(problemOf(codec, "a++b"), "empty-entry");
});
