/** Cells that a workbook or a document keeps as a number: they are that number, whatever signs the layout expects in a text. */

import { textOfNumber } from "../../codecs/codec.js";
import { finding, type Findings } from "../../findings/finding.js";
import type { Location } from "../../location.js";
import type { Column } from "../layout.js";

/** How the number reads in the column's own form; undefined, with a finding, where it would be cut. */
export function numberForColumn(
  { bindings, header }: Column,
  number: string,
  location: Location,
  findings: Findings,
): string | undefined {
  const texts = new Set(bindings.map(({ codec }) => textOfNumber(codec, number)));
  const [text] = texts;
  if (texts.size === 1 && text !== undefined) return text;
  findings.add(finding("cell/number-cut", { number }, { ...location, column: header }));
  return undefined;
}
