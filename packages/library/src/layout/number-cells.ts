/** Cells that a workbook or a document keeps as a number: they are that number, whatever signs the layout expects in a text. */

import { textOfNumber } from "../codecs/codec.js";
import { finding, type Findings } from "../finding.js";
import type { Place } from "../place.js";
import type { Column } from "./layout.js";

/** How the number reads in the column's own form; undefined, with a finding, where it would be cut. */
export function numberForColumn(
  { bindings, header }: Column,
  number: string,
  place: Place,
  findings: Findings,
): string | undefined {
  const texts = new Set(bindings.map(({ codec }) => textOfNumber(codec, number)));
  const [text] = texts;
  if (texts.size === 1 && text !== undefined) return text;
  findings.add(finding("cell/number-cut", { number }, { ...place, column: header }));
  return undefined;
}
