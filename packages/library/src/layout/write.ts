/**
 * Writing: records of the catalogue into rows, by a layout: the same layout that reads them.
 *
 * A block is unrolled: the parent's own row or the first child's, a row for each child, and beside them the lanes, which lengthen
 * the block where they are longer.
 */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Table } from "../catalogue/table.js";
import type { Findings } from "../finding.js";
import type { Column, Lane, Layout } from "./layout.js";
import { AxisReader } from "./write-axes.js";
import { cellWriter, type CellContext, type ToCell } from "./write-cell.js";
import { laneWriter, type LaneWriter } from "./write-lanes.js";

/** A row to write, and the records it shows: row numbers of the parent's and the child's table, -1 for none. */
export interface WrittenRow {
  readonly cells: readonly string[];
  readonly parent: number;
  readonly child: number;
}

export interface WriteOptions {
  /** Rows of the parent's table (of the kind itself, where rows are one record each), in the order to write. */
  readonly records: Iterable<number>;
  /** Headers of the columns to write; all if left out. The layout's order stays. */
  readonly columns?: ReadonlySet<string> | undefined;
  /** Children that are not written, and records to which nothing is to refer. */
  readonly isLeftOut?: ((kind: string, row: number) => boolean) | undefined;
  /** One row for each parent, without children and lanes. */
  readonly parentsOnly?: boolean | undefined;
}

export function writtenHeaders(layout: Layout, columns: ReadonlySet<string> | undefined): string[] {
  return layout.columns.map((column) => column.header).filter((header) => columns?.has(header) ?? true);
}

/** @returns rows without the header, lazily: findings come as rows are taken. */
export function* writeRows(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  options: WriteOptions,
  findings: Findings,
): Generator<WrittenRow> {
  const writer = new BlockWriter(
    { catalogue, columns: layout.columns, findings, isLeftOut: options.isLeftOut, axes: new AxisReader(catalogue) },
    layout,
    options,
  );
  for (const record of options.records) yield* writer.block(record);
}

/** A column that records of a table have something for. */
interface PlacedCell {
  readonly at: number;
  readonly scope: Column["scope"]["is"];
  readonly toCell: ToCell;
}

type MutableRow = { cells: string[]; parent: number; child: number };

class BlockWriter {
  readonly #columns: readonly Column[];
  readonly #parents: Table;
  readonly #children: Table | undefined;
  readonly #blank: readonly string[];
  /** What a parent shows: its own columns, and as a single its children's. */
  readonly #parentCells: readonly PlacedCell[];
  readonly #childCells: readonly PlacedCell[];
  /** What every row of a group shows of its parent. */
  readonly #groupCells: readonly PlacedCell[];
  readonly #parentLanes: readonly LaneWriter[];
  readonly #childLanes: readonly LaneWriter[];
  /** Position of the column that groups rows, and whether continuation rows show it too. */
  readonly #group: number;
  readonly #groupOnMore: boolean;

  constructor(
    readonly context: CellContext,
    readonly layout: Layout,
    readonly options: WriteOptions,
  ) {
    const { shape, lanes } = layout;
    this.#columns = layout.columns.filter((column) => options.columns?.has(column.header) ?? true);
    this.#parents = context.catalogue.table(shape.is === "flat" ? shape.kind.name : shape.parent.name);
    this.#children = shape.is === "flat" ? undefined : context.catalogue.table(shape.child.name);
    this.#blank = this.#columns.map(() => "");
    this.#parentCells = this.#cellsOf(this.#parents);
    this.#childCells = this.#children ? this.#cellsOf(this.#children).filter(({ scope }) => scope === "child") : [];
    this.#parentLanes = this.#lanesOf(this.#parents);
    this.#childLanes = this.#children ? this.#lanesOf(this.#children) : [];
    this.#group = shape.is === "grouped" ? this.#columns.findIndex((column) => column.header === shape.column) : -1;
    this.#groupCells = this.#parentCells.filter(({ at }) => at === this.#group);
    this.#groupOnMore = shape.is === "grouped" && !lanes.some((lane) => lane.blankColumns.includes(shape.column));
  }

  *block(parent: number): Generator<WrittenRow> {
    const { options, layout } = this;
    const ownRow = layout.shape.is === "own-row";
    const all = this.#children && !options.parentsOnly ? [...this.#children.childrenOf(parent)] : [];
    const children = options.isLeftOut ? all.filter((row) => !options.isLeftOut!(this.#children!.kind.name, row)) : all;
    const single = children.length === 0;
    const rows: MutableRow[] = [];
    if (single || ownRow) {
      rows.push(this.#parentRow(parent, single));
      // The lanes of children run on a single's own row.
      if (single) this.#addLanes(rows, rows.length - 1, this.#parentLanes, parent, () => true);
    }
    const everyRow = layout.shape.is === "grouped" && layout.shape.everyRow;
    for (const [place, child] of children.entries()) {
      rows.push(this.#childRow(parent, child, !ownRow && (place === 0 || everyRow)));
      this.#addLanes(rows, rows.length - 1, this.#childLanes, child, (lane) => lane.of === "child");
    }
    if (!single) this.#addLanes(rows, 0, this.#parentLanes, parent, (lane) => lane.of === "parent");
    yield* rows;
  }

  #cellsOf(table: Table): PlacedCell[] {
    return this.#columns.flatMap((column, at) => {
      const toCell = column.scope.is === "lane" ? undefined : cellWriter(this.context, column, table);
      return toCell ? [{ at, scope: column.scope.is, toCell }] : [];
    });
  }

  #lanesOf(table: Table): LaneWriter[] {
    return this.options.parentsOnly
      ? []
      : this.layout.lanes.flatMap((lane) => laneWriter(this.context, lane, this.#columns, table) ?? []);
  }

  #parentRow(parent: number, single: boolean): MutableRow {
    const cells = this.#blank.slice();
    for (const { at, scope, toCell } of this.#parentCells)
      if (scope === "parent" || single) cells[at] = toCell(parent, parent);
    this.#fixCells(cells, parent, false);
    return { cells, parent, child: -1 };
  }

  #childRow(parent: number, child: number, shared: boolean): MutableRow {
    const cells = this.#blank.slice();
    for (const { at, toCell } of this.#childCells) cells[at] = toCell(child, parent);
    for (const { at, scope, toCell } of shared ? this.#parentCells : this.#groupCells)
      if (scope === "parent") cells[at] = toCell(parent, parent);
    this.#fixCells(cells, parent, true);
    return { cells, parent, child };
  }

  #fixCells(cells: string[], parent: number, isChild: boolean): void {
    if (this.layout.shape.is !== "own-row") return;
    this.#columns.forEach((column, at) => {
      const fixed = this.#fixedCell(column, parent, isChild);
      if (fixed !== undefined) cells[at] = fixed;
    });
  }

  /** Cells that the shape itself fills: the marker, and the word that joins a child to its parent. */
  #fixedCell(column: Column, parent: number, isChild: boolean): string | undefined {
    const { shape } = this.layout;
    if (shape.is !== "own-row") return undefined;
    if (shape.marker?.column === column.header) return isChild ? shape.marker.child : shape.marker.parent;
    if (shape.joined.by !== "reference" || shape.joined.column !== column.header) return undefined;
    // A column that is the parent's own field too shows that field on its own row.
    if (!isChild) return column.bindings[0]!.target.feeds === "shape" ? "" : undefined;
    const code = shape.joined.names === "code" ? this.#parents.text("code", parent) : undefined;
    return code ?? this.#parents.key(parent);
  }

  /** Puts the elements of a record's lanes on rows from `start` on, with continuation rows where there are too few. */
  #addLanes(
    rows: MutableRow[],
    start: number,
    lanes: readonly LaneWriter[],
    record: number,
    applies: (lane: Lane) => boolean,
  ): void {
    for (const { lane, elementsOf, columns } of lanes) {
      if (!applies(lane)) continue;
      let at = start;
      for (const element of elementsOf(record)) {
        const row = (rows[at++] ??= this.#continuation(rows[rows.length - 1]!));
        for (const column of columns) row.cells[column.at] = column.toCell(element, record);
      }
    }
  }

  #continuation(above: MutableRow): MutableRow {
    const cells = this.#columns.map((_, at) => (at === this.#group && this.#groupOnMore ? above.cells[at]! : ""));
    return { ...above, cells };
  }
}
