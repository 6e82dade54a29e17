/** The lines of the rows of another file of the upload, for rows that name them. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { entryOf } from "../checked.js";
import { finding, Findings, type Finding } from "../findings/finding.js";
import type { LineElsewhere } from "../layout/write/context.js";
import { phrase } from "../phrases/phrase.js";
import type { Plan, Step } from "../plan/plan.js";
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
    return lines.get(record);
  };
}

/** Rows of a plan that would name lines of a file in which their record has none: it is on the platform already. */
export function* linesMissing(catalogue: ResolvedCatalogue, target: Target, { steps }: Plan): Generator<Finding> {
  const uploads = steps.flatMap((step) => (step.is === "upload" ? [step] : []));
  const recordsIn = (file: string): ReadonlySet<number> =>
    new Set(
      uploads.flatMap(({ slot, files }) =>
        slot.file === file ? files.flatMap(({ blocks }) => blocks.flatMap(({ records }) => records)) : [],
      ),
    );
  for (const { slot, files } of uploads)
    for (const { link } of entryOf(target.files, slot.file).layouts) {
      if (link?.names !== "line") continue;
      const named = recordsIn(link.sheet ?? "");
      for (const { kind, records } of files.flatMap(({ blocks }) => blocks)) {
        const table = catalogue.table(kind);
        for (const record of records)
          if (!named.has(record)) {
            const wanted = phrase("a record of {0}", link.sheet);
            const facts = { column: link.column, text: table.key(record), wanted };
            yield finding("write/cannot-be-written", facts, catalogue.location(table, record));
          }
      }
    }
}
