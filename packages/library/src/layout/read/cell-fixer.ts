/** Fixing cells where a layout declares it, before anything else looks at them. */

import type { Header } from "../../nominal.js";
import { finding, type Findings } from "../../findings/finding.js";
import type { Location } from "../../location.js";
import type { Layout } from "../layout.js";

/** Undoes declared damage, and counts what it did. */
export class CellFixer {
  readonly #steps: {
    readonly index: number;
    readonly header: Header;
    readonly name: string;
    readonly fix: (text: string) => string;
    count: number;
    before: string;
    after: string;
  }[];

  constructor(columns: readonly Layout["columns"][number][], indexOf: (header: Header) => number) {
    this.#steps = columns.flatMap(({ header, fixes }) =>
      fixes.map(({ name, fix }) => ({
        index: indexOf(header),
        header,
        name,
        fix,
        count: 0,
        before: "",
        after: "",
      })),
    );
  }

  fix(cells: readonly string[]): readonly string[] {
    let changed: string[] | undefined;
    for (const step of this.#steps) {
      const before = (changed ?? cells)[step.index] ?? "";
      const after = before === "" ? before : step.fix(before);
      if (after === before) continue;
      changed ??= [...cells];
      changed[step.index] = after;
      if (step.count++ === 0) [step.before, step.after] = [before, after];
    }
    return changed ?? cells;
  }

  report(findings: Findings, location: Location): void {
    for (const { header, name, count, before, after } of this.#steps)
      if (count > 0)
        findings.add(finding("read/fixed", { fix: name, count, before, after }, { ...location, column: header }));
  }
}
