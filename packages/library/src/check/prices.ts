/** Prices: struck-through above the price, sale below it, both above what the goods cost; tiers each once. */

import type { Table } from "../catalogue/table.js";
import { compareDecimals } from "../decimal.js";
import { finding } from "../finding.js";
import type { CheckContext, Rule } from "./rule.js";

export const checkPrices: Rule = (context) => {
  for (const owner of ["product", "variant"]) checkPricesOf(context, context.catalogue.table(owner));
};

function checkPricesOf(context: CheckContext, owners: Table): void {
  const { catalogue, findings } = context;
  const prices = catalogue.table(`${owners.name}.prices`);
  if (prices.size === 0) return;
  const role = prices.textColumn("role");
  const from = prices.textColumn("quantityFrom");
  const hasCosts = [...role.matching(/^cost$/, prices.size)].length > 0;
  const groups = prices.references.get("customerGroup");
  for (let owner = 0; owner < owners.size; owner++) {
    let regular: string | undefined;
    let struck = -1;
    const plain = new Map<string, number>();
    const tiers = new Set<string>();
    for (const row of prices.childrenOf(owner)) {
      const quantity = from.get(row);
      const group = groups?.first(row) ?? -1;
      if (typeof quantity === "string" || group >= 0) {
        const key = `${role.get(row)} ${quantity} ${group}`;
        const facts = { from: quantity ?? "1", group: group < 0 ? "everybody" : catalogue.pool.text(group) };
        if (tiers.has(key)) findings.add(finding("check/repeated-tier", facts, catalogue.place(prices, row)));
        tiers.add(key);
      } else {
        const own = role.get(row) ?? "";
        if (!plain.has(own)) plain.set(own, row);
        if (own === "regular") regular = prices.text("amount", row) ?? undefined;
        else if (own === "struck-through") struck = row;
      }
    }
    comparePrices(context, prices, plain);
    if (hasCosts && regular !== undefined && !plain.has("cost"))
      findings.add(finding("check/no-cost", { price: regular }, catalogue.place(owners, owner)));
    const above = struck < 0 ? undefined : prices.text("amount", struck);
    if (regular === undefined || typeof above !== "string" || compareDecimals(above, regular) > 0) continue;
    findings.add(
      finding(
        "check/struck-not-above",
        { price: regular, struck: above },
        catalogue.place(prices, struck, "prices(struck-through).amount"),
      ),
    );
  }
}

/** By role: the sale price is below the regular one, and neither is below the cost. */
function comparePrices({ catalogue, findings }: CheckContext, prices: Table, plain: ReadonlyMap<string, number>): void {
  const amount = (role: string): string | undefined => {
    const row = plain.get(role);
    const text = row === undefined ? undefined : prices.text("amount", row);
    return typeof text === "string" ? text : undefined;
  };
  const [regular, sale, cost] = ["regular", "sale", "cost"].map(amount);
  const placeOf = (role: string) => catalogue.place(prices, plain.get(role)!, `prices(${role}).amount`);
  if (sale !== undefined && regular !== undefined && compareDecimals(sale, regular) >= 0)
    findings.add(finding("check/sale-not-below", { sale, price: regular }, placeOf("sale")));
  for (const [role, price] of [
    ["regular", regular],
    ["sale", sale],
  ] as const)
    if (cost !== undefined && price !== undefined && compareDecimals(price, cost) < 0)
      findings.add(finding("check/below-cost", { role, price, cost }, placeOf(role)));
}
