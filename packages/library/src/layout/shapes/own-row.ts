/** The record has a row of its own, and so has each of what it contains. */

import type { Header } from "../../nominal.js";
import { firstOf } from "../../checked.js";
import { finding } from "../../findings/finding.js";
import { phrase } from "../../phrases/phrase.js";
import type { BlockRow } from "../read/block-row.js";
import type { Block } from "../read/cut.js";
import { BlockFill, type BlockFiller } from "../fill/block.js";
import type { FillOptions } from "../fill/context.js";
import type { Column, Joined, Layout } from "../layout.js";
import { RecordIndex } from "../read/record-index.js";
import type { BlockPen, MutableRow } from "../write/block.js";
import type { CutRow, ShapeOf, ShapeOfTwo } from "./shape-kind.js";
import type { Table } from "../../catalogue/table.js";

type OwnRow = ShapeOf<"own-row">;

export const ownRowShape: ShapeOfTwo<OwnRow> = {
  words: ["shared cells", "joined by", "marker"],
  isMeant: (rows) => rows["shared cells"] === "own row",
  ofTwo({ rows: { "joined by": joined, marker }, kind, parent, mistake }) {
    if (joined === undefined || (joined === "following" && !marker))
      return mistake(phrase('rows with "own row" need "joined by", or a "marker" if they simply follow'));
    const how: Joined = joined === "following" ? { by: "following" } : { by: "reference", ...joined };
    return { is: "own-row", parent, child: kind, marker, joined: how };
  },
  tells: ({ marker, joined }) => [
    ...(marker ? [{ header: marker.column, words: [marker.parent, marker.child] }] : []),
    ...(joined.by === "reference" ? [{ header: joined.column }] : []),
  ],
  cut,
  fill: (shape, options, parents) => new OwnRowFiller(shape, options, parents),
  unroll(shape, pen) {
    const { joined } = shape;
    const joinedAt = joined.by === "reference" && joined.names === "line" ? pen.positionOf(joined.column) : -1;
    const fixed = (row: MutableRow, parent: number, isChild: boolean): MutableRow => {
      for (const column of pen.columns) {
        const text = tellingText(shape, pen, column, parent, isChild);
        if (text !== undefined) row.cells[pen.positionOf(column.header)] = text;
      }
      return joinedAt < 0 ? row : { ...row, lineOf: isChild ? joinedAt : "named" };
    };
    return (parent, children) => {
      const rows = [fixed(pen.parentRow(parent, children.length === 0), parent, false)];
      pen.addChildren(rows, parent, children, (child) => fixed(pen.childRow(parent, child, false), parent, true));
      return rows;
    };
  },
};

/** A row is the parent's by its marker, else by the blank cell in which a child's names its parent. */
function cut({ marker, joined }: OwnRow, { columns }: Layout, indexOf: (header: Header) => number): CutRow {
  const markerIndex = marker ? indexOf(marker.column) : -1;
  const joinIndex = joined.by === "reference" ? indexOf(joined.column) : -1;
  // The parent's own word is what its children name it by.
  const wanted = joined.by === "reference" ? joined.names : undefined;
  const own = columns.find(
    ({ scope, bindings }) =>
      scope.is === "parent" &&
      bindings.some(({ feed }) => (wanted === "key" ? feed.is === "key" : feed.is === "text" && feed.field === "code")),
  );
  const ownIndex = own ? indexOf(own.header) : -1;
  return (cells) => {
    const mark = cells[markerIndex] ?? "";
    const join = cells[joinIndex] ?? "";
    if (marker && mark !== marker.parent && mark !== marker.child)
      return { word: "", role: "of no record", begins: "never" };
    if (marker ? mark === marker.parent : join === "")
      return { word: cells[ownIndex] ?? "", role: "own", begins: "always" };
    if (joined.by === "following") return { word: "", role: "child", begins: "never" };
    return { word: join, role: "child", begins: wanted === "line" ? "always" : "by word" };
  };
}

/** Children may come before their parent, or from another sheet than its: those wait until all rows are there. */
class OwnRowFiller implements BlockFiller {
  readonly #fill: BlockFill;
  /** Where children name their parent from afar: the parents' own rows. */
  readonly #ownRows = new Map<number, BlockRow>();
  /** Parents by the word that their children name them by; only where rows do. */
  readonly #named = new Map<string, number>();
  readonly #orphans: Block[] = [];

  constructor(
    readonly shape: OwnRow,
    options: FillOptions,
    parents: Table | undefined,
  ) {
    const { joined } = shape;
    this.#fill = new BlockFill(options, {
      parents,
      telling: joined.by === "reference" ? joined.column : undefined,
    });
  }

  block(block: Block, found?: number): void {
    const { rows, word } = block;
    const fill = this.#fill;
    const first = firstOf(rows);
    if (first.role === "child") {
      const parent = this.#named.get(word);
      if (parent === undefined) this.#orphans.push(block);
      else this.#fillFromAfar(parent, rows);
      return;
    }
    const parent = fill.open(first, found);
    this.#nameBlock(parent, first, word);
    fill.fillParent(parent, rows);
    if (rows.every(({ role }) => role !== "child")) fill.fillSingle(parent, rows, 0);
    else fill.fillChildren(parent, rows);
    fill.checkShared(parent, first, rows.slice(1));
    fill.close(parent, rows);
  }

  /** Keeps the word that rows further down may name the parent by. */
  #nameBlock(row: number, first: BlockRow, word: string): void {
    const { joined } = this.shape;
    if (joined.by !== "reference") return;
    this.#ownRows.set(row, first);
    this.#named.set(joined.names === "line" ? String(first.line) : word, row);
  }

  /** Children that do not stand below their parent: they go on with the axes it has. */
  #fillFromAfar(parent: number, rows: readonly BlockRow[]): void {
    const fill = this.#fill;
    fill.tell(rows);
    fill.axes.parent(parent, firstOf(rows));
    fill.fillParentLanes(parent, rows);
    fill.fillChildren(parent, rows);
    const own = this.#ownRows.get(parent);
    if (own) fill.checkShared(parent, own, rows);
    fill.close(parent, rows);
  }

  /** Children whose parent came after them, in another sheet, or never. */
  end(): void {
    const { catalogue, findings, tally } = this.#fill.context;
    const { parent: kind, joined } = this.shape;
    let others: RecordIndex | undefined;
    for (const { word, rows } of this.#orphans) {
      let parent = this.#named.get(word);
      if (parent === undefined && joined.by === "reference" && joined.names !== "line") {
        others ??= new RecordIndex(catalogue, kind, { names: joined.names, sheet: undefined });
        const found = others.find(word);
        if (found.length === 1) parent = firstOf(found).row;
      }
      if (parent !== undefined) this.#fillFromAfar(parent, rows);
      else
        for (const row of rows) {
          findings.add(finding("read/orphan-row", { names: word }, this.#fill.context.location(row.line)));
          tally.whole(row.cells, "in findings");
        }
    }
  }
}

/** What the shape itself puts in a cell: the marker, and the word that joins a child to its parent. */
function tellingText(
  { marker, joined }: OwnRow,
  pen: BlockPen,
  { header, bindings }: Column,
  parent: number,
  isChild: boolean,
): string | undefined {
  if (marker?.column === header) return isChild ? marker.child : marker.parent;
  if (joined.by !== "reference" || joined.column !== header) return undefined;
  // A column that is the parent's own field too shows that field on its own row.
  if (!isChild) return firstOf(bindings).feed.is === "shape" ? "" : undefined;
  // The line is known when the rows are written one after the other.
  if (joined.names === "line") return "";
  const code = joined.names === "code" ? pen.parents.text("code", parent) : undefined;
  return code ?? pen.parents.key(parent);
}
