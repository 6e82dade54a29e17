/** Codes: each one on one record only, and every record that can be sold has one. */

import { finding } from "../finding.js";
import type { Rule } from "./rule.js";

export const checkCodes: Rule = ({ catalogue, codes, findings }) => {
  for (const [code, records] of codes.repeated) {
    const [first, ...others] = records.map(({ table, row }) => catalogue.place(table, row, "code"));
    // Said of each but the first: those are the ones that would win over another.
    for (const place of others)
      findings.add(finding("check/repeated-code", { code, count: records.length }, place, [first!]));
  }
  const products = catalogue.table("product");
  const variants = catalogue.table("variant");
  for (let row = 0; row < variants.size; row++)
    if (typeof variants.text("code", row) !== "string")
      findings.add(finding("check/no-code", { kind: "variant" }, catalogue.place(variants, row, "code")));
  for (let row = 0; row < products.size; row++)
    if (variants.childrenOf(row).length === 0 && typeof products.text("code", row) !== "string")
      findings.add(finding("check/no-code", { kind: "product" }, catalogue.place(products, row, "code")));
};
