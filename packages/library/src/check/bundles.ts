/** Bundles: each component once, not dearer than their parts, not another weight than their parts have. */

import { targetsOf } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { BundleReader } from "../catalogue/bundles.js";
import { plainPrice, sellables, sellableText } from "../catalogue/sellables.js";
import { compareDecimals } from "../decimal.js";
import { finding } from "../findings/finding.js";
import type { Check } from "./rule.js";

export const checkBundles: Check = ({ catalogue, currency, findings }) => {
  const tables = ["product", "variant"].map((name) => catalogue.table(`${name}.components`));
  if (tables.every((table) => table.size === 0)) return;
  for (const table of tables) reportTwice(table);
  const bundles = new BundleReader(catalogue);
  for (const sellable of sellables(catalogue)) {
    const sums = bundles.sumsOf(sellable);
    if (!sums) continue;
    const { table, row } = sellable;
    const price = plainPrice(catalogue, sellable, "price");
    if (price !== undefined && sums.sum !== undefined && compareDecimals(price, sums.sum) > 0)
      findings.add(
        finding(
          "check/bundle-dearer",
          { price, sum: sums.sum, currency },
          catalogue.location(table, row, "prices(price).amount"),
        ),
      );
    const weight = sellableText(catalogue, sellable, "weight");
    if (weight !== undefined && sums.weight !== undefined && compareDecimals(weight, sums.weight) < 0)
      findings.add(
        finding("check/bundle-lighter", { weight, sum: sums.weight }, catalogue.location(table, row, "weight")),
      );
  }

  function reportTwice(table: ReadonlyTable): void {
    const seen = new Map<string, number>();
    for (let row = 0; row < table.size; row++) {
      const named = ["variant", "product"].flatMap((field) =>
        targetsOf(catalogue, table, field, row).map((target) => ({ kind: field, target })),
      );
      const [component] = named;
      if (!component) continue;
      const told = `${table.parent(row)} ${component.kind} ${component.target}`;
      const other = seen.get(told);
      if (other === undefined) seen.set(told, row);
      else {
        const facts = { component: catalogue.table(component.kind).key(component.target) };
        const related = [catalogue.location(table, other, component.kind)];
        findings.add(finding("check/component-twice", facts, catalogue.location(table, row, component.kind), related));
      }
    }
  }
};
