/** How linked rows name the records that they are about. */

import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import { finding } from "../../findings/finding.js";
import { phrase } from "../../phrases/phrase.js";
import type { RowLink } from "../layout.js";
import type { CellContext } from "./context.js";

/** How rows name a record of a table. */
export function wordOf(
  { catalogue, findings, lineElsewhere }: CellContext,
  table: ReadonlyTable,
  { column, names, sheet }: RowLink,
): (record: number) => string {
  if (names === "key") return (record) => table.key(record);
  if (names === "line" && lineElsewhere) return (record) => String(lineElsewhere(sheet ?? "", record));
  if (names === "line")
    return (record) => {
      const from = catalogue.sheets[table.sheet(record)];
      if (from?.file === sheet || from?.sheet === sheet) return String(table.line(record));
      // The file whose lines are named is not the one that the record was read from.
      const facts = { column, text: table.key(record), wanted: phrase("a record of {0}", sheet) };
      findings.add(finding("write/cannot-be-written", facts, catalogue.location(table, record)));
      return "";
    };
  return (record) => table.text(names, record) ?? "";
}
