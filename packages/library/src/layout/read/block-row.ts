/** One row of a block, with what becomes of its cells. */

/** `own`: the parent's own row · `child`: a row of a child, the first of a group with the parent's cells · `more`: only a lane's. */
export interface BlockRow {
  readonly cells: readonly string[];
  readonly line: number;
  readonly role: "own" | "child" | "more";
  /** What became of each cell: a `CellMark`. */
  readonly marks: Uint8Array;
}

export function blockRow(cells: readonly string[], line: number, role: BlockRow["role"]): BlockRow {
  return { cells, line, role, marks: new Uint8Array(cells.length) };
}

/** @param mark a `CellMark`; the best one that a cell gets stays. */
export function markCell({ marks }: BlockRow, index: number, mark: number): void {
  if (index >= 0 && marks[index]! < mark) marks[index] = mark;
}

/** @returns undefined for a blank cell, or one that is not there. */
export function cellAt({ cells }: BlockRow, index: number): string | undefined {
  const cell = cells[index] ?? "";
  return cell === "" ? undefined : cell;
}
