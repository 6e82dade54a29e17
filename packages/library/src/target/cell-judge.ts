/** What a target asks of one cell by itself, by the rules of its column. */

import { isProblem, type CellValue, type Problem } from "../codecs/codec.js";
import { firstOf } from "../checked.js";
import type { Finding } from "../findings/finding.js";
import type { Column } from "../layout/layout.js";
import { allRules } from "./rules/rules.js";
import type { RulePlace } from "./rules/rule-kind.js";
import type { ColumnRule } from "./schema.js";

const rememberedChars = 12;
const rememberedTexts = 5_000;

/** What is wrong with a text in a column by itself; undefined where nothing is. @param target as findings name it. */
export function cellJudge(column: Column, rule: ColumnRule, target: string): (text: string) => Finding | undefined {
  const { codec, feed } = firstOf(column.bindings);
  const place: RulePlace = { header: column.header, feed, target };
  const checks = allRules.flatMap((one) => one.cell?.(rule, place) ?? []);
  // One for all cells of the column: there are millions.
  let parsed: CellValue | Problem | undefined;
  const cell = {
    text: "",
    value: (): CellValue | undefined => {
      parsed ??= codec.parse(cell.text);
      return isProblem(parsed) ? undefined : parsed;
    },
  };
  return (text) => {
    parsed = undefined;
    cell.text = text;
    let first: Finding | undefined;
    for (const check of checks) {
      const found = check(cell);
      // Advice does not hide what is refused.
      if (found?.severity === "error") return found;
      first ??= found;
    }
    return first;
  };
}

/** Numbers and words come again and again; what is known to be right is not looked at again. Where they do not come again, it is. */
export function remembered(judge: (text: string) => Finding | undefined): (text: string) => Finding | undefined {
  const right = new Set<string>();
  let hits = 0;
  return (text) => {
    if (text.length > rememberedChars) return judge(text);
    const isFull = right.size >= rememberedTexts;
    if (isFull && hits < rememberedTexts) return judge(text);
    if (right.has(text)) {
      hits++;
      return undefined;
    }
    const found = judge(text);
    if (!found && !isFull) right.add(text);
    return found;
  };
}
