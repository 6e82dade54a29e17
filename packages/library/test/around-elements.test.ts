/** JSON documents with anything around their elements: which values stand there, and which lists there are, against a plain walk through the parsed document. */

import assert from "node:assert/strict";
import { test } from "node:test";
import fc from "fast-check";
import { jsonLists } from "#src/formats/json-lists.js";
import { Findings } from "#src/index.js";
import { readJson } from "#src/parts.js";

type Json = null | boolean | number | string | Json[] | { [name: string]: Json };

const name = fc.constantFrom("a", "b", "c", "items");
const { document } = fc.letrec<{ document: Json; value: Json }>((tie) => ({
  value: fc.oneof(
    { depthSize: "small", withCrossShrink: true },
    fc.constantFrom<Json>(null, true, 7, "x", ""),
    fc.array(tie("value"), { maxLength: 3 }),
    fc.dictionary(name, tie("value"), { maxKeys: 4 }),
  ),
  document: fc.dictionary(name, tie("value"), { minKeys: 1, maxKeys: 4 }),
}));

/** How many values stand at each path, and the paths of lists and objects, those below the elements left out. */
function walked(document: Json, elements: string): { values: Map<string, number>; opened: Set<string> } {
  const values = new Map<string, number>();
  const opened = new Set<string>();
  const walk = (value: Json, path: string): void => {
    if (value === null) return;
    if (typeof value !== "object") return void values.set(path, (values.get(path) ?? 0) + 1);
    opened.add(path);
    if (path === elements) return;
    if (Array.isArray(value)) for (const one of value) walk(one, path);
    else for (const [key, one] of Object.entries(value)) walk(one, `${path}/${key}`);
  };
  walk(document, "");
  return { values, opened };
}

async function* inPieces(text: string): AsyncGenerator<string> {
  for (let at = 0; at < text.length; at += 5) yield await Promise.resolve(text.slice(at, at + 5));
}

/** Names down to a list, be it there or not. */
const pointer = fc.array(name, { minLength: 1, maxLength: 3 }).map((names) => `/${names.join("/")}`);

test("values around the elements are told once each, whatever stands there", async () => {
  await fc.assert(
    fc.asyncProperty(document, pointer, async (made, elements) => {
      const told = new Map<string, number>();
      const places = new Map<string, readonly string[]>();
      const outside = (steps: readonly string[]): void => {
        const path = steps.map((step) => `/${step}`).join("");
        told.set(path, (told.get(path) ?? 0) + 1);
        // Who counts them knows a place by its array.
        assert.equal(places.get(path) ?? steps, steps);
        places.set(path, steps);
      };
      const text = JSON.stringify(made);
      for await (const batch of readJson(
        inPieces(text),
        "made.json",
        elements,
        false,
        new Findings(),
        undefined,
        outside,
      ))
        void batch;
      assert.deepEqual(told, walked(made, elements).values);
    }),
  );
});

test("lists are found wherever they stand, several in one walk", async () => {
  await fc.assert(
    fc.asyncProperty(document, fc.uniqueArray(pointer, { minLength: 1, maxLength: 4 }), async (made, pointers) => {
      const found = await jsonLists(inPieces(JSON.stringify(made)), pointers);
      const { opened } = walked(made, "nowhere");
      assert.deepEqual([...(found ?? [])].sort(), pointers.filter((one) => opened.has(one)).sort());
    }),
  );
});
