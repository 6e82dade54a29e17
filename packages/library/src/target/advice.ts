/**
 * What a target recommends, and what it does with what it gets: columns better filled, and columns that a connected system
 * overwrites. Counted by column.
 */

import { firstOf } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/table.js";
import { finding, type Findings } from "../findings/finding.js";
import { kindOfScope, type Feed } from "../layout/layout.js";
import type { Target } from "./target.js";

const maxExamples = 3;

export function reportAdvice(catalogue: ResolvedCatalogue, target: Target, findings: Findings): void {
  for (const { layouts, rules } of target.files.values())
    for (const layout of layouts)
      for (const { header, bindings, scope } of layout.columns) {
        const rule = rules.get(header);
        if (!rule?.advised && rule?.["overwritten by"] === undefined) continue;
        const { name } = kindOfScope(layout, scope);
        const table = catalogue.table(name);
        const rows = Array.from({ length: table.size }, (_, row) => row);
        const has = (row: number) => isFilled(catalogue, table, firstOf(bindings).feed, row);
        const say = (which: readonly number[], code: "target/recommended" | "target/overwritten", by = "") => {
          if (which.length === 0) return;
          const examples = which.slice(0, maxExamples).map((row) => table.key(row));
          findings.add(
            finding(code, { column: header, kind: name, count: which.length, examples, by, target: target.name }),
          );
        };
        if (rule.advised)
          say(
            rows.filter((row) => !has(row)),
            "target/recommended",
          );
        const by = rule["overwritten by"];
        if (by !== undefined) say(rows.filter(has), "target/overwritten", by);
      }
}

/** Whether a record has something for a column; entries of any kind count. */
function isFilled(catalogue: ResolvedCatalogue, table: ReadonlyTable, feeds: Feed, row: number): boolean {
  switch (feeds.is) {
    case "text":
      return typeof table.text(feeds.field, row) === "string";
    case "reference":
      return (table.references.get(feeds.field)?.first(row) ?? -1) >= 0;
    case "entry":
    case "entries":
      return catalogue.table(`${table.name}.${feeds.entries}`).childrenOf(row).length > 0;
    default:
      return true;
  }
}
