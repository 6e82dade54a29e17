/** L8: what once failed in `npm run fuzz` fails no more, and a fixed few of each family; each family goes all the way when nothing is damaged. */

import assert from "node:assert/strict";
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { test } from "node:test";
import { families } from "./fuzz/families.js";
import { randomOf } from "./fuzz/mutate.js";

const runs = 25;
const corpus = fileURLToPath(new URL("../../test/fuzz/corpus/", import.meta.url));

for (const [name, { make, whole, attempt }] of Object.entries(families))
  test(`${name}: whole, and damaged by ${runs} seeds`, async () => {
    assert.ok(await attempt(whole), "goes all the way");
    for (let seed = 1; seed <= runs; seed++) await attempt(make(randomOf(seed * 7_919)));
  });

test("what once failed", async () => {
  assert.ok(existsSync(corpus));
  for (const file of readdirSync(corpus)) {
    const { family, names, bytes } = JSON.parse(readFileSync(`${corpus}${file}`, "utf8")) as Record<string, unknown>;
    const given = { names: names as string[], bytes: new Uint8Array(Buffer.from(String(bytes), "base64")) };
    await families[String(family)]!.attempt(given);
  }
});
