/** Whether a shopper would see each product, and if not, which link of the chain hides it. */

import type { CellValue } from "../codecs/codec.js";
import { compareDecimals } from "../decimal.js";
import type { VisibleRule } from "../target/schema.js";
import { compareText } from "../place.js";
import type { Snapshot, SnapshotRecord } from "./snapshot.js";

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
    .map(([product, record]) => ({
      product,
      because: rules.filter((rule) => !holds(rule, record, codes.get(product) ?? [])).map((rule) => rule.otherwise),
    }))
    .filter((hidden) => hidden.because.length > 0)
    .sort((a, b) => compareText(a.product, b.product));
}

function holds(rule: VisibleRule, product: SnapshotRecord, codes: readonly SnapshotRecord[]): boolean {
  if ("variant field" in rule) {
    return codes.some((code) => {
      const value = code.get(rule["variant field"]);
      return typeof value === "string" && compareDecimals(value, rule.above) > 0;
    });
  }
  const value = product.get(rule.field);
  return "is" in rule ? value === rule.is : value !== undefined;
}
