/** Relations: no product to itself. */

import { targetsOf } from "../catalogue/catalogue.js";
import { finding } from "../finding.js";
import type { Rule } from "./rule.js";

export const checkRelations: Rule = ({ catalogue, findings }) => {
  const table = catalogue.table("product.relations");
  for (let row = 0; row < table.size; row++) {
    if (targetsOf(catalogue, table, "to", row)[0] !== table.parent(row)) continue;
    const relation = table.text("name", row) ?? "";
    findings.add(
      finding("check/related-to-itself", { relation }, catalogue.place(table, row, `relations(${relation}).to`)),
    );
  }
};
