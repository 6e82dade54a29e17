/** Rules of the parts of a cell, by the path to each. */

import { finding } from "../../findings/finding.js";
import { phrase } from "../../phrases/phrase.js";
import { valuesAt } from "../parts.js";
import type { PartRule } from "../schema.js";
import { onlyThese } from "./characters.js";
import { isInRange, rangeOf } from "./range.js";
import type { CellCheck, RuleKind, RulePlace } from "./rule-kind.js";

export const partsRule: RuleKind = {
  cell({ parts }, place) {
    const checks = [...(parts ?? [])].map(([path, rule]) => partCheck(path, rule, place));
    if (checks.length === 0) return undefined;
    return (cell) => {
      for (const check of checks) {
        const found = check(cell);
        if (found) return found;
      }
      return undefined;
    };
  },
};

function partCheck(path: string, rule: PartRule, { header, feed, target }: RulePlace): CellCheck {
  const facts = { column: `${header}/${path}`, target };
  const most = rule["characters at most"];
  const range = rangeOf(rule);
  const only = rule.only === undefined ? undefined : onlyThese(rule.only);
  return ({ value }) => {
    const whole = value();
    for (const part of whole === undefined ? [] : valuesAt(feed, whole, path)) {
      if (part.length === 0) {
        if (rule.required) return finding("target/part-missing", facts);
        continue;
      }
      if (typeof part !== "string") continue;
      const chars = [...part].length;
      if (most !== undefined && chars > most) return finding("target/too-long", { ...facts, chars, most });
      if (only && !only.test(part))
        return finding("target/characters", { ...facts, text: part, allowed: phrase("only {0}", rule.only) });
      if (range !== undefined && !isInRange(part, rule))
        return finding("target/out-of-range", { ...facts, text: part, range });
    }
    return undefined;
  };
}
