/** Which layouts cannot be written, or cannot be played in the rehearsal yet: refused before anything is built. */

import { firstOf } from "../checked.js";
import { driverOf } from "../formats/drivers/drivers.js";
import { sheetsOf } from "../layout/write/layout-file.js";
import type { Layout } from "../layout/layout.js";
import { phrase, type Text } from "../phrases/phrase.js";

/** What is wrong, and where in the layout. */
export interface UnplayedLayout {
  readonly problem: Text;
  readonly path: readonly string[];
}

export function* unplayedLayout(layout: Layout, name: string): Generator<UnplayedLayout> {
  const { format, shape, link, cells, filledDown } = layout;
  const ofFormat = driverOf(format).unwritten(format);
  if (ofFormat !== undefined) yield { problem: ofFormat, path: ["format"] };
  if (shape.is === "expanded")
    yield {
      problem: phrase("{0}: rows that list combinations cannot be rehearsed yet", name),
      path: ["rows", "expanded"],
    };
  if (link && shape.is !== "flat" && (shape.is !== "nested" || shape.child))
    yield {
      problem: phrase("{0}: only a row a record can be found by a column yet", name),
      path: ["rows", "found by"],
    };
  if (filledDown.length > 0)
    yield { problem: phrase("{0}: an uploaded file is not filled down", name), path: ["filled down"] };
  if (cells.length > 0 && layout.headerLine === undefined)
    yield { problem: phrase("{0}: cells are joined or cut only where a header names them", name), path: ["cells"] };
}

/** A header for the whole file, or a sheet for each layout: what is neither. */
export function unlikeSheets(layouts: readonly Layout[], name: string): Text | undefined {
  const headersOf = (layout: Layout): string => layout.columns.map(({ header }) => header).join();
  if (sheetsOf(layouts).length > 1) return phrase("{0}: a workbook of several sheets cannot be uploaded yet", name);
  const formOf = (layout: Layout): string => `${headersOf(layout)}\n${JSON.stringify(layout.cells)}`;
  const isAlike = layouts.every((layout) => formOf(layout) === formOf(firstOf(layouts)));
  return isAlike ? undefined : phrase("the layouts of {0} have different columns", name);
}
