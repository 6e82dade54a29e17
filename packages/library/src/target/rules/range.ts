/** `from`, `to` and `places at most`: which numbers a column takes. */

import { compareDecimals, decimalPlaces } from "../../decimal.js";
import { finding } from "../../findings/finding.js";
import { phrase, type Text } from "../../phrases/phrase.js";
import type { ColumnRule } from "../schema.js";
import type { RuleKind } from "./rule-kind.js";

export type Range = Pick<ColumnRule, "from" | "to" | "places at most">;

export function rangeOf(rule: Range): Text | undefined {
  const { from, to } = rule;
  const places = rule["places at most"];
  if (from === undefined && to === undefined && places === undefined) return undefined;
  return phrase("{0}", [
    ...(from === undefined ? [] : [phrase("{0} or more", from)]),
    ...(to === undefined ? [] : [phrase("{0} or less", to)]),
    ...(places === undefined ? [] : [phrase("at most {0} decimals", places)]),
  ]);
}

export function isInRange(value: string, rule: Range): boolean {
  if (rule.from !== undefined && compareDecimals(value, rule.from) < 0) return false;
  if (rule.to !== undefined && compareDecimals(value, rule.to) > 0) return false;
  const places = rule["places at most"];
  return places === undefined || decimalPlaces(value) <= places;
}

export const rangeRule: RuleKind = {
  cell(rule, { header: column, target }) {
    const range = rangeOf(rule);
    if (range === undefined) return undefined;
    return ({ text, value }) => {
      const number = value();
      return typeof number !== "string" || isInRange(number, rule)
        ? undefined
        : finding("target/out-of-range", { column, target, text, range });
    };
  },
  describe: ({ from, to }) =>
    from === undefined && to === undefined ? undefined : phrase("{0}", `${from ?? ""} to ${to ?? ""}`.trim()),
  constraints: ({ from, to }) => ({
    ...(from === undefined ? {} : { minimum: from }),
    ...(to === undefined ? {} : { maximum: to }),
  }),
};
