/**
 * Cutting rows into blocks: which rows belong to one record, and what each of them is for.
 *
 * Knows the layout's shape, not what the cells hold. A block is given out when the first row that is not its own comes.
 */

import { blockRow, type BlockRow } from "./block-row.js";
import type { Header } from "../nominal.js";
import { finding, type Findings } from "../findings/finding.js";
import type { Location } from "../location.js";
import type { Layout } from "./layout.js";
import type { CellTally } from "./tally.js";

/** No product has as many rows; what has is a file that is not what its layout says. */
const maxBlockRows = 50_000;

export interface Block {
  readonly rows: BlockRow[];
  /** The group's word; for rows that name their parent from afar, what they name. */
  readonly word: string;
}

export interface Cutter {
  /** Takes the next row. Returns the block that it ends, if it ends one. */
  readonly push: (cells: readonly string[], line: number) => Block | undefined;
  readonly end: () => Block | undefined;
}

/** @param indexOf the position of a header; -1 when the sheet lacks it. */
export function cutBlocks(
  layout: Layout,
  indexOf: (header: Header) => number,
  sheet: Location,
  findings: Findings,
  tally: CellTally,
): Cutter {
  let open: Block | undefined;
  const blanks = layout.lanes.map((lane) => lane.blankColumns.map(indexOf).filter((index) => index >= 0));
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
    if (block.rows.length < maxBlockRows) {
      block.rows.push(row);
      return;
    }
    tally.whole(row.cells, "in findings");
    if (!full.has(block)) {
      full.add(block);
      findings.add(
        finding("read/group-too-large", { group: block.word, most: maxBlockRows }, { ...sheet, line: row.line }),
      );
    }
  };
  const full = new WeakSet<Block>();

  const { shape } = layout;
  const groupColumn = shape.is === "grouped" ? shape.column : shape.is === "linked" ? shape.found.column : undefined;
  const wordAndRole = roleOf(layout, indexOf);
  const push = (cells: readonly string[], line: number): Block | undefined => {
    if (continues(cells)) {
      if (open) add(open, blockRow(cells, line, "more"));
      else {
        report("read/row-above-all", line);
        tally.whole(cells, "in findings");
      }
      return undefined;
    }
    const { word, role, begins } = wordAndRole(cells);
    if (role === "nobody's") {
      report("read/row-without-group", line, groupColumn);
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
  return { push, end };
}

interface RowRole {
  readonly word: string;
  readonly role: "own" | "child" | "nobody's";
  /** Whether the row begins a block: always, never, or when its word is another than that of the block above. */
  readonly begins: "always" | "by word" | "never";
}

function roleOf(
  { shape, columns }: Layout,
  indexOf: (header: Header) => number,
): (cells: readonly string[]) => RowRole {
  if (shape.is === "flat" || shape.is === "expanded") return () => ({ word: "", role: "own", begins: "always" });
  if (shape.is === "nested") throw new Error("documents are not cut by rows");
  if (shape.is === "linked") {
    const index = indexOf(shape.found.column);
    return (cells) => {
      const word = cells[index] ?? "";
      return { word, role: word === "" ? "nobody's" : "own", begins: "by word" };
    };
  }
  if (shape.is === "grouped") {
    const index = indexOf(shape.column);
    return (cells) => {
      const word = cells[index] ?? "";
      return { word, role: word === "" ? "nobody's" : "child", begins: "by word" };
    };
  }
  const { marker, joined } = shape;
  const markerIndex = marker ? indexOf(marker.column) : -1;
  const joinIndex = joined.by === "reference" ? indexOf(joined.column) : -1;
  // The parent's own word is what its children name it by.
  const wanted = joined.by === "reference" ? joined.names : undefined;
  const own = columns.find(
    (column) =>
      column.scope.is === "parent" &&
      column.bindings.some(({ feed: target }) =>
        wanted === "key" ? target.is === "key" : target.is === "text" && target.field === "code",
      ),
  );
  const ownIndex = own ? indexOf(own.header) : -1;
  return (cells) => {
    const mark = cells[markerIndex] ?? "";
    const join = cells[joinIndex] ?? "";
    if (marker && mark !== marker.parent && mark !== marker.child)
      return { word: "", role: "nobody's", begins: "never" };
    if (marker ? mark === marker.parent : join === "")
      return { word: cells[ownIndex] ?? "", role: "own", begins: "always" };
    if (joined.by === "following") return { word: "", role: "child", begins: "never" };
    return { word: join, role: "child", begins: wanted === "line" ? "always" : "by word" };
  };
}
