/** Quantities: the least not above the most, reordering not below where it begins. */

import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { compareDecimals } from "../decimal.js";
import { finding } from "../findings/finding.js";
import type { Check } from "./rule.js";

/** Fields of which the first must not be above the second. */
const pairs = [
  ["", "quantityLeast", "quantityMost"],
  [".stock", "reorderAt", "reorderTo"],
  [".prices", "quantityFrom", "quantityTo"],
] as const;

export const checkQuantities: Check = ({ catalogue, findings }) => {
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
