/** Option groups: each has choices, and what a surcharge in percent is of fits. */

import { compareDecimals } from "../decimal.js";
import { finding } from "../finding.js";
import type { Rule } from "./rule.js";

export const checkOptions: Rule = ({ catalogue, findings }) => {
  const groups = catalogue.table("option-group");
  const choices = catalogue.table("choice");
  for (let group = 0; group < groups.size; group++) {
    const own = choices.childrenOf(group);
    const isRequired = groups.text("required", group) === "true";
    // Where a buyer writes something, a single choice is enough; one that has to be chosen and is alone is no choice.
    if (own.length === 0 || (own.length === 1 && isRequired))
      findings.add(finding("check/no-choice", { choices: own.length }, catalogue.place(groups, group)));
  }
  for (let choice = 0; choice < choices.size; choice++) {
    const surcharge = choices.text("surcharge", choice);
    if (choices.text("surchargeIs", choice) !== "percent" || typeof surcharge !== "string") continue;
    if (compareDecimals(surcharge, "-100") < 0 || compareDecimals(surcharge, "100") > 0)
      findings.add(finding("check/surcharge", { surcharge }, catalogue.place(choices, choice, "surcharge")));
  }
};
