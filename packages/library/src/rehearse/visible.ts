/** Whether a shopper would see each product, and if not, which link of the chain hides it. */

import type { CellValue } from "../codecs/codec.js";
import { compareDecimals } from "../decimal.js";
import type { VisibleRule } from "../target/schema.js";
import { compareText } from "../location.js";
import type { Snapshot, SnapshotRecord } from "./snapshot.js";

/** A product that no shopper would see, and why. */
export interface Hidden {
  readonly product: string;
  /** In the target's words: "it stands at no place". */
  readonly because: readonly string[];
}

/** The products that a shopper would not see, by key. */
export function hiddenProducts(snapshot: Snapshot, rules: readonly VisibleRule[]): Hidden[] {
  const codes = new Map<CellValue | undefined, SnapshotRecord[]>();
  for (const record of snapshot.variant.values()) {
    const product = record.get("product");
    const own = codes.get(product);
    if (own) own.push(record);
    else codes.set(product, [record]);
  }
  return [...snapshot.product]
    .map(([product, record]) => {
      const shown = { product: record, codes: codes.get(product) ?? [], snapshot };
      return { product, because: rules.filter((rule) => !holds(rule, shown)).map((rule) => rule.otherwise) };
    })
    .filter((hidden) => hidden.because.length > 0)
    .sort((a, b) => compareText(a.product, b.product));
}

interface Shown {
  readonly product: SnapshotRecord;
  readonly codes: readonly SnapshotRecord[];
  readonly snapshot: Snapshot;
}

const isPositive = (value: CellValue | undefined): boolean =>
  typeof value === "string" && value !== "" && compareDecimals(value, "0") > 0;

function holds(rule: VisibleRule, { product, codes, snapshot }: Shown): boolean {
  const isRented = product.get("sort") === "hire";
  if ("variant field" in rule)
    return codes.some((code) => {
      const value = code.get(rule["variant field"]);
      return typeof value === "string" && compareDecimals(value, rule.above) > 0;
    });
  if ("in" in rule) {
    const places = product.get(rule.in);
    return Array.isArray(places) && places.some((location) => isOpen(location as string, rule.all, snapshot));
  }
  if ("entry" in rule)
    return [product, ...codes].some((record) => {
      const entries = record.get(rule.entry) as readonly (readonly string[])[] | undefined;
      return (entries ?? []).some(
        (entry) =>
          isPositive(entry[entry.length - 1]) &&
          rule.is.every((word, at) => entry[at] === word || (isRented && at === rule["for a time at"])),
      );
    });
  if ("variant" in rule) {
    const prices = isRented ? rule["rented above 0"] : rule["above 0"];
    return codes.some(
      (code) => code.get(rule.variant) === rule.is && prices.some((price) => isPositive(code.get(price))),
    );
  }
  const value = product.get(rule.field);
  return "is" in rule ? value === rule.is : value !== undefined;
}

/** Whether a record of the tree, and all above it, have the flag. */
function isOpen(key: string, field: string, { category }: Snapshot): boolean {
  const seen = new Set<string>();
  for (let at: string | undefined = key; at !== undefined && !seen.has(at);) {
    seen.add(at);
    const record = category.get(at);
    if (record?.get(field) !== "true") return false;
    at = record.get("parent") as string | undefined;
  }
  return true;
}
