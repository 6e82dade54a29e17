/** What a document holds and no column reads, path by path: reported once each, with how often, and counted cell by cell. */

import { finding, type Findings } from "../../findings/finding.js";
import type { DocumentAccess } from "../../formats/document.js";
import type { PathRead, UnreadFinder, UnreadValue } from "../../formats/unread.js";
import type { DocumentPlan, PlacedColumn } from "../document-plan.js";
import type { Column, Layout } from "../layout.js";
import type { CellCounts } from "./tally.js";

interface Seen {
  readonly line: number | undefined;
  values: number;
}

export class UnreadReport<N> {
  readonly #finder: UnreadFinder<N>;
  readonly #byPath = new Map<string, Seen>();
  readonly #headers: ReadonlySet<string>;

  constructor(
    readonly layout: Layout,
    plan: DocumentPlan,
    isRead: (column: Column) => boolean,
    access: DocumentAccess<N>,
    readonly counts: CellCounts,
  ) {
    this.#finder = access.unread(readsOf(plan), layout.ignored.map(access.normal));
    this.#headers = new Set(layout.columns.filter(isRead).map(({ header }) => access.normal(header)));
  }

  see(node: N): void {
    for (const one of this.#finder.within(node)) this.#add(one);
    for (const one of this.#finder.around(node)) this.#add(one);
  }

  #add({ path, line, values = 1 }: UnreadValue): void {
    const seen = this.#byPath.get(path);
    if (seen) seen.values += values;
    else this.#byPath.set(path, { line, values });
    this.counts.filled += values;
    if (this.#headers.has(path)) this.counts.inFindings += values;
    else this.counts.byRule["unbound column"] += values;
  }

  report(findings: Findings, file: string): void {
    for (const one of this.#finder.around(undefined)) this.#add(one);
    for (const [column, { line, values }] of this.#byPath) {
      const at = { file, column, ...(line === undefined ? {} : { line }) };
      if (this.#headers.has(column)) findings.add(finding("read/further-values", { values }, at));
      else findings.add(finding("read/column-unbound", { layout: this.layout.name }, at));
    }
  }
}

/** Columns that are only written, as constants, are known too. */
function readsOf({ own, child, lanes }: DocumentPlan): PathRead[] {
  const scopes = [{ levels: [], spots: own }, ...(child ? [child] : []), ...lanes];
  const readOf = (levels: readonly { readonly step: string }[], { level, path }: PlacedColumn): PathRead => ({
    levels: levels.slice(0, level + 1).map(({ step }) => step),
    path,
  });
  return scopes.flatMap(({ levels, spots }) => spots.map((spot) => readOf(levels, spot)));
}
