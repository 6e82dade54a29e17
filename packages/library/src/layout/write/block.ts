/**
 * What the rows of a block are written with: a record's own row, a child's, and the lanes beside them, which lengthen the block where they
 * are longer. The shape decides which rows there are.
 */

import { entryOf, present } from "../../checked.js";
import { finding } from "../../findings/finding.js";
import { phrase } from "../../phrases/phrase.js";
import type { Header } from "../../nominal.js";
import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import type { Column, Lane, Layout } from "../layout.js";
import { cellWriter } from "./cell.js";
import type { CellContext, ToCell } from "./context.js";
import { shorten } from "../../shorten.js";
import { laneWriter, type LaneWriter } from "./lanes.js";

/** A row that is being made. */
export type MutableRow = {
  cells: string[];
  parent: number;
  child: number;
  isSingles?: true;
  lineOf?: "named" | number;
};

/** A column that records of a table have something for. */
interface PlacedCell {
  readonly at: number;
  readonly scope: Column["scope"]["is"];
  readonly toCell: ToCell;
}

export interface PenOptions {
  /** The headers of the cells of a row. */
  readonly headers: readonly Header[];
  /** Whose records the blocks are of. */
  readonly parents: ReadonlyTable;
  readonly children: ReadonlyTable | undefined;
  readonly withLanes: boolean;
  /** Whether the rows say in another language what others have said. */
  readonly translates: boolean;
  /** Headers that name a record, and stand on every row of it. */
  readonly repeated: readonly Header[];
  /** A cell that says which record the row is of, where that is not one of its fields. */
  readonly linkWord: { readonly column: Header; readonly of: (record: number) => string } | undefined;
}

const hasOwnRows = (lane: Lane): boolean => lane.of === "parent" && lane.hasOwnRows;
const runsBeside = (lane: Lane): boolean => lane.of === "parent" && !lane.hasOwnRows;

export class BlockPen {
  readonly parents: ReadonlyTable;
  readonly children: ReadonlyTable | undefined;
  /** The columns that are written. */
  readonly columns: readonly Column[];
  /** Of each header among the cells of a row. */
  readonly positions: ReadonlyMap<Header, number>;
  readonly translates: boolean;
  readonly #headers: readonly Header[];
  readonly #blank: readonly string[];
  /** What a parent shows: its own columns, and as a single its children's. */
  readonly #parentCells: readonly PlacedCell[];
  readonly #childCells: readonly PlacedCell[];
  /** What every row of a group shows of its parent. */
  readonly #groupCells: readonly PlacedCell[];
  readonly #parentLanes: readonly LaneWriter[];
  readonly #childLanes: readonly LaneWriter[];
  /** Positions of cells that continuation rows show as well. */
  readonly #repeated: readonly number[];
  /** `isGroup`: the same cell groups the rows, and stands on each of them. */
  readonly #link:
    { readonly at: number; readonly isGroup: boolean; readonly of: (record: number) => string } | undefined;
  readonly #takesOver: boolean;

  constructor(
    readonly context: CellContext,
    { lanes, columns }: Layout,
    { headers, parents, children, withLanes, translates, repeated, linkWord }: PenOptions,
  ) {
    this.parents = parents;
    this.children = children;
    this.translates = translates;
    this.positions = new Map(headers.map((header, at) => [header, at]));
    this.columns = columns.filter(({ header }) => this.positions.has(header));
    this.#headers = headers;
    this.#blank = headers.map(() => "");
    this.#parentCells = this.#cellsOf(parents);
    this.#childCells = children ? this.#cellsOf(children).filter(({ scope }) => scope === "child") : [];
    const lanesOf = (table: ReadonlyTable) =>
      lanes.flatMap((lane) => laneWriter(context, lane, this.columns, table, this.positions) ?? []);
    this.#parentLanes = withLanes ? lanesOf(parents) : [];
    this.#childLanes = withLanes && children ? lanesOf(children) : [];
    const repeatedAt = repeated.map((header) => this.positionOf(header)).filter((at) => at >= 0);
    this.#groupCells = this.#parentCells.filter(({ at }) => repeatedAt.includes(at));
    this.#repeated = repeatedAt.filter((at) => !lanes.some((lane) => lane.blankColumns.includes(headers[at]!)));
    this.#link = linkWord && {
      at: this.positionOf(linkWord.column),
      isGroup: repeated.filter((header) => header === linkWord.column).length > 1,
      of: linkWord.of,
    };
    // Rows of records that are contained in others take over what those say, as children do.
    this.#takesOver = children === undefined && parents.kind.of !== undefined;
  }

  /** @returns -1 for a header that is not written. */
  positionOf(header: Header): number {
    return this.positions.get(header) ?? -1;
  }

  /** @param isSingle whether the record shows its own fields in the children's columns too. */
  parentRow(parent: number, isSingle: boolean): MutableRow {
    const cells = this.#blank.slice();
    const above = this.#takesOver ? this.parents.parent(parent) : parent;
    for (const { at, scope, toCell } of this.#parentCells)
      if (scope === "parent" || isSingle) cells[at] = toCell(parent, above);
    this.#putLink(cells, parent);
    return { cells, parent, child: -1 };
  }

  /** @param isShared whether the parent's cells stand on it too. */
  childRow(parent: number, child: number, isShared: boolean): MutableRow {
    const cells = this.#blank.slice();
    for (const { at, toCell } of this.#childCells) cells[at] = toCell(child, parent);
    for (const { at, scope, toCell } of isShared ? this.#parentCells : this.#groupCells)
      if (scope === "parent") cells[at] = toCell(parent, parent);
    if (isShared || this.#link?.isGroup) this.#putLink(cells, parent);
    return { cells, parent, child };
  }

  /** What a record without children has in the children's columns, on a row beside its own. */
  singleChildRow(parent: number): MutableRow {
    const cells = this.#blank.slice();
    for (const { at, scope, toCell } of this.#parentCells) if (scope === "child") cells[at] = toCell(parent, parent);
    return { cells, parent, child: parent, isSingles: true };
  }

  /** Says what a child has for columns and lanes of children, where rows are the parent's alone. */
  reportOwn(child: number, parent: number): void {
    const { catalogue, findings } = this.context;
    const children = present(this.children);
    const report = (header: Header, text: string): void => {
      const facts = { column: header, text: shorten(text), wanted: phrase("what the records of a row have in common") };
      findings.add(finding("write/cannot-be-written", facts, catalogue.location(children, child)));
    };
    for (const { at, toCell } of this.#childCells) {
      const text = toCell(child, parent);
      if (text !== "") report(this.#headers[at]!, text);
    }
    for (const { lane, elementsOf, columns } of this.#childLanes)
      if (lane.of === "child")
        for (const element of elementsOf(child))
          for (const { at, toCell } of columns) report(this.#headers[at]!, toCell(element, child));
  }

  /** A record without children: the lanes of children run on its own row. */
  single(parent: number): MutableRow[] {
    const rows = [this.parentRow(parent, true)];
    this.addParentLanes(rows, 0, parent);
    return rows;
  }

  /** A row for each child, with its lanes; those of the parent beside them. Without children their lanes run on the parent's row. */
  addChildren(
    rows: MutableRow[],
    parent: number,
    children: readonly number[],
    rowOf: (child: number, at: number) => MutableRow,
  ): void {
    if (children.length === 0) return this.addParentLanes(rows, 0, parent);
    for (let at = 0; at < children.length; at++) {
      const child = children[at]!;
      rows.push(rowOf(child, at));
      this.addChildLanes(rows, rows.length - 1, child);
      if (at === 0) this.addParentLanes(rows, 0, parent, hasOwnRows);
    }
    this.addParentLanes(rows, 0, parent, runsBeside);
  }

  addParentLanes(
    rows: MutableRow[],
    start: number,
    parent: number,
    applies: (lane: Lane) => boolean = () => true,
  ): void {
    for (const writer of this.#parentLanes) if (applies(writer.lane)) this.#addLane(rows, start, writer, parent);
  }

  addChildLanes(rows: MutableRow[], start: number, child: number): void {
    for (const writer of this.#childLanes) if (writer.lane.of === "child") this.#addLane(rows, start, writer, child);
  }

  /** Puts the elements of a record's lane on rows from `start` on, with continuation rows where there are too few. */
  #addLane(rows: MutableRow[], start: number, { elementsOf, columns }: LaneWriter, record: number): void {
    let at = start;
    for (const element of elementsOf(record)) {
      const row = (rows[at++] ??= this.#continuation(rows[rows.length - 1]!));
      for (const column of columns) row.cells[column.at] = column.toCell(element, record);
    }
  }

  #continuation(above: MutableRow): MutableRow {
    const cells = this.#blank.slice();
    for (const at of this.#repeated) cells[at] = above.cells[at]!;
    return { parent: above.parent, child: above.child, ...(above.isSingles && { isSingles: true as const }), cells };
  }

  #putLink(cells: string[], record: number): void {
    if (this.#link && this.#link.at >= 0) cells[this.#link.at] = this.#link.of(record);
  }

  #cellsOf(table: ReadonlyTable): PlacedCell[] {
    return this.columns.flatMap((column) => {
      const at = entryOf(this.positions, column.header);
      const toCell = column.scope.is === "lane" ? undefined : cellWriter(this.context, column, table);
      return toCell ? [{ at, scope: column.scope.is, toCell }] : [];
    });
  }
}
