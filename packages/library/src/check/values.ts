/** Axes and values: no gaps, no combination twice, no two values that a shopper cannot tell apart. */

import type { Row } from "../nominal.js";
import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { noReference } from "../catalogue/reference-pool.js";
import { finding } from "../findings/finding.js";
import { foldedName, nearlySame } from "./fold.js";
import type { Check } from "./rule.js";

const maxCombinations = 10_000;
const maxShown = 3;
/** So many values of an axis, and so many axes, make a combination of small numbers. */
const [placesOfAxis, axesOfNumber] = [128, 4];

export const checkVariantValues: Check = ({ catalogue, findings }) => {
  const products = catalogue.table("product");
  const variants = catalogue.table("variant");
  const values = catalogue.table("value");
  const axes = catalogue.table("axis");
  const byAxis: number[] = [];
  // One list for all variants: there are many.
  const held: number[] = [];
  const places: number[] = [];
  /** By value, as they are asked for: many products lack combinations of the same few. */
  const names: string[] = [];
  const valuesColumn = variants.references.get("values");
  const { target } = catalogue.pool;
  const hold = (reference: number): void => {
    const value = target.get(reference);
    if (value !== noReference) held.push(value);
  };
  for (let product = 0; product < products.size; product++) {
    const own = targetsOf(catalogue, products, "axes", product);
    const children = variants.childrenOf(product);
    if (own.length === 0 && children.length < 2) continue;
    const combinations = new Map<Combination, number>();
    const used: Used = own.map(() => new Map());
    for (const variant of children) {
      const gap = valuesByAxis(own, variant);
      if (gap >= 0) {
        const facts = { axis: axes.key(own[gap]!) };
        findings.add(finding("check/missing-value", facts, catalogue.location(variants, variant)));
        continue;
      }
      places.length = byAxis.length;
      for (let at = 0; at < byAxis.length; at++) places[at] = placeOf(used[at]!, byAxis[at]!);
      const combination = combinationOf(places);
      const other = combinations.get(combination);
      if (other === undefined) combinations.set(combination, variant);
      else {
        findings.addOf("check/repeated-combination", () => {
          const names = own.length === 0 ? "without an axis" : byAxis.map((value) => nameOf(value)).join(" / ");
          return finding("check/repeated-combination", { values: names }, catalogue.location(variants, variant), [
            catalogue.location(variants, other),
          ]);
        });
      }
    }
    reportMissing(product, used, combinations);
  }

  /** Puts a variant's values in the order of the axes into `byAxis`. @returns the position of a gap, -1 for none. */
  function valuesByAxis(own: readonly number[], variant: Row<"variant">): number {
    byAxis.length = 0;
    held.length = 0;
    valuesColumn?.each(variant, hold);
    for (const axis of own) {
      let at = 0;
      while (at < held.length && values.parent(held[at]!) !== axis) at++;
      if (at === held.length) return byAxis.length;
      byAxis.push(held[at]!);
    }
    return -1;
  }

  function reportMissing(product: Row<"product">, used: Used, present: ReadonlyMap<Combination, number>): void {
    const possible = used.reduce((count, one) => count * one.size, 1);
    if (used.length < 2 || possible === present.size || possible > maxCombinations) return;
    findings.addOf("check/missing-combinations", () => {
      const facts = { present: present.size, possible, examples: missingCombinations(used, present) };
      return finding("check/missing-combinations", facts, catalogue.location(products, product));
    });
  }

  /** The first few combinations that are not there, values in the order in which they are used. */
  function missingCombinations(used: Used, present: ReadonlyMap<Combination, number>): readonly string[] {
    const lists = used.map((one) => [...one.keys()]);
    const positions = lists.map(() => 0);
    const examples: string[] = [];
    while (examples.length < maxShown) {
      if (!present.has(combinationOf(positions)))
        examples.push(positions.map((position, at) => nameOf(lists[at]![position]!)).join(" / "));
      let at = positions.length - 1;
      while (at >= 0 && ++positions[at]! === lists[at]!.length) positions[at--] = 0;
      if (at < 0) break;
    }
    return examples;
  }

  function nameOf(value: Row<"value">): string {
    return (names[value] ??= valueName(catalogue, value));
  }
};

/** By axis the values that variants have, each with its place among them. */
type Used = readonly Map<number, number>[];

function placeOf(used: Map<number, number>, value: number): number {
  let place = used.get(value);
  if (place === undefined) used.set(value, (place = used.size));
  return place;
}

/** What tells a combination from the others of its product. */
type Combination = number | string;

function combinationOf(places: readonly number[]): Combination {
  if (places.length > axesOfNumber) return places.join();
  let combination = 0;
  for (const place of places) {
    if (place >= placesOfAxis) return places.join();
    combination = combination * placesOfAxis + place;
  }
  return combination;
}

/** A value whose key was made has its axis before it there: its name is what follows. One with a key of its own has a name beside it. */
function valueName(catalogue: ResolvedCatalogue, value: number): string {
  const values = catalogue.table("value");
  const key = values.key(value);
  const axis = `${catalogue.table("axis").key(values.parent(value))}/`;
  if (key.startsWith(axis)) return key.slice(axis.length);
  const fields = [...values.texts.keys()].filter((field) => field.startsWith("name@"));
  const name = fields.map((field) => values.text(field, value)).find((text) => typeof text === "string");
  return name ?? key;
}

/** The same but for case, spaces, accents, or a slip of one letter; or one value's translation written as a value of its own. */
export const checkLookAlikeValues: Check = ({ catalogue, findings }) => {
  const values = catalogue.table("value");
  const axes = catalogue.table("axis");
  const fields = [...values.texts.keys()].filter((field) => field.startsWith("name@"));
  for (let axis = 0; axis < axes.size; axis++) {
    const seen = new Map<string, number>();
    for (const value of values.childrenOf(axis)) {
      const names = fields.map((field) => values.text(field, value)).filter((name) => typeof name === "string");
      for (const folded of new Set(names.map(foldedName))) {
        const other = seen.get(folded) ?? nearlySame(folded, seen);
        if (other === undefined) seen.set(folded, value);
        else if (other !== value) {
          const [one, two] = [other, value].map((row) => valueName(catalogue, row)) as [string, string];
          findings.add(
            finding(
              "check/look-alike-values",
              { axis: axes.key(axis), one, other: two },
              catalogue.location(values, value),
              [catalogue.location(values, other)],
            ),
          );
          break;
        }
      }
    }
  }
};
