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

/** Why a row's cells do not arrive. */
type Fate = "arrived" | "held back" | "no place" | "different";

/**
 * Counts every cell.
 *
 * @param isDifferent whether a record is missing, or an entry; of a field, whether it is otherwise than intended.
 * @param isGone whether a record is taken out on purpose: its cells do not count.
 */
export function countCells(
  catalogue: ResolvedCatalogue,
  places: Places,
  isLeftOut: IsLeftOut,
  isDifferent: (table: string, row: number, field: string) => boolean,
  isGone: IsLeftOut,
): ArrivedCells {
  const counts: Record<Fate, number> = { arrived: 0, "held back": 0, "no place": 0, different: 0 };
  for (const table of catalogue.tables) {
    const isHeld = heldIn(catalogue, table, isLeftOut);
    const isEntry = table.kind.entryKey !== undefined;
    const { kind } = splitTable(table.name);
    const isOfGone = (row: number) => isGone(kind, isEntry ? table.parent(row) : row);
    const hasPlace = (row: number) => places.isTaken(table, row) && (!isEntry || places.hasEntry(table, row));
    const fateOf = (row: number): Fate | "not counted" => {
      if ((isEntry && table.parent(row) < 0) || isOfGone(row)) return "not counted";
      return isHeld(row) ? "held back" : hasPlace(row) ? "arrived" : "no place";
    };
    // What holds for the whole row is worked out once for all its cells.
    const fates: (Fate | "not counted" | undefined)[] = new Array(table.size);
    for (const { field, isFilled } of columnsOf(table)) {
      const isWithout = places.withoutField(table, field);
      for (let row = 0; row < table.size; row++) {
        if (!isFilled(row)) continue;
        const fate = (fates[row] ??= fateOf(row));
        if (fate === "not counted") continue;
        if (fate !== "arrived") counts[fate]++;
        else if (isWithout?.(row)) counts["no place"]++;
        else counts[isDifferent(table.name, row, field) ? "different" : "arrived"]++;
      }
    }
  }
  const { arrived, different, "held back": heldBack, "no place": noPlace } = counts;
  return { filled: arrived + different + heldBack + noPlace, arrived, noPlace, heldBack, different };
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
  return (row) =>
    isLeftOut(kind, table.parent(row)) ||
    leads.some(({ column, to }) => [...column.get(row)].some((number) => isLeftOut(to, target.get(number))));
}
