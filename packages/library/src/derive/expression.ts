/**
 * Expressions: CEL, the Common Expression Language, with exact decimals. An expression reaches what it is given of one record, and
 * nothing else.
 */

import { firstOf } from "../checked.js";
import { Environment } from "@marcbachmann/cel-js";
import Big from "big.js";
import { canonicalDecimal } from "../decimal.js";
import { limits, linearName, matchesInLinearTime, whatRunsLong, withLinearPatterns } from "./bounded.js";
import { Decimal } from "./decimal-value.js";
import { phrase, type Text } from "../phrases/phrase.js";

/** What an expression knows of a record: `code`, `name.en`, `prices.cost`, `product.name.en`. */
export type Facts = Readonly<Record<string, unknown>>;

export type Evaluated =
  | { readonly is: "value"; readonly text: string }
  | { readonly is: "flag"; readonly flag: boolean }
  /** The record has not what the expression asks for. */
  | { readonly is: "absent" }
  | { readonly is: "failed"; readonly problem: Text };

export interface Expression {
  readonly evaluate: (facts: Facts) => Evaluated;
  /** The names that stand in it: only what they mean has to be looked up. */
  readonly names: ReadonlySet<string>;
}

export type ParsedExpression =
  { readonly ok: true; readonly expression: Expression } | { readonly ok: false; readonly problem: Text };

const operands = [
  ["Decimal", "Decimal"],
  ["Decimal", "double"],
  ["double", "Decimal"],
  ["Decimal", "int"],
  ["int", "Decimal"],
] as const;

const big = (value: unknown): Big => (value instanceof Decimal ? value.value : new Big(String(value)));
/** Divisions that never end are kept to so many places. */
const places = 20;

const arithmetic: Readonly<Record<string, (a: Big, b: Big) => Big>> = {
  "+": (a, b) => a.plus(b),
  "-": (a, b) => a.minus(b),
  "*": (a, b) => a.times(b),
  "/": (a, b) => a.div(b).round(places),
};
const comparing: Readonly<Record<string, (order: number) => boolean>> = {
  "<": (order) => order < 0,
  "<=": (order) => order <= 0,
  ">": (order) => order > 0,
  ">=": (order) => order >= 0,
};

/** A text that grows beyond this is not a value of a field. */
const mostChars = 1_000_000;

/** What people do with texts, besides what CEL has: `trim`, `split`, `join`, `substring`. */
const textFunctions: Readonly<Record<string, (text: string, ...rest: never[]) => unknown>> = {
  "string.upper(): string": (text) => text.toUpperCase(),
  "string.lower(): string": (text) => text.toLowerCase(),
  "string.replace(string, string): string": (text: string, what: string, by: string) => {
    const made = what === "" ? text : text.split(what).join(by);
    if (made.length > mostChars) throw new Error("the text becomes too long");
    return made;
  },
  "string.shorten(int): string": (text: string, most: bigint) => shortened(text, Number(most)),
};

/** No longer than so many characters, cut between words where there are several. */
function shortened(text: string, most: number): string {
  const chars = [...text];
  if (chars.length <= most) return text;
  const cut = chars.slice(0, Math.max(0, most)).join("");
  const isBetween = /\s/.test(chars[most] ?? "");
  const end = isBetween ? cut.length : cut.search(/\s\S*$/);
  return (end > 0 ? cut.slice(0, end) : cut).trimEnd();
}

/** @param roots the names that stand at the beginning of what an expression reads. */
export function expressionParser(roots: readonly string[]): (text: string) => ParsedExpression {
  const environment = new Environment({ limits });
  environment.registerType("Decimal", { ctor: Decimal, fields: {} });
  const taken = roots.filter((root) => !isRegistered(environment, root));
  for (const [left, right] of operands) {
    for (const [sign, apply] of Object.entries(arithmetic))
      environment.registerOperator(
        `${left} ${sign} ${right}`,
        (a: unknown, b: unknown) => new Decimal(apply(big(a), big(b))),
      );
    for (const [sign, holds] of Object.entries(comparing))
      environment.registerOperator(`${left} ${sign} ${right}`, (a: unknown, b: unknown) => holds(big(a).cmp(big(b))));
    // The package registers equality for both orders at once.
    if (left === "Decimal")
      environment.registerOperator(`${left} == ${right}`, (a: unknown, b: unknown) => big(a).eq(big(b)));
  }
  environment.registerFunction("decimal(string): Decimal", (text: string) => {
    const canonical = canonicalDecimal(text);
    if (canonical === undefined) throw new Error(`"${text.slice(0, 40)}" is not a decimal`);
    return new Decimal(new Big(canonical));
  });
  environment.registerFunction(
    "round(Decimal, int): Decimal",
    (value: Decimal, count: bigint) => new Decimal(value.value.round(Math.min(Number(count), places), 1)),
  );
  for (const [signature, apply] of Object.entries(textFunctions)) environment.registerFunction(signature, apply);
  environment.registerFunction(`string.${linearName}(string): bool`, matchesInLinearTime);
  environment.registerFunction("text(Decimal): string", (value: Decimal) => value.value.toFixed());
  return (text) => {
    const word = taken.find((root) => new RegExp(`(?<![.\\w])${root}(?!\\w|\\s*\\()`).test(text));
    if (word !== undefined)
      return { ok: false, problem: phrase('"{0}" is a word of expressions, and names no field in them', word) };
    try {
      const run = environment.parse(withLinearPatterns(text));
      const problem = whatRunsLong(run.ast);
      if (problem !== undefined) return { ok: false, problem };
      const checked = run.check();
      if (!checked.valid) return { ok: false, problem: messageOf(checked.error) };
      const names = new Set(text.match(/[A-Za-z_]\w*/g) ?? []);
      return { ok: true, expression: { names, evaluate: (facts) => evaluate(run, facts) } };
    } catch (error) {
      return { ok: false, problem: messageOf(error) };
    }
  };
}

/** Whether a field can be named in expressions: some are called like a word that these have themselves, `type`. */
function isRegistered(environment: Environment, root: string): boolean {
  try {
    environment.registerVariable(root, "dyn");
    return true;
  } catch {
    return false;
  }
}

function evaluate(run: (facts: Record<string, unknown>) => unknown, facts: Facts): Evaluated {
  try {
    const value = run(facts);
    if (value === null || value === undefined) return { is: "absent" };
    if (typeof value === "boolean") return { is: "flag", flag: value };
    if (typeof value === "string") return value === "" ? { is: "absent" } : { is: "value", text: value };
    if (value instanceof Decimal) return { is: "value", text: value.value.toFixed() };
    if (typeof value === "bigint") return { is: "value", text: String(value) };
    if (typeof value === "number") return { is: "value", text: new Big(String(value)).toFixed() };
    return { is: "failed", problem: phrase("the value is neither a text, a number, nor true or false") };
  } catch (error) {
    const { code } = error as { readonly code?: string };
    if (code === "no_such_key" || code === "unknown_variable") return { is: "absent" };
    return { is: "failed", problem: messageOf(error) };
  }
}

/** The first line; the package draws the place below it. */
const messageOf = (error: unknown): string =>
  firstOf(String((error as Error | undefined)?.message ?? "it cannot be read").split("\n")).slice(0, 200);
