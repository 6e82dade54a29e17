/** Every word of an importer, with every value: it changes what a target comes to, or the target is refused at its line. */

import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import { z } from "zod";
import { Document, isMap, parseDocument } from "yaml";
import type { Target } from "#src/index.js";
import { parseTarget } from "#src/parts.js";
import { givenImporter } from "#src/target/schema.js";
import { kinds, one, pennywort, pennywortText } from "./support.js";

const textOf = (name: string): string => readFileSync(new URL(`../../targets/${name}.yaml`, import.meta.url), "utf8");
const quayText = readFileSync(new URL("../../test/fennel-quay/target.yaml", import.meta.url), "utf8");

/** Where a target says how a file of each form of rows is processed. */
const forms: readonly (readonly [string, string, readonly string[]])[] = [
  ["grouped rows", textOf("pennywort"), ["files", "items", "importer"]],
  ["a row a record", textOf("saltmarsh"), ["importer"]],
  ["own rows, the whole file", textOf("tollgate"), ["files", "range", "importer"]],
  ["own rows, row by row", quayText, ["files", "wares", "importer"]],
];

const schemas = z.toJSONSchema(givenImporter, { io: "input" }).properties ?? {};
const choicesOf = (word: string): readonly string[] => {
  const choices = schemas[word];
  return typeof choices === "object" ? (choices.enum ?? []).map(String) : [];
};

/** The text with a word of the importer set, and the line on which it then stands. */
function withWord(text: string, path: readonly string[], word: string, value: string) {
  const document: Document = parseDocument(text);
  document.setIn([...path, word], value);
  const changed = document.toString({ lineWidth: 0 });
  const importer = parseDocument(changed).getIn(path);
  assert.ok(isMap(importer));
  const key = importer.items.find((item) => String(item.key) === word)!.key as { range: [number, number, number] };
  return { changed, line: changed.slice(0, key.range[0]).split("\n").length };
}

interface Tried {
  /** The line of the word. */
  readonly line: number;
  readonly result: ReturnType<typeof parseTarget>;
  /** What the target comes to; `undefined` when it is refused. */
  readonly outcome: string | undefined;
}

const tried = new Map<string, Tried>();

/** Each target is parsed once for each value, whichever test asks. */
function tryWord(text: string, path: readonly string[], word: string, value: string): Tried {
  const id = JSON.stringify([path, word, value]);
  const known = tried.get(id);
  if (known !== undefined) return known;
  const { changed, line } = withWord(text, path, word, value);
  const result = parseTarget(changed, "t.yaml", kinds);
  const made = { line, result, outcome: result.ok ? comesTo(result.value) : undefined };
  tried.set(id, made);
  return made;
}

/** What a target comes to, wherever its words stand. */
const comesTo = (target: Target): string =>
  JSON.stringify(target, (_, value: unknown) => {
    if (value instanceof Map) return [...value];
    if (value instanceof RegExp) return value.source;
    return typeof value === "object" && value !== null && "file" in value && "line" in value ? "a place" : value;
  });

for (const [form, text, path] of forms)
  test(`each value of each word of an importer is carried, or refused at its line: ${form}`, () => {
    const base = parseTarget(parseDocument(text).toString({ lineWidth: 0 }), "t.yaml", kinds);
    assert.ok(base.ok);
    const usual = comesTo(base.value);
    const counts = { same: 0, changed: 0, refused: 0 };
    for (const word of Object.keys(givenImporter.shape))
      for (const value of choicesOf(word)) {
        const { line, result, outcome } = tryWord(text, path, word, value);
        if (!result.ok) {
          const places = result.findings.list().map(({ code, at }) => `${code} ${at?.line}`);
          // Of names it is the column that cannot be played: there may be many, each at its own line.
          const isOfNames = word === "unknown names" || word === "looked up" || word === "refusal costs";
          // Of what is deleted where it is not named it is the import that does not name it.
          const isOfImports = word === "children not named" && value === "deleted";
          assert.ok(
            isOfNames || isOfImports || places.includes(`target/mistake ${line}`),
            `${word}: ${value} at ${places.join()}`,
          );
          counts.refused++;
        } else if (outcome === usual) {
          const said: unknown = parseDocument(text).getIn([...path, word]);
          const isUsual = said === undefined || said === value;
          assert.ok(isUsual, `${word}: ${value} instead of ${String(said)} makes no difference`);
          counts.same++;
        } else counts.changed++;
      }
    // A word that says what is so anyway, and one that makes a difference: both occur.
    assert.ok(counts.same > 5 && counts.changed > 5, JSON.stringify(counts));
  });

test("a word that says nothing new of a file is what the importer does without it", () => {
  const words = Object.keys(givenImporter.shape).filter((word) => choicesOf(word).length > 0);
  for (const word of words) {
    // One value of each word at most can be left out without a difference.
    const outcomes = choicesOf(word).flatMap(
      (value) => tryWord(textOf("saltmarsh"), ["importer"], word, value).outcome ?? [],
    );
    assert.equal(new Set(outcomes).size, outcomes.length, `${word}: two of its values come to the same`);
  }
});

const mistakeOf = (from: string, to: string): { readonly problem: string; readonly line: number | undefined } => {
  assert.ok(pennywortText.includes(from), from);
  const result = parseTarget(pennywortText.replace(from, to), "pennywort.yaml", kinds);
  assert.ok(!result.ok, "it is refused");
  const { facts, at } = one(result.findings.list(), "target/mistake");
  return { problem: String((facts as { problem: unknown }).problem), line: at?.line };
};
const lineOf = (text: string): number => pennywortText.slice(0, pennywortText.indexOf(text)).split("\n").length;

test("an import whose columns name no variants is refused where those that are not named are deleted", () => {
  const deleting = "      refusal costs: record\n      children not named: deleted";
  const { problem, line } = mistakeOf("      refusal costs: record", deleting);
  assert.match(problem, /without "Code" an import would delete what it does not name/);
  assert.equal(line, lineOf("  - { name: links") + 1);
  const naming = pennywortText
    .replace("      refusal costs: record", deleting)
    .replace("columns: [Item, Goes with, Spares]", "columns: [Item, Code, Goes with, Spares]");
  assert.deepEqual(parseTarget(naming, "pennywort.yaml", kinds).findings.list(), []);
});

test("columns, parts and names that cannot be so are refused at their line", () => {
  const cases: readonly (readonly [string, string, RegExp])[] = [
    ["      Brand: { ch", "      Brand: { starts as: Thorn, ch", /in such a column/],
    ["      Brand: { ch", "      Brand: { condition: { holds: 'wight > 0', otherwise: x }, ch", /wight/],
    ["      Brand: { ch", "      Brand: { looked up: before the file, ch", /not looked up/],
    ["      Brand: { ch", "      Brand: { entries at most: 2, ch", /not for such a column/],
    ["      Title {other}: { ch", '      Title {other}: { from: "1", ch', /not for such a column/],
    ["      Stock: { blank", "      Stock: { over: cut, blank", /means nothing without/],
    [
      "      refusal costs: record",
      "      identified by: { brand: [key] }\n      refusal costs: record",
      /not for these rows/,
    ],
    ["      Barcode: { gtin: true }", "      Barcode: { gtin: true, unknown: create }", /names? records?/],
    ["      Goes with: { entries", "      Goes with: { fixed: true, entries", /in such a column/],
    [
      "      refusal costs: record",
      "      identified by: { product: [name, id] }\n      refusal costs: record",
      /no column says the id of a product/,
    ],
    ["      Spares: { entries", "      Spares/name: { required: true }\n      Spares: { entries", /no part "name"/],
    ["      Stock: { blank", "      Stok: { blank", /not a column/],
    [
      'as: { by: "name@{main}" } }\n        Differs',
      'as: { by: "name@{main}" }, missing: create }\n        Differs',
      /unknown/,
    ],
    ["    limits: {", "    must have: [Item, Cod]\n    limits: {", /"Cod" is not a column/],
    ["    limits: {", "    entry key: [Frm]\n    limits: {", /"Frm" is not a column/],
    ["  - { file: items }", "  - { file: item }", /no file/],
    ["columns: [Item, Goes with, Spares] }", "columns: [Item, Goes wth] }", /not a column/],
  ];
  for (const [from, to, says] of cases) {
    const { problem, line } = mistakeOf(from, to);
    assert.match(problem, says);
    assert.ok(Math.abs((line ?? 0) - lineOf(from.trimStart())) <= 1, `${problem} at ${line}`);
  }
});

test("what an upload makes, adds and waits for follows from the columns of its file", () => {
  const { slots, demands } = pennywort();
  assert.deepEqual(
    slots.map(({ name, mode, creates, updates }) => [name, mode, [...creates].sort(), updates]),
    [
      ["items", "create", ["axis", "brand", "category", "customer-group", "product", "value", "variant"], []],
      ["links", "update", [], ["product.relations"]],
    ],
  );
  assert.equal(demands.get("product.relations"), "same file");
  assert.equal(demands.get("product.categories"), "anywhere");
});
