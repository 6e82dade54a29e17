/** Codes: each one on one record only, and every record that can be sold has one. */

import { present } from "../checked.js";
import { finding } from "../findings/finding.js";
import type { CheckContext, Check } from "./rule.js";

export const checkCodes: Check = (context) => {
  const { catalogue, codes, findings } = context;
  for (const [code, records] of codes.repeated) {
    const [first, ...others] = records.map(({ table, row }) => catalogue.location(table, row, "code"));
    // Said of each but the first: those are the ones that would win over another.
    for (const location of others)
      findings.add(finding("check/repeated-code", { code, count: records.length }, location, [present(first)]));
  }
  reportShortCodes(context);
  if (context.takesCodes === false) return;
  const products = catalogue.table("product");
  const variants = catalogue.table("variant");
  for (let row = 0; row < variants.size; row++)
    if (typeof variants.text("code", row) !== "string")
      findings.add(finding("check/no-code", { kind: "variant" }, catalogue.location(variants, row, "code")));
  for (let row = 0; row < products.size; row++)
    if (variants.countChildren(row) === 0 && typeof products.text("code", row) !== "string")
      findings.add(finding("check/no-code", { kind: "product" }, catalogue.location(products, row, "code")));
};

/** So many codes of digits have to be of one width before a shorter one tells of zeros lost. */
const fewest = 4;
const mostOf = 0.75;

/** Where nearly all codes are digits of one width, a shorter one has lost its leading zeros to a spreadsheet. */
function reportShortCodes({ catalogue, findings }: CheckContext): void {
  for (const table of [catalogue.table("product"), catalogue.table("variant")]) {
    const column = table.texts.get("code");
    if (!column) continue;
    const widths = new Map<number, number>();
    let total = 0;
    for (const row of column.matching(/^\d+$/, table.size)) {
      const width = present(column.get(row)).length;
      widths.set(width, (widths.get(width) ?? 0) + 1);
      total++;
    }
    const [width, count] = [...widths].reduce((most, one) => (one[1] > most[1] ? one : most), [0, 0]);
    if (total < fewest || count < mostOf * total) continue;
    for (const row of column.matching(/^\d+$/, table.size)) {
      const code = present(column.get(row));
      if (code.length < width)
        findings.add(finding("check/short-code", { code, width }, catalogue.location(table, row, "code")));
    }
  }
}
