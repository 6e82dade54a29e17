/**
 * Assortments by rule: which products an expression takes in. Worked out, never written as rows: a platform that knows rules works
 * it out by itself, another one gets the members.
 */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { finding, type Findings } from "../findings/finding.js";
import { FactReader, rootsOf } from "./facts.js";

/** The products of each assortment that has a rule, by their rows, in order. A rule that cannot be read takes in no product, and is reported. */
export async function membersByRule(
  catalogue: ResolvedCatalogue,
  findings: Findings,
): Promise<ReadonlyMap<number, readonly number[]>> {
  const assortments = catalogue.table("assortment");
  const members = new Map<number, readonly number[]>();
  if (!assortments.texts.has("rule")) return members;
  const { expressionParser } = await import("./expression.js");
  const product = catalogue.kinds.get("product");
  const parse = expressionParser(rootsOf(product, catalogue.kinds));
  for (let row = 0; row < assortments.size; row++) {
    const rule = assortments.text("rule", row);
    if (typeof rule !== "string") continue;
    const location = catalogue.location(assortments, row, "rule");
    const parsed = parse(rule);
    if (!parsed.ok) {
      findings.add(finding("derive/no-rule", { rule, problem: parsed.problem }, location));
      continue;
    }
    const facts = new FactReader(catalogue, product, parsed.expression.names, catalogue);
    const taken = Array.from({ length: catalogue.table("product").size }, (_, at) => at).filter((at) => {
      const holds = parsed.expression.evaluate(facts.read(at));
      return holds.is === "flag" && holds.flag;
    });
    if (taken.length === 0) findings.add(finding("derive/rule-fits-none", { rule }, location));
    members.set(row, taken);
  }
  return members;
}
