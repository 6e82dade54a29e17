/** Where a target has a place for what a catalogue has: which field, which entry, of which record. */

import { splitTable } from "../field-name.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { fieldNamed, referenceOf, type KindSpec } from "../kind.js";
import type { Kinds } from "../kinds.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import { byLanguage, kindOfScope, type Column, type Layout } from "../layout/layout.js";
import { isForAll, recordsOfImports, type IsFor } from "./import-records.js";
import type { Target, TargetFile } from "./target.js";

/** Fields that order records among their siblings, as rows do by themselves; and what is the project's own, as rules that make members. */
const carriedAnyhow = new Set(["position", "id", "rule"]);

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

/** The places of a target, for the records of a catalogue. */
export class Places {
  readonly #files: readonly FileFor[];
  readonly #bound: readonly { readonly file: FileFor; readonly bound: ReadonlySet<string> }[];
  readonly #all: ReadonlySet<string>;
  readonly #isShared: boolean;
  readonly #created: ReadonlySet<string>;
  readonly #taking = new Map<string, ((row: number) => boolean) | undefined>();
  readonly #takers = new Map<
    string,
    readonly { readonly file: FileFor; readonly inFile: readonly ((row: number) => boolean)[] }[]
  >();

  constructor(
    readonly catalogue: ResolvedCatalogue,
    readonly target: Target,
  ) {
    this.#files = [...target.files.values()].map((file) => new FileFor(catalogue, target, file));
    this.#bound = this.#files.map((file) => ({ file, bound: boundFields(file.layouts, catalogue.kinds) }));
    this.#all = new Set(this.#bound.flatMap(({ bound }) => [...bound]));
    this.#isShared = this.#files.some((file) => !file.isForAll);
    this.#created = new Set(target.slots.flatMap(({ creates }) => creates));
  }

  /** Whether the target makes records of a kind, be it by rows of their own or because rows name them. */
  makes(kind: string): boolean {
    return this.#created.has(kind);
  }

  /** Whether some column shows a field. @param table a kind, or `kind.entries`. */
  shows(table: string, field: string): boolean {
    return this.#all.has(`${table}.${field}`);
  }

  /** Which records of a table have no place for a field; undefined where all have one. */
  withoutField(table: ReadonlyTable, field: string): ((row: number) => boolean) | undefined {
    if (!this.#created.has(splitTable(table.name).kind)) return () => true;
    const name = `${table.name}.${field}`;
    const isKeyOfEntry = table.kind.entryKey?.includes(field) ?? false;
    if (carriedAnyhow.has(field) || isKeyOfEntry) return undefined;
    if (this.#isOfSinglesAlone(table.kind, field)) return (row) => this.isTaken(table, row) && this.#hasOwn(table, row);
    if (this.#all.has(name) && !this.#isShared) return undefined;
    const isReference = table.kind.fields.some((one) => one.name === field && one.reference);
    if (isReference && carriedOtherwise(table.kind, field, this.#all)) return undefined;
    return (row) =>
      this.isTaken(table, row) && !this.#bound.some(({ file, bound }) => bound.has(name) && file.takes(table, row));
  }

  /** Whether only columns of variants show a field that these do not take from their product: its barcode, where it has any. */
  #isOfSinglesAlone({ name, single, fields }: KindSpec, field: string): boolean {
    // The code of a product that became one with variants is that of its variant.
    if (
      field === "code" ||
      !single ||
      !this.#all.has(`${name}.${field}`) ||
      !fields.some((one) => one.name === field && one.own)
    )
      return false;
    return this.#files.every(({ layouts }) =>
      layouts.every((layout) =>
        layout.columns.every((column) => {
          const isOwn = kindOfScope(layout, column.scope).name === name;
          return !isOwn || column.bindings.every(({ feed }) => feed.is !== "text" || feed.field !== field);
        }),
      ),
    );
  }

  /** Whether a record contains others. */
  #hasOwn({ kind }: ReadonlyTable, row: number): boolean {
    const child = this.catalogue.kinds.childOf(kind.name);
    return child !== undefined && this.catalogue.table(child.name).countChildren(row) > 0;
  }

  /** The files that are for some records of a kind. */
  #filesOf(kind: string): readonly FileFor[] {
    return this.#files.filter((file) => file.isForSomeOf(kind));
  }

  /** Whether some import takes a record, or the one that an entry is of. What none takes at all is reported for itself. */
  isTaken(table: ReadonlyTable, row: number): boolean {
    return this.taking(table)?.(row) ?? true;
  }

  /** The same, for many rows of a table; undefined where all are taken. */
  taking(table: ReadonlyTable): ((row: number) => boolean) | undefined {
    const { name } = table;
    if (!this.#taking.has(name)) {
      const own = this.#filesOf(splitTable(name).kind);
      this.#taking.set(name, own.length === 0 ? undefined : (row) => own.some((file) => file.takes(table, row)));
    }
    return this.#taking.get(name);
  }

  /** Whether a column or a lane takes an entry: a price of this role, a relation of this name. */
  hasEntry(table: ReadonlyTable, row: number): boolean {
    return this.takingEntries(table)(row);
  }

  /** The same, for many entries of a table. */
  takingEntries(table: ReadonlyTable): (row: number) => boolean {
    let takers = this.#takers.get(table.name);
    if (!takers) this.#takers.set(table.name, (takers = this.#takersOf(table)));
    const all = takers;
    return (row) => {
      for (const { file, inFile } of all) if (anyTakes(inFile, row) && file.takes(table, row)) return true;
      return false;
    };
  }

  #hasChildren(entries: ReadonlyTable, entry: number): boolean {
    const { table, row } = this.catalogue.ownerOf(entries, entry);
    return this.#hasOwn(table, row);
  }

  #takersOf(table: ReadonlyTable) {
    const { catalogue } = this;
    return this.#files.flatMap((file) => {
      const inFile = file.layouts.flatMap((layout) =>
        layout.columns.flatMap((column) =>
          column.bindings.flatMap(({ feed }) =>
            kindsShown(layout, column).flatMap((kind, at) => {
              const takes = kindOfFeed(feed).takes(feed, catalogue, table, kind, fieldsOfLane(layout, column));
              // Whole entries are a single's own; those of a product with variants have no cell.
              const isAlone = (row: number) => !this.#hasChildren(table, row);
              if (takes && feed.is === "entries" && at > 0) return [(row: number) => takes(row) && isAlone(row)];
              return takes ? [takes] : [];
            }),
          ),
        ),
      );
      return inFile.length === 0 ? [] : [{ file, inFile }];
    });
  }
}

/** Asked of each entry there is. */
function anyTakes(takers: readonly ((row: number) => boolean)[], row: number): boolean {
  for (const takes of takers) if (takes(row)) return true;
  return false;
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

/** The fields that the columns of a column's lane hold; undefined where it is of none. */
function fieldsOfLane({ columns }: Layout, { scope }: Column): readonly string[] | undefined {
  if (scope.is !== "lane") return undefined;
  return columns.flatMap((other) =>
    other.scope.is === "lane" && other.scope.lane === scope.lane
      ? other.bindings.flatMap(({ feed }) => (feed.is === "entry" ? [feed.field.name] : []))
      : [],
  );
}
