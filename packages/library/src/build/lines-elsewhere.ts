/** The lines of the rows of another file of the upload, for rows that name them. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { entryOf, present } from "../checked.js";
import { Findings } from "../findings/finding.js";
import type { LineElsewhere } from "../layout/write/context.js";
import type { Step } from "../plan/plan.js";
import type { Target } from "../target/target.js";
import { fileRows, numberedRows, type RowSelection } from "./write-file.js";

/** @returns finds lines in the files of these steps. Where a file is named for the first time, its rows are counted. */
export function linesIn(
  catalogue: ResolvedCatalogue,
  target: Target,
  steps: readonly Step[],
  isLeftOut: RowSelection["isLeftOut"],
): LineElsewhere {
  const counted = new Map<string, ReadonlyMap<number, number>>();
  const count = (name: string): ReadonlyMap<number, number> => {
    const lines = new Map<number, number>();
    const file = entryOf(target.files, name);
    for (const step of steps) {
      if (step.is !== "upload" || step.slot.file !== name) continue;
      for (const { blocks } of step.files) {
        const { rows } = fileRows(catalogue, file, { blocks, step, isLeftOut }, new Findings(0));
        for (const { row, line } of numberedRows(file, rows)) if (!lines.has(row.parent)) lines.set(row.parent, line);
      }
    }
    return lines;
  };
  return (name, record) => {
    const lines = counted.get(name) ?? count(name);
    counted.set(name, lines);
    return present(lines.get(record));
  };
}
