/** Assortments: members or a rule, not both, and somebody in it. */

import { finding } from "../findings/finding.js";
import type { Check } from "./rule.js";

export const checkAssortments: Check = ({ catalogue, findings }) => {
  const assortments = catalogue.table("assortment");
  const members = assortments.references.get("members");
  for (let row = 0; row < assortments.size; row++) {
    const isListed = (members?.get(row).length ?? 0) > 0;
    const hasRule = typeof assortments.text("rule", row) === "string";
    if (isListed && hasRule)
      findings.add(finding("check/members-and-rule", {}, catalogue.location(assortments, row, "rule")));
    else if (!isListed && !hasRule)
      findings.add(finding("check/empty-assortment", {}, catalogue.location(assortments, row)));
  }
};
