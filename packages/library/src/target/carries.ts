/**
 * What a target has no place for: fields and entries of the catalogue that no column of its files shows, axes beyond those it numbers,
 * categories that it would make only if a product named them.
 *
 * Known before anything is written.
 */

import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Table } from "../catalogue/table.js";
import { finding, type Finding, type Findings } from "../finding.js";
import { insteadOf } from "./instead.js";
import type { ReferenceSpec } from "../catalogue/reference-pool.js";
import { fieldOf, type Kinds, type KindSpec } from "../kind.js";
import { kindOfScope, type Column, type Layout, type PartsPlan, type Target as Feeds } from "../layout/layout.js";
import { plainEntries } from "../layout/write-entries.js";
import type { Target } from "./target.js";

/** Fields that only order records among their siblings, as rows do by themselves. */
const carriedByOrder = new Set(["position", "id"]);

export function reportUncarried(catalogue: ResolvedCatalogue, target: Target, findings: Findings): void {
  const layouts = [...target.files.values()].flatMap((file) => file.layouts);
  reportFields(catalogue, target, boundFields(layouts, catalogue.kinds), findings);
  for (const table of catalogue.tables)
    if (table.kind.entryKey) reportEntries(catalogue, table, target, layouts, findings);
  reportAxes(catalogue, target, layouts, findings);
  reportKinds(catalogue, target, findings);
  reportCategories(catalogue, target, layouts, findings);
}

function reportFields(
  catalogue: ResolvedCatalogue,
  target: Target,
  bound: ReadonlySet<string>,
  findings: Findings,
): void {
  const created = new Set(target.slots.flatMap((slot) => slot.creates));
  for (const table of catalogue.tables) {
    // Of a kind that is not there at all that is said already.
    if (!created.has(table.name.split(".")[0]!)) continue;
    for (const [field, column] of table.texts) {
      const name = `${table.name}.${field}`;
      const isKeyOfEntry = table.kind.entryKey?.includes(field) ?? false;
      if (bound.has(name) || carriedByOrder.has(field) || isKeyOfEntry) continue;
      report(table, name, (row) => typeof column.get(row) === "string");
    }
    for (const [field, column] of table.references) {
      const name = `${table.name}.${field}`;
      const isKeyOfEntry = table.kind.entryKey?.includes(field) ?? false;
      if (bound.has(name) || isKeyOfEntry || carriedOtherwise(table.kind, field, bound)) continue;
      report(table, name, (row) => column.first(row) >= 0);
    }
  }

  function report(table: Table, field: string, has: (row: number) => boolean): void {
    const rows: number[] = [];
    let count = 0;
    for (let row = 0; row < table.size; row++) {
      if (!has(row)) continue;
      if (++count <= maxExamples) rows.push(row);
    }
    if (count > 0) findings.add(uncarried(catalogue, table, field, count, rows, target));
  }
}

const maxExamples = 3;

function uncarried(
  catalogue: ResolvedCatalogue,
  table: Table,
  field: string,
  count: number,
  rows: readonly number[],
  target: Target,
): Finding {
  const owners = rows.map((row) => catalogue.ownerOf(table, row)).map((owner) => owner.table.key(owner.row));
  const facts = { field, count, examples: [...new Set(owners)], instead: insteadOf(field), target: target.name };
  return finding("target/uncarried", facts);
}

/** A path shows what contains its nodes; a column of one of two fields that stand in for each other shows both. */
function carriedOtherwise(kind: KindSpec, field: string, bound: ReadonlySet<string>): boolean {
  const { to, tie } = fieldOf(kind, field)!.reference!;
  if (to === kind.name && tie === "containing") return true;
  return kind.fields.some(({ name, reference }) => reference?.otherwise === field && bound.has(`${kind.name}.${name}`));
}

/** A single shows its own fields in the columns of variants. */
function kindsShown(layout: Layout, column: Column): string[] {
  const { name, of } = kindOfScope(layout, column.scope);
  return of === undefined ? [name] : [name, of];
}

/** `table.field` of everything that some column shows. */
function boundFields(layouts: readonly Layout[], kinds: Kinds): Set<string> {
  const bound = new Set<string>();
  for (const layout of layouts)
    for (const column of layout.columns)
      for (const { target } of column.bindings)
        for (const kind of kindsShown(layout, column))
          for (const field of shownBy(target, kind, kinds)) bound.add(field);
  return bound;
}

/** Paths, axes and their values show names of records that have no columns of their own. */
const named = ({ to, by, lang }: ReferenceSpec): string[] => (by === "name" ? [`${to}.name@${lang}`] : []);

function shownBy(target: Feeds, kind: string, kinds: Kinds): string[] {
  switch (target.feeds) {
    case "text":
      return [`${kind}.${target.field}`];
    case "reference":
      return [
        `${kind}.${target.field}`,
        ...named(target.spec),
        ...(target.parts ? inParts(target.spec, target.parts) : []),
      ];
    case "container":
      return named(target.spec);
    case "referred": {
      const to = fieldOf(kinds.get(kind), target.via)?.reference?.to;
      return to === undefined ? [] : [`${to}.${target.field}`];
    }
    case "entry":
      return [
        `${kind}.${target.entries}.${target.field.name}`,
        ...(target.field.is === "reference" ? named(target.field.spec) : []),
      ];
    case "entries":
      return target.parts.flatMap((part) => {
        if (part.is === "text") return [`${kind}.${target.entries}.${part.field}`];
        return part.is === "reference" ? [`${kind}.${target.entries}.${part.field}`, ...named(part.spec)] : [];
      });
    case "axis":
    case "named-axis":
      return target.holds === "name"
        ? [`axis.name@${target.lang}`, `${kind}.axes`]
        : [`value.name@${target.lang}`, `${kind}.values`];
    case "naming":
      return [`category.name@${target.lang}`];
    default:
      return [];
  }
}

/** What the parts of a cell say of the records that it names, and of those that these contain. */
function inParts({ to }: ReferenceSpec, parts: PartsPlan): string[] {
  return parts.flatMap((part) => {
    if (part.is === "text") return [`${to}.${part.field}`];
    if (part.is !== "children") return [];
    return [...named(part.spec), ...(part.parts ? inParts(part.spec, part.parts) : [])];
  });
}

/** Entries that neither a column nor a lane takes: a price of another role, a relation of another name. */
function reportEntries(
  catalogue: ResolvedCatalogue,
  table: Table,
  target: Target,
  layouts: readonly Layout[],
  findings: Findings,
): void {
  const takers = layouts.flatMap((layout) =>
    layout.columns.flatMap((column) =>
      column.bindings.flatMap(({ target: feeds }) => {
        if (
          feeds.feeds === "entries" &&
          kindsShown(layout, column).some((kind) => `${kind}.${feeds.entries}` === table.name)
        ) {
          const parts = feeds.parts.flatMap((part) =>
            part.is === "text" || part.is === "reference" ? [part.field] : [],
          );
          return [plainEntries(table, feeds.constants, parts)];
        }
        if (
          feeds.feeds !== "entry" ||
          !kindsShown(layout, column).some((kind) => `${kind}.${feeds.entries}` === table.name)
        )
          return [];
        if (column.scope.is === "lane") {
          const { lane } = column.scope;
          const shown = layout.columns.flatMap(({ scope, bindings }) =>
            scope.is === "lane" && scope.lane === lane
              ? bindings.flatMap((one) => (one.target.feeds === "entry" ? [one.target.field.name] : []))
              : [],
          );
          return [plainEntries(table, feeds.constants, shown)];
        }
        return [plainEntries(table, feeds.constants, [feeds.field.name, ...feeds.parallel])];
      }),
    ),
  );
  const left = new Map<string, number[]>();
  for (let row = 0; row < table.size; row++) {
    if (takers.some((takes) => takes(row))) continue;
    const word = table.text(table.kind.entryKey![0]!, row);
    const name = typeof word === "string" ? `${table.name}(${word})` : table.name;
    const rows = left.get(name);
    if (rows) rows.push(row);
    else left.set(name, [row]);
  }
  for (const [field, rows] of left)
    findings.add(uncarried(catalogue, table, field, rows.length, rows.slice(0, maxExamples), target));
}

/** Kinds of which the target makes no records, be it by rows of their own or because rows name them. */
function reportKinds(catalogue: ResolvedCatalogue, target: Target, findings: Findings): void {
  const created = new Set(target.slots.flatMap((slot) => slot.creates));
  for (const { name } of catalogue.kinds.roots) {
    const { size } = catalogue.table(name);
    if (size > 0 && !created.has(name))
      findings.add(
        finding("target/uncarried-kind", { kind: name, count: size, instead: insteadOf(name), target: target.name }),
      );
  }
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
  // Where axes stand in a list, the column may say how many.
  const listed = [...target.files.values()].flatMap((file) =>
    file.layouts.flatMap((layout) =>
      layout.columns.flatMap(({ header, bindings }) =>
        bindings.some((one) => one.target.feeds === "reference" && one.target.field === "axes")
          ? [file.rules.get(header)?.["entries at most"] ?? Infinity]
          : [],
      ),
    ),
  );
  const most = Math.max(0, ...numbers, ...listed);
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
