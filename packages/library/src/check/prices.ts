/** Prices: struck-through above the price, sale below it, both above what the goods cost; tiers each once. */

import { IntList } from "../catalogue/int-list.js";
import type { Table } from "../catalogue/table.js";
import { compareDecimals } from "../decimal.js";
import { finding } from "../finding.js";
import type { CheckContext, Rule } from "./rule.js";

export const checkPrices: Rule = (context) => {
  const costs = new CostCount();
  for (const name of ["product", "variant"]) checkPricesOf(context, context.catalogue.table(name), costs);
  costs.report(context);
};

function checkPricesOf(context: CheckContext, owners: Table, costs: CostCount): void {
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
    costs.see(owners, owner, plain.cost >= 0);
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

interface CostsOfSheet {
  readonly table: Table;
  readonly sheet: number;
  costs: number;
  /** The rows that have a price and no cost. */
  readonly without: IntList;
}

/** Where a sheet gives a cost for at least half of what it gives a price, a cost that is missing was forgotten. */
class CostCount {
  readonly #counts: CostsOfSheet[] = [];
  #last: CostsOfSheet | undefined;

  see(table: Table, row: number, hasCost: boolean): void {
    const sheet = table.sheet(row);
    let count = this.#last;
    if (count?.sheet !== sheet || count.table !== table) {
      count = this.#counts.find((one) => one.sheet === sheet && one.table === table);
      if (!count) this.#counts.push((count = { table, sheet, costs: 0, without: new IntList() }));
      this.#last = count;
    }
    if (hasCost) count.costs++;
    else count.without.push(row);
  }

  report({ catalogue, findings }: CheckContext): void {
    for (const { table, sheet, without } of this.#counts) {
      const ofSheet = this.#counts.filter((one) => one.sheet === sheet);
      const costs = ofSheet.reduce((sum, one) => sum + one.costs, 0);
      if (costs === 0 || costs < ofSheet.reduce((sum, one) => sum + one.without.length, 0)) continue;
      const prices = catalogue.table(`${table.name}.prices`);
      for (const row of without.toArray()) {
        const regular = prices.findChild(row, (one) => prices.text("role", one) === "regular");
        const price = prices.text("amount", regular) ?? "";
        findings.add(finding("check/no-cost", { price }, catalogue.place(table, row)));
      }
    }
  }
}
