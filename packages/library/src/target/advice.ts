/**
 * What a target recommends, and what it does with what it gets: columns better filled, and columns that a connected system
 * overwrites. Counted by column.
 */

import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import { firstOf } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { finding, type Findings } from "../findings/finding.js";
import { kindOfScope } from "../layout/layout.js";
import type { Target } from "./target.js";

const maxExamples = 3;

export function reportAdvice(catalogue: ResolvedCatalogue, target: Target, findings: Findings): void {
  for (const { layouts, rules } of target.files.values())
    for (const layout of layouts)
      for (const { header, bindings, scope } of layout.columns) {
        const rule = rules.get(header);
        if (!rule?.recommended && rule?.["overwritten by"] === undefined) continue;
        const { name } = kindOfScope(layout, scope);
        const table = catalogue.table(name);
        const rows = Array.from({ length: table.size }, (_, row) => row);
        const { feed } = firstOf(bindings);
        const has = (row: number) => kindOfFeed(feed).isFilled(feed, catalogue, table, row);
        const say = (which: readonly number[], code: "target/recommended" | "target/overwritten", by = "") => {
          if (which.length === 0) return;
          const examples = which.slice(0, maxExamples).map((row) => table.key(row));
          findings.add(
            finding(code, { column: header, kind: name, count: which.length, examples, by, target: target.name }),
          );
        };
        if (rule.recommended)
          say(
            rows.filter((row) => !has(row)),
            "target/recommended",
          );
        const by = rule["overwritten by"];
        if (by !== undefined) say(rows.filter(has), "target/overwritten", by);
      }
}
