/** Option groups: each has choices, and what a surcharge in percent is of fits. */

import { compareDecimals } from "../decimal.js";
import { finding } from "../findings/finding.js";
import type { Check } from "./rule.js";

export const checkOptions: Check = ({ catalogue, findings }) => {
  const groups = catalogue.table("option-group");
  const choices = catalogue.table("choice");
  for (let group = 0; group < groups.size; group++) {
    const own = choices.childrenOf(group);
    const isRequired = groups.text("required", group) === "true";
    // Where a buyer writes something, a single choice is enough; one that has to be chosen and is alone is not a choice.
    if (own.length === 0 || (own.length === 1 && isRequired))
      findings.add(finding("check/no-choice", { choices: own.length }, catalogue.location(groups, group)));
  }
  for (let choice = 0; choice < choices.size; choice++) {
    const surcharge = choices.text("surcharge", choice);
    if (choices.text("surchargeIs", choice) !== "percent" || typeof surcharge !== "string") continue;
    if (compareDecimals(surcharge, "-100") < 0 || compareDecimals(surcharge, "100") > 0)
      findings.add(finding("check/surcharge", { surcharge }, catalogue.location(choices, choice, "surcharge")));
  }
};
