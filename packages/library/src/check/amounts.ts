/** Numbers wherever they stand: none below zero, none missing in an entry that is there for it, no zero where that gives something away. */

import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { signOf } from "../decimal.js";
import { finding } from "../findings/finding.js";
import type { CheckContext, Check } from "./rule.js";

interface NumberRule {
  /** Of records, or of the entries of this kind. */
  readonly of: string;
  readonly field: string;
  /** What a number below zero is: wrong, or possible in some shops. */
  readonly negative: "error" | "warning";
  readonly zero?: "error" | "warning";
  /** What an entry without it is: one that says nothing, or one that platforms understand each in their way. */
  readonly missing?: "error" | "warning";
}

const rules: readonly NumberRule[] = [
  { of: "price", field: "amount", negative: "error", zero: "warning", missing: "error" },
  { of: "price", field: "quantityFrom", negative: "error", zero: "error" },
  // A sheet of reorder levels has no quantities.
  { of: "stock", field: "quantity", negative: "warning" },
  { of: "stock", field: "reorderAt", negative: "error" },
  { of: "stock", field: "reorderTo", negative: "error" },
  { of: "component", field: "quantity", negative: "error", zero: "error", missing: "warning" },
  { of: "supply", field: "cost", negative: "error", zero: "warning" },
  { of: "supply", field: "days", negative: "error" },
  ...["product", "variant"].flatMap((of): NumberRule[] => [
    ...["weight", "length", "width", "height"].map((field): NumberRule => ({ of, field, negative: "error" })),
    ...["quantityLeast", "quantityMost", "quantityStep"].map((field): NumberRule => ({
      of,
      field,
      negative: "error",
      zero: "error",
    })),
  ]),
];

export const checkAmounts: Check = (context) => {
  for (const table of context.catalogue.tables)
    for (const rule of rules) if (rule.of === table.kind.name && table.size > 0) checkField(context, table, rule);
};

function checkField({ catalogue, findings }: CheckContext, table: ReadonlyTable, rule: NumberRule): void {
  const { field, negative, zero, missing } = rule;
  const column = table.textsOf(field);
  for (let row = 0; row < table.size; row++) {
    const value = column.get(row);
    if (typeof value !== "string") {
      if (missing !== undefined) {
        const code = missing === "error" ? "check/no-amount" : "check/no-quantity";
        findings.add(finding(code, { field }, catalogue.location(table, row, field)));
      }
      continue;
    }
    const sign = signOf(value);
    const facts = { field, value };
    if (sign < 0) {
      const code = negative === "error" ? "check/negative" : "check/below-zero";
      findings.add(finding(code, facts, catalogue.location(table, row, field)));
    } else if (sign === 0 && zero !== undefined) {
      const code = zero === "error" ? "check/zero" : "check/for-nothing";
      findings.add(finding(code, facts, catalogue.location(table, row, field)));
    }
  }
}
