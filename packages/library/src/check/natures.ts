/** Natures: what can be carried is neither a service nor a download, and a rental has a price for a time. */

import { sellables, type Sellable } from "../catalogue/sellables.js";
import { finding } from "../finding.js";
import type { CheckContext, Rule } from "./rule.js";

const weightless: ReadonlySet<string> = new Set(["service", "downloadable"]);

export const checkNatures: Rule = (context) => {
  const { catalogue, findings } = context;
  const natures = catalogue.table("product").texts.get("nature");
  const hasRentals = ["product", "variant"].some((name) => catalogue.table(`${name}.prices`).texts.has("rental"));
  if (!natures && !hasRentals) return;
  for (const sellable of sellables(catalogue)) {
    const { table, row, product } = sellable;
    const nature = natures?.get(product) ?? "physical";
    if (weightless.has(nature) && typeof table.text("weight", row) === "string")
      findings.add(finding("check/weight-of-nothing", { nature }, catalogue.place(table, row, "weight")));
    const rented = rentalPrices(context, sellable);
    if (nature === "rental" && rented === 0)
      findings.add(finding("check/no-rental-price", {}, catalogue.place(table, row)));
    if (nature !== "rental" && rented > 0)
      findings.add(finding("check/rental-price", { nature }, catalogue.place(table, row)));
  }
};

function rentalPrices({ catalogue }: CheckContext, { table, row, product }: Sellable): number {
  const count = (owner: string, at: number): number => {
    const prices = catalogue.table(`${owner}.prices`);
    const rental = prices.texts.get("rental");
    return rental ? [...prices.childrenOf(at)].filter((entry) => typeof rental.get(entry) === "string").length : 0;
  };
  return count(table.name, row) + (table.name === "variant" ? count("product", product) : 0);
}
