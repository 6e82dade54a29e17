/** Assortments: members or a rule, not both, and somebody in it. */

import { finding } from "../finding.js";
import type { Rule } from "./rule.js";

export const checkAssortments: Rule = ({ catalogue, findings }) => {
  const assortments = catalogue.table("assortment");
  const members = assortments.references.get("members");
  for (let row = 0; row < assortments.size; row++) {
    const isListed = (members?.get(row).length ?? 0) > 0;
    const hasRule = typeof assortments.text("rule", row) === "string";
    if (isListed && hasRule)
      findings.add(finding("check/members-and-rule", {}, catalogue.place(assortments, row, "rule")));
    else if (!isListed && !hasRule) findings.add(finding("check/nobody-in-it", {}, catalogue.place(assortments, row)));
  }
};
