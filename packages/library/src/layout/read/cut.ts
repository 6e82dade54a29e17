/**
 * Cutting rows into blocks: which rows belong to one record, and what each of them is for.
 *
 * Knows the layout's shape, not what the cells hold. A block is given out when the first row that is not its own comes.
 */

import { blockRow, type BlockRow } from "./block-row.js";
import type { Header } from "../../nominal.js";
import { finding, type Findings } from "../../findings/finding.js";
import type { Location } from "../../location.js";
import type { Layout } from "../layout.js";
import type { CellTally } from "./tally.js";

export interface Block {
  readonly rows: BlockRow[];
  /** The group's word; for rows that name their parent from afar, what they name. */
  readonly word: string;
}

export interface Cutter {
  /** Takes the next row. Returns the block that it ends, if it ends one. */
  readonly push: (cells: readonly string[], line: number) => Block | undefined;
  readonly end: () => Block | undefined;
  /** The word of the block whose rows may go on; undefined where there is none. */
  readonly openWord: () => string | undefined;
}

export interface CutOptions {
  readonly lanes: Layout["lanes"];
  /** The column that says which record a row is of, for findings. */
  readonly telling: Header | undefined;
  /** What each row is. */
  readonly roleOf: (cells: readonly string[]) => RowRole;
  /** The position of a header; -1 when the sheet lacks it. */
  readonly indexOf: (header: Header) => number;
  readonly sheet: Location;
  readonly findings: Findings;
  readonly tally: CellTally;
  /** No product has as many rows; what has is a file that is not what its layout says. */
  readonly maxRows: number;
}

export function cutBlocks({ lanes, telling, roleOf, indexOf, sheet, findings, tally, maxRows }: CutOptions): Cutter {
  let open: Block | undefined;
  const blanks = lanes.map((lane) => lane.blankColumns.map(indexOf).filter((index) => index >= 0));
  const continues = (cells: readonly string[]): boolean =>
    blanks.some((indexes) => indexes.length > 0 && indexes.every((index) => (cells[index] ?? "") === ""));
  const start = (word: string, row: BlockRow): Block | undefined => {
    const done = open;
    open = { word, rows: [row] };
    return done;
  };
  const report = (code: "read/row-without-group" | "read/row-above-all", line: number, column?: string) =>
    findings.add(finding(code, {}, { ...sheet, line, ...(column === undefined ? {} : { column }) }));

  /** Rows that come to a block which has too many already are counted once, and left out. */
  const add = (block: Block, row: BlockRow): void => {
    if (block.rows.length < maxRows) {
      block.rows.push(row);
      return;
    }
    tally.whole(row.cells, "in findings");
    if (!full.has(block)) {
      full.add(block);
      findings.add(finding("read/group-too-large", { group: block.word, most: maxRows }, { ...sheet, line: row.line }));
    }
  };
  const full = new WeakSet<Block>();

  const push = (cells: readonly string[], line: number): Block | undefined => {
    if (continues(cells)) {
      if (open) add(open, blockRow(cells, line, "more"));
      else {
        report("read/row-above-all", line);
        tally.whole(cells, "in findings");
      }
      return undefined;
    }
    const { word, role, begins } = roleOf(cells);
    if (role === "of no record") {
      report("read/row-without-group", line, telling);
      tally.whole(cells, "in findings");
      return undefined;
    }
    if (begins === "always" || open === undefined || (begins === "by word" && open.word !== word))
      return start(word, blockRow(cells, line, role));
    add(open, blockRow(cells, line, role));
    return undefined;
  };
  const end = (): Block | undefined => {
    const done = open;
    open = undefined;
    return done;
  };
  return { push, end, openWord: () => open?.word };
}

/** What a row is. */
export interface RowRole {
  /** The group's word; for rows that name their parent from afar, what they name. */
  readonly word: string;
  readonly role: "own" | "child" | "of no record";
  /** Whether the row begins a block: always, never, or when its word is another than that of the block above. */
  readonly begins: "always" | "by word" | "never";
}
