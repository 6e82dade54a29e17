/**
 * What an upload has brought to the platform: the records of rows that were taken, and what those rows set up by the way.
 *
 * A record whose rows were not all taken is not there as it was sent. One that has no row of its own (a brand that a column names, a
 * branch of a path) is there where a row that was taken names it.
 */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { UploadStep } from "../plan/plan.js";
import { eachReference, referenceFieldsOf } from "../plan/references.js";

/** Which records the rows of a step are about, and whether each row was taken. */
export class RowsOfStep {
  readonly taken = new Map<string, Set<number>>();
  readonly refused = new Map<string, Set<number>>();
  readonly #above = { taken: new Map<string, Set<number>>(), refused: new Map<string, Set<number>>() };

  see(kind: string, row: number, isTaken: boolean): void {
    addTo(isTaken ? this.taken : this.refused, kind, row);
  }

  /** A row below a record: the record itself may have a row of its own, or not. */
  seeAbove(kind: string, row: number, isTaken: boolean): void {
    addTo(isTaken ? this.#above.taken : this.#above.refused, kind, row);
  }

  /** Kinds whose records have rows here. */
  hasRowsOf(kind: string): boolean {
    return [this.taken, this.refused, this.#above.taken, this.#above.refused].some((one) => one.has(kind));
  }

  /** Whether all rows of a record were taken. Where it has none of its own, those below it: some of them. */
  isTaken(kind: string, row: number): boolean {
    if (this.refused.get(kind)?.has(row)) return false;
    return (this.taken.get(kind)?.has(row) ?? false) || (this.#above.taken.get(kind)?.has(row) ?? false);
  }
}

function addTo(map: Map<string, Set<number>>, kind: string, row: number): void {
  const known = map.get(kind);
  if (known) known.add(row);
  else map.set(kind, new Set([row]));
}

export function takenBy(catalogue: ResolvedCatalogue, step: UploadStep, rows: RowsOfStep): AcceptedRows {
  const taken = new Map<string, Set<number>>();
  const kinds = new Set([...step.places.map(({ kind }) => kind), ...rows.taken.keys()]);
  for (const kind of kinds) {
    if (!rows.hasRowsOf(kind)) continue;
    for (let row = 0; row < catalogue.table(kind).size; row++) if (rows.isTaken(kind, row)) addTo(taken, kind, row);
  }
  const byTheWay = new Set([...kinds].filter((kind) => !rows.hasRowsOf(kind)));
  if (byTheWay.size > 0) addNamed(catalogue, byTheWay, taken);
  return taken;
}

/** Adds the records of some kinds that what was taken names, what contains those, and what they contain. */
function addNamed(catalogue: ResolvedCatalogue, kinds: ReadonlySet<string>, taken: Map<string, Set<number>>): void {
  const fields = referenceFieldsOf(catalogue).filter(({ to }) => kinds.has(to));
  for (let grown = true; grown;) {
    grown = false;
    const add = (kind: string, row: number) => {
      if (row < 0 || taken.get(kind)?.has(row)) return;
      addTo(taken, kind, row);
      grown = true;
    };
    for (const field of fields)
      eachReference(catalogue, field, (from, to) => {
        if (taken.get(field.kind)?.has(from)) add(field.to, to);
      });
    for (const kind of kinds) {
      const { of } = catalogue.kinds.get(kind);
      if (of === undefined || !kinds.has(of)) continue;
      const table = catalogue.table(kind);
      for (let row = 0; row < table.size; row++) if (taken.get(of)?.has(table.parent(row))) add(kind, row);
    }
  }
}

/** By kind: the rows of its table that a step has brought to the platform. */
export type AcceptedRows = ReadonlyMap<string, ReadonlySet<number>>;
