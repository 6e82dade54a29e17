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
  const amounts = prices.textColumn("amount");
  for (let owner = 0; owner < owners.size; owner++) {
    // The plain price of each role, by its row.
    const plain: PlainPrices = { regular: -1, sale: -1, cost: -1, "struck-through": -1 };
    let tiers: Set<string> | undefined;
    for (const row of prices.childrenOf(owner)) {
      const quantity = from.get(row);
      const group = groups?.first(row) ?? -1;
      const own = role.get(row) ?? "";
      if (typeof quantity === "string" || group >= 0) {
        const key = `${own} ${quantity} ${group}`;
        tiers ??= new Set();
        if (tiers.has(key)) {
          const facts = { from: quantity ?? "1", group: group < 0 ? "everybody" : catalogue.pool.text(group) };
          findings.add(finding("check/repeated-tier", facts, catalogue.place(prices, row)));
        }
        tiers.add(key);
      } else if (own === "regular" || own === "sale" || own === "cost" || own === "struck-through") {
        if (plain[own] < 0) plain[own] = row;
      }
    }
    const regular = plain.regular < 0 ? undefined : amounts.get(plain.regular);
    if (typeof regular !== "string") continue;
    if (plain.cost < 0 && withCosts.has(owners.sheet(owner)))
      findings.add(finding("check/no-cost", { price: regular }, catalogue.place(owners, owner)));
    if (plain.sale >= 0 || plain.cost >= 0 || plain["struck-through"] >= 0)
      comparePrices(context, prices, plain, regular);
  }
}

type PlainRole = "regular" | "sale" | "cost" | "struck-through";
type PlainPrices = Record<PlainRole, number>;

/** The sale price is below the regular one, the struck-through one above it, and neither regular nor sale below the cost. */
function comparePrices(
  { catalogue, findings }: CheckContext,
  prices: Table,
  plain: Readonly<PlainPrices>,
  regular: string,
): void {
  const amount = (role: PlainRole): string | undefined => {
    const text = plain[role] < 0 ? undefined : prices.text("amount", plain[role]);
    return typeof text === "string" ? text : undefined;
  };
  const placeOf = (role: PlainRole) => catalogue.place(prices, plain[role], `prices(${role}).amount`);
  const [sale, cost, struck] = [amount("sale"), amount("cost"), amount("struck-through")];
  if (sale !== undefined && compareDecimals(sale, regular) >= 0)
    findings.add(finding("check/sale-not-below", { sale, price: regular }, placeOf("sale")));
  if (cost !== undefined && compareDecimals(regular, cost) < 0)
    findings.add(finding("check/below-cost", { role: "regular", price: regular, cost }, placeOf("regular")));
  if (cost !== undefined && sale !== undefined && compareDecimals(sale, cost) < 0)
    findings.add(finding("check/below-cost", { role: "sale", price: sale, cost }, placeOf("sale")));
  if (struck !== undefined && compareDecimals(struck, regular) <= 0)
    findings.add(finding("check/struck-not-above", { price: regular, struck }, placeOf("struck-through")));
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
