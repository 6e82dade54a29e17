/** Prices: struck-through above the price, sale below it, both above what the goods cost; tiers each once. */

import type { Table } from "../catalogue/table.js";
import { compareDecimals } from "../decimal.js";
import { finding } from "../finding.js";
import type { CheckContext, Rule } from "./rule.js";

export const checkPrices: Rule = (context) => {
  const owners = ["product", "variant"].map((name) => context.catalogue.table(name));
  const withCosts = sheetsWithCosts(context, owners);
  for (const table of owners) checkPricesOf(context, table, withCosts);
};

function checkPricesOf(context: CheckContext, owners: Table, withCosts: ReadonlySet<number>): void {
  const { catalogue, findings } = context;
  const prices = catalogue.table(`${owners.name}.prices`);
  if (prices.size === 0) return;
  const role = prices.textColumn("role");
  const from = prices.textColumn("quantityFrom");
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
    if (regular !== undefined && !plain.has("cost") && withCosts.has(owners.sheet(owner)))
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

/** The sheets that give a cost for at least half of what they give a price: there, a cost that is missing was forgotten. */
function sheetsWithCosts({ catalogue }: CheckContext, owners: readonly Table[]): ReadonlySet<number> {
  const counts = new Map<number, { costs: number; prices: number }>();
  for (const [word, which] of [
    [/^cost$/, "costs"],
    [/^regular$/, "prices"],
  ] as const) {
    for (const table of owners) {
      const prices = catalogue.table(`${table.name}.prices`);
      const seen = new Set<number>();
      for (const row of prices.textColumn("role").matching(word, prices.size)) {
        const owner = prices.parent(row);
        if (seen.has(owner)) continue;
        seen.add(owner);
        const count = counts.get(table.sheet(owner)) ?? { costs: 0, prices: 0 };
        count[which]++;
        counts.set(table.sheet(owner), count);
      }
    }
    // Without any cost there is nothing to compare: the usual case is done quickly.
    if (counts.size === 0) break;
  }
  const isUsual = (count: { costs: number; prices: number }) => count.costs > 0 && count.costs >= 0.5 * count.prices;
  return new Set([...counts].filter(([, count]) => isUsual(count)).map(([sheet]) => sheet));
}
