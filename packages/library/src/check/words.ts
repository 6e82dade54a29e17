/** Fields that take certain words only: nature, status, backorder, the type of a property. */

import { finding } from "../finding.js";
import { nearestWord } from "../near.js";
import type { Rule } from "./rule.js";

export const checkWords: Rule = ({ catalogue, findings }) => {
  for (const table of catalogue.tables)
    for (const { name, among } of table.kind.fields) {
      const column = among && table.texts.get(name);
      if (!column) continue;
      for (let row = 0; row < table.size; row++) {
        const word = column.get(row);
        if (typeof word !== "string" || among.includes(word)) continue;
        const facts = { field: name, word, among, nearest: nearestWord(word, among) };
        findings.add(finding("check/unknown-word", facts, catalogue.place(table, row, name)));
      }
    }
};
