/** Quantities: no two tiers for the same one, the least not above the most, reordering not below where it begins. */

import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { compareDecimals } from "../decimal.js";
import { finding } from "../findings/finding.js";
import type { CheckContext, Check } from "./rule.js";
import { added } from "../lists.js";

/** Fields of which the first must not be above the second. */
const pairs = [
  ["", "quantityLeast", "quantityMost"],
  [".stock", "reorderAt", "reorderTo"],
  [".prices", "quantityFrom", "quantityTo"],
] as const;

export const checkQuantities: Check = (context) => {
  const { catalogue, findings } = context;
  for (const owner of ["product", "variant"]) reportOverlaps(context, catalogue.table(`${owner}.prices`));
  for (const owner of ["product", "variant"])
    for (const [collection, low, high] of pairs) {
      const table: ReadonlyTable = catalogue.table(`${owner}${collection}`);
      const lows = table.texts.get(low);
      const highs = table.texts.get(high);
      if (!lows || !highs) continue;
      for (let row = 0; row < table.size; row++) {
        const [least, most] = [lows.get(row), highs.get(row)];
        if (typeof least === "string" && typeof most === "string" && compareDecimals(least, most) > 0)
          findings.add(
            finding("check/least-above-most", { low, high, least, most }, catalogue.location(table, row, high)),
          );
      }
    }
};

/** Tiers that say up to where they are valid must not reach into the next. */
function reportOverlaps({ catalogue, findings }: CheckContext, prices: ReadonlyTable): void {
  const upTo = prices.texts.get("quantityTo");
  if (!upTo) return;
  const groups = new Map<string, number[]>();
  for (let row = 0; row < prices.size; row++) {
    const group = prices.references.get("customerGroup")?.first(row) ?? -1;
    const told = ["role", "currency", "from", "until", "hire"].map((field) => prices.text(field, row) ?? "");
    const key = [prices.parent(row), group, ...told].join("\u0000");
    groups.set(key, added(groups.get(key), row));
  }
  const from = (row: number) => prices.text("quantityFrom", row) ?? "1";
  for (const rows of groups.values()) {
    const inOrder = [...rows].sort((a, b) => compareDecimals(from(a), from(b)));
    for (const [at, row] of inOrder.entries()) {
      const before = inOrder[at - 1];
      const end = before === undefined ? undefined : upTo.get(before);
      if (before === undefined || typeof end !== "string" || compareDecimals(end, from(row)) < 0) continue;
      const facts = { from: from(row), end };
      const related = [catalogue.location(prices, before, "quantityTo")];
      findings.add(finding("check/tiers-overlap", facts, catalogue.location(prices, row, "quantityFrom"), related));
    }
  }
}
