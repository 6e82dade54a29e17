/** The texts of a table that is filled record by record: its columns take them over as they are. */

import type { Cell } from "../../catalogue/cell.js";
import type { Table } from "../../catalogue/table.js";

export class GatheredTexts {
  readonly #columns = new Map<string, Cell[]>();

  constructor(readonly table: Table) {}

  set(field: string, row: number, text: string): void {
    let cells = this.#columns.get(field);
    if (!cells || row >= cells.length) {
      cells = withRoom(cells ?? [], row);
      this.#columns.set(field, cells);
    }
    cells[row] = text;
  }

  /** Nothing is gathered any more. */
  put(): void {
    for (const [field, cells] of this.#columns) {
      cells.length = this.table.size;
      this.table.textColumn(field).hold(cells);
    }
    this.#columns.clear();
  }
}

/** An array that is filled with gaps, one by one, would turn into a slow one. */
function withRoom(cells: readonly Cell[], row: number): Cell[] {
  const made = new Array<Cell>(Math.max(64, 2 * (row + 1)));
  for (let at = 0; at < cells.length; at++) made[at] = cells[at];
  return made;
}
