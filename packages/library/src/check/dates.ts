/** Dates of prices: an end not before its beginning, and no two prices of one kind at the same time. */

import { firstOf } from "../checked.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { finding } from "../findings/finding.js";
import type { CheckContext, Check } from "./rule.js";

export const checkDates: Check = (context) => {
  for (const name of ["product", "variant"]) {
    const owners = context.catalogue.table(name);
    const prices = context.catalogue.table(`${name}.prices`);
    if (!prices.texts.has("from") && !prices.texts.has("until")) continue;
    for (let owner = 0; owner < owners.size; owner++) checkOwner(context, prices, prices.childrenOf(owner));
  }
};

interface Span {
  readonly row: number;
  readonly from: string;
  readonly until: string;
}

/** ISO dates compare as texts; an open end is before, or after, all of them. */
function checkOwner({ catalogue, findings }: CheckContext, prices: ReadonlyTable, rows: Iterable<number>): void {
  let seen: Map<string, Span[]> | undefined;
  for (const row of rows) {
    const [from, until] = [prices.text("from", row) ?? "", prices.text("until", row) ?? ""];
    if (from === "" && until === "") continue;
    const location = catalogue.location(prices, row, "prices[].until");
    if (until !== "" && until < from) findings.add(finding("check/ends-before", { from, until }, location));
    const group = prices.references.get("customerGroup")?.first(row) ?? -1;
    const names = ["role", "quantityFrom", "currency", "hire"].map((field) => prices.text(field, row) ?? "");
    const key = [...names, group].join("\u0000");
    const span = { row, from, until: until === "" ? "9999-12-31" : until };
    seen ??= new Map();
    const spans = seen.get(key) ?? [];
    const other = spans.find((one) => one.from <= span.until && span.from <= one.until);
    if (other)
      findings.add(
        finding("check/prices-overlap", { role: firstOf(names), from, until }, location, [
          catalogue.location(prices, other.row),
        ]),
      );
    seen.set(key, [...spans, span]);
  }
}
