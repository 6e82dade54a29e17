/** The words of `rows`: each is carried by the shape that they make, or refused at its line. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { layoutOfText } from "#src/index.js";

const written: Readonly<Record<string, string>> = {
  "grouped by": "A",
  groups: "scattered",
  "shared cells": "own row",
  marker: "{ column: A, parent: p, child: c }",
  "joined by": "{ column: A, names: key }",
  "found by": "{ column: A, names: key }",
  expanded: "{ code: '{key}' }",
  element: "/range/item",
  "child element": "version",
  language: "{ column: A, code words: { EN: en, DE: de } }",
};

/** What goes with every shape. */
const layers = ["found by", "language"];

/** What each shape makes of its words, as docs/layouts.md says. */
const carried: Readonly<Record<string, readonly string[]>> = {
  flat: [],
  nested: ["element", "child element"],
  expanded: ["expanded"],
  "own-row": ["shared cells", "joined by", "marker"],
  grouped: ["grouped by", "groups", "shared cells"],
};

const layoutWith = (words: readonly string[], isContained: boolean): string => {
  const isDocument = words.includes("element");
  return [
    "layout: any",
    `format: { ${isDocument ? "xml" : "csv"}: {} }`,
    "rows:",
    `  each: ${isContained ? "variant" : "product"}`,
    ...(isContained ? ["  of: product"] : []),
    ...words.map((word) => `  ${word}: ${written[word]}`),
    `columns: { ${isDocument ? "no" : "A"}: product.key }`,
  ].join("\n");
};

test("a word of rows is carried by the shape, or refused at its line", () => {
  const met = new Map<string, number>();
  let refused = 0;
  fc.assert(
    fc.property(fc.subarray(Object.keys(written), { maxLength: 4 }), fc.boolean(), (words, isContained) => {
      const result = layoutOfText(layoutWith(words, isContained), "any.yaml");
      if (result.ok) {
        const { is } = result.value.shape;
        met.set(is, (met.get(is) ?? 0) + 1);
        assert.deepEqual(
          words.filter((word) => !carried[is]?.includes(word) && !layers.includes(word)),
          [],
          is,
        );
        return;
      }
      refused++;
      const first = isContained ? 6 : 5;
      const last = first + words.length;
      for (const { code, at } of result.findings.list()) {
        assert.equal(code, "layout/mistake");
        assert.ok(
          at?.file === "any.yaml" && at.line !== undefined && at.line >= 3 && at.line <= last,
          JSON.stringify(at),
        );
      }
    }),
    { numRuns: 600 },
  );
  assert.deepEqual([...met.keys()].sort(), Object.keys(carried).sort());
  assert.ok(refused > 100, `${refused} refused`);
});

test("a word that the rows do not take is refused at its own line", () => {
  const result = layoutOfText(layoutWith(["grouped by", "marker"], true), "any.yaml");
  assert.ok(!result.ok);
  const [found] = result.findings.list();
  assert.deepEqual([found?.at?.line, JSON.stringify(found?.facts).includes("marker")], [7, true]);
});
