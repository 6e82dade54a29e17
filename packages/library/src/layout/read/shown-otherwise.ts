/** Cells of a workbook that look otherwise than they are stored: a code that became a date, a number that is shown rounded. */

import { finding, type Findings } from "../../findings/finding.js";
import type { CellEvidence } from "../../formats/row-batch.js";
import type { Location } from "../../location.js";
import type { Column } from "../layout.js";

export class ShownOtherwise {
  readonly #byColumn = new Map<number, { shown: string; stored: string; count: number; location: Location }>();

  constructor(
    readonly columnAt: ReadonlyMap<number, Column>,
    readonly findings: Findings,
  ) {}

  /** @param evidence by position, of cells that look otherwise. */
  see(cells: readonly string[], evidence: ReadonlyMap<number, CellEvidence>, at: Location): void {
    for (const [index, { is, shown }] of evidence) {
      const column = this.columnAt.get(index);
      const takes = column?.bindings[0]?.codec.holds;
      if (!column || takes === "date") continue;
      const stored = cells[index] ?? "";
      const location = { ...at, column: column.header };
      if (is === "date") this.findings.add(finding("cell/turned-into-date", { shown, stored }, location));
      else if (takes === undefined) {
        const known = this.#byColumn.get(index);
        if (known) known.count++;
        else this.#byColumn.set(index, { shown, stored, count: 1, location });
      }
    }
  }

  /** Each column once, at its first such cell. */
  report(): void {
    for (const { shown, stored, count, location } of this.#byColumn.values())
      this.findings.add(finding("cell/shown-otherwise", { shown, stored, count }, location));
  }
}
