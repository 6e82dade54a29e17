/** Evaluates the examples of the reference of expressions, on facts that are given as plain texts. */

import Big from "big.js";
import { Decimal } from "./decimal-value.js";
import { expressionParser } from "./expression.js";

/** @returns a function from an expression to the text that it gives; `true` and `false` for conditions, "" for nothing. */
export function exampleEvaluator(facts: Readonly<Record<string, unknown>>): (expression: string) => string {
  const parse = expressionParser(Object.keys(facts));
  const typed = numbersIn(facts) as Readonly<Record<string, unknown>>;
  return (text) => {
    const parsed = parse(text);
    if (!parsed.ok) return `invalid: ${String(parsed.problem)}`;
    const value = parsed.expression.evaluate(typed);
    if (value.is === "flag") return String(value.flag);
    return value.is === "value" ? value.text : value.is === "failed" ? `failed: ${String(value.problem)}` : "";
  };
}

/** Texts that are numbers become exact decimals, as those of a record are. */
function numbersIn(value: unknown): unknown {
  if (typeof value === "string") return /^\d+(\.\d+)?$/.test(value) ? new Decimal(new Big(value)) : value;
  if (Array.isArray(value)) return value.map(numbersIn);
  return Object.fromEntries(Object.entries(value as object).map(([name, inner]) => [name, numbersIn(inner)]));
}
