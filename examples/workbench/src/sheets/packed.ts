/** Many rows in little memory: packed a few hundred at a time, and unpacked when they are looked at. */

const rowsPerPack = 256;
const mostOpen = 8;

export interface SheetRow {
  readonly line: number;
  readonly cells: readonly string[];
}

export class PackedRows {
  readonly #packs: string[] = [];
  #last: SheetRow[] = [];
  readonly #firstLines: number[] = [];
  /** Packs that were looked at last, unpacked. */
  readonly #open = new Map<number, readonly SheetRow[]>();

  get size(): number {
    return this.#packs.length * rowsPerPack + this.#last.length;
  }

  push(cells: readonly string[], line: number): void {
    if (this.#last.length === 0) this.#firstLines.push(line);
    this.#last.push({ line, cells });
    if (this.#last.length < rowsPerPack) return;
    this.#packs.push(JSON.stringify(this.#last.map((row) => [row.line, ...row.cells])));
    this.#last = [];
  }

  rows(from: number, count: number): SheetRow[] {
    const rows: SheetRow[] = [];
    for (let at = Math.max(0, from); at < Math.min(this.size, from + count); at++)
      rows.push(this.#pack(Math.floor(at / rowsPerPack))[at % rowsPerPack]!);
    return rows;
  }

  /** The number of the row that a line belongs to: the last that does not begin behind it. */
  rowOf(line: number): number {
    let [low, high] = [0, this.#firstLines.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.#firstLines[middle]! <= line) low = middle + 1;
      else high = middle;
    }
    if (low === 0) return 0;
    const pack = this.#pack(low - 1);
    let row = pack.findIndex((one) => one.line > line) - 1;
    if (row < 0) row = pack.length - 1;
    // Of rows that begin on the same line, in documents those of one element, the first.
    while (row > 0 && pack[row - 1]!.line === pack[row]!.line) row--;
    return (low - 1) * rowsPerPack + row;
  }

  #pack(number: number): readonly SheetRow[] {
    if (number === this.#packs.length) return this.#last;
    let pack = this.#open.get(number);
    if (!pack) {
      const stored = JSON.parse(this.#packs[number]!) as [number, ...string[]][];
      pack = stored.map(([line, ...cells]) => ({ line, cells }));
      if (this.#open.size === mostOpen) this.#open.delete(this.#open.keys().next().value!);
      this.#open.set(number, pack);
    }
    return pack;
  }
}
