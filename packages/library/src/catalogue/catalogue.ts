/**
 * The catalogue: tables of records and of their entries, the references between them, and where each came from.
 *
 * `Catalogue` is filled by layouts and rules. `ResolvedCatalogue` is read only; its references have targets. `TargetView` is what one
 * target gets of it: with what is made for that target alone. A stage that changes something makes a branch and returns it.
 */

import { splitTable } from "../field-name.js";
import type { KindSpec, ReferenceField } from "../kind.js";
import type { Kinds } from "../kinds.js";
import type { Location } from "../location.js";
import { noReference, ReferencePool, type Met, type ReadonlyReferencePool } from "./reference-pool.js";
import { Seal } from "./seal.js";
import { Table } from "./table.js";
import type { WritableTableOf } from "./writable-table.js";
import type { ReadonlyTable, TableOf } from "./readonly-table.js";

/** A sheet that records came from, and which of its headers feeds a field: `variant.weight` to `Weight`. */
export interface SheetInfo {
  readonly file: string;
  /** The sheet of a workbook. */
  readonly sheet?: string | undefined;
  /** For documents, the pointer to the element that is repeated. */
  readonly pointer?: string | undefined;
  /** What stands behind it for a row; its number, if left out. */
  readonly pointerOf?: ((row: number) => string) | undefined;
  readonly headers: ReadonlyMap<string, string>;
  /** Of two sheets that disagree the one with the higher number wins. */
  readonly precedence: number;
  /** Receives of a cell of the sheet whose value another source has replaced. */
  readonly overruled?: ((line: number, column: string | undefined) => void) | undefined;
}

/** What a sheet states for a record that it only refers to: its name in a language, a picture of it. */
export interface Statement {
  readonly reference: number;
  readonly field: string;
  readonly value: string;
  readonly met: Met;
  /** The entry of the record that it is about; the record itself, if left out. */
  readonly entry?: StatedEntry | undefined;
}

/** An entry of a record that is only referred to: its main picture. */
export interface StatedEntry {
  readonly entries: string;
  readonly constants: Readonly<Record<string, string>>;
  /** Its fields that are stated with it. */
  readonly parallel: readonly string[];
}

/** What one cell tells of a record that it names: all that is contained in it there. Another cell may tell of it otherwise. */
export interface Description {
  readonly reference: number;
  /** References to what is contained in it. */
  readonly contained: readonly number[];
  /** All that the cell tells, as one text that is the same for the same content, in whatever order. */
  readonly content: string;
  readonly met: Met;
  /** The header of the cell. */
  readonly column: string;
}

/** A catalogue as a stage sees it that reads it. */
export interface ReadonlyCatalogue {
  readonly kinds: Kinds;
  readonly pool: ReadonlyReferencePool;
  readonly sheets: readonly SheetInfo[];
  readonly statements: readonly Statement[];
  readonly descriptions: readonly Description[];
  readonly tables: readonly ReadonlyTable[];
  /** @param name a root kind, or `kind.entries`. @throws Error for any other name: the caller's bug. */
  table<T extends string>(name: T): string extends T ? ReadonlyTable : TableOf<T>;
  /** The record itself, or for an entry the record that it lives in. */
  ownerOf(table: ReadonlyTable, row: number): { readonly table: ReadonlyTable; readonly row: number };
  /** Where a record comes from; with a field, the header of the cell that feeds it. */
  location(table: ReadonlyTable, row: number, field?: string): Location;
  /** The same content, to be changed; this one can no longer be. What is not changed is shared, so that it costs little. */
  branch(): Catalogue;
}

/** A catalogue that is filled: by layouts, by rules, or by hand. */
export class Catalogue implements ReadonlyCatalogue {
  pool = new ReferencePool();
  sheets: SheetInfo[] = [];
  statements: Statement[] = [];
  descriptions: Description[] = [];
  #stated = new Set<string>();
  #described = new Set<string>();
  #areStatementsShared = false;
  readonly #tables = new Map<string, Table>();
  readonly #seal = new Seal();

  constructor(readonly kinds: Kinds) {
    for (const kind of kinds.roots) this.#tables.set(kind.name, new Table(kind, kind.name));
    for (const kind of kinds.roots)
      for (const [name, embedded] of Object.entries(kind.entries ?? {}))
        this.#tables.set(`${kind.name}.${name}`, new Table(kinds.get(embedded), `${kind.name}.${name}`));
  }

  branch(): Catalogue {
    this.#seal.close();
    const made = new Catalogue(this.kinds);
    for (const [name, table] of this.#tables) made.#tables.set(name, table.branch());
    made.pool = this.pool.branch();
    made.sheets = this.sheets.slice();
    made.statements = this.statements;
    made.descriptions = this.descriptions;
    made.#stated = this.#stated;
    made.#described = this.#described;
    made.#areStatementsShared = true;
    return made;
  }

  #ownStatements(): void {
    this.#seal.check();
    if (!this.#areStatementsShared) return;
    this.statements = this.statements.slice();
    this.descriptions = this.descriptions.slice();
    this.#stated = new Set(this.#stated);
    this.#described = new Set(this.#described);
    this.#areStatementsShared = false;
  }

  table<T extends string>(name: T): string extends T ? Table : WritableTableOf<T> {
    const table = this.#tables.get(name);
    if (!table) throw new Error(`no table ${name}`);
    return table;
  }

  /** The same content of the same record is kept once, with the cell that told it first. */
  describe(description: Description): void {
    const key = `${description.reference}\u0000${description.content}`;
    if (this.#described.has(key)) return;
    this.#ownStatements();
    this.#described.add(key);
    this.descriptions.push(description);
  }

  get tables(): readonly Table[] {
    return [...this.#tables.values()];
  }

  /** The same said again is kept once. */
  state(statement: Statement): void {
    const { reference, field, value, entry } = statement;
    const of = entry ? JSON.stringify([entry.entries, entry.constants]) : "";
    const key = `${reference}\u0000${of}\u0000${field}\u0000${value}`;
    if (this.#stated.has(key)) return;
    this.#ownStatements();
    this.#stated.add(key);
    this.statements.push(statement);
  }

  ownerOf(table: ReadonlyTable, row: number): { readonly table: ReadonlyTable; readonly row: number } {
    if (!table.kind.entryKey) return { table, row };
    return { table: this.table(splitTable(table.name).kind), row: table.parent(row) };
  }

  location(table: ReadonlyTable, row: number, field?: string): Location {
    const owner = this.ownerOf(table, row);
    const record = { kind: owner.table.kind.name, key: owner.table.key(owner.row) };
    const origin = field === undefined ? undefined : table.fieldOrigin(field, row);
    const sheet = this.sheets[origin?.sheet ?? table.sheet(row)];
    if (!sheet) return { file: "(made here)", record };
    const column = field === undefined ? undefined : headerOf(sheet, table, row, field);
    return { ...locationIn(sheet, origin?.line ?? table.line(row), column), record };
  }
}

/** How the header of a column with values of an axis is asked for: by the number of the axis, or its name. */
export const valueOn = (axis: number | string): string => `variant.value ${axis}`;

/** A place of a sheet: in documents by pointer, elsewhere by line. */
export function locationIn(
  { file, sheet, pointer, pointerOf = String }: SheetInfo,
  line: number,
  column?: string,
): Location {
  return {
    file,
    ...(sheet === undefined ? {} : { sheet }),
    ...(pointer === undefined ? { line } : { pointer: `${pointer}/${pointerOf(line)}` }),
    ...(column === undefined ? {} : { column }),
  };
}

function headerOf({ headers }: SheetInfo, table: ReadonlyTable, row: number, field: string): string | undefined {
  const { kind, collection } = splitTable(table.name);
  // A single takes its sellable fields from the columns of the variants.
  const own = headers.get(`${kind}.${field}`) ?? headers.get(`variant.${field}`);
  if (own !== undefined) return own;
  const ofRecord = collection ?? /^\w+(?=[[(.])/.exec(field)?.[0];
  if (ofRecord === undefined) return undefined;
  return headerOfEntry(headers, [`${kind}.${ofRecord}`, `variant.${ofRecord}`], table, row, field);
}

/**
 * Entries stand in columns of their own (`prices(price).amount`), in lists that run parallel (`pictures.file`), in lanes
 * (`prices[].amount`), or whole in a cell (`prices[]`).
 */
function headerOfEntry(
  headers: ReadonlyMap<string, string>,
  owners: readonly string[],
  table: ReadonlyTable,
  row: number,
  field: string,
): string | undefined {
  const last = field.slice(field.lastIndexOf(".") + 1);
  const [first = "", ...others] = table.kind.entryKey ?? [];
  const word = first === "" ? "" : (table.text(first, row) ?? "");
  // What has more to its key than the first field stands in a lane or in parts before a column of its own.
  const hasMore = others.some((name) => typeof table.text(name, row) === "string");
  const [single, several] = [
    [`(${word}).${last}`, `.${last}`],
    [`[].${last}`, "[]"],
  ];
  for (const owner of owners) {
    const forms = hasMore ? [...several, ...single] : [...single, ...several];
    const found = forms.map((form) => headers.get(owner + form)).find((header) => header !== undefined);
    if (found !== undefined) return found;
    // With more to tell the entry apart by than the first field of its key.
    for (const [name, header] of headers)
      if (name.startsWith(`${owner}(${word},`) && name.endsWith(`).${last}`)) return header;
  }
  return undefined;
}

declare const resolved: unique symbol;
/** A catalogue whose references have been looked up: read only. Made by `resolveReferences`, and of one that is. */
export interface ResolvedCatalogue extends ReadonlyCatalogue {
  readonly [resolved]: true;
  branch(): ResolvedBranch;
}
/** A branch of a resolved catalogue, while it is changed. Each reference that is added has a target. */
export type ResolvedBranch = Catalogue & ResolvedCatalogue;

declare const view: unique symbol;
/** What one target gets of a catalogue: with the fields, entries, keys and ids that are made for that target alone. */
export interface TargetView extends ResolvedCatalogue {
  readonly [view]: true;
}

/**
 * Takes a catalogue as what one target gets of it.
 *
 * @param catalogue with what is made for one target; by itself, where nothing is.
 */
export const asTargetView = (catalogue: ResolvedCatalogue): TargetView => catalogue as TargetView;

/** The rows that a field refers to, dangling references left out. */
export function targetsOf(catalogue: ResolvedCatalogue, table: ReadonlyTable, field: string, row: number): number[] {
  const targets: number[] = [];
  const column = table.references.get(field);
  if (!column) return targets;
  const { target } = catalogue.pool;
  column.each(row, (number) => {
    const found = target.get(number);
    if (found !== noReference) targets.push(found);
  });
  return targets;
}

/** A field that refers. */
export interface ReferringField extends ReferenceField {
  readonly name: string;
}

/** By kind: asked for again and again. */
const referringFields = new WeakMap<KindSpec, readonly ReferringField[]>();

/** Every field of a kind that refers, with what it refers to. */
export function referenceFields(kind: KindSpec): readonly ReferringField[] {
  let known = referringFields.get(kind);
  if (!known) {
    known = kind.fields.flatMap((field) => (field.reference ? [{ name: field.name, ...field.reference }] : []));
    referringFields.set(kind, known);
  }
  return known;
}
