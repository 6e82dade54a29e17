/** Natures: what can be carried is neither a service nor a download, and a rental has a price for a time. */

import { sellables, type Sellable } from "../catalogue/sellables.js";
import { finding } from "../findings/finding.js";
import type { CheckContext, Check } from "./rule.js";

const weightless: ReadonlySet<string> = new Set(["service", "file"]);

export const checkProductSorts: Check = (context) => {
  const { catalogue, findings } = context;
  const sorts = catalogue.table("product").texts.get("sort");
  const hasRentals = ["product", "variant"].some((name) => catalogue.table(`${name}.prices`).texts.has("hire"));
  if (!sorts && !hasRentals) return;
  for (const sellable of sellables(catalogue)) {
    const { table, row, product } = sellable;
    const sort = sorts?.get(product) ?? "goods";
    if (weightless.has(sort) && typeof table.text("weight", row) === "string")
      findings.add(finding("check/weight-of-nothing", { sort }, catalogue.location(table, row, "weight")));
    const rented = rentalPrices(context, sellable);
    if (sort === "hire" && rented === 0)
      findings.add(finding("check/no-hire-price", {}, catalogue.location(table, row)));
    if (sort !== "hire" && rented > 0)
      findings.add(finding("check/hire-price", { sort }, catalogue.location(table, row)));
  }
};

function rentalPrices({ catalogue }: CheckContext, { table, row, product }: Sellable): number {
  const count = (owner: string, at: number): number => {
    const prices = catalogue.table(`${owner}.prices`);
    const hire = prices.texts.get("hire");
    return hire ? [...prices.childrenOf(at)].filter((entry) => hire.has(entry)).length : 0;
  };
  return count(table.name, row) + (table.name === "variant" ? count("product", product) : 0);
}
