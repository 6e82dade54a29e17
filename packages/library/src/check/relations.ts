/** Relations: no product to itself. */

import { targetsOf } from "../catalogue/catalogue.js";
import { finding } from "../findings/finding.js";
import type { Check } from "./rule.js";

export const checkRelations: Check = ({ catalogue, findings }) => {
  const table = catalogue.table("product.relations");
  for (let row = 0; row < table.size; row++) {
    if (targetsOf(catalogue, table, "to", row)[0] !== table.parent(row)) continue;
    const relation = table.text("name", row) ?? "";
    findings.add(
      finding("check/related-to-itself", { relation }, catalogue.location(table, row, `relations(${relation}).to`)),
    );
  }
};
