/** Fields that take certain words only: nature, status, backorder, the type of a property. */

import { finding } from "../findings/finding.js";
import { nearestSpelling } from "../spelling.js";
import type { Check } from "./rule.js";

export const checkListedValues: Check = ({ catalogue, findings }) => {
  for (const table of catalogue.tables)
    for (const { name, among } of table.kind.fields) {
      const column = among && table.texts.get(name);
      if (!column) continue;
      for (let row = 0; row < table.size; row++) {
        const word = column.get(row);
        if (typeof word !== "string" || among.includes(word)) continue;
        const facts = { field: name, word, among, nearest: nearestSpelling(word, among) };
        findings.add(finding("check/unknown-value", facts, catalogue.location(table, row, name)));
      }
    }
};
