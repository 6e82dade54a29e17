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
  const lineIn = (record: number): number | undefined => {
    if (lineElsewhere) return lineElsewhere(sheet ?? "", record);
    const from = catalogue.sheets[table.sheet(record)];
    return from?.file === sheet || from?.sheet === sheet ? table.line(record) : undefined;
  };
  if (names === "line")
    return (record) => {
      const line = lineIn(record);
      if (line !== undefined) return String(line);
      // The file whose lines are named is not the one that the record was read from.
      const facts = { column, text: table.key(record), wanted: phrase("a record of {0}", sheet) };
      findings.add(finding("write/cannot-be-written", facts, catalogue.location(table, record)));
      return "";
    };
  return (record) => table.text(names, record) ?? "";
}
