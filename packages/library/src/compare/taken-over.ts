/** What only the platform has, taken over into a goal: records with their entries, fields with where they come from, references. */

import { referenceFields, targetsOf, type Catalogue, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import type { Met } from "../catalogue/reference-pool.js";
import type { Table } from "../catalogue/table.js";
import type { Cell } from "../catalogue/cell.js";
import { entryOf } from "../checked.js";
import type { KindSpec } from "../kind.js";
import { containersFirst, none, type Correspondence } from "../match/correspondence.js";
import { pushAll } from "../lists.js";

/** Takes over from the platform into a goal, whose first rows are those of what is intended. */
export class TakenOver {
  readonly #own: ResolvedCatalogue;
  readonly #there: ResolvedCatalogue;
  /** The first of the platform's sheets. */
  readonly #sheets: number;
  /** By kind: the rows here of the platform's records. */
  readonly #rows = new Map<string, Int32Array>();

  constructor(
    readonly matched: Correspondence,
    readonly catalogue: Catalogue,
  ) {
    this.#own = matched.own;
    this.#there = matched.other;
    this.#sheets = catalogue.sheets.length;
    pushAll(catalogue.sheets, this.#there.sheets);
  }

  /** Adds the records that only the platform has, with all they have. @returns their rows on both sides. */
  addOnlyThere(): { readonly kind: KindSpec; readonly there: number; readonly row: number }[] {
    const { matched } = this;
    const added: { readonly kind: KindSpec; readonly there: number; readonly row: number }[] = [];
    for (const kind of containersFirst(this.#own.kinds.roots)) {
      const [from, to] = [this.#there.table(kind.name), this.catalogue.table(kind.name)];
      const rows = new Int32Array(from.size).fill(none);
      this.#rows.set(kind.name, rows);
      for (let row = 0; row < from.size; row++) {
        rows[row] = matched.ownOf(kind.name, row);
        if (rows[row] !== none) continue;
        const parent = kind.of === undefined ? none : this.rowOf(kind.of, from.parent(row));
        rows[row] = to.append(this.#sheets + from.sheet(row), from.line(row), parent);
        to.nameRecord(rows[row]!, from.key(row));
        added.push({ kind, there: row, row: rows[row]! });
      }
    }
    for (const { kind, there, row } of added) {
      this.#copy(this.#there.table(kind.name), there, this.catalogue.table(kind.name), row);
      for (const entries of Object.keys(kind.entries ?? {})) {
        const table = this.#there.table(`${kind.name}.${entries}`);
        for (const entry of table.childrenOf(there)) this.entry(table, entry, row);
      }
    }
    return added;
  }

  readonly rowOf = (kind: string, there: number): number => (there === none ? none : entryOf(this.#rows, kind)[there]!);

  entry(from: ReadonlyTable, entry: number, owner: number): void {
    const to = this.catalogue.table(from.name);
    this.#copy(from, entry, to, to.append(this.#sheets + from.sheet(entry), from.line(entry), owner));
  }

  #copy(from: ReadonlyTable, row: number, to: Table, into: number): void {
    for (const [field, column] of from.texts) {
      const cell = column.get(row);
      if (cell !== undefined) this.field(from, row, to, into, field, cell);
    }
    for (const { name } of referenceFields(from.kind))
      if (from.referencesOf(name).isSet(row)) to.referenceColumn(name).set(into, this.references(from, row, name));
  }

  /** A field as the platform has it, with where that comes from. */
  field(from: ReadonlyTable, row: number, to: Table, into: number, field: string, cell: Cell): void {
    to.setText(field, into, cell);
    const { sheet, line } = from.fieldOrigin(field, row) ?? { sheet: from.sheet(row), line: from.line(row) };
    const origin = { sheet: this.#sheets + sheet, line };
    if (origin.sheet !== to.sheet(into) || line !== to.line(into)) to.setFieldOrigin(field, into, origin);
  }

  /** What a record of the platform refers to, as references to the records here. */
  references(from: ReadonlyTable, row: number, field: string): number[] {
    const met: Met = { sheet: this.#sheets + from.sheet(row), line: from.line(row) };
    const to = referenceFields(from.kind).find(({ name }) => name === field)?.to ?? "";
    return targetsOf(this.#there, from, field, row).map((target) =>
      this.catalogue.pool.toRow(to, this.rowOf(to, target), met),
    );
  }
}
