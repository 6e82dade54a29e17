/** From what a layout states for its file (`format:`) to the format. */

import { drivers } from "../../formats/drivers/drivers.js";
import type { Format } from "../../formats/format.js";
import type { GivenFormat } from "../schema.js";

/** @param checkEncoding is called with a label that the layout gives. */
export function formatOf(given: GivenFormat, checkEncoding: (label: string) => void): Format {
  const format = read(given);
  if ("encoding" in format && format.encoding !== undefined) checkEncoding(format.encoding);
  return format;
}

function read(given: GivenFormat): Format {
  if ("csv" in given) return drivers.csv.of(given.csv);
  if ("workbook" in given) return drivers.workbook.of(given.workbook);
  if ("xml" in given) return drivers.xml.of(given.xml);
  return drivers.json.of(given.json);
}
