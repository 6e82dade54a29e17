/** Barcodes: right digits, right check digit, no leading zeros lost. */

import { present } from "../checked.js";
import { barcodeProblem } from "./gtin.js";
import { finding } from "../findings/finding.js";
import type { Check } from "./rule.js";

export const checkBarcodes: Check = ({ catalogue, findings }) => {
  for (const table of [catalogue.table("product"), catalogue.table("variant")]) {
    const column = table.texts.get("barcode");
    if (!column) continue;
    for (let row = 0; row < table.size; row++) {
      const barcode = column.get(row);
      const problem = typeof barcode === "string" ? barcodeProblem(barcode) : undefined;
      if (problem !== undefined)
        findings.add(
          finding("check/barcode", { barcode: present(barcode), problem }, catalogue.location(table, row, "barcode")),
        );
    }
  }
};
