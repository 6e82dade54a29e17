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
import { fieldNamed, entryKeyOf, referenceOf, type KindSpec } from "../kind.js";
import type { Kinds } from "../kinds.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import { byLanguage, kindOfScope, type Column, type Layout } from "../layout/layout.js";
import { isForAll, recordsOfImports, type IsFor } from "./import-records.js";
import type { Target, TargetFile } from "./target.js";
import type { Text } from "../phrases/phrase.js";

/** Fields that order records among their siblings, as rows do by themselves; and what is the project's own, as rules that make members. */
const carriedAnyhow = new Set(["position", "id", "rule"]);

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
  const files = [...target.files.values()].map((file) => new FileFor(catalogue, target, file));
  return [
    ...uncarriedFields(catalogue, target, files),
    ...catalogue.tables
      .filter((table) => table.kind.entryKey)
      .flatMap((table) => uncarriedEntries(catalogue, table, files)),
    ...uncarriedKinds(catalogue, target),
  ];
}

/** A file with the records that it is for. */
class FileFor {
  readonly layouts: readonly Layout[];
  readonly isForAll: boolean;
  readonly #isFor: IsFor;

  constructor(
    readonly catalogue: ResolvedCatalogue,
    target: Target,
    readonly file: TargetFile,
  ) {
    this.layouts = file.layouts.flatMap((layout) => byLanguage(layout).map(([, own]) => own));
    this.isForAll = isForAll(target, file.name);
    this.#isFor = recordsOfImports(catalogue, target);
  }

  /** Whether it is for some records of a kind only. */
  isForSomeOf(kind: string): boolean {
    const { parent, child } = this.file.layout.shape;
    return !this.isForAll && (parent.name === kind || child?.name === kind);
  }

  /** Whether it takes a record, or the one that an entry is of. */
  takes(table: ReadonlyTable, row: number): boolean {
    if (this.isForAll) return true;
    const owner = this.catalogue.ownerOf(table, row);
    return this.#isFor(this.file.name, owner.table.kind.name, owner.row);
  }
}

function layoutsOf(target: Target): Layout[] {
  return [...target.files.values()].flatMap((file) =>
    file.layouts.flatMap((layout) => byLanguage(layout).map(([, own]) => own)),
  );
}

function uncarriedFields(catalogue: ResolvedCatalogue, target: Target, files: readonly FileFor[]): Uncarried[] {
  const boundIn = files.map((file) => ({ file, bound: boundFields(file.layouts, catalogue.kinds) }));
  const bound = new Set(boundIn.flatMap((one) => [...one.bound]));
  const isShared = files.some((file) => !file.isForAll);
  /** Of a field that some files carry, whether none of those that take the record does. */
  const isElsewhere = (name: string, table: ReadonlyTable, row: number): boolean =>
    isTaken(table, row) && !boundIn.some((one) => one.bound.has(name) && one.file.takes(table, row));
  // What no import takes at all is reported for itself.
  const isTaken = (table: ReadonlyTable, row: number): boolean => {
    const own = files.filter((file) => file.isForSomeOf(catalogue.ownerOf(table, row).table.kind.name));
    return own.length === 0 || own.some((file) => file.takes(table, row));
  };
  const created = new Set(target.slots.flatMap((slot) => slot.creates));
  const found: Uncarried[] = [];
  const look = (table: ReadonlyTable, field: string, has: (row: number) => boolean): void => {
    const rows: number[] = [];
    for (let row = 0; row < table.size; row++) if (has(row)) rows.push(row);
    if (rows.length > 0) found.push(uncarried(catalogue, table, field, rows));
  };
  for (const table of catalogue.tables) {
    // Of a kind that is not there at all that is reported already.
    if (!created.has(splitTable(table.name).kind)) continue;
    for (const [field, column] of table.texts) {
      const name = `${table.name}.${field}`;
      const isKeyOfEntry = table.kind.entryKey?.includes(field) ?? false;
      if ((bound.has(name) && !isShared) || carriedAnyhow.has(field) || isKeyOfEntry) continue;
      look(table, name, (row) => typeof column.get(row) === "string" && isElsewhere(name, table, row));
    }
    for (const [field, column] of table.references) {
      const name = `${table.name}.${field}`;
      const isKeyOfEntry = table.kind.entryKey?.includes(field) ?? false;
      if ((bound.has(name) && !isShared) || isKeyOfEntry || carriedOtherwise(table.kind, field, bound)) continue;
      look(table, name, (row) => column.first(row) >= 0 && isElsewhere(name, table, row));
    }
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

/** What names a record shows what the record belongs to; a path shows what contains its nodes; a column of one of two fields that stand in for each other shows both. */
function carriedOtherwise(kind: KindSpec, field: string, bound: ReadonlySet<string>): boolean {
  const { to, dependency } = referenceOf(fieldNamed(kind, field));
  if (field === kind.within || (to === kind.name && dependency === "containing")) return true;
  return kind.fields.some(({ name, reference }) => reference?.otherwise === field && bound.has(`${kind.name}.${name}`));
}

/** A single shows its own fields in the columns of variants. */
function kindsShown(layout: Layout, column: Column): string[] {
  const { name, of } = kindOfScope(layout, column.scope);
  return of === undefined ? [name] : [name, of];
}

/** `table.field` of everything that some column shows. */
export function boundFields(layouts: readonly Layout[], kinds: Kinds): Set<string> {
  const bound = new Set<string>();
  for (const layout of layouts)
    for (const column of layout.columns)
      for (const { feed } of column.bindings)
        for (const kind of kindsShown(layout, column))
          for (const field of kindOfFeed(feed).shows(feed, kind, kinds)) bound.add(field);
  return bound;
}

/** Entries that neither a column nor a lane takes: a price of another role, a relation of another name. */
function uncarriedEntries(catalogue: ResolvedCatalogue, table: ReadonlyTable, files: readonly FileFor[]): Uncarried[] {
  const takers = files.flatMap((file) => {
    const inFile = file.layouts.flatMap((layout) =>
      layout.columns.flatMap((column) =>
        column.bindings.flatMap(({ feed }) =>
          kindsShown(layout, column).flatMap(
            (kind) => kindOfFeed(feed).takes(feed, catalogue, table, kind, fieldsOfLane(layout, column)) ?? [],
          ),
        ),
      ),
    );
    return inFile.length === 0 ? [] : [{ file, inFile }];
  });
  const left = new Map<string, number[]>();
  for (let row = 0; row < table.size; row++) {
    if (takers.some(({ file, inFile }) => inFile.some((takes) => takes(row)) && file.takes(table, row))) continue;
    const word = table.text(firstOf(entryKeyOf(table.kind)), row);
    const name = typeof word === "string" ? `${table.name}(${word})` : table.name;
    const rows = left.get(name);
    if (rows) rows.push(row);
    else left.set(name, [row]);
  }
  return [...left].map(([field, rows]) => uncarried(catalogue, table, field, rows));
}

/** The fields that the columns of a column's lane hold; undefined where it is of none. */
function fieldsOfLane({ columns }: Layout, { scope }: Column): readonly string[] | undefined {
  if (scope.is !== "lane") return undefined;
  return columns.flatMap((other) =>
    other.scope.is === "lane" && other.scope.lane === scope.lane
      ? other.bindings.flatMap(({ feed }) => (feed.is === "entry" ? [feed.field.name] : []))
      : [],
  );
}

/** Kinds of which the target makes no records, be it by rows of their own or because rows name them. */
function uncarriedKinds(catalogue: ResolvedCatalogue, target: Target): Uncarried[] {
  const created = new Set(target.slots.flatMap((slot) => slot.creates));
  return catalogue.kinds.roots
    .filter(({ name }) => catalogue.table(name).size > 0 && !created.has(name))
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
  // Where axes stand in a list, the column may say how many.
  const listed = [...target.files.values()].flatMap((file) =>
    file.layouts.flatMap((layout) =>
      layout.columns.flatMap(({ header, bindings }) =>
        bindings.some((one) => one.feed.is === "reference" && one.feed.field === "axes")
          ? [file.rules.get(header)?.["entries at most"] ?? Infinity]
          : [],
      ),
    ),
  );
  const most = Math.max(0, ...numbers, ...listed);
  const advised = Math.min(most, ...[...target.files.values()].map((file) => file.limits["axes recommended"] ?? most));
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
  const empty = Array.from({ length: categories.size }, (_, row) => row).filter((row) => !used.has(row));
  if (empty.length === 0) return;
  const examples = empty.slice(0, 5).map((row) => categories.key(row));
  findings.add(finding("target/empty-category", { count: empty.length, examples, target: target.name }));
}
