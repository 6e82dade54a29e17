/**
 * What a target has no place for: fields and entries of the catalogue that no column of its files shows, axes beyond those it numbers,
 * categories that it would make only if a product named them.
 *
 * Known before anything is written.
 */

import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Table } from "../catalogue/table.js";
import { finding, type Findings } from "../finding.js";
import { kindOfScope, type Column, type Layout } from "../layout/layout.js";
import { plainEntries } from "../layout/write-entries.js";
import type { Target } from "./target.js";

/** Fields that only order records among their siblings, as rows do by themselves. */
const carriedByOrder = new Set(["position"]);

export function reportUncarried(catalogue: ResolvedCatalogue, target: Target, findings: Findings): void {
  const layouts = [...target.files.values()].map((file) => file.layout);
  reportFields(catalogue, target, boundFields(layouts), findings);
  for (const table of catalogue.tables) if (table.kind.entryKey) reportEntries(table, target, layouts, findings);
  reportAxes(catalogue, target, layouts, findings);
  reportCategories(catalogue, target, layouts, findings);
}

function reportFields(
  catalogue: ResolvedCatalogue,
  target: Target,
  bound: ReadonlySet<string>,
  findings: Findings,
): void {
  for (const table of catalogue.tables) {
    for (const [field, column] of table.texts) {
      const name = `${table.name}.${field}`;
      const isKeyOfEntry = table.kind.entryKey?.includes(field) ?? false;
      if (bound.has(name) || carriedByOrder.has(field) || isKeyOfEntry) continue;
      let count = 0;
      for (let row = 0; row < table.size; row++) if (typeof column.get(row) === "string") count++;
      if (count > 0) findings.add(finding("target/uncarried", { field: name, count, target: target.name }));
    }
  }
}

/** A single shows its own fields in the columns of variants. */
function kindsShown(layout: Layout, column: Column): string[] {
  const { name, of } = kindOfScope(layout, column.scope);
  return of === undefined ? [name] : [name, of];
}

/** `table.field` of everything that some column shows. */
function boundFields(layouts: readonly Layout[]): Set<string> {
  const bound = new Set<string>();
  for (const layout of layouts) {
    for (const column of layout.columns) {
      for (const { target } of column.bindings) {
        for (const kind of kindsShown(layout, column)) {
          if (target.feeds === "text") bound.add(`${kind}.${target.field}`);
          if (target.feeds === "entry") bound.add(`${kind}.${target.entries}.${target.field.name}`);
        }
        // Paths, axes and their values show names of records that have no columns of their own.
        const spec =
          target.feeds === "reference"
            ? target.spec
            : target.feeds === "entry" && target.field.is === "reference"
              ? target.field.spec
              : undefined;
        if (spec?.by === "name") bound.add(`${spec.to}.name@${spec.lang}`);
        if (target.feeds === "axis") bound.add(`${target.holds === "name" ? "axis" : "value"}.name@${target.lang}`);
        if (target.feeds === "naming") bound.add(`category.name@${target.lang}`);
      }
    }
  }
  return bound;
}

/** Entries that neither a column nor a lane takes: a price of another role, a relation of another name. */
function reportEntries(table: Table, target: Target, layouts: readonly Layout[], findings: Findings): void {
  const takers = layouts.flatMap((layout) =>
    layout.columns.flatMap((column) =>
      column.bindings.flatMap(({ target: feeds }) => {
        if (
          feeds.feeds !== "entry" ||
          !kindsShown(layout, column).some((kind) => `${kind}.${feeds.entries}` === table.name)
        )
          return [];
        const constants = Object.entries(feeds.constants);
        if (column.scope.is === "lane")
          return [(row: number) => constants.every(([field, value]) => table.text(field, row) === value)];
        return [plainEntries(table, feeds.constants, [feeds.field.name, ...feeds.parallel])];
      }),
    ),
  );
  const left = new Map<string, number>();
  for (let row = 0; row < table.size; row++) {
    if (takers.some((takes) => takes(row))) continue;
    const word = table.text(table.kind.entryKey![0]!, row);
    const name = typeof word === "string" ? `${table.name}(${word})` : table.name;
    left.set(name, (left.get(name) ?? 0) + 1);
  }
  for (const [field, count] of left) findings.add(finding("target/uncarried", { field, count, target: target.name }));
}

function reportAxes(
  catalogue: ResolvedCatalogue,
  target: Target,
  layouts: readonly Layout[],
  findings: Findings,
): void {
  const numbers = layouts.flatMap((layout) =>
    layout.columns.flatMap(({ bindings }) =>
      bindings.map((one) => (one.target.feeds === "axis" ? one.target.number : 0)),
    ),
  );
  const most = Math.max(0, ...numbers);
  const advised = Math.min(most, ...[...target.files.values()].map((file) => file.limits["axes advised"] ?? most));
  const products = catalogue.table("product");
  const axes = products.references.get("axes");
  if (!axes) return;
  for (let row = 0; row < products.size; row++) {
    const count = axes.get(row).length;
    if (count > most)
      findings.add(
        finding("target/too-many-axes", { axes: count, most, target: target.name }, catalogue.place(products, row)),
      );
    else if (count > advised)
      findings.add(
        finding(
          "target/more-axes-than-advised",
          { axes: count, advised, target: target.name },
          catalogue.place(products, row),
        ),
      );
  }
}

/** Where no file lists categories themselves, those on the way to a product are all that there will be. */
function reportCategories(
  catalogue: ResolvedCatalogue,
  target: Target,
  layouts: readonly Layout[],
  findings: Findings,
): void {
  if (layouts.some(({ shape }) => shape.is === "flat" && shape.parent.name === "category")) return;
  const categories = catalogue.table("category");
  const products = catalogue.table("product");
  const used = new Set<number>();
  for (let row = 0; row < products.size; row++) {
    for (const category of targetsOf(catalogue, products, "categories", row))
      for (
        let at: number | undefined = category;
        at !== undefined && !used.has(at);
        at = targetsOf(catalogue, categories, "parent", at)[0]
      )
        used.add(at);
  }
  const empty = Array.from({ length: categories.size }, (_, row) => row).filter((row) => !used.has(row));
  if (empty.length === 0) return;
  const examples = empty.slice(0, 5).map((row) => categories.key(row));
  findings.add(finding("target/empty-category", { count: empty.length, examples, target: target.name }));
}
