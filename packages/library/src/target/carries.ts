/**
 * What a target has no place for: fields and entries of the catalogue that no column of its files shows, axes beyond those it numbers,
 * categories that it would make only if a product named them.
 *
 * Known before anything is written.
 */

import { firstOf } from "../checked.js";
import { splitTable } from "../field-name.js";
import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { finding, type Findings } from "../findings/finding.js";
import { insteadOf } from "./instead.js";
import { entryKeyOf } from "../kind.js";
import { byLanguage, type Layout } from "../layout/layout.js";
import { Places } from "./places.js";
import type { Target } from "./target.js";
import type { Text } from "../phrases/phrase.js";
import { numbersWhere, greatest } from "../lists.js";

/** What a target cannot carry: a field, as `product.prices(offer)`, or all records of a kind. */
export interface Uncarried {
  readonly lost: string;
  readonly is: "field" | "kind";
  /** The keys of the records that have it. Of entries: of those that hold them. */
  readonly records: readonly string[];
  /** The nearest thing that can be done for it. */
  readonly instead: Text | undefined;
}

export function reportUncarried(catalogue: ResolvedCatalogue, target: Target, findings: Findings): void {
  for (const { lost, is, records, instead } of findUncarried(catalogue, target)) {
    const common = { count: records.length, instead, target: target.name };
    if (is === "kind") findings.add(finding("target/uncarried-kind", { kind: lost, ...common }));
    else {
      const examples = [...new Set(records.slice(0, maxExamples))];
      findings.add(finding("target/uncarried", { field: lost, examples, ...common }));
    }
  }
  const layouts = layoutsOf(target);
  reportAxes(catalogue, target, layouts, findings);
  reportCategories(catalogue, target, layouts, findings);
}

/** All that a target has no place for, with every record that has it. */
export function findUncarried(catalogue: ResolvedCatalogue, target: Target): Uncarried[] {
  const places = new Places(catalogue, target);
  return [
    ...uncarriedFields(catalogue, places),
    ...catalogue.tables
      .filter((table) => table.kind.entryKey)
      .flatMap((table) => uncarriedEntries(catalogue, table, places)),
    ...uncarriedKinds(catalogue, places),
  ];
}

function layoutsOf(target: Target): Layout[] {
  return [...target.files.values()].flatMap((file) =>
    file.layouts.flatMap((layout) => byLanguage(layout).map(([, own]) => own)),
  );
}

function uncarriedFields(catalogue: ResolvedCatalogue, places: Places): Uncarried[] {
  const found: Uncarried[] = [];
  const look = (table: ReadonlyTable, field: string, has: (row: number) => boolean): void => {
    const isWithout = places.withoutField(table, field);
    if (!isWithout) return;
    const rows: number[] = [];
    for (let row = 0; row < table.size; row++) if (has(row) && isWithout(row)) rows.push(row);
    if (rows.length > 0) found.push(uncarried(catalogue, table, `${table.name}.${field}`, rows));
  };
  for (const table of catalogue.tables) {
    // Of a kind that is not there at all that is reported already.
    if (!places.makes(splitTable(table.name).kind)) continue;
    for (const [field, column] of table.texts) look(table, field, (row) => column.has(row));
    for (const [field, column] of table.references) look(table, field, (row) => column.first(row) >= 0);
  }
  return found;
}

const maxExamples = 3;

function uncarried(
  catalogue: ResolvedCatalogue,
  table: ReadonlyTable,
  lost: string,
  rows: readonly number[],
): Uncarried {
  const records = rows.map((row) => catalogue.ownerOf(table, row)).map((owner) => owner.table.key(owner.row));
  return { lost, is: "field", records, instead: insteadOf(lost) };
}

/** Entries that neither a column nor a lane takes: a price of another role, a relation of another name. */
function uncarriedEntries(catalogue: ResolvedCatalogue, table: ReadonlyTable, places: Places): Uncarried[] {
  const left = new Map<string, number[]>();
  const isTaken = places.takingEntries(table);
  for (let row = 0; row < table.size; row++) {
    if (isTaken(row)) continue;
    const word = table.text(firstOf(entryKeyOf(table.kind)), row);
    const name = typeof word === "string" ? `${table.name}(${word})` : table.name;
    const rows = left.get(name);
    if (rows) rows.push(row);
    else left.set(name, [row]);
  }
  return [...left].map(([field, rows]) => uncarried(catalogue, table, field, rows));
}

/** Kinds of which the target makes no records, be it by rows of their own or because rows name them. */
function uncarriedKinds(catalogue: ResolvedCatalogue, places: Places): Uncarried[] {
  return catalogue.kinds.roots
    .filter(({ name }) => catalogue.table(name).size > 0 && !places.makes(name))
    .map(({ name }) => ({ lost: name, is: "kind", records: keysOf(catalogue.table(name)), instead: insteadOf(name) }));
}

const keysOf = (table: ReadonlyTable): string[] => Array.from({ length: table.size }, (_, row) => table.key(row));

function reportAxes(
  catalogue: ResolvedCatalogue,
  target: Target,
  layouts: readonly Layout[],
  findings: Findings,
): void {
  const numbers = layouts.flatMap((layout) =>
    layout.columns.flatMap(({ bindings }) => bindings.map((one) => (one.feed.is === "axis" ? one.feed.number : 0))),
  );
  const named = layouts.map(
    ({ columns }) =>
      new Set(
        columns.flatMap(({ bindings }) =>
          bindings.flatMap(({ feed }) => (feed.is === "named-axis" ? [feed.axis] : [])),
        ),
      ).size,
  );
  // Where axes stand in a list, the rule of its column says how many.
  const isListed = layouts.some(({ columns }) =>
    columns.some(({ bindings }) =>
      bindings.some(({ feed }) => feed.is === "axes" || (feed.is === "reference" && feed.field === "axes")),
    ),
  );
  const most = isListed ? Infinity : greatest([...numbers, ...named]);
  const advised = [...target.files.values()].reduce(
    (least, { limits }) => Math.min(least, limits["axes recommended"] ?? most),
    most,
  );
  const products = catalogue.table("product");
  const axes = products.references.get("axes");
  if (!axes) return;
  for (let row = 0; row < products.size; row++) {
    const count = axes.get(row).length;
    if (count > most)
      findings.add(
        finding("target/too-many-axes", { axes: count, most, target: target.name }, catalogue.location(products, row)),
      );
    else if (count > advised)
      findings.add(
        finding(
          "target/more-axes-than-recommended",
          { axes: count, advised, target: target.name },
          catalogue.location(products, row),
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
  const empty = numbersWhere(categories.size, (row) => !used.has(row));
  if (empty.length === 0) return;
  const examples = empty.slice(0, 5).map((row) => categories.key(row));
  findings.add(finding("target/empty-category", { count: empty.length, examples, target: target.name }));
}
