/** Relations: no product to itself. */

import { targetsOf } from "../catalogue/catalogue.js";
import { finding } from "../findings/finding.js";
import type { Check } from "./rule.js";

export const checkRelations: Check = ({ catalogue, relationsRefused = [], findings }) => {
  const table = catalogue.table("product.relations");
  for (let row = 0; row < table.size; row++) {
    if (targetsOf(catalogue, table, "to", row)[0] !== table.parent(row)) continue;
    const relation = table.text("name", row) ?? "";
    const location = catalogue.location(table, row, `relations(${relation}).to`);
    findings.add(
      relationsRefused.length > 0
        ? finding("check/relation-refused", { relation, refusedBy: relationsRefused }, location)
        : finding("check/related-to-itself", { relation }, location),
    );
  }
};
