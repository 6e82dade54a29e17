/**
 * Writing: records of the catalogue into rows, by a layout: the same layout that reads them.
 *
 * A block is unrolled: the parent's own row or the first child's, a row for each child, and beside them the lanes, which lengthen
 * the block where they are longer; all of it again for each language that has rows of its own.
 */

import { firstOf, fitting, entryOf, present } from "../checked.js";
import { splitLanguage } from "../field-name.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { finding, type Findings } from "../findings/finding.js";
import { columnAt } from "../formats/letters.js";
import { sheetCells } from "./cells.js";
import type { CellLimit } from "../formats/drivers/driver.js";
import { driverOf } from "../formats/drivers/drivers.js";
import { fieldName } from "./bindings/feed-kinds.js";
import { byLanguage, type Column, type Lane, type Layout } from "./layout.js";
import { AxisReader } from "./write-axes.js";
import { cellWriter } from "./write-cell.js";
import type { CellContext, ToCell } from "./write-context.js";
import { expandedCells, type ExpandedCells } from "./write-expanded.js";
import { laneWriter, type LaneWriter } from "./write-lanes.js";

/** A row to write, and the records it shows: row numbers of the parent's and the child's table, -1 for none. */
export interface WrittenRow {
  readonly cells: readonly string[];
  readonly parent: number;
  readonly child: number;
}

/** Which records, and which columns of them, are written. */
export interface WriteOptions {
  /** Rows of the table that `writtenKind` names, in the order to write. */
  readonly records: Iterable<number>;
  /** Headers of the columns to write; all if left out. The layout's order stays. */
  readonly columns?: ReadonlySet<string> | undefined;
  /** Children that are not written, and records to which nothing is to refer. */
  readonly isLeftOut?: ((kind: string, row: number) => boolean) | undefined;
  /** One row for each parent, without children and lanes. */
  readonly parentsOnly?: boolean | undefined;
}

/** The kind whose records are written one after the other: rows about variants are written product by product, with the singles. */
export function writtenKind({ shape }: Layout, catalogue: ResolvedCatalogue): string {
  if (shape.is !== "linked" || shape.parent.of === undefined) return shape.parent.name;
  return catalogue.kinds.get(shape.parent.of).single ? shape.parent.of : shape.parent.name;
}

/** The headers of a written sheet, each once. @param columns only these; all, if undefined. */
export function writtenHeaders(layout: Layout, columns: ReadonlySet<string> | undefined): string[] {
  const headers = layout.columns.map((column) => column.header).filter((header) => columns?.has(header) ?? true);
  return [...new Set(headers)];
}

/** The whole sheet as it stands in a file: notes and header, then the rows, with cells joined as the layout says. */
export interface WrittenSheet {
  readonly above: readonly (readonly string[])[];
  readonly rows: Iterable<readonly string[]>;
}

/** Writes records as a whole sheet. A value that the layout cannot write is a finding. */
export function writeSheet(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  options: WriteOptions,
  findings: Findings,
): WrittenSheet {
  const { headers, fold } = sheetCells(layout.cells, writtenHeaders(layout, options.columns));
  const own = headers.map((header) => header.replace(/#\d+$/, ""));
  const notes = Array.from({ length: (layout.headerLine ?? 1) - 1 }, (_, at) => [layout.notes[at] ?? ""]);
  function* rows(): Generator<readonly string[]> {
    const parents = catalogue.table(writtenKind(layout, catalogue));
    for (const row of writeRows(catalogue, layout, options, findings))
      yield fold(row.cells, (column, why) =>
        findings.add(finding("write/cannot-be-written", { column, ...why }, catalogue.location(parents, row.parent))),
      );
  }
  // Columns without headers are told by their letters, and stand in their order.
  if (layout.headerLine === undefined) return { above: [], rows: byLetters(headers, rows()) };
  return { above: [...notes, own], rows: rows() };
}

function* byLetters(letters: readonly string[], rows: Iterable<readonly string[]>): Generator<readonly string[]> {
  const width = Math.max(...letters.map(columnAt)) + 1;
  const places = letters.map(columnAt);
  for (const row of rows) {
    const cells = new Array<string>(width).fill("");
    row.forEach((cell, at) => (cells[places[at]!] = cell));
    yield cells;
  }
}

/**
 * Records as the rows of a layout.
 *
 * @returns rows without the header, lazily: findings come as rows are taken. Cells are those of the layout's columns.
 */
export function* writeRows(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  options: WriteOptions,
  findings: Findings,
): Generator<WrittenRow> {
  for (const rows of writeBlocks(catalogue, layout, options, findings)) yield* rows;
}

/** The same, block by block. */
export function* writeBlocks(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  options: WriteOptions,
  findings: Findings,
): Generator<readonly WrittenRow[]> {
  const axes = new AxisReader(catalogue);
  const writers = byLanguage(layout).map(([word, own]) => {
    const context = { catalogue, columns: own.columns, findings, isLeftOut: options.isLeftOut, axes };
    return new BlockWriter(context, own, options, layout.languages && { column: layout.languages.column, word });
  });
  // The first language's rows hold what has no language, but where rows do no more than add to records from elsewhere.
  const leads = layout.shape.is !== "linked" || !layout.languages;
  for (const record of options.records)
    for (const [at, writer] of writers.entries()) {
      const rows = writer.block(record);
      // A language in which the record has no text has no rows.
      if (rows.length > 0 && ((at === 0 && leads) || writer.hasTexts(rows))) yield rows;
    }
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
  /** Of each header among the cells of a row. */
  readonly #positions: ReadonlyMap<string, number>;
  readonly #parents: ReadonlyTable;
  readonly #children: ReadonlyTable | undefined;
  readonly #isContained: boolean;
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
  readonly #language: { readonly at: number; readonly word: string } | undefined;
  readonly #texts: readonly number[];
  readonly #expanded: ExpandedCells | undefined;
  readonly #constants: readonly (readonly [number, string])[];
  /** What the format cannot hold in a cell, by its position among the headers; undefined where it holds all. */
  readonly #cannotHold: CellLimit | undefined;

  constructor(
    readonly context: CellContext,
    readonly layout: Layout,
    readonly options: WriteOptions,
    language: { readonly column: string; readonly word: string } | undefined,
  ) {
    const { shape, lanes } = layout;
    const { catalogue } = context;
    const headers = writtenHeaders(layout, options.columns);
    this.#positions = new Map(headers.map((header, at) => [header, at]));
    this.#columns = layout.columns.filter((column) => this.#positions.has(column.header));
    this.#parents = catalogue.table(writtenKind(layout, catalogue));
    this.#isContained = this.#parents.kind.of !== undefined;
    const child = this.#parents.kind === shape.parent ? shape.child : shape.parent;
    this.#children = child && catalogue.table(child.name);
    this.#blank = headers.map(() => "");
    this.#parentCells = this.#cellsOf(this.#parents);
    const childScope = shape.is === "linked" ? "parent" : "child";
    this.#childCells = this.#children ? this.#cellsOf(this.#children).filter(({ scope }) => scope === childScope) : [];
    this.#parentLanes = this.#lanesOf(this.#parents);
    this.#childLanes = this.#children ? this.#lanesOf(this.#children) : [];
    const group = shape.is === "grouped" ? shape.column : shape.is === "linked" ? shape.found.column : undefined;
    this.#group = this.#positions.get(group ?? "") ?? -1;
    this.#groupCells = this.#parentCells.filter(({ at }) => at === this.#group);
    this.#groupOnMore = group !== undefined && !lanes.some((lane) => lane.blankColumns.includes(group));
    const at = this.#positions.get(language?.column ?? "") ?? -1;
    this.#language = language && { at, word: language.word };
    this.#texts = this.#columns.flatMap(({ header, bindings }) =>
      bindings.some(({ feed: target }) => isTranslated(target)) ? [entryOf(this.#positions, header)] : [],
    );
    this.#expanded =
      shape.is === "expanded" ? expandedCells(context, shape, this.#parents, present(this.#children)) : undefined;
    const { format } = layout;
    this.#cannotHold = driverOf(format).rows?.limits(format, headers.length - 1);
    this.#constants = this.#columns.flatMap(({ header, bindings: [first] }) =>
      first?.feed.is === "shape" && first.feed.constant !== undefined
        ? [[entryOf(this.#positions, header), first.feed.constant] as const]
        : [],
    );
  }

  hasTexts(rows: readonly WrittenRow[]): boolean {
    return rows.some((row) => this.#texts.some((at) => row.cells[at] !== ""));
  }

  block(parent: number): readonly WrittenRow[] {
    const { options, layout } = this;
    const { shape } = layout;
    const all = this.#children && !options.parentsOnly ? [...this.#children.childrenOf(parent)] : [];
    const children = options.isLeftOut
      ? all.filter((row) => !present(options.isLeftOut)(present(this.#children).kind.name, row))
      : all;
    const rows = shape.is === "linked" ? this.#linked(parent, children) : this.#unrolled(parent, children);
    for (const row of rows) {
      for (const [at, constant] of this.#constants) if (row.cells[at] === "") row.cells[at] = constant;
      if (this.#language && this.#language.at >= 0) row.cells[this.#language.at] = this.#language.word;
      if (this.#cannotHold) this.#blankWhatBreaks(row, this.#cannotHold);
    }
    return rows;
  }

  /** A cell that would come back as something else is reported, and stays blank. */
  #blankWhatBreaks(row: MutableRow, cannotHold: CellLimit): void {
    row.cells.forEach((cell, at) => {
      const wanted = cannotHold(cell, at);
      if (wanted === undefined) return;
      const { catalogue, findings } = this.context;
      const isChild = row.child >= 0 && this.#children !== undefined;
      const column = fitting(this.#columns, ({ header }) => this.#positions.get(header) === at);
      const field = fieldName(firstOf(column.bindings).feed);
      const location = isChild
        ? catalogue.location(this.#children, row.child, field)
        : catalogue.location(this.#parents, row.parent, field);
      const facts = { column: column.header, text: cell, wanted };
      findings.add(finding("write/cannot-be-written", facts, location));
      row.cells[at] = "";
    });
  }

  #unrolled(parent: number, children: readonly number[]): MutableRow[] {
    const { shape } = this.layout;
    const rows: MutableRow[] = [];
    const single = children.length === 0;
    if (shape.is === "expanded") {
      const row = this.#parentRow(parent, false);
      present(this.#expanded).fill(row.cells, parent, children, this.#positions);
      rows.push(row);
      this.#addLanes(rows, 0, this.#parentLanes, parent, (lane) => lane.of === "parent");
      return rows;
    }
    if (shape.is === "nested") return this.#nested(parent, children);
    const ownRow = shape.is === "own-row";
    if (single || ownRow) {
      rows.push(this.#parentRow(parent, single));
      // The lanes of children run on a single's own row.
      if (single) this.#addLanes(rows, rows.length - 1, this.#parentLanes, parent, () => true);
    }
    const everyRow = shape.is === "grouped" && shape.everyRow;
    for (const [location, child] of children.entries()) {
      rows.push(this.#childRow(parent, child, !ownRow && (location === 0 || everyRow)));
      this.#addLanes(rows, rows.length - 1, this.#childLanes, child, (lane) => lane.of === "child");
      if (location === 0)
        this.#addLanes(rows, 0, this.#parentLanes, parent, (lane) => lane.of === "parent" && lane.hasOwnRows);
    }
    if (!single) this.#addLanes(rows, 0, this.#parentLanes, parent, (lane) => lane.of === "parent" && !lane.hasOwnRows);
    return rows;
  }

  /** A document's block: the parent's row, the rows of its lanes, then each child's with those of its own. */
  #nested(parent: number, children: readonly number[]): MutableRow[] {
    const rows = [this.#parentRow(parent, false)];
    const below = (start: number, lanes: readonly LaneWriter[], record: number, of: Lane["of"]) =>
      this.#addLanes(rows, start, lanes, record, (lane) => lane.of === of);
    below(1, this.#parentLanes, parent, "parent");
    for (const child of children) {
      rows.push(this.#childRow(parent, child, false));
      below(rows.length, this.#childLanes, child, "child");
    }
    if (children.length > 0 || !this.#children) return rows;
    // What a single says in the columns of variants stands in the element of its one version.
    const own = { cells: this.#blank.slice(), parent, child: parent };
    for (const { at, scope, toCell } of this.#parentCells)
      if (scope === "child") own.cells[at] = toCell(parent, parent);
    if (own.cells.some((cell) => cell !== "")) rows.push(own);
    below(rows.length, this.#parentLanes, parent, "child");
    return rows;
  }

  /** Rows about a record, or about its children: each with the word it is found by; none where there is nothing to say. */
  #linked(parent: number, children: readonly number[]): MutableRow[] {
    const rows: MutableRow[] = [];
    const isAboutChildren = this.#children?.kind === this.layout.shape.parent;
    const owners = isAboutChildren && children.length > 0 ? children : [parent];
    for (const owner of owners) {
      const isChild = isAboutChildren && children.length > 0;
      const cells = this.#blank.slice();
      for (const { at, toCell } of isChild ? this.#childCells : this.#parentCells) cells[at] = toCell(owner, parent);
      const own: MutableRow[] = [{ cells, parent, child: isChild ? owner : -1 }];
      if (this.#group >= 0) cells[this.#group] = this.#foundWord(isChild ? this.#children : this.#parents, owner);
      this.#addLanes(own, 0, isChild ? this.#childLanes : this.#parentLanes, owner, () => true);
      if (own.some((row) => row.cells.some((cell, at) => cell !== "" && at !== this.#group))) rows.push(...own);
    }
    return rows;
  }

  #foundWord(table: ReadonlyTable, row: number): string {
    const { shape } = this.layout;
    if (shape.is !== "linked") return "";
    const { names } = shape.found;
    if (names === "key") return table.key(row);
    if (names === "line") return String(table.line(row));
    return table.text(names, row) ?? "";
  }

  #cellsOf(table: ReadonlyTable): PlacedCell[] {
    return this.#columns.flatMap((column) => {
      const at = entryOf(this.#positions, column.header);
      const toCell = column.scope.is === "lane" ? undefined : cellWriter(this.context, column, table);
      return toCell ? [{ at, scope: column.scope.is, toCell }] : [];
    });
  }

  #lanesOf(table: ReadonlyTable): LaneWriter[] {
    return this.options.parentsOnly
      ? []
      : this.layout.lanes.flatMap(
          (lane) => laneWriter(this.context, lane, this.#columns, table, this.#positions) ?? [],
        );
  }

  #parentRow(parent: number, single: boolean): MutableRow {
    const cells = this.#blank.slice();
    // Rows of records that are contained in others take over what those say, as children do.
    const above = this.layout.shape.is === "flat" && this.#isContained ? this.#parents.parent(parent) : parent;
    for (const { at, scope, toCell } of this.#parentCells)
      if (scope === "parent" || single) cells[at] = toCell(parent, above);
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
    this.#columns.forEach((column) => {
      const fixed = this.#fixedCell(column, parent, isChild);
      if (fixed !== undefined) cells[entryOf(this.#positions, column.header)] = fixed;
    });
  }

  /** Cells that the shape itself fills: the marker, and the word that joins a child to its parent. */
  #fixedCell(column: Column, parent: number, isChild: boolean): string | undefined {
    const { shape } = this.layout;
    if (shape.is !== "own-row") return undefined;
    if (shape.marker?.column === column.header) return isChild ? shape.marker.child : shape.marker.parent;
    if (shape.joined.by !== "reference" || shape.joined.column !== column.header) return undefined;
    // A column that is the parent's own field too shows that field on its own row.
    if (!isChild) return firstOf(column.bindings).feed.is === "shape" ? "" : undefined;
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
    const cells = this.#blank.map((_, at) => (at === this.#group && this.#groupOnMore ? above.cells[at]! : ""));
    return { ...above, cells };
  }
}

/** Whether a column says something that is in a language. */
function isTranslated(target: Column["bindings"][number]["feed"]): boolean {
  if (target.is === "axis" || target.is === "named-axis") return true;
  return target.is === "text" && splitLanguage(target.field).lang !== undefined;
}
