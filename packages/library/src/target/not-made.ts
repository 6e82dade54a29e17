/** Names that nothing of an upload makes, in columns that refuse them or leave them out: of records of kinds for which the target has no file. */

import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { finding, type Findings } from "../findings/finding.js";
import { columnField, kindOfFeed } from "../layout/bindings/feed-kinds.js";
import { shownKinds } from "../layout/shown-kinds.js";
import type { Column, Layout } from "../layout/layout.js";
import { recordsThere } from "./records-there.js";
import type { UnknownName } from "./schema.js";
import type { Target, TargetFile } from "./target.js";

/** @param isThere whether the platform has a record already; those that the project says it has, it has. */
export function reportNotMade(
  catalogue: ResolvedCatalogue,
  target: Target,
  isThere: (kind: string, row: number) => boolean,
  findings: Findings,
): void {
  const had = recordsThere(catalogue, target);
  const made = new Set(target.slots.flatMap(({ creates }) => creates));
  for (const file of target.files.values())
    for (const layout of file.layouts)
      for (const column of layout.columns) {
        const unknown = unknownIn(file, column);
        if (unknown !== "create")
          reportIn(layout, column, unknown === "refuse" ? "target/not-made" : "target/left-out");
      }

  function reportIn(layout: Layout, column: Column, code: "target/not-made" | "target/left-out"): void {
    for (const { feed } of column.bindings)
      for (const kind of shownKinds(layout, column, catalogue.kinds))
        for (const { table: name, field, spec } of kindOfFeed(feed).references(feed, kind.name)) {
          if (made.has(spec.to)) continue;
          const table = catalogue.table(name);
          const takes = kindOfFeed(feed).takes(feed, catalogue, table, kind.name, undefined);
          for (let row = 0; row < table.size; row++)
            for (const one of takes && !takes(row) ? [] : targetsOf(catalogue, table, field, row)) {
              if (isThere(spec.to, one) || had.has(`${spec.to} ${one}`)) continue;
              const owner = catalogue.ownerOf(table, row);
              const at = catalogue.location(owner.table, owner.row, columnField(column, feed));
              const facts = { column: column.header, name: catalogue.table(spec.to).key(one), target: target.name };
              findings.add(finding(code, facts, at));
            }
        }
  }
}

/** What becomes of names that no record has; what is in a list of the platform is there. */
const unknownIn = ({ rules, importing }: TargetFile, { header }: Column): UnknownName => {
  const rule = rules.get(header);
  return rule?.["in list"] === undefined ? (rule?.unknown ?? importing["unknown names"]) : "create";
};
