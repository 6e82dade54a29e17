/** `condition`: anything else that a platform asks of a row, as an expression in CEL over the fields of its cells. */

import { finding } from "../../findings/finding.js";
import { factsOfRow } from "../row-facts.js";
import type { RuleKind } from "./rule-kind.js";

export const conditionRule: RuleKind = {
  row({ condition, holds }, { header: column, target }) {
    if (!condition || !holds) return undefined;
    const { expression, columns } = holds;
    return (row) => {
      const made = expression.evaluate(factsOfRow(columns, row.value));
      return made.is === "flag" && !made.flag
        ? finding("target/condition", { column, target, because: condition.otherwise })
        : undefined;
    };
  },
};
