/** Prices: the was price above the price, the offer below it, both above the cost; each tier once. */

import { IntList } from "../catalogue/int-list.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { compareDecimals } from "../decimal.js";
import { finding } from "../findings/finding.js";
import type { CheckContext, Check } from "./rule.js";

export const checkPrices: Check = (context) => {
  const costs = new CostCount();
  for (const name of ["product", "variant"]) checkPricesOf(context, context.catalogue.table(name), costs);
  costs.report(context);
};

function checkPricesOf(context: CheckContext, owners: ReadonlyTable, costs: CostCount): void {
  const { catalogue, findings } = context;
  const prices = catalogue.table(`${owners.name}.prices`);
  if (prices.size === 0) return;
  const role = prices.textsOf("role");
  const from = prices.textsOf("quantityFrom");
  const groups = prices.references.get("customerGroup");
  const amounts = prices.textsOf("amount");
  for (let owner = 0; owner < owners.size; owner++) {
    // The plain price of each role, by its row.
    const plain: PlainPrices = { price: -1, offer: -1, cost: -1, was: -1 };
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
          findings.add(finding("check/repeated-tier", facts, catalogue.location(prices, row)));
        }
        tiers.add(key);
      } else if (own === "price" || own === "offer" || own === "cost" || own === "was") {
        if (plain[own] < 0) plain[own] = row;
      }
    }
    const price = plain.price < 0 ? undefined : amounts.get(plain.price);
    if (typeof price !== "string") continue;
    costs.see(owners, owner, plain.cost >= 0);
    if (plain.offer >= 0 || plain.cost >= 0 || plain.was >= 0) comparePrices(context, prices, plain, price);
  }
}

type PlainRole = "price" | "offer" | "cost" | "was";
type PlainPrices = Record<PlainRole, number>;

/** The offer is below the price, the was price above it, and neither price nor offer below the cost. */
function comparePrices(
  context: CheckContext,
  prices: ReadonlyTable,
  plain: Readonly<PlainPrices>,
  price: string,
): void {
  const { catalogue, findings } = context;
  const amount = (role: PlainRole): string | undefined => {
    const text = plain[role] < 0 ? undefined : prices.text("amount", plain[role]);
    return typeof text === "string" ? text : undefined;
  };
  const currency = currencyOf(context, prices, plain.price);
  const locationOf = (role: PlainRole) => catalogue.location(prices, plain[role], `prices(${role}).amount`);
  const [offer, cost, was] = [amount("offer"), amount("cost"), amount("was")];
  if (offer !== undefined && compareDecimals(offer, price) >= 0)
    findings.add(finding("check/offer-not-below", { offer, price, currency }, locationOf("offer")));
  if (cost !== undefined && compareDecimals(price, cost) < 0)
    findings.add(finding("check/below-cost", { role: "price", price, cost, currency }, locationOf("price")));
  if (cost !== undefined && offer !== undefined && compareDecimals(offer, cost) < 0)
    findings.add(finding("check/below-cost", { role: "offer", price: offer, cost, currency }, locationOf("offer")));
  if (was !== undefined && compareDecimals(was, price) <= 0)
    findings.add(finding("check/was-not-above", { price, was, currency }, locationOf("was")));
}

/** The currency of an entry; the project's where its source names none. */
export const currencyOf = ({ currency }: CheckContext, prices: ReadonlyTable, entry: number): string | undefined =>
  prices.text("currency", entry) ?? currency;

interface CostsOfSheet {
  readonly table: ReadonlyTable;
  readonly sheet: number;
  costs: number;
  /** The rows that have a price and no cost. */
  readonly without: IntList;
}

/** Where a sheet gives a cost for at least half of what it gives a price, a cost that is missing was forgotten. */
class CostCount {
  readonly #counts: CostsOfSheet[] = [];
  #last: CostsOfSheet | undefined;

  see(table: ReadonlyTable, row: number, hasCost: boolean): void {
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

  report(context: CheckContext): void {
    const { catalogue, findings } = context;
    for (const { table, sheet, without } of this.#counts) {
      const ofSheet = this.#counts.filter((one) => one.sheet === sheet);
      const costs = ofSheet.reduce((sum, one) => sum + one.costs, 0);
      if (costs === 0 || costs < ofSheet.reduce((sum, one) => sum + one.without.length, 0)) continue;
      const prices = catalogue.table(`${table.name}.prices`);
      for (const row of without.toArray()) {
        const entry = prices.findChild(row, (one) => prices.text("role", one) === "price");
        const facts = { price: prices.text("amount", entry) ?? "", currency: currencyOf(context, prices, entry) };
        findings.add(finding("check/no-cost", facts, catalogue.location(table, row)));
      }
    }
  }
}
