/**
 * Filling: the rows of a block into a record, its children and their entries.
 *
 * Here is what every row shape needs; the shape decides which rows fill what. How cells fill a record is in `record.ts`, axes and
 * values in `axes.ts`.
 */

import { firstOf, present } from "../../checked.js";
import type { ChildrenThen } from "../../catalogue/readonly-table.js";
import type { Table } from "../../catalogue/table.js";
import { finding } from "../../findings/finding.js";
import type { Block } from "../read/cut.js";
import { markCell, type BlockRow } from "../read/block-row.js";
import { AxisFill } from "./axes.js";
import { ContainerReader } from "./container.js";
import { FillContext, type FillOptions } from "./context.js";
import type { EntriesBefore } from "./entries-before.js";
import type { RecordIndex } from "../read/record-index.js";
import { KeyReader, keyFromName, keyOfChild } from "./keys.js";
import { laneFill, type RowFill } from "./lanes.js";
import { RecordFill } from "./record.js";
import { SharedCells } from "./shared.js";
import type { Column, Lane } from "../layout.js";
import { cellMark } from "../read/tally.js";

/** Takes the blocks of a sheet, one after the other. */
export interface BlockFiller {
  /** @param found the record that the block is of, where rows name one that other sheets give. */
  readonly block: (block: Block, found?: number) => void;
  readonly end: () => void;
  /** How it finds the records that linked rows name. */
  readonly linked?: LinkedRecords | undefined;
}

/** Where the records are that linked rows name, and which entries these had before. */
export interface LinkedRecords {
  readonly index: RecordIndex;
  readonly before: EntriesBefore;
}

interface LaneFill {
  readonly lane: Lane;
  /** By the table of the lane's owners: a child's lane runs on a single's rows too. */
  readonly ofParent: RowFill | undefined;
  readonly ofChild: RowFill | undefined;
}

/** What of a layout's shape filling goes by. */
export interface FillPlan {
  /** Whose records the blocks are of, where it is not the shape's own parent. */
  readonly parents?: Table | undefined;
  /** The column that names the record on each of its rows. */
  readonly groupColumn?: string | undefined;
  /** The column that says which record a row is of. */
  readonly telling?: string | undefined;
}

/** What becomes of a record that the same sheet has had already. */
export type Repeated = "reported" | "goes on" | "goes on, reported";

export class BlockFill {
  readonly context: FillContext;
  readonly parents: Table;
  readonly children: Table | undefined;
  readonly axes: AxisFill;
  /** The columns of the layout that the sheet has. */
  readonly columns: readonly Column[];
  readonly #parentFill: RecordFill;
  /** What belongs to a record's axes, which its children may name. */
  readonly #axesFill: RecordFill;
  #opened: { readonly parent: number; readonly first: BlockRow } | undefined;
  readonly #childFill: RecordFill | undefined;
  /** The children's columns, as they fill a parent that has no children. */
  readonly #singleFill: RecordFill | undefined;
  readonly #lanes: readonly LaneFill[];
  readonly #parentKeys: KeyReader;
  readonly #childKeys: KeyReader;
  readonly #shared: SharedCells;
  readonly #container: ContainerReader;
  readonly #telling: number;
  readonly #groupColumn: string | undefined;
  /** The children that each parent had before this sheet came. */
  #childrenBefore: ChildrenThen | undefined;

  constructor(options: FillOptions, { parents, groupColumn, telling = groupColumn }: FillPlan = {}) {
    const { layout, catalogue, indexOf } = options;
    const context = new FillContext(options);
    this.context = context;
    const { parent, child } = layout.shape;
    this.columns = layout.columns.filter((column) => indexOf(column.header) >= 0);
    const ofScope = (is: string) => this.columns.filter((column) => column.scope.is === is);
    this.parents = parents ?? catalogue.table(parent.name);
    this.children = child && catalogue.table(child.name);
    this.#parentFill = new RecordFill(context, this.parents, ofScope("parent"));
    this.#axesFill = new RecordFill(context, this.parents, ofScope("parent"), ["after its axes"]);
    this.#childFill = this.children && new RecordFill(context, this.children, ofScope("child"));
    this.#singleFill = this.children && new RecordFill(context, this.parents, ofScope("child"));
    this.#lanes = layout.lanes.map((lane) => ({
      lane,
      ofParent: laneFill(context, this.parents, lane, this.columns),
      ofChild: this.children && laneFill(context, this.children, lane, this.columns),
    }));
    this.axes = new AxisFill(context, this.parents, this.children, this.columns);
    this.#groupColumn = groupColumn;
    this.#parentKeys = new KeyReader(context, this.parents.kind, ofScope("parent"), groupColumn);
    this.#childKeys = new KeyReader(context, child ?? parent, ofScope("child"), undefined);
    this.#shared = new SharedCells(context, this.columns, telling);
    this.#container = new ContainerReader(context, this.columns);
    this.#telling = telling === undefined ? -1 : indexOf(telling);
  }

  /**
   * Takes blocks whose first row is the record's own.
   *
   * @param below fills what the rows have beside the record itself.
   * @param repeated what becomes of a record that the sheet has had already.
   * @param isOnEveryRow whether all rows have to have the record's cells.
   */
  blocks(
    below: (parent: number, rows: readonly BlockRow[]) => void,
    repeated: Repeated = "reported",
    isOnEveryRow = false,
  ): BlockFiller {
    return {
      block: ({ rows }, found) => {
        const first = firstOf(rows);
        const parent = this.open(first, found, repeated);
        this.fillParent(parent, rows);
        below(parent, rows);
        if (rows.length > 1) this.checkShared(parent, first, rows.slice(1), isOnEveryRow);
        this.close(parent, rows);
      },
      end: () => undefined,
    };
  }

  /** The record of a block: the one that was found, else the one of its key, else a new one. */
  open(first: BlockRow, found: number | undefined, repeated: Repeated = "reported"): number {
    const { context, parents } = this;
    const { findings, catalogue, sheet, translates } = context;
    if (found !== undefined) {
      context.merging = true;
      this.#parentKeys.check(first, parents, found);
      return found;
    }
    const key = this.#parentKeys.keyOf(first) ?? this.#parentKeys.within(first, keyFromName(context, parents, first));
    const known = parents.find(key);
    const isElsewhere = known !== undefined && (translates || parents.sheet(known) !== sheet);
    context.merging = known !== undefined && (isElsewhere || repeated !== "reported");
    if (known !== undefined && context.merging) {
      if (!isElsewhere && repeated === "goes on, reported") {
        const location = context.location(first.line, this.#groupColumn, parents, known);
        findings.add(finding("read/scattered-group", { group: key }, location, [catalogue.location(parents, known)]));
      }
      return known;
    }
    const row = parents.append(sheet, first.line, this.#container.of(first));
    const { taken } = parents.nameRecord(row, key);
    if (taken !== undefined)
      findings.add(
        finding("read/repeated-key", { kind: parents.kind.name, key }, context.location(first.line), [
          catalogue.location(parents, taken),
        ]),
      );
    return row;
  }

  /** What the rows of a block say of its record: its own cells on the first, its entries on all. */
  fillParent(parent: number, rows: readonly BlockRow[]): void {
    this.tell(rows);
    const first = firstOf(rows);
    this.#opened = { parent, first };
    this.#parentFill.fill(parent, first);
    this.axes.parent(parent, first);
    this.fillParentLanes(parent, rows);
  }

  fillParentLanes(parent: number, rows: readonly BlockRow[]): void {
    for (const { lane, ofParent } of this.#lanes)
      if (lane.of === "parent") for (const row of rows) ofParent?.fill(parent, row);
  }

  /** The cells that say which record the rows are of have been read. */
  tell(rows: readonly BlockRow[]): void {
    for (const row of rows) markCell(row, this.#telling, cellMark.taken);
  }

  /** Whether a block's rows are of a record without children: what stands in the children's columns is its own. */
  isSingle(parent: number, rows: readonly BlockRow[]): boolean {
    const children = rows.filter((row) => row.role === "child");
    if (children.length === 0) return true;
    if (!this.parents.kind.single || children.length !== 1 || !this.axes.isBlank(firstOf(children))) return false;
    if (!this.context.merging) return true;
    // A row that joins a product known from another sheet goes on with the single that it is, not with a variant of it.
    this.#childrenBefore ??= present(this.children).childrenNow();
    return this.#isElsewhere(this.parents, parent) && this.#childrenBefore.count(parent) === 0;
  }

  /** A record without children, in the children's columns of the row `at`, and of those that continue it. */
  fillSingle(parent: number, rows: readonly BlockRow[], at: number): void {
    if (at < 0) return;
    this.#singleFill?.fill(parent, rows[at]!);
    this.#fillLanes("ofParent", parent, rows, at);
  }

  fillChildren(parent: number, rows: readonly BlockRow[]): void {
    const { context } = this;
    for (let at = 0; at < rows.length; at++) {
      const row = rows[at]!;
      if (row.role !== "child") continue;
      const key = this.#childKeys.keyOf(row) ?? keyOfChild(context, this.parents.key(parent), row);
      const child = this.childOf(parent, key, row.line);
      this.axes.child(child, row, parent);
      present(this.#childFill).fill(child, row);
      this.#fillLanes("ofChild", child, rows, at);
    }
  }

  /** The child of a key: the one that the parent has from elsewhere, else a new one. */
  childOf(parent: number, key: string, line: number): number {
    const { context } = this;
    const table = present(this.children);
    const known = context.merging ? table.find(key) : undefined;
    if (known !== undefined && table.parent(known) === parent && this.#isElsewhere(table, known)) return known;
    const child = table.append(context.sheet, line, parent);
    table.nameRecord(child, key);
    return child;
  }

  /** Rows below the first of their record agree with it. */
  checkShared(parent: number, first: BlockRow, rows: readonly BlockRow[], isOnEveryRow = false): void {
    const { context, parents } = this;
    this.#shared.check(first, rows, isOnEveryRow, (line, header) => context.location(line, header, parents, parent));
  }

  /** Counts what became of the cells of rows that are done. */
  close(parent: number, rows: readonly BlockRow[]): void {
    if (this.#opened?.parent === parent) this.#axesFill.fill(parent, this.#opened.first);
    this.#opened = undefined;
    this.context.close(rows, this.parents, parent);
  }

  #isElsewhere(table: Table, row: number): boolean {
    return this.context.translates || table.sheet(row) !== this.context.sheet;
  }

  /** The entries of the children's lanes, on a record's row and on the rows that continue it. */
  #fillLanes(owner: "ofParent" | "ofChild", record: number, rows: readonly BlockRow[], at: number): void {
    for (const fill of this.#lanes) {
      if (fill.lane.of !== "child") continue;
      fill[owner]?.fill(record, rows[at]!);
      for (let next = at + 1; rows[next]?.role === "more"; next++) fill[owner]?.fill(record, rows[next]!);
    }
  }
}
