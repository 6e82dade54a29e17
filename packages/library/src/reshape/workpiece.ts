/**
 * The catalogue that operations work on, one after the other. What one of them leaves out keeps its row until the last is done: then the
 * catalogue is made again, once. So an operation takes as long as what it touches.
 */

import type { ResolvedBranch, ResolvedCatalogue } from "../catalogue/catalogue.js";
import { withoutRecords } from "../catalogue/rebuild.js";
import { noReference } from "../catalogue/reference-pool.js";
import { entryOf } from "../checked.js";
import { fieldNamed, referenceOf } from "../kind.js";

/** By kind, the rows that are left out, each with the one that references to it lead to. */
export type GoneRows = ReadonlyMap<string, ReadonlyMap<number, number | undefined>>;

/** Cells that lead to a record: a field of a table, and its rows. */
export interface LeadingCells {
  readonly table: string;
  readonly field: string;
  readonly rows: readonly number[];
}

export class Workpiece {
  readonly catalogue: ResolvedBranch;
  readonly #gone = new Map<string, Set<number>>();

  constructor(given: ResolvedCatalogue) {
    this.catalogue = given.branch();
  }

  isGone(kind: string, row: number): boolean {
    return this.#gone.get(kind)?.has(row) ?? false;
  }

  /** The rows of the records of a kind that are there. */
  *rows(kind: string): Generator<number> {
    const { size } = this.catalogue.table(kind);
    const gone = this.#gone.get(kind);
    for (let row = 0; row < size; row++) if (!gone?.has(row)) yield row;
  }

  /**
   * Leaves records out, with what they contain; what led to them leads to what stands in for them, or nowhere.
   *
   * @param leading what it returned for another piece that is as this one is; looked for, if left out.
   * @returns the cells that led to them.
   */
  leaveOut(dropped: GoneRows, leading?: readonly LeadingCells[]): readonly LeadingCells[] {
    const out = new Map<string, Map<number, number | undefined>>();
    for (const [kind, rows] of dropped)
      for (const [row, standIn] of rows) if (!this.isGone(kind, row)) this.#leave(kind, row, standIn, out);
    const cells = leading ?? (out.size === 0 ? [] : this.#leadingTo(out));
    for (const one of cells) this.#redirect(one, out);
    return cells;
  }

  #leadingTo(out: GoneRows): LeadingCells[] {
    const { pool, tables } = this.catalogue;
    const leads = new Set<number>();
    const targets = pool.target.toArray();
    for (const [kind, rows] of out)
      for (const row of rows.keys())
        for (let at = targets.indexOf(row); at >= 0; at = targets.indexOf(row, at + 1))
          if (pool.spec(at).to === kind) leads.add(at);
    return tables.flatMap((table) =>
      table.kind.fields.flatMap(({ name: field, reference }) => {
        const column = reference && out.has(reference.to) ? table.references.get(field) : undefined;
        const rows = column?.rowsWith(leads) ?? [];
        return rows.length === 0 ? [] : [{ table: table.name, field, rows }];
      }),
    );
  }

  #leave(
    kind: string,
    row: number,
    standIn: number | undefined,
    out: Map<string, Map<number, number | undefined>>,
  ): void {
    const { catalogue } = this;
    const table = catalogue.table(kind);
    const gone = this.#gone.get(kind) ?? new Set<number>();
    this.#gone.set(kind, gone.add(row));
    out.set(kind, (out.get(kind) ?? new Map<number, number | undefined>()).set(row, standIn));
    table.release(row);
    for (const collection of Object.keys(table.kind.entries ?? {})) {
      const entries = catalogue.table(`${kind}.${collection}`);
      for (const entry of [...entries.childrenOf(row)]) entries.reparent(entry, -1);
    }
    const child = catalogue.kinds.childOf(kind);
    if (child)
      for (const one of [...catalogue.table(child.name).childrenOf(row)])
        if (!this.isGone(child.name, one)) this.#leave(child.name, one, undefined, out);
    if (table.parent(row) >= 0) table.reparent(row, -1);
  }

  #redirect({ table: name, field, rows }: LeadingCells, out: GoneRows): void {
    const { pool } = this.catalogue;
    const table = this.catalogue.table(name);
    const { to } = referenceOf(fieldNamed(table.kind, field));
    const standIns = entryOf(out, to);
    const column = table.referenceColumn(field);
    for (const row of rows) {
      const seen = new Set<number>();
      const list = column.get(row).flatMap((number) => {
        const target = pool.target.get(number);
        const now = standIns.has(target) ? (standIns.get(target) ?? noReference) : target;
        const isNowhere = target !== noReference && (now === noReference || this.isGone(to, now));
        if (isNowhere || (target !== noReference && seen.has(now))) return [];
        seen.add(now);
        return [now === target ? number : pool.toRow(to, now, pool.met(number))];
      });
      column.set(row, list);
    }
  }

  /** The catalogue as it is in the end, without what is left out. */
  finish(): ResolvedCatalogue {
    return withoutRecords(this.catalogue, (kind, row) => this.isGone(kind, row));
  }
}
