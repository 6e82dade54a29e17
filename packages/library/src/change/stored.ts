/** A catalogue as a simulated platform begins with it: what files show of it, in the form in which the machine would have stored it. */

import { targetsOf, type ResolvedBranch, type ResolvedCatalogue, type TargetView } from "../catalogue/catalogue.js";
import { layoutsOf } from "../compare/held-form.js";
import { coverageOf } from "../compare/told.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import { shownKinds } from "../layout/shown-kinds.js";
import type { Target } from "../target/target.js";

/** What a platform has of its records: fields that its files show. A code is that of the one variant that a single is, and not the product's too. */
export function asStored(catalogue: TargetView, target: Target): ResolvedCatalogue {
  const made = catalogue.branch();
  const told = coverageOf(layoutsOf(target), catalogue.kinds);
  for (const table of catalogue.tables)
    for (const [field, column] of table.texts)
      if (!told.tells(table.name, field) && field !== "id" && !(table.kind.entryKey?.includes(field) ?? false))
        for (let row = 0; row < table.size; row++)
          if (column.get(row) !== undefined) made.table(table.name).setText(field, row, undefined);
  for (const kind of catalogue.kinds.roots) {
    const child = catalogue.kinds.childOf(kind.name);
    if (!kind.single || !child) continue;
    const [table, children] = [made.table(kind.name), catalogue.table(child.name)];
    for (let row = 0; row < table.size; row++)
      if (table.text("code", row) !== undefined && [...children.childrenOf(row)].length > 0)
        table.setText("code", row, undefined);
  }
  toVariants(made, target);
  return made;
}

/** What is named by a code is the variant that has it: of a single, the one that it is. */
function toVariants(made: ResolvedBranch, target: Target): void {
  const byCode = new Set(
    layoutsOf(target).flatMap((layout) =>
      layout.columns.flatMap((column) =>
        column.bindings.flatMap(({ feed }) =>
          shownKinds(layout, column, made.kinds).flatMap(({ name }) =>
            kindOfFeed(feed)
              .references(feed, name)
              .flatMap(({ table, field, spec }) => (spec.by === "code" ? [`${table}.${field}`] : [])),
          ),
        ),
      ),
    ),
  );
  for (const table of made.tables)
    for (const { name, reference } of table.kind.fields) {
      if (!reference?.otherwise || !byCode.has(`${table.name}.${name}`)) continue;
      const children = made.table(reference.to);
      const { of: single = "" } = children.kind;
      const into = made.table(table.name);
      for (let row = 0; row < table.size; row++) {
        const [led] = targetsOf(made, table, reference.otherwise, row);
        const own = led === undefined ? [] : [...children.childrenOf(led)];
        if (own.length !== 1 || made.table(single).referencesOf("axes").isSet(led!)) continue;
        const met = { sheet: table.sheet(row), line: table.line(row) };
        into.referenceColumn(name).set(row, [made.pool.toRow(reference.to, own[0]!, met)]);
        into.referenceColumn(reference.otherwise).set(row, []);
      }
    }
}
