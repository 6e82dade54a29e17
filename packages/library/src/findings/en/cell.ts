/** Findings about the text of a single cell. */

import { error, warning } from "../definition.js";
import { quoted, some, type Text } from "../wording.js";

type CellFacts = { readonly text: string; readonly wanted: Text };
const isNot = (f: CellFacts): string => `${quoted(f.text)} is not ${f.wanted}`;

export const cell = {
  "cell/formula-error": error(
    (f: { shown: string }) => `the formula in this cell gives the error ${f.shown}`,
    "Correct the formula, or replace it with the value.",
  ),
  "cell/formula-without-result": error(
    (_: object) => "the formula in this cell has no stored result",
    "Open the workbook in a spreadsheet program, let it calculate, and save it.",
  ),
  "cell/formula": error(
    (f: { text: string }) => `${quoted(f.text)} begins like a formula`,
    'Correct the cell, or set "formulas: as they are" in the layout.',
  ),
  "cell/turned-into-date": error(
    (f: { shown: string; stored: string }) =>
      `a spreadsheet program turned this cell into the date ${f.stored} (shown as ${quoted(f.shown)})`,
    "Format the column as text and type the value again.",
  ),
  "cell/number-cut": error(
    (f: { number: string }) => `the cell is the number ${f.number}, and the layout would split it in two`,
    "Format the column as text at its source, or choose another separator for the list.",
  ),
  "cell/shown-otherwise": warning(
    (f: { shown: string; stored: string; count: number }) =>
      `${some(f.count, "cell is a number", "cells are numbers")} with another display: ${quoted(f.stored)} is shown as ${quoted(f.shown)}. The stored number was read`,
    'If leading zeros belong to it, set "fix: { pad: … }" in the layout, or format the column as text at its source.',
  ),
  "cell/not-cut": error(isNot, "Correct the cell, or the layout."),
  "cell/not-a-measure": error(isNot, "Correct the cell, or add the unit in the layout."),
  "cell/too-many-parts": error(
    (f: CellFacts) => `${quoted(f.text)} has more than ${f.wanted}`,
    "Correct the cell, or the parts in the layout.",
  ),
  "cell/other-markup": error(isNot, 'Correct the markup, or set "other elements: dropped" in the layout.'),
  "cell/not-a-decimal": error(isNot, "Correct the cell, or the decimal sign in the layout."),
  "cell/thousands": error(
    (f: CellFacts) => `${quoted(f.text)} has a thousands separator or the wrong decimal sign. Expected is ${f.wanted}`,
    'Correct the cell, or set "thousands" in the layout.',
  ),
  "cell/other-sign": error(
    (f: CellFacts) => `${quoted(f.text)} contains more than ${f.wanted}`,
    'Remove the sign, or set "sign" in the layout.',
  ),
  "cell/scientific": error(
    (f: CellFacts) =>
      `${quoted(f.text)} is in the scientific notation of a spreadsheet program. The last digits are lost`,
    "Get the number again from its source, in a column formatted as text.",
  ),
  "cell/not-an-integer": error(isNot, "Correct the cell."),
  "cell/not-a-word": error(isNot, 'Correct the cell, or add the word under "code words" in the layout.'),
  "cell/not-a-date": error(isNot, "Correct the cell, or the date pattern in the layout."),
  "cell/empty-entry": error((f: CellFacts) => `${quoted(f.text)} has an empty entry`, "Remove the extra separator."),
  "cell/bad-escape": error((f: CellFacts) => `${quoted(f.text)}: ${f.wanted}`, "Correct the cell."),
  "cell/no-beginning": error(isNot, "Correct the cell, or the fixed part in the layout."),
};
