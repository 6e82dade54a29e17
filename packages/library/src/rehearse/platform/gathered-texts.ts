/** The texts of a table that is filled record by record: its columns take them over as they are. */

import type { Cell } from "../../catalogue/cell.js";
import type { Table } from "../../catalogue/table.js";
import type { SharedNames } from "./by-place.js";

/** A field of all records. */
class Gathered {
  #cells: Cell[];

  /** @param size how many records there are for now. */
  constructor(size: number) {
    this.#cells = new Array<Cell>(Math.max(64, size));
  }

  set(row: number, text: string): void {
    if (row >= this.#cells.length) this.#cells = withRoom(this.#cells, row);
    this.#cells[row] = text;
  }

  /** @param size how many records there are. */
  cells(size: number): readonly Cell[] {
    this.#cells.length = size;
    return this.#cells;
  }
}

export class GatheredTexts {
  readonly #columns = new Map<string, Gathered>();
  /** By the place of a field among names. */
  readonly #byPlace = new Map<SharedNames, (Gathered | undefined)[]>();

  constructor(readonly table: Table) {}

  /** @param place of the field among the names. */
  set(names: SharedNames, place: number, row: number, text: string): void {
    (this.#ofNames(names)[place] ??= this.#of(names.all[place]!)).set(row, text);
  }

  #ofNames(names: SharedNames): (Gathered | undefined)[] {
    let known = this.#byPlace.get(names);
    if (!known) this.#byPlace.set(names, (known = []));
    return known;
  }

  #of(field: string): Gathered {
    let known = this.#columns.get(field);
    if (!known) this.#columns.set(field, (known = new Gathered(this.table.size)));
    return known;
  }

  /** Nothing is gathered any more. */
  put(): void {
    for (const [field, texts] of this.#columns) this.table.textColumn(field).hold(texts.cells(this.table.size));
    this.#columns.clear();
    this.#byPlace.clear();
  }
}

/** An array that is filled with gaps, one by one, would turn into a slow one. */
function withRoom(cells: readonly Cell[], row: number): Cell[] {
  const made = new Array<Cell>(2 * (row + 1));
  for (let at = 0; at < cells.length; at++) made[at] = cells[at];
  return made;
}
