/** What a simulated platform of records asks of its records among each other: codes, axes and values, circles. */

import { present } from "../../checked.js";
import type { CellValue } from "../../codecs/codec.js";
import type { RecordRules } from "../../target/adapter/played.js";
import type { RecordColumn } from "./record-columns.js";
import type { RecordRow } from "./record-row.js";
import type { RegisterRecord, Registers } from "./registers.js";

const list = (value: CellValue | undefined): readonly string[] =>
  Array.isArray(value) ? (value as readonly string[]) : [];

function variantsOf(product: string, registers: Registers): RegisterRecord[] {
  return registers.having("product", product).filter((record) => record.kind === "variant");
}

function codeTaken(held: RegisterRecord, registers: Registers): boolean {
  const code = held.fields.get("code");
  return typeof code === "string" && registers.having("code", code).some((other) => other !== held);
}

const numbered = (held: RegisterRecord, word: "axis" | "value"): (CellValue | undefined)[] =>
  Array.from({ length: 20 }, (_, at) => held.fields.get(`${word} ${at + 1}`));

export function productProblems(held: RegisterRecord, registers: Registers, before?: RegisterRecord): string[] {
  const problems: string[] = [];
  if (codeTaken(held, registers)) problems.push("the code is taken");
  const names = numbered(held, "axis").filter((word) => word !== undefined);
  const last = numbered(held, "axis").findLastIndex((word) => word !== undefined);
  if (names.length < last + 1) problems.push("an axis is left out");
  if (new Set(names).size < names.length) problems.push("an axis comes twice");
  if (!before) return problems;
  if (variantsOf(held.key, registers).length === 0) return problems;
  if (held.fields.has("code")) problems.push("a code, and variants");
  if (JSON.stringify(held.fields.get("axes") ?? []) !== JSON.stringify(before.fields.get("axes") ?? []))
    problems.push("the axes of a product with variants never change");
  return problems;
}

/** A variant with references to values: one on each axis of its product, no two variants alike. */
export function variantProblems(held: RegisterRecord, registers: Registers): string[] {
  const product = registers.find("product", (held.fields.get("product") as string | undefined) ?? "");
  if (!product) return [];
  const problems: string[] = [];
  if (codeTaken(held, registers)) problems.push("the code is taken");
  if (product.fields.has("code")) problems.push("a code, and variants");
  const axes = list(product.fields.get("axes"));
  const values = list(held.fields.get("values"));
  const onAxes = values.map((value) => registers.find("value", value)?.fields.get("axis"));
  if (values.length !== axes.length || axes.some((axis) => !onAxes.includes(axis)))
    problems.push("the values do not fit the axes");
  const key = (one: RegisterRecord) => [...list(one.fields.get("values"))].sort().join("\u0000");
  if (variantsOf(product.key, registers).some((other) => other !== held && key(other) === key(held)))
    problems.push("another variant has these values");
  return problems;
}

/** A record below itself, a bundle that is a part of itself, a product related to itself. */
export function treeProblem(
  held: RegisterRecord,
  collection: string | undefined,
  columns: readonly RecordColumn[],
  values: readonly CellValue[],
  registers: Registers,
): string | undefined {
  if (collection === undefined) {
    const seen = new Set<string>();
    for (let at = held.fields.get("parent") as string | undefined; at !== undefined && !seen.has(at);) {
      if (at === held.key) return "it lies below itself";
      seen.add(at);
      at = registers.find(held.kind, at)?.fields.get("parent") as string | undefined;
    }
    return undefined;
  }
  const to = columns.findIndex((column) => column.refers?.to.includes("product") ?? false);
  if (to < 0) return undefined;
  const goodOf = (word: string): string => {
    const variant = present(columns[to]!.refers).to.includes("variant") ? registers.find("variant", word) : undefined;
    return (variant?.fields.get("product") as string | undefined) ?? word;
  };
  const first = goodOf(values[to] as string);
  if (collection !== "components") return first === held.key ? "it leads to itself" : undefined;
  const open = [first];
  const seen = new Set<string>();
  while (open.length > 0) {
    const at = present(open.pop());
    if (at === held.key) return "it is a part of itself";
    if (seen.has(at)) continue;
    seen.add(at);
    for (const entry of registers.find("product", at)?.entries.get(collection)?.values() ?? [])
      open.push(goodOf(entry[to] as string));
  }
  return undefined;
}

/** What has to hold of products once a file is through; said of the first row that speaks of each. */
export function* afterFile(
  rows: readonly RecordRow[],
  registers: Registers,
  importer: RecordRules,
): Generator<{ readonly row: RecordRow; readonly reason: string }> {
  const first = new Map<string, RecordRow>();
  const coded = new Set<string>();
  for (const row of rows) {
    if (row.product === undefined) continue;
    if (!first.has(row.product)) first.set(row.product, row);
    if (row.isParentRow && row.childWord !== "") coded.add(row.product);
  }
  for (const [key, row] of first) {
    const product = registers.find("product", key);
    if (!product) continue;
    const variants = variantsOf(key, registers);
    if (variants.length === 0 && importer["product without codes"] === "refuse") yield { row, reason: "no variant" };
    if (coded.has(key) && variants.length > 1) yield { row, reason: "a code, and variants" };
    const axes = numbered(product, "axis").filter((word) => word !== undefined).length;
    const combinations = variants.map((variant) => numbered(variant, "value"));
    if (combinations.some((values) => values.some((value, at) => (value === undefined) !== at >= axes)))
      yield { row, reason: "the values do not fit the axes" };
    if (new Set(combinations.map((one) => JSON.stringify(one))).size < combinations.length)
      yield { row, reason: "two variants are alike" };
  }
}
