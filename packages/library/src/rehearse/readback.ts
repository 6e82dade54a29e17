/**
 * What a platform tells of itself, as a snapshot: its public catalogue in JSON, read as the target says.
 *
 * What does not have the form that the target describes is left out; comparing then shows it as missing.
 */

import type { Lang } from "../nominal.js";
import type { CellValue } from "../codecs/codec.js";
import { canonicalDecimal } from "../decimal.js";
import type { ReadbackRules } from "../target/adapter/played.js";
import type { Target } from "../target/target.js";
import { readRecordsBack } from "./readback-records.js";
import { pathKey, setField, sortTiers, type Snapshot } from "./snapshot.js";

type MutableRecord = Map<string, CellValue>;

/**
 * A platform's whole catalogue, as its endpoint answers, by kind and key.
 *
 * @throws Error for a target of which it is not known how its catalogue shows what it holds: the caller's bug.
 */
export function readbackSnapshot(json: unknown, { readback, languages, name }: Target): Snapshot {
  if (!readback) throw new Error(`it is not known how ${name} shows what it holds`);
  return "records" in readback ? readRecordsBack(json, readback) : readGroupsBack(json, readback, languages);
}

function readGroupsBack(json: unknown, readback: ReadbackRules, languages: readonly Lang[]): Snapshot {
  const product = new Map<string, MutableRecord>();
  const variant = new Map<string, MutableRecord>();
  const category = new Map<string, MutableRecord>();

  const fieldsOf = (from: unknown, pointers: Readonly<Record<string, string>>): MutableRecord => {
    const record: MutableRecord = new Map();
    for (const [field, pointer] of Object.entries(pointers)) setField(record, field, valueOf(at(from, pointer)));
    return record;
  };
  const wordsOf = (
    from: unknown,
    { each, languages: pointers }: { each: string; languages: Readonly<Record<string, string>> },
  ): string[][] => listAt(from, each).map((one) => languages.map((lang) => textOf(at(one, pointers[lang] ?? ""))));

  for (const item of listAt(json, readback.products.each)) {
    const key = textOf(at(item, readback.products.key));
    const record = fieldsOf(item, readback.fields);
    setField(record, "axes", wordsOf(item, readback.axes));
    product.set(key, record);
    for (const code of listAt(item, readback.variants.each)) {
      const own = fieldsOf(code, readback["variant fields"]);
      own.set("product", key);
      setField(own, "values", wordsOf(code, readback.values));
      for (const [lane, { each, fields }] of Object.entries(readback.lanes))
        setField(
          own,
          lane,
          sortTiers(
            listAt(code, each).map((entry) => Object.values(fields).map((pointer) => textOf(at(entry, pointer)))),
          ),
        );
      variant.set(textOf(at(code, readback.variants.key)), own);
    }
  }
  for (const node of listAt(json, readback.categories.each)) {
    const path = valueOf(at(node, readback.categories.path));
    if (Array.isArray(path)) category.set(pathKey(path as string[]), fieldsOf(node, readback.categories.fields));
  }
  return { product, variant, category };
}

/** @param pointer names separated by points: `title.en`. */
export function at(from: unknown, pointer: string): unknown {
  return pointer
    .split(".")
    .reduce<unknown>(
      (here, name) =>
        typeof here === "object" && here !== null && Object.hasOwn(here, name)
          ? (here as Record<string, unknown>)[name]
          : undefined,
      from,
    );
}

export const listAt = (from: unknown, pointer: string): readonly unknown[] => {
  const list = at(from, pointer);
  return Array.isArray(list) ? list : [];
};

function valueOf(value: unknown): CellValue | undefined {
  if (value === null || value === undefined) return undefined;
  return Array.isArray(value) ? value.map((one) => valueOf(one) ?? "") : textOf(value);
}

/** Numbers come as JSON numbers or as text; both in the one canonical form. */
export function textOf(value: unknown): string {
  if (typeof value === "number") return canonicalDecimal(String(value)) ?? String(value);
  return typeof value === "string" || typeof value === "boolean" ? String(value) : "";
}
