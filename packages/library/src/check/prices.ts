/** Prices: struck-through above the price, tiers each once. */

import type { Table } from "../catalogue/table.js";
import { compareDecimals } from "../decimal.js";
import { finding } from "../finding.js";
import type { CheckContext, Rule } from "./rule.js";

export const checkPrices: Rule = (context) => {
  for (const owner of ["product", "variant"]) checkPricesOf(context, context.catalogue.table(owner));
};

function checkPricesOf({ catalogue, findings }: CheckContext, owners: Table): void {
  const prices = catalogue.table(`${owners.name}.prices`);
  if (prices.size === 0) return;
  const role = prices.textColumn("role");
  const from = prices.textColumn("quantityFrom");
  const groups = prices.references.get("customerGroup");
  for (let owner = 0; owner < owners.size; owner++) {
    let regular: string | undefined;
    let struck = -1;
    const tiers = new Set<string>();
    for (const row of prices.childrenOf(owner)) {
      const quantity = from.get(row);
      const group = groups?.first(row) ?? -1;
      if (typeof quantity === "string" || group >= 0) {
        const key = `${role.get(row)} ${quantity} ${group}`;
        const facts = { from: quantity ?? "1", group: group < 0 ? "everybody" : catalogue.pool.text(group) };
        if (tiers.has(key)) findings.add(finding("check/repeated-tier", facts, catalogue.place(prices, row)));
        tiers.add(key);
      } else if (role.get(row) === "regular") regular = prices.text("amount", row) ?? undefined;
      else if (role.get(row) === "struck-through") struck = row;
    }
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
