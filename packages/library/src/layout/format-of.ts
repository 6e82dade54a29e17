/** From what a layout states for its file (`format:`) to the format. */

import type { Format } from "../formats/format.js";
import type { GivenFormat } from "./schema.js";

/** @param checkEncoding is called with a label that the layout gives. */
export function formatOf(given: GivenFormat, checkEncoding: (label: string) => void): Format {
  if ("workbook" in given) {
    const { sheet, kind } = given.workbook;
    return {
      is: "workbook",
      sheet,
      kind: kind ?? "xlsx",
      skipsHidden: given.workbook["hidden rows"] === "left out",
      repeatsMerged: given.workbook["merged cells"] === "repeated",
    };
  }
  if ("xml" in given) {
    const { encoding, namespaces = {} } = given.xml;
    if (encoding !== undefined) checkEncoding(encoding);
    return { is: "xml", encoding, namespaces };
  }
  if ("json" in given) return { is: "json", lines: given.json.lines ?? false, envelope: given.json.envelope ?? {} };
  const { delimiter, quote, encoding, mark = false } = given.csv;
  if (encoding !== undefined) checkEncoding(encoding);
  return { is: "csv", delimiter, quote, encoding, lineEnd: given.csv["line end"] === "lf" ? "\n" : "\r\n", mark };
}
