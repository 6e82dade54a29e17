/** Texts: letters that were read in the wrong encoding, characters that nobody sees, values that a spreadsheet took for dates. */

import { hasUnsafe, unsafeChars, unsafePairs } from "../safe-text.js";
import { present } from "../checked.js";
import { fieldOfColumn, splitTable } from "../field-name.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { withoutMojibake } from "../codecs/fixes.js";
import { finding } from "../findings/finding.js";
import { fieldOf } from "../kind.js";
import type { CheckContext, Check } from "./rule.js";
import { phrase, type Text } from "../phrases/phrase.js";

const misread = /[\u00c2-\u00f4][\u0080-\u00bf€‚ƒ„…†‡ˆ‰Š‹ŒŽ‘’“”•–—˜™š›œžŸ]/;
const unseenChars = "\\u00ad\\u200b\\u200e\\u200f\\u2060\\ufeff\\u0000-\\u0008\\u000b\\u000c\\u000e-\\u001f\\u007f";
const unseen = new RegExp(`[${unseenChars}]`);
const lost = /\ufffd/;
const surrogate = /[\ud800-\udfff]/;
/** With the flag, pairs are one character: what is left is half of one. */
const half = /\p{Surrogate}/u;
/** Any of them, so that a column is gone through once. What is one character is one class: that is looked for faster. */
const suspicious = new RegExp(`[${unseenChars}${unsafeChars}\\ufffd]|${unsafePairs}|${misread.source}`);
const monthNames = "jan|feb|mar|mär|apr|may|mai|jun|jul|aug|sep|oct|okt|nov|dec|dez";
const dateLike = new RegExp(
  `^(\\d{1,2}[-. ]{1,2}(${monthNames})[a-zä]*|(${monthNames})[a-zä]*[-. ]{1,2}\\d{2,4}|\\d{1,2}[./]\\d{1,2}[./]\\d{4}|\\d{4}-\\d{2}-\\d{2}( 00:00:00)?)$`,
  "i",
);

export const checkTexts: Check = (context) => {
  for (const table of context.catalogue.tables)
    for (const [field, column] of table.texts) {
      const type = fieldOf(table.kind, fieldOfColumn(field))?.type;
      // Numbers, flags and dates have been through their codecs.
      if (type !== "text" && type !== "code" && type !== "file" && type !== "barcode") continue;
      const say = (row: number, text: string, damage: Text, right?: string) =>
        report(context, table, row, field, text, damage, right);
      for (const row of column.matching(surrogate, table.size)) {
        const text = present(column.get(row));
        if (half.test(text)) reportHalf(context, table, row, field);
      }
      for (const row of column.matching(suspicious, table.size)) {
        const text = present(column.get(row));
        const right = misread.test(text) ? withoutMojibake(text) : undefined;
        if (right !== undefined) say(row, text, phrase("letters that were read in the wrong encoding"), right);
        if (unseen.test(text) || hasUnsafe(text)) say(row, text, phrase("invisible characters"));
        if (lost.test(text)) say(row, text, phrase("letters that were lost when it was saved"));
      }
      const isWord =
        field === "code" || ((table.name === "value" || table.name === "axis") && field.startsWith("name@"));
      if (isWord)
        for (const row of column.matching(dateLike, table.size))
          say(row, present(column.get(row)), phrase("a date, which spreadsheet programs make of sizes and codes"));
    }
};

function reportHalf({ catalogue, findings }: CheckContext, table: ReadonlyTable, row: number, field: string): void {
  const collection = table.kind.entryKey ? `${splitTable(table.name).collection}.` : "";
  const name = `${collection}${field}`;
  findings.add(finding("check/half-character", { field: name }, catalogue.location(table, row, name)));
}

function report(
  { catalogue, findings }: CheckContext,
  table: ReadonlyTable,
  row: number,
  field: string,
  text: string,
  damage: Text,
  right?: string,
): void {
  const collection = table.kind.entryKey ? `${splitTable(table.name).collection}.` : "";
  const facts = { field: `${collection}${field}`, text: shown(text), damage, right };
  findings.add(finding("check/damaged-text", facts, catalogue.location(table, row, `${collection}${field}`)));
}

/** With what nobody sees made visible, and not longer than a line. */
function shown(text: string): string {
  const visible = text.replace(
    new RegExp(unseen, "g"),
    (char) => `[U+${char.charCodeAt(0).toString(16).padStart(4, "0").toUpperCase()}]`,
  );
  return visible.length > 60 ? `${visible.slice(0, 59)}…` : visible;
}
