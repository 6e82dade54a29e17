/** `characters at most`, and what a longer text does. */

import { finding } from "../../findings/finding.js";
import { phrase } from "../../phrases/phrase.js";
import type { RuleKind } from "./rule-kind.js";

export const lengthRule: RuleKind = {
  cell(rule, { header: column, target }) {
    const most = rule["characters at most"];
    if (most === undefined) return undefined;
    return ({ text }) => {
      // Code points are never more than code units.
      if (text.length <= most) return undefined;
      const chars = [...text].length;
      const code = rule.over === "cut" ? "target/cut" : "target/too-long";
      return chars > most ? finding(code, { column, target, chars, most }) : undefined;
    };
  },
  describe(rule) {
    const most = rule["characters at most"];
    return most === undefined ? undefined : phrase("at most {0} characters", most);
  },
  constraints(rule) {
    const most = rule["characters at most"];
    return most === undefined ? {} : { maxLength: most };
  },
};
