/** Names that are not in a list of the platform, where a project gives what stands in it. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { firstOf } from "../checked.js";
import { finding, type Findings } from "../findings/finding.js";
import { columnField, kindOfFeed } from "../layout/bindings/feed-kinds.js";
import { kindOfScope, type Column, type Layout } from "../layout/layout.js";
import { Spellings } from "../spelling.js";
import type { ColumnRule } from "./schema.js";
import type { Target } from "./target.js";

type InList = NonNullable<ColumnRule["in list"]>;

export const listNamed = (rule: InList): string => (typeof rule === "string" ? rule : rule.name);
/** What stands between the names of a path in it. */
export const jointIn = (rule: InList): string => (typeof rule === "string" ? "/" : rule["joined by"]);

/** A column whose names have to be in a list. */
export interface ListedColumn {
  readonly layout: Layout;
  readonly column: Column;
  readonly rule: InList;
}

export function* listedColumns({ files }: Target): Generator<ListedColumn> {
  for (const { layouts, rules } of files.values())
    for (const layout of layouts)
      for (const column of layout.columns) {
        const rule = rules.get(column.header)?.["in list"];
        if (rule !== undefined) yield { layout, column, rule };
      }
}

/** The records whose names stand in such a column, each with those names. */
export function* namesListed(
  catalogue: ResolvedCatalogue,
  { layout, column, rule }: ListedColumn,
): Generator<{ readonly kind: string; readonly row: number; readonly names: Iterable<string> }> {
  const kind = kindOfScope(layout, column.scope);
  const above = kind.of === undefined ? [] : [catalogue.kinds.get(kind.of)].filter((one) => one.single);
  const { feed } = firstOf(column.bindings);
  for (const { name } of [kind, ...above]) {
    const table = catalogue.table(name);
    const of = kindOfFeed(feed).names(feed, catalogue, table, jointIn(rule));
    for (let row = 0; of && row < table.size; row++) yield { kind: name, row, names: of(row) };
  }
}

/** Each name that is missing in a list that is given, at its cell, with those that come nearest. */
export function reportNotListed(catalogue: ResolvedCatalogue, target: Target, findings: Findings): void {
  for (const listed of listedColumns(target)) {
    const list = listNamed(listed.rule);
    const has = target.has.get(list);
    if (!has) continue;
    const { column } = listed;
    let spellings: Spellings | undefined;
    const field = columnField(column, firstOf(column.bindings).feed);
    for (const { kind, row, names } of namesListed(catalogue, listed))
      for (const name of names) {
        if (name === "" || has.has(name)) continue;
        findings.addOf("target/not-listed", () => {
          spellings ??= new Spellings(has);
          const facts = { name, list, target: target.name, nearest: spellings.nearest(name) };
          return finding("target/not-listed", facts, catalogue.location(catalogue.table(kind), row, field));
        });
      }
  }
}
