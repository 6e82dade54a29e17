/**
 * The catalogue: tables of records and of their entries, the references between them, and where each came from.
 *
 * Filled by layouts (`Catalogue`), then resolved (`ResolvedCatalogue`): only then do references have targets.
 */

import type { Kinds, KindSpec } from "../kind.js";
import type { Location } from "../location.js";
import { noReference, ReferencePool, type Met } from "./reference-pool.js";
import { Table } from "./table.js";

/** A sheet that records came from, and which of its headers feeds a field: `variant.weight` to `Weight`. */
export interface SheetInfo {
  readonly file: string;
  /** The sheet of a workbook. */
  readonly sheet?: string | undefined;
  /** For documents, the pointer to the element that is repeated. */
  readonly pointer?: string | undefined;
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

export class Catalogue {
  readonly pool = new ReferencePool();
  readonly sheets: SheetInfo[] = [];
  readonly statements: Statement[] = [];
  readonly descriptions: Description[] = [];
  readonly #stated = new Set<string>();
  readonly #described = new Set<string>();
  readonly #tables = new Map<string, Table>();

  constructor(readonly kinds: Kinds) {
    for (const kind of kinds.roots) this.#tables.set(kind.name, new Table(kind, kind.name));
    for (const kind of kinds.roots)
      for (const [name, embedded] of Object.entries(kind.entries ?? {}))
        this.#tables.set(`${kind.name}.${name}`, new Table(kinds.get(embedded), `${kind.name}.${name}`));
  }

  /** @param name a root kind, or `kind.entries`. @throws Error for any other name: the caller's bug. */
  table(name: string): Table {
    const table = this.#tables.get(name);
    if (!table) throw new Error(`no table ${name}`);
    return table;
  }

  /** The same content of the same record is kept once, with the cell that told it first. */
  describe(description: Description): void {
    const key = `${description.reference}\u0000${description.content}`;
    if (this.#described.has(key)) return;
    this.#described.add(key);
    this.descriptions.push(description);
  }

  get tables(): readonly Table[] {
    return [...this.#tables.values()];
  }

  /** The same said again is kept once. */
  state(statement: Statement): void {
    const key = `${statement.reference}\u0000${statement.field}\u0000${statement.value}`;
    if (this.#stated.has(key)) return;
    this.#stated.add(key);
    this.statements.push(statement);
  }

  /** The record itself, or for an entry the record that it lives in. */
  ownerOf(table: Table, row: number): { readonly table: Table; readonly row: number } {
    if (!table.kind.entryKey) return { table, row };
    return { table: this.table(table.name.slice(0, table.name.indexOf("."))), row: table.parent(row) };
  }

  /** Where a record comes from; with a field, the header of the cell that feeds it. */
  location(table: Table, row: number, field?: string): Location {
    const owner = this.ownerOf(table, row);
    const record = { kind: owner.table.kind.name, key: owner.table.key(owner.row) };
    const origin = field === undefined ? undefined : table.fieldOrigin(field, row);
    const sheet = this.sheets[origin?.sheet ?? table.sheet(row)];
    if (!sheet) return { file: "(made here)", record };
    const column = field === undefined ? undefined : headerOf(sheet, table, field);
    return { ...locationIn(sheet, origin?.line ?? table.line(row), column), record };
  }
}

/** A place of a sheet: in documents by pointer, elsewhere by line. */
export function locationIn({ file, sheet, pointer }: SheetInfo, line: number, column?: string): Location {
  return {
    file,
    ...(sheet === undefined ? {} : { sheet }),
    ...(pointer === undefined ? { line } : { pointer: `${pointer}/${line}` }),
    ...(column === undefined ? {} : { column }),
  };
}

function headerOf(sheet: SheetInfo, table: Table, field: string): string | undefined {
  const kind = table.name.split(".")[0]!;
  // A single takes its sellable fields from the columns of the variants.
  return sheet.headers.get(`${kind}.${field}`) ?? sheet.headers.get(`variant.${field}`);
}

declare const resolved: unique symbol;
/** A catalogue whose references have been looked up: made by `resolveReferences` only. */
export type ResolvedCatalogue = Catalogue & { readonly [resolved]: true };

/** The rows that a field refers to, dangling references left out. */
export function targetsOf(catalogue: ResolvedCatalogue, table: Table, field: string, row: number): number[] {
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

/** Every field of a kind that refers, with what it refers to. */
export function referenceFields(kind: KindSpec) {
  return kind.fields.flatMap((field) => (field.reference ? [{ name: field.name, ...field.reference }] : []));
}
