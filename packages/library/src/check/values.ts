/** Axes and values: no gaps, no combination twice, no two values that a shopper cannot tell apart. */

import { targetsOf } from "../catalogue/catalogue.js";
import { finding } from "../finding.js";
import type { Rule } from "./rule.js";

const maxCombinations = 10_000;
const maxShown = 3;

export const checkVariantValues: Rule = ({ catalogue, findings }) => {
  const products = catalogue.table("product");
  const variants = catalogue.table("variant");
  const values = catalogue.table("value");
  const axes = catalogue.table("axis");
  for (let product = 0; product < products.size; product++) {
    const own = targetsOf(catalogue, products, "axes", product);
    const children = variants.childrenOf(product);
    if (own.length === 0 && children.length < 2) continue;
    const combinations = new Map<string, number>();
    for (const variant of children) {
      const held = targetsOf(catalogue, variants, "values", variant);
      const byAxis = own.map((axis) => held.find((value) => values.parent(value) === axis));
      const gap = byAxis.findIndex((value) => value === undefined);
      if (gap >= 0) {
        findings.add(finding("check/missing-value", { axis: axes.key(own[gap]!) }, catalogue.place(variants, variant)));
        continue;
      }
      const combination = byAxis.join();
      const other = combinations.get(combination);
      if (other === undefined) combinations.set(combination, variant);
      else {
        const words = own.length === 0 ? "without an axis" : byAxis.map((value) => nameOf(value!)).join(" / ");
        findings.add(
          finding("check/repeated-combination", { values: words }, catalogue.place(variants, variant), [
            catalogue.place(variants, other),
          ]),
        );
      }
    }
    reportMissing(product, own, new Set(combinations.keys()));
  }

  function reportMissing(product: number, own: readonly number[], present: ReadonlySet<string>): void {
    if (own.length < 2) return;
    const used = own.map((_, at) => [
      ...new Set([...present].map((combination) => Number(combination.split(",")[at]))),
    ]);
    const possible = used.reduce((count, one) => count * one.length, 1);
    if (possible === present.size || possible > maxCombinations) return;
    const missing = used
      .reduce<number[][]>((all, one) => all.flatMap((rest) => one.map((value) => [...rest, value])), [[]])
      .filter((one) => !present.has(one.join()));
    const examples = missing.slice(0, maxShown).map((one) => one.map(nameOf).join(" / "));
    findings.add(
      finding(
        "check/missing-combinations",
        { present: present.size, possible, examples },
        catalogue.place(products, product),
      ),
    );
  }

  function nameOf(value: number): string {
    return values.key(value).slice(axes.key(values.parent(value)).length + 1);
  }
};

/** The same but for case, spaces and accents; or one value's translation written as a value of its own. */
export const checkLookAlikeValues: Rule = ({ catalogue, findings }) => {
  const values = catalogue.table("value");
  const axes = catalogue.table("axis");
  const slots = [...values.texts.keys()].filter((slot) => slot.startsWith("name@"));
  for (let axis = 0; axis < axes.size; axis++) {
    const seen = new Map<string, number>();
    for (const value of values.childrenOf(axis)) {
      const names = slots.map((slot) => values.text(slot, value)).filter((name) => typeof name === "string");
      for (const folded of new Set(names.map(fold))) {
        const other = seen.get(folded);
        if (other === undefined) seen.set(folded, value);
        else if (other !== value) {
          const [one, two] = [other, value].map((row) => values.key(row).slice(axes.key(axis).length + 1)) as [
            string,
            string,
          ];
          findings.add(
            finding(
              "check/look-alike-values",
              { axis: axes.key(axis), one, other: two },
              catalogue.place(values, value),
              [catalogue.place(values, other)],
            ),
          );
          break;
        }
      }
    }
  }
};

function fold(name: string): string {
  return name.normalize("NFKD").replace(/\p{M}/gu, "").toLowerCase().replace(/\s+/g, " ").trim();
}
