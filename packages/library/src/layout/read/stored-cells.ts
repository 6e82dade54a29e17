/** Cells that are not read as they are stored: numbers of a workbook, and what a spreadsheet would run. */

import { finding, type Findings } from "../../findings/finding.js";
import { isFormula } from "../../formats/formulas.js";
import type { Location } from "../../location.js";
import { shorten } from "../../shorten.js";
import type { Column } from "../layout.js";
import { numberForColumn } from "./number-cells.js";
import type { CellTally } from "./tally.js";

interface SheetOfCells {
  /** By position. */
  readonly columnAt: ReadonlyMap<number, Column>;
  readonly tally: CellTally;
}

/** Blanks for what begins like a formula, each reported. @param row where the cells stand. */
export function withoutFormulas(
  { columnAt, tally }: SheetOfCells,
  cells: readonly string[],
  row: Location,
  findings: Findings,
): readonly string[] {
  return cells.map((text, index) => {
    const column = columnAt.get(index);
    if (!column || !isFormula(text)) return text;
    findings.add(finding("cell/formula", { text: shorten(text, 80) }, { ...row, column: column.header }));
    tally.reported(text);
    return "";
  });
}

/** Numbers in the form that their columns take. @param numbers the positions of cells that are stored as numbers. */
export function withNumbers(
  { columnAt, tally }: SheetOfCells,
  cells: readonly string[],
  numbers: readonly number[],
  row: Location,
  findings: Findings,
): readonly string[] {
  let changed: string[] | undefined;
  for (const index of numbers) {
    const column = columnAt.get(index);
    if (!column) continue;
    const text = numberForColumn(column, cells[index]!, row, findings);
    if (text === undefined) tally.reported(cells[index]!);
    if (text !== cells[index]) (changed ??= [...cells])[index] = text ?? "";
  }
  return changed ?? cells;
}
