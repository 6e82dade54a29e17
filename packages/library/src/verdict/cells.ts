/** The filled cells of what is intended: how many arrive, have no place on the platform, or are held back. The numbers add up. */

import { referenceFields, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { splitTable } from "../field-name.js";
import type { Places } from "../target/places.js";
import type { IsLeftOut } from "../compare/held-form.js";

export interface ArrivedCells {
  readonly filled: number;
  readonly arrived: number;
  readonly noPlace: number;
  readonly heldBack: number;
  /** Those that do not arrive, or arrive as something else. */
  readonly different: number;
}

/** Ids and places in order are carried by rows themselves, and say nothing of their own. */
const carriedAnyhow = new Set(["id", "position", "rule"]);

interface Cells {
  readonly field: string;
  readonly isFilled: (row: number) => boolean;
}

/** The columns of a table whose cells count. */
const columnsOf = (table: ReadonlyTable): Cells[] =>
  [
    ...[...table.texts].map(([field, column]) => ({
      field,
      isFilled: (row: number) => column.has(row),
    })),
    ...[...table.references].map(([field, column]) => ({ field, isFilled: (row: number) => column.first(row) >= 0 })),
  ].filter(({ field }) => !carriedAnyhow.has(field));

/** What becomes of the cells of a row, by its number. */
const fates = ["not counted", "arrived", "held back", "no place", "different"] as const;
type Fate = (typeof fates)[number];
const numbers = Object.fromEntries(fates.map((fate, at) => [fate, at])) as Readonly<Record<Fate, number>>;

/**
 * Counts every cell.
 *
 * @param isDifferent whether a record is missing, or an entry; of a field, whether it is otherwise than intended. Nothing is, if undefined.
 * @param isGone whether a record is taken out on purpose: its cells do not count.
 */
export function countCells(
  catalogue: ResolvedCatalogue,
  places: Places,
  isLeftOut: IsLeftOut,
  isDifferent: ((table: string, row: number, field: string) => boolean) | undefined,
  isGone: IsLeftOut,
): ArrivedCells {
  const counts = new Float64Array(fates.length);
  for (const table of catalogue.tables) {
    const ofRows = fatesOf(catalogue, places, table, isLeftOut, isGone);
    for (const { field, isFilled } of columnsOf(table)) {
      const isWithout = places.withoutField(table, field);
      for (let row = 0; row < table.size; row++) {
        if (!isFilled(row)) continue;
        let fate = ofRows[row]!;
        if (fate === numbers.arrived && isWithout?.(row)) fate = numbers["no place"];
        else if (fate === numbers.arrived && isDifferent?.(table.name, row, field)) fate = numbers.different;
        counts[fate]!++;
      }
    }
  }
  const countOf = (fate: Fate): number => counts[numbers[fate]]!;
  const [arrived, noPlace, heldBack] = [countOf("arrived"), countOf("no place"), countOf("held back")];
  const different = countOf("different");
  return { filled: arrived + different + heldBack + noPlace, arrived, noPlace, heldBack, different };
}

/** What holds for whole rows: worked out once for all their cells. */
function fatesOf(
  catalogue: ResolvedCatalogue,
  places: Places,
  table: ReadonlyTable,
  isLeftOut: IsLeftOut,
  isGone: IsLeftOut,
): Uint8Array {
  const isHeld = heldIn(catalogue, table, isLeftOut);
  const isEntry = table.kind.entryKey !== undefined;
  const { kind } = splitTable(table.name);
  const isOfGone = (row: number) => isGone(kind, isEntry ? table.parent(row) : row);
  const isTaken = places.taking(table);
  const hasEntry = isEntry && table.size > 0 ? places.takingEntries(table) : undefined;
  const hasPlace = (row: number) => (isTaken?.(row) ?? true) && (hasEntry?.(row) ?? true);
  const fateOf = (row: number): Fate => {
    if ((isEntry && table.parent(row) < 0) || isOfGone(row)) return "not counted";
    return isHeld(row) ? "held back" : hasPlace(row) ? "arrived" : "no place";
  };
  const ofRows = new Uint8Array(table.size);
  for (let row = 0; row < table.size; row++) ofRows[row] = numbers[fateOf(row)];
  return ofRows;
}

/** Whether a record is held back; an entry with its record, or with what it leads to. */
function heldIn(catalogue: ResolvedCatalogue, table: ReadonlyTable, isLeftOut: IsLeftOut): (row: number) => boolean {
  const { kind } = splitTable(table.name);
  if (!table.kind.entryKey) return (row) => isLeftOut(kind, row);
  const leads = referenceFields(table.kind).flatMap(({ name, to }) => {
    const column = table.references.get(name);
    return column ? [{ column, to }] : [];
  });
  const { target } = catalogue.pool;
  if (leads.length === 0) return (row) => isLeftOut(kind, table.parent(row));
  return (row) =>
    isLeftOut(kind, table.parent(row)) ||
    leads.some(
      ({ column, to }) => column.first(row) >= 0 && column.get(row).some((number) => isLeftOut(to, target.get(number))),
    );
}
