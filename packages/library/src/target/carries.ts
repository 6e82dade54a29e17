/**
 * What a target has no place for: fields of the catalogue that no column of its files shows, axes beyond those it numbers.
 *
 * Known before anything is written.
 */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Table } from "../catalogue/table.js";
import { finding, type Findings } from "../finding.js";
import { kindOfScope } from "../layout/layout.js";
import type { Target } from "./target.js";

/** Fields that place a record rather than describe it, or that only order it among its siblings as rows already do. */
const carriedByOrder = new Set(["position", "role", "location"]);

export function reportUncarried(catalogue: ResolvedCatalogue, target: Target, findings: Findings): void {
  const bound = boundSlots(target);
  for (const table of catalogue.tables) {
    for (const [slot, column] of table.texts) {
      if (bound.has(`${table.name}.${slot}`) || carriedByOrder.has(slot) || isReached(table, slot, target)) continue;
      let count = 0;
      for (let row = 0; row < table.size; row++) if (typeof column.get(row) === "string") count++;
      if (count > 0)
        findings.add(finding("target/uncarried", { field: `${table.name}.${slot}`, count, target: target.name }));
    }
  }
  reportAxes(catalogue, target, findings);
}

/** `table.slot` of every column; a product's are those of its variants too, for singles. */
function boundSlots(target: Target): Set<string> {
  const bound = new Set<string>();
  for (const { layout } of target.files.values()) {
    for (const column of layout.columns) {
      const kind = kindOfScope(layout, column.scope).name;
      const kinds = kind === "variant" ? ["variant", "product"] : [kind];
      for (const { target: feeds } of column.bindings) {
        for (const name of kinds) {
          if (feeds.feeds === "text") bound.add(`${name}.${feeds.slot}`);
          if (feeds.feeds !== "entry") continue;
          bound.add(`${name}.${feeds.entries}.${feeds.field.slot}`);
          for (const constant of Object.keys(feeds.constants)) bound.add(`${name}.${feeds.entries}.${constant}`);
        }
        // Paths, axes and their values show names of records that have no columns of their own.
        if (feeds.feeds === "reference" && feeds.spec.by === "name")
          bound.add(`${feeds.spec.to}.name@${feeds.spec.lang}`);
        if (feeds.feeds === "entry" && feeds.field.is === "reference" && feeds.field.spec.by === "name")
          bound.add(`${feeds.field.spec.to}.name@${feeds.field.spec.lang}`);
        if (feeds.feeds === "axis") bound.add(`${feeds.holds === "name" ? "axis" : "value"}.name@${feeds.lang}`);
        if (feeds.feeds === "naming") bound.add(`category.name@${feeds.lang}`);
      }
    }
  }
  return bound;
}

/** Variants' fields reach the shop through what is bound for them; products' sellable fields likewise. */
function isReached(table: Table, slot: string, target: Target): boolean {
  return (
    table.name === "product" &&
    slot === "code" &&
    [...target.files.values()].some(({ layout }) =>
      layout.columns.some((column) =>
        column.bindings.some((one) => one.target.feeds === "text" && one.target.slot === "code"),
      ),
    )
  );
}

function reportAxes(catalogue: ResolvedCatalogue, target: Target, findings: Findings): void {
  const numbers = [...target.files.values()].flatMap(({ layout }) =>
    layout.columns.flatMap((column) =>
      column.bindings.flatMap((one) => (one.target.feeds === "axis" ? [one.target.number] : [])),
    ),
  );
  const most = Math.max(0, ...numbers);
  const products = catalogue.table("product");
  const axes = products.references.get("axes");
  if (!axes) return;
  for (let row = 0; row < products.size; row++) {
    const count = axes.get(row).length;
    if (count > most)
      findings.add(
        finding("target/too-many-axes", { axes: count, most, target: target.name }, catalogue.place(products, row)),
      );
  }
}
