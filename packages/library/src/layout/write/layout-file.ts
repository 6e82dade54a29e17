/** Records as the bytes of a layout's file, whatever its format. */

import type { ResolvedCatalogue } from "../../catalogue/catalogue.js";
import type { Findings } from "../../findings/finding.js";
import { driverOf, sheetName } from "../../formats/drivers/drivers.js";
import { utf8Chunks } from "../../formats/encode.js";
import type { Layout } from "../layout.js";
import { writeDocument } from "./document.js";
import { writeSheet, type WriteOptions } from "./rows.js";

/**
 * Writes records as a file of a layout: notes and header, then the rows; or a document. Where the format allows, chunk by chunk. A value
 * that cannot be written is a finding.
 */
export async function writeLayout(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  options: WriteOptions,
  findings: Findings,
): Promise<Iterable<Uint8Array>> {
  const { format } = layout;
  const { rows: driver } = driverOf(format);
  if (!driver) return utf8Chunks(writeDocument(catalogue, layout, options, findings));
  const { above, rows } = writeSheet(catalogue, layout, options, findings);
  function* all(): Generator<readonly string[]> {
    yield* above;
    yield* rows;
  }
  return driver.write(format, [{ sheet: sheetName(format), rows: all() }]);
}

/** The sheets that the layouts of a file name, each once. */
export const sheetsOf = (layouts: readonly Layout[]): string[] => [
  ...new Set(layouts.map(({ format }) => sheetName(format))),
];
