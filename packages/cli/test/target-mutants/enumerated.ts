/** The values of words that have a few, as the schema of targets has them. */

import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import type { Json } from "./mutants.js";

const path = fileURLToPath(import.meta.resolve("zest-tier/schemas/target.schema.json"));
const byWord = new Map<string, Set<string>>();
collect(JSON.parse(readFileSync(path, "utf8")) as Json);

/** By word: its values, the usual one first. */
export const enumerated: ReadonlyMap<string, readonly string[]> = new Map(
  [...byWord].map(([word, values]) => [word, [...values]]),
);

function collect(schema: Json): void {
  if (typeof schema !== "object" || schema === null) return;
  const { properties } = schema as { readonly properties?: Readonly<Record<string, Json>> };
  for (const [word, own] of Object.entries(properties ?? {})) {
    const values = (own as { readonly enum?: readonly string[] }).enum ?? [];
    if (values.length > 0) byWord.set(word, new Set([...(byWord.get(word) ?? []), ...values]));
  }
  for (const inner of Object.values(schema as object)) collect(inner as Json);
}
