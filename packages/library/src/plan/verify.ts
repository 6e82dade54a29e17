/**
 * Checking a plan by another way than it was made: the files are walked through row by row, as a platform would meet them, and each
 * reference of each record is looked at when it is written.
 *
 * Used by the tests on every plan they make. Knows nothing of sequences, batches or waiting.
 */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Target } from "../target/target.js";
import type { Plan } from "./plan.js";
import { eachReference, referenceFieldsOf } from "./references.js";

/** @returns what is wrong with the plan, in words; `[]` when it holds. */
export function verifyPlan(
  catalogue: ResolvedCatalogue,
  target: Target,
  plan: Plan,
  isLeftOut: (row: number) => boolean = () => false,
): string[] {
  const problems: string[] = [];
  const products = catalogue.table("product");
  const links: { from: number; to: number; field: string }[] = [];
  for (const field of referenceFieldsOf(catalogue))
    if (field.kind === "product" && field.to === "product")
      eachReference(
        catalogue,
        field,
        (from, to) => from !== to && !isLeftOut(from) && !isLeftOut(to) && links.push({ from, to, field: field.name }),
      );

  const created = new Map<number, { file: number; row: number }>();
  const written: { product: number; file: number; row: number; waits: boolean }[] = [];
  let file = 0;
  let row = 0;
  for (const step of plan.steps) {
    if (step.is !== "upload") continue;
    for (const { name, records } of step.files) {
      file++;
      const limit = target.files.get(step.slot.file)!.limits.products;
      if (limit !== undefined && records.length > limit) problems.push(`${name} has ${records.length} products`);
      for (const product of records) {
        row++;
        if (step.slot.mode === "create") {
          if (created.has(product)) problems.push(`${products.key(product)} is created twice`);
          created.set(product, { file, row });
        } else if (!created.has(product)) problems.push(`${products.key(product)} is updated before it is created`);
        written.push({ product, file, row, waits: step.waiting.has(product) });
      }
    }
  }
  for (let product = 0; product < products.size; product++)
    if (created.has(product) === isLeftOut(product))
      problems.push(`${products.key(product)} is ${isLeftOut(product) ? "left out, and written" : "never created"}`);

  for (const { from, to, field } of links) {
    const demand = target.demands.get(field) ?? "anywhere";
    const there = created.get(to);
    const fits = written.some((one) => {
      if (one.product !== from || one.waits || !there) return false;
      if (demand === "earlier row") return there.row < one.row;
      if (demand === "earlier file") return there.file < one.file;
      return demand === "anywhere" || there.file <= one.file;
    });
    if (!fits) problems.push(`${products.key(from)} links to ${products.key(to)} before it is there`);
  }
  return problems;
}
