/** Mending cells where a layout declares it, before anything else looks at them. */

import { finding, type Findings } from "../finding.js";
import type { Place } from "../place.js";
import type { Layout } from "./layout.js";

/** Undoes declared damage, and counts what it did. */
export class Mender {
  readonly #steps: {
    readonly index: number;
    readonly header: string;
    readonly name: string;
    readonly mend: (text: string) => string;
    count: number;
    before: string;
    after: string;
  }[];

  constructor(columns: readonly Layout["columns"][number][], indexOf: (header: string) => number) {
    this.#steps = columns.flatMap(({ header, mends }) =>
      mends.map(({ name, mend }) => ({
        index: indexOf(header),
        header,
        name,
        mend,
        count: 0,
        before: "",
        after: "",
      })),
    );
  }

  mend(cells: readonly string[]): readonly string[] {
    let changed: string[] | undefined;
    for (const step of this.#steps) {
      const before = (changed ?? cells)[step.index] ?? "";
      const after = before === "" ? before : step.mend(before);
      if (after === before) continue;
      changed ??= [...cells];
      changed[step.index] = after;
      if (step.count++ === 0) [step.before, step.after] = [before, after];
    }
    return changed ?? cells;
  }

  report(findings: Findings, place: Place): void {
    for (const { header, name, count, before, after } of this.#steps)
      if (count > 0)
        findings.add(finding("read/mended", { mend: name, count, before, after }, { ...place, column: header }));
  }
}
