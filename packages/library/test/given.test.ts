import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { describeFinding, Findings, type Finding } from "#src/index.js";
import { compileLayout, parseGiven, parseTarget } from "#src/parts.js";
import { givenLayout, givenProject, givenTarget } from "#src/schemas.js";
import { codes, kinds, one, pennywortText, rangeLayout } from "./support.js";

function mistakesIn(yaml: string): readonly Finding[] {
  const findings = new Findings();
  const given = findings.took(parseGiven(yaml, "layout.yaml", givenLayout));
  if (given) findings.took(compileLayout(given.value, given.at, kinds));
  return findings.list();
}

/** Where in a text something stands, as a finding says it. */
function spot(text: string, what: string): { line: number; char: number } {
  const before = text.slice(0, text.indexOf(what)).split("\n");
  return { line: before.length, char: before[before.length - 1]!.length + 1 };
}

const mistakes: readonly (readonly [string, string, string, string, string])[] = [
  [
    "a word that the form does not know",
    "grouped by: Range",
    "groupd by: Range",
    "given/unknown-word",
    'Did you mean "grouped by"',
  ],
  ["a value of another form", "shared cells: first row", "shared cells: some row", "given/wrong-value", "shared cells"],
  ["a kind that there is not", "each: variant", "each: variants", "layout/mistake", 'Did you mean "variant"'],
  [
    "a field that the kind does not have",
    "No: variant.code",
    "No: variant.codde",
    "layout/mistake",
    'Did you mean "code"',
  ],
  ["a column that there is not", "grouped by: Range", "grouped by: Rang", "layout/mistake", 'Did you mean "Range"'],
  [
    "a list where there is one",
    "Name: product.name@en",
    'Name: { field: product.name@en, as: { list: "; " } }',
    "layout/mistake",
    "not a list",
  ],
  [
    "languages where there are none",
    "EAN: variant.barcode",
    "EAN: variant.barcode@en",
    "layout/mistake",
    "does not depend on the language",
  ],
  [
    "entries without a field",
    "Stock: { field: variant.stock.quantity, as: integer }",
    "Stock: variant.stock",
    "layout/mistake",
    "variant.stock.quantity",
  ],
  [
    "a codec that there is not",
    'as: { decimal: ",", sign: € }',
    'as: { decimals: "," }',
    "given/unknown-word",
    'Did you mean "decimal"',
  ],
];

const furtherMistakes: typeof mistakes = [
  [
    "an encoding that there is not",
    'delimiter: ";" }',
    'delimiter: ";", encoding: utf-88 }',
    "layout/mistake",
    'Did you mean "utf-8"',
  ],
  [
    "a column that feeds a product and a variant",
    "Range: product.key",
    "Range: [product.key, variant.weight]",
    "layout/mistake",
    "different records",
  ],
  [
    "entries that these rows do not hold",
    "entries: variant.prices",
    "entries: variant.price",
    "layout/mistake",
    'Did you mean "variant.prices"',
  ],
  [
    "what tells entries apart, of a field without entries",
    "Range: product.key",
    "Range: product.brand(main)",
    "layout/mistake",
    "no entries to tell apart",
  ],
  ["an axis that holds neither", "holds: name@en", "holds: nam@en", "layout/mistake", 'Did you mean "name"'],
];

for (const [what, right, wrong, code, says] of [...mistakes, ...furtherMistakes]) {
  test(`points at ${what}, and says what was probably intended`, () => {
    assert.ok(rangeLayout.includes(right));
    const yaml = rangeLayout.replace(right, wrong);
    const found = one(mistakesIn(yaml), code);
    const location = spot(yaml, wrong);
    assert.equal(found.at?.line, location.line);
    assert.ok((found.at?.char ?? 0) >= 1);
    assert.ok(describeFinding(found).message.includes(says), describeFinding(found).message);
  });
}

test("finds nothing wrong with the layout itself", () => assert.deepEqual(mistakesIn(rangeLayout), []));

test("reports every mistake of a layout, not the first", () => {
  const yaml = rangeLayout.replace("variant.code", "variant.codde").replace("variant.barcode", "variant.barkode");
  assert.deepEqual(codes(mistakesIn(yaml)), ["layout/mistake", "layout/mistake"]);
});

test("a file that comes again is what it was, by its own name, and cannot be changed", () => {
  const parse = (text: string, file: string) => {
    const parsed = parseGiven(text, file, givenLayout);
    assert.ok(parsed.ok);
    return parsed.value;
  };
  const first = parse(rangeLayout, "range.yaml");
  assert.equal(parse(rangeLayout, "range.yaml"), first);
  assert.equal(parse(rangeLayout, "copy.yaml").at("columns").file, "copy.yaml");
  const other = parse(rangeLayout.replace(/layout: \S+/, "layout: other"), "range.yaml");
  assert.notDeepEqual(other.value, first.value);
  assert.throws(() => ((first.value as { layout: string }).layout = "mine"), TypeError);
  assert.throws(() => delete (first.value.columns as Record<string, unknown>)[Object.keys(first.value.columns)[0]!]);
  // So much has come since that it is forgotten: then it is parsed anew, to the same.
  for (let nth = 0; nth < 12; nth++) parse(`${rangeLayout}# ${"x".repeat(100_000)} ${nth}\n`, "range.yaml");
  const again = parse(rangeLayout, "range.yaml");
  assert.notEqual(again, first);
  assert.deepEqual(again.value, first.value);
  // Mistakes are reported each time.
  const wrong = () => mistakesIn(`${rangeLayout}colums: {}\n`).map((one) => describeFinding(one));
  assert.ok(wrong().length > 0);
  assert.deepEqual(wrong(), wrong());
});

test("says where YAML breaks off", () => {
  const [found] = mistakesIn('layout: a\nrows: { each: "category\n');
  assert.equal(found?.code, "given/not-yaml");
  assert.ok(found.at!.line! >= 2);
});

test("takes a layout that is far too long for no layout", () => {
  assert.deepEqual(codes(mistakesIn(`# ${"x".repeat(2_000_001)}`)), ["given/too-large"]);
});

test("points at a rule for a column that the target's file does not have", () => {
  const findings = new Findings();
  const text = pennywortText.replace("Weight kg: { from:", "Weight: { from:");
  assert.equal(findings.took(parseTarget(text, "pennywort.yaml", kinds)), undefined);
  const found = one(findings.list(), "target/mistake");
  assert.deepEqual(found.at && { line: found.at.line, char: found.at.char }, spot(text, "Weight: { from:"));
});

test("publishes a schema that the shipped target passes", () => {
  const findings = new Findings();
  assert.ok(findings.took(parseGiven(pennywortText, "pennywort.yaml", givenTarget)));
  assert.deepEqual(findings.list(), []);
});

test("makes findings of whatever stands in a layout, a target or a project, never an exception", () => {
  const scrap = fc.oneof(
    fc.string({ unit: "binary", maxLength: 60 }),
    fc.json(),
    fc
      .tuple(fc.nat(pennywortText.length - 1), fc.nat(40), fc.string({ maxLength: 6 }))
      .map(([at, length, text]) => pennywortText.slice(0, at) + text + pennywortText.slice(at + length)),
    fc
      .tuple(fc.nat(rangeLayout.length - 1), fc.nat(20), fc.string({ maxLength: 6 }))
      .map(([at, length, text]) => rangeLayout.slice(0, at) + text + rangeLayout.slice(at + length)),
  );
  fc.assert(
    fc.property(scrap, (text) => {
      mistakesIn(text);
      const findings = new Findings();
      if (!findings.took(parseTarget(text, "t.yaml", kinds))) assert.ok(findings.list().length > 0);
      const others = new Findings();
      if (!others.took(parseGiven(text, "p.yaml", givenProject))) assert.ok(others.list().length > 0);
    }),
    { numRuns: 200 },
  );
});

const whole: readonly (readonly [name: string, yaml: string, says: RegExp])[] = [
  [
    "a field by which nothing is found",
    "rows: { each: variant, found by: { column: A, names: cod } }\ncolumns: { K: variant.weight }",
    /"cod" does not name a variant.*"code"/,
  ],
  [
    "lines without their sheet",
    "rows: { each: product, found by: { column: A, names: line } }\ncolumns: { K: product.weight }",
    /lines need "sheet"/,
  ],
  [
    "an element in a sheet",
    "rows: { each: product, element: /a/b }\ncolumns: { K: product.key }",
    /"element" is for documents/,
  ],
  [
    "a document without its element",
    "format: { xml: {} }\nrows: { each: product }\ncolumns: { K: product.key }",
    /needs "element"/,
  ],
  [
    "a path that is none",
    'format: { xml: {} }\nrows: { each: product, element: /a/b }\ncolumns: { "a[": product.key }',
    /"a\[" is not a valid path/,
  ],
  [
    "a pointer that is none",
    "format: { json: {} }\nrows: { each: product, element: /a }\ncolumns: { key: product.key }",
    /"key" is not a valid JSON Pointer/,
  ],
  [
    "variants of a document without their element",
    "format: { json: {} }\nrows: { each: variant, of: product, element: /a }\ncolumns: { /k: product.key }",
    /need a "child element"/,
  ],
  [
    "a pattern with a filter that there is not",
    'rows: { each: variant, of: product, expanded: { code: "{key|loud}" } }\ncolumns: { K: product.key }',
    /there is no filter "loud"/,
  ],
  [
    "a pattern of something else",
    'rows: { each: variant, of: product, expanded: { code: "{name}" } }\ncolumns: { K: product.key }',
    /is neither "key" nor the number/,
  ],
  [
    "cells that no column takes",
    "cells: { A: { split: x, into: [B, C] } }\nrows: { each: product }\ncolumns: { K: product.key, B: product.weight }",
    /"C" is not a column/,
  ],
  [
    "a pointer within a pointer",
    "cells: { A: { json: { /a: B, /a/b: C } } }\nrows: { each: product }\ncolumns: { K: product.key, B: product.weight, C: product.barcode }",
    /lies within another/,
  ],
  [
    "a lane without what continues it",
    "rows: { each: product }\nlanes: { p: { entries: product.prices } }\ncolumns: { K: product.key, A: p.amount }",
    /needs "continued when blank"/,
  ],
  [
    "parts that name no record",
    "rows: { each: product }\ncolumns: { K: product.key, C: { field: product.axes, as: { parts: '/', holds: [position, position] } } }",
    /has to name the axis/,
  ],
  [
    "values that are listed in no list",
    "rows: { each: variant, of: product, expanded: {} }\ncolumns: { K: product.key, V: { axis: 1, holds: values } }",
    /values need a list/,
  ],
  [
    "a reference of a reference",
    "rows: { each: product }\ncolumns: { K: product.key, C: { field: product.categories.parent } }",
    /parent of category is a reference/,
  ],
  [
    "an encoding that there is not",
    "format: { csv: { encoding: utf-7x } }\nrows: { each: product }\ncolumns: { K: product.key }",
    /"utf-7x" is not a known encoding/,
  ],
  [
    "a model row in a document",
    "format: { json: {} }\nmodel row: { column: /k, is: M }\nrows: { each: product, element: /a }\ncolumns: { /k: product.key }",
    /"model row" is for sheets/,
  ],
  [
    "filling down in a document",
    "format: { json: {} }\nfilled down: [/k]\nrows: { each: product, element: /a }\ncolumns: { /k: product.key }",
    /"filled down" is for sheets/,
  ],
  [
    "filling down what each row has of its own",
    "filled down: [C]\nrows: { each: variant, of: product, grouped by: K }\ncolumns: { K: product.key, C: variant.code }",
    /"C" cannot be filled down/,
  ],
  [
    "filling down what continues rows by being blank",
    "filled down: [K]\nrows: { each: variant, of: product, grouped by: K }\nlanes: { p: { entries: product.pictures, continued when blank: [K, C] } }\ncolumns: { K: product.key, C: variant.code, F: p.file }",
    /"K" cannot be filled down/,
  ],
  [
    "filling down beside a language for each row",
    "filled down: [K]\nrows: { each: product, language: { column: L, code words: { en: en } } }\ncolumns: { K: product.key, N: product.name }",
    /"filled down" is not for these rows/,
  ],
  [
    "filling down a column that is not there",
    "filled down: [X]\nrows: { each: product }\ncolumns: { K: product.key }",
    /"X" is not a column of this layout/,
  ],
  [
    "a name that would be lost",
    'rows: { each: product }\ncolumns: { K: product.key, "__proto__": product.weight }',
    /cannot be a name/,
  ],
];

for (const [name, yaml, says] of whole)
  test(`states for a layout with ${name} what is wrong, and where`, () => {
    const list = mistakesIn(`layout: w\n${yaml}\n`);
    assert.equal(list.length, 1, JSON.stringify(list));
    assert.match(describeFinding(list[0]!).message, says);
    assert.ok((list[0]!.at?.line ?? 0) >= 1);
  });
