/** `characters recommended`. */

import { finding } from "../../findings/finding.js";
import type { RuleKind } from "./rule-kind.js";

export const recommendedLengthRule: RuleKind = {
  cell(rule, { header: column, target }) {
    const advised = rule["characters recommended"];
    if (advised === undefined) return undefined;
    return ({ text }) => {
      if (text.length <= advised) return undefined;
      const chars = [...text].length;
      return chars > advised
        ? finding("target/longer-than-recommended", { column, target, chars, advised })
        : undefined;
    };
  },
};
