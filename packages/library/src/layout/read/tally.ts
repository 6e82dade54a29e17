/**
 * What became of each filled cell of a sheet: it is in a record, or a finding says why not, or a named rule of the layout leaves it out.
 * Every one counts once (`filled` is the sum of the others).
 *
 * Fillers mark the cells of a row as they read them. A filled cell without a mark when the row is done is reported here, so that no filled cell
 * goes without a word, whatever the shape of the rows.
 */

import type { Header } from "../../nominal.js";
import { finding, type Findings } from "../../findings/finding.js";
import type { Location } from "../../location.js";
import type { BlockRow } from "./block-row.js";
import { added } from "../../lists.js";

/** In rising order: a cell that feeds two fields counts for the better of the two. */
export const cellMark = { untouched: 0, repeated: 1, reported: 2, taken: 3 } as const;
export type CellMark = (typeof cellMark)[keyof typeof cellMark];

/** Why a filled cell is in no record though nothing is wrong with it. */
export const cellRules = [
  "unbound column",
  "ignored column",
  "row marker",
  "repeats the first row",
  "model row",
  "above the header",
  "row of no record, ignored",
  "blank after fixing",
] as const;
export type CellRule = (typeof cellRules)[number];

export interface CellCounts {
  filled: number;
  inRecords: number;
  inFindings: number;
  readonly byRule: Record<CellRule, number>;
}

export const noCells = (): CellCounts => ({
  filled: 0,
  inRecords: 0,
  inFindings: 0,
  byRule: Object.fromEntries(cellRules.map((rule) => [rule, 0])) as Record<CellRule, number>,
});

/** A column of the sheet: what leaves its cells out by a rule, or what its cells feed. */
export interface TalliedColumn {
  readonly header: Header;
  /** Of columns that feed nothing. */
  readonly rule: CellRule | undefined;
  /** As a person would write it: `product.name@en`. */
  readonly feeds: string;
  /** Where the cells go that are made of this one, where it is cut up or joined. */
  readonly made: readonly number[];
}

/** What fillers know of a row when it is done: the record that it is about. */
export type LocationOf = (line: number, header: Header) => Location;

export class CellTally {
  readonly #overruled = new Set<string>();
  /** By line: cells that could not be cut up, and were reported for it. */
  readonly #uncut = new Map<number, number[]>();
  /** By line: blank cells that stand for the ones above. */
  readonly #copied = new Map<number, number[]>();

  constructor(
    readonly counts: CellCounts,
    readonly findings: Findings,
    readonly columns: readonly TalliedColumn[],
    /** How many cells a row of the sheet has, before those that are made of others. */
    readonly width: number,
    /** Of the columns that are made of others, which feed something. */
    readonly madeFeeds: ReadonlyMap<number, string>,
  ) {}

  /** Rows that are left out, or reported, as a whole. */
  whole(cells: readonly (string | undefined)[], became: CellRule | "in findings", width = this.width): void {
    // Behind the sheet's own cells stand those that are made of them.
    const filled = countFilled(cells.length > width ? cells.slice(0, width) : cells);
    this.counts.filled += filled;
    if (became === "in findings") this.counts.inFindings += filled;
    else this.counts.byRule[became] += filled;
  }

  /** A cell that is passed on blank, as what is wrong with it was reported. */
  reported(cell: string): void {
    if (cell === "") return;
    this.counts.filled++;
    this.counts.inFindings++;
  }

  /** A cell that is blank in the sheet, and stands for the one above. */
  filledDown(line: number, index: number): void {
    this.#copied.set(line, added(this.#copied.get(line), index));
  }

  /** A cell that others should have been made of. */
  uncut(line: number, index: number): void {
    this.#uncut.set(line, added(this.#uncut.get(line), index));
  }

  /** Cells that are blank once declared damage is undone. */
  fixedToBlank(cells: readonly string[], fixed: readonly string[]): void {
    for (let at = 0; at < cells.length; at++)
      if (cells[at] !== "" && fixed[at] === "") {
        this.counts.filled++;
        this.counts.byRule["blank after fixing"]++;
      }
  }

  /** A row that was read. @param rowOf what it is a row of: `variant`. */
  row({ cells, marks, line }: BlockRow, rowOf: string, placeOf: LocationOf): void {
    const { counts, columns } = this;
    const uncut = this.#uncut.get(line);
    const copied = this.#copied.get(line);
    for (let at = 0; at < columns.length; at++) {
      const cell = cells[at];
      if (cell === undefined || cell === "" || copied?.includes(at)) continue;
      counts.filled++;
      const column = columns[at]!;
      let mark = marks[at]!;
      for (const one of column.made) mark = Math.max(mark, marks[one]!);
      if (mark === cellMark.taken) counts.inRecords++;
      else if (mark === cellMark.reported || uncut?.includes(at)) counts.inFindings++;
      else if (mark === cellMark.repeated) counts.byRule["repeats the first row"]++;
      else this.#untouched(column, rowOf, placeOf(line, column.header));
    }
  }

  #untouched({ rule, feeds, made }: TalliedColumn, rowOf: string, location: Location): void {
    const madeFeeds = made.flatMap((one) => this.madeFeeds.get(one) ?? []);
    const isUnbound = made.length > 0 && madeFeeds.length === 0;
    const named = rule ?? (isUnbound ? "unbound column" : undefined);
    if (named !== undefined) {
      this.counts.byRule[named]++;
      return;
    }
    this.counts.inFindings++;
    const what = made.length > 0 ? madeFeeds.join(", ") : feeds;
    this.findings.add(finding("read/cell-not-used", { feeds: what, rowOf }, location));
  }

  /** A cell that was read before and whose value another source has replaced since: the finding of that tells of it. */
  overruled(line: number, header: Header | undefined): void {
    const cell = `${line} ${header ?? ""}`;
    if (this.#overruled.has(cell)) return;
    this.#overruled.add(cell);
    this.counts.inRecords--;
    this.counts.inFindings++;
  }
}

/** Cells that are not blank; also those beyond the header. */
export const countFilled = (cells: readonly (string | undefined)[]): number =>
  cells.reduce((filled, cell) => (cell === undefined || cell === "" ? filled : filled + 1), 0);
