/**
 * Filling: the rows of a block into a record, its children and their entries.
 *
 * Here is which row fills which record; how cells fill a record is in `fill-record.ts`, axes and values in `fill-axes.ts`.
 */

import type { Header } from "../nominal.js";
import { firstOf, present } from "../checked.js";
import type { Table } from "../catalogue/table.js";
import type { Codec, Problem } from "../codecs/codec.js";
import { textCodec } from "../codecs/scalars.js";
import { finding } from "../findings/finding.js";
import { fieldOf } from "../kind.js";
import type { Block } from "./cut.js";
import { markCell, type BlockRow } from "./block-row.js";
import { AxisFill } from "./fill-axes.js";
import { FillContext, shorten, type FillOptions } from "./fill-context.js";
import { ExpandFill } from "./fill-expanded.js";
import { laneFill, type RowFill } from "./fill-lanes.js";
import { RecordFill } from "./fill-record.js";
import { RecordIndex } from "./record-index.js";
import type { Column, Lane, Feed } from "./layout.js";
import { cellMark } from "./tally.js";

/** Takes the blocks of a sheet, one after the other. */
export interface BlockFiller {
  readonly block: (block: Block) => void;
  readonly end: () => void;
}

interface KeyColumn {
  readonly index: number;
  readonly header: Header;
  readonly codec: Codec;
}

interface LaneFill {
  readonly lane: Lane;
  /** By the table of the lane's owners: a child's lane runs on a single's rows too. */
  readonly ofParent: RowFill | undefined;
  readonly ofChild: RowFill | undefined;
}

export class Filler implements BlockFiller {
  readonly #context: FillContext;
  readonly #parents: Table;
  readonly #children: Table | undefined;
  readonly #parentFill: RecordFill;
  readonly #childFill: RecordFill | undefined;
  /** The children's columns, as they fill a parent that has no children. */
  readonly #singleFill: RecordFill | undefined;
  readonly #lanes: readonly LaneFill[];
  readonly #axes: AxisFill;
  readonly #parentKey: KeyColumn | undefined;
  readonly #childKey: KeyColumn | undefined;
  /** The parent's columns, which on further rows are blank or agree. */
  readonly #shared: readonly { readonly index: number; readonly header: Header }[];
  /** The same of the children, for rows that only add entries to them. */
  readonly #ofChildren: readonly { readonly index: number; readonly header: Header }[];
  /** Where children name their parent from afar: the parents' own rows. */
  readonly #ownRows = new Map<number, BlockRow>();
  /** What tells which record a row is of. */
  readonly #telling: number;
  /** Parents by the word that their children name them by; only where rows do. */
  readonly #named = new Map<string, number>();
  readonly #orphans: Block[] = [];

  readonly #container:
    | { readonly target: Extract<Feed, { is: "container" }>; readonly header: Header; readonly index: number }
    | undefined;
  #containers: RecordIndex | undefined;
  readonly #expand: ExpandFill | undefined;
  /** The children that each parent had before this sheet came. */
  #childrenBefore: ((parent: number) => Int32Array) | undefined;

  constructor(options: FillOptions) {
    const { layout, catalogue, indexOf } = options;
    this.#context = new FillContext(options);
    const { shape } = layout;
    const { parent, child } = shape;
    const there = layout.columns.filter((column) => indexOf(column.header) >= 0);
    const ofScope = (is: string) => there.filter((column) => column.scope.is === is);
    this.#parents = catalogue.table(parent.name);
    this.#children = child && catalogue.table(child.name);
    this.#parentFill = new RecordFill(this.#context, this.#parents, ofScope("parent"));
    this.#childFill = this.#children && new RecordFill(this.#context, this.#children, ofScope("child"));
    this.#singleFill = this.#children && new RecordFill(this.#context, this.#parents, ofScope("child"));
    this.#lanes = layout.lanes.map((lane) => ({
      lane,
      ofParent: laneFill(this.#context, this.#parents, lane, there),
      ofChild: this.#children && laneFill(this.#context, this.#children, lane, there),
    }));
    if (shape.is === "expanded")
      this.#expand = new ExpandFill(this.#context, shape, this.#parents, present(this.#children), there);
    this.#axes = new AxisFill(this.#context, this.#parents, this.#children, there);
    const groupColumn = shape.is === "grouped" ? shape.column : undefined;
    this.#parentKey = this.#keyColumn(ofScope("parent"), groupColumn);
    this.#childKey = this.#keyColumn(ofScope("child"), undefined);
    this.#container = there.flatMap(({ header, bindings }) =>
      bindings.flatMap(({ feed: target }) =>
        target.is === "container" ? [{ target, header, index: indexOf(header) }] : [],
      ),
    )[0];
    const telling =
      groupColumn ?? (shape.is === "own-row" && shape.joined.by === "reference" ? shape.joined.column : undefined);
    this.#telling = telling === undefined ? -1 : indexOf(telling);
    const positions = (columns: readonly Column[]) =>
      columns.flatMap(({ header, bindings }) =>
        header === telling || bindings.every(({ feed: target }) => target.is === "shape")
          ? []
          : [{ index: indexOf(header), header }],
      );
    this.#shared = positions(ofScope("parent"));
    this.#ofChildren = positions(ofScope("child"));
  }

  block(block: Block): void {
    const { shape } = this.#context.layout;
    const first = firstOf(block.rows);
    if (shape.is === "own-row" && first.role === "child") {
      const parent = this.#named.get(block.word);
      if (parent === undefined) this.#orphans.push(block);
      else this.#fillFromAfar(parent, block.rows);
      return;
    }
    const parent = this.#openParent(first, block);
    this.#fillBlock(parent, first, block);
    this.#checkShared(parent, first, block.rows.slice(1));
    this.#context.close(block.rows, this.#parents, parent);
  }

  #fillBlock(parent: number, first: BlockRow, block: Block): void {
    const { shape } = this.#context.layout;
    for (const row of block.rows) markCell(row, this.#telling, cellMark.taken);
    this.#parentFill.fill(parent, first);
    this.#axes.parent(parent, first);
    for (const { lane, ofParent } of this.#lanes)
      if (lane.of === "parent") for (const row of block.rows) ofParent?.fill(parent, row);
    if (!shape.child) return;
    if (this.#expand?.hasValues(first)) this.#expand.fill(parent, first, this.#axes.byNumber);
    else if (!this.#isSingle(parent, block.rows)) this.#fillChildren(parent, block.rows);
    else {
      // In a document a single's one version has an element of its own.
      const at = shape.is === "nested" ? block.rows.findIndex((row) => row.role === "child") : 0;
      if (at < 0) return;
      present(this.#singleFill).fill(parent, block.rows[at]!);
      this.#fillLanes("ofParent", parent, block.rows, at);
    }
  }

  /** Children whose parent came after them, in another sheet, or never. */
  end(): void {
    const { catalogue, findings, layout } = this.#context;
    const { shape } = layout;
    let finder: RecordIndex | undefined;
    for (const block of this.#orphans) {
      let parent = this.#named.get(block.word);
      if (
        parent === undefined &&
        shape.is === "own-row" &&
        shape.joined.by === "reference" &&
        shape.joined.names !== "line"
      ) {
        finder ??= new RecordIndex(catalogue, shape.parent, { names: shape.joined.names, sheet: undefined });
        const found = finder.find(block.word);
        if (found.length === 1) parent = firstOf(found).row;
      }
      if (parent !== undefined) this.#fillFromAfar(parent, block.rows);
      else
        for (const row of block.rows) {
          findings.add(finding("read/orphan-row", { names: block.word }, this.#context.location(row.line)));
          this.#context.tally.whole(row.cells, "in findings");
        }
    }
  }

  /** Children that do not stand below their parent: they go on with the axes it has. */
  #fillFromAfar(parent: number, rows: readonly BlockRow[]): void {
    const first = firstOf(rows);
    for (const row of rows) markCell(row, this.#telling, cellMark.taken);
    this.#axes.parent(parent, first);
    this.#fillChildren(parent, rows);
    const own = this.#ownRows.get(parent);
    if (own) this.#checkShared(parent, own, rows);
    this.#context.close(rows, this.#parents, parent);
  }

  #isSingle(parent: number, rows: readonly BlockRow[]): boolean {
    const children = rows.filter((row) => row.role === "child");
    const { shape } = this.#context.layout;
    if (children.length === 0) return true;
    if (shape.is !== "grouped" && shape.is !== "nested") return false;
    if (!this.#parents.kind.single || children.length !== 1 || !this.#axes.isBlank(firstOf(children))) return false;
    if (!this.#context.merging) return true;
    // A row that joins a product known from another sheet goes on with the single that it is, not with a variant of it.
    this.#childrenBefore ??= present(this.#children).childrenNow();
    return this.#isElsewhere(this.#parents, parent) && this.#childrenBefore(parent).length === 0;
  }

  #openParent(first: BlockRow, block: Block): number {
    const { findings, catalogue, layout, sheet, translates } = this.#context;
    const { shape } = layout;
    const key = this.#keyOf(first, this.#parentKey) ?? this.#fallbackKey(first);
    const known = this.#parents.find(key);
    const isElsewhere = known !== undefined && (translates || this.#parents.sheet(known) !== sheet);
    this.#context.merging = known !== undefined && (isElsewhere || shape.is === "grouped");
    if (known !== undefined && this.#context.merging) {
      if (!isElsewhere && shape.is === "grouped" && !shape.scattered) {
        const location = this.#context.location(first.line, shape.column, this.#parents, known);
        findings.add(
          finding("read/scattered-group", { group: key }, location, [catalogue.location(this.#parents, known)]),
        );
      }
      this.#nameBlock(known, first, block);
      return known;
    }
    const row = this.#parents.append(sheet, first.line, this.#containerOf(first));
    const { taken } = this.#parents.nameRecord(row, key);
    if (taken !== undefined) {
      const kind = this.#parents.kind.name;
      findings.add(
        finding("read/repeated-key", { kind, key }, this.#context.location(first.line), [
          catalogue.location(this.#parents, taken),
        ]),
      );
    }
    this.#nameBlock(row, first, block);
    return row;
  }

  /** The record that a row says its own is contained in; -1 where rows do not say. */
  #containerOf(row: BlockRow): number {
    if (!this.#container) return -1;
    const { target, header, index } = this.#container;
    const { catalogue, findings } = this.#context;
    const kind = catalogue.kinds.get(target.spec.to);
    const names = target.spec.by === "name" ? `name@${target.spec.lang}` : target.spec.by;
    this.#containers ??= new RecordIndex(catalogue, kind, { names, sheet: undefined });
    const word = cellAt(row, index) ?? "";
    const found = this.#containers.find(word).filter(({ table }) => table.kind === kind);
    markCell(row, index, found.length === 1 ? cellMark.taken : cellMark.reported);
    if (found.length === 1) return firstOf(found).row;
    findings.add(finding("read/orphan-row", { names: word }, this.#context.location(row.line, header)));
    return -1;
  }

  /** Keeps the word that rows further down may name the parent by. */
  #nameBlock(row: number, first: BlockRow, block: Block): void {
    const { shape } = this.#context.layout;
    if (shape.is !== "own-row" || shape.joined.by !== "reference") return;
    this.#ownRows.set(row, first);
    this.#named.set(shape.joined.names === "line" ? String(first.line) : block.word, row);
  }

  /** The column of the key: what is declared as key, else what groups rows, else the code. */
  #keyColumn(columns: readonly Column[], groupColumn: string | undefined): KeyColumn | undefined {
    const feeding = (test: (target: Feed) => boolean) =>
      columns.find(({ bindings }) => bindings.some(({ feed: target }) => test(target)));
    const column =
      feeding((target) => target.is === "key") ??
      columns.find(({ header }) => header === groupColumn) ??
      feeding((target) => target.is === "text" && target.field === "code");
    const header = column?.header ?? groupColumn;
    if (header === undefined) return undefined;
    return { index: this.#context.indexOf(header), header, codec: present(column?.bindings[0]).codec ?? textCodec };
  }

  #keyOf(row: BlockRow, column: KeyColumn | undefined): string | undefined {
    const cell = column && cellAt(row, column.index);
    if (cell === undefined) return undefined;
    const key = present(column).codec.parse(cell);
    markCell(row, present(column).index, typeof key === "string" ? cellMark.taken : cellMark.reported);
    if (typeof key === "string") return key;
    const { problem, text, wanted } = key as Problem;
    const location = this.#context.location(row.line, present(column).header);
    this.#context.findings.add(finding(`cell/${problem}`, { text, wanted }, location));
    return cell;
  }

  /** Where nothing is declared as key: the record's name, in the first language that has a column. */
  #fallbackKey(row: BlockRow): string {
    const { kind } = this.#parents;
    const header =
      fieldOf(kind, "name") &&
      headerFeeding(this.#context.layout.columns, (target) => target.is === "text" && target.field.startsWith("name@"));
    const name = header === undefined ? undefined : cellAt(row, this.#context.indexOf(header));
    if (name === undefined)
      this.#context.findings.add(finding("read/no-key", { kind: kind.name }, this.#context.location(row.line)));
    return name ?? `${kind.name} on line ${row.line}`;
  }

  /**
   * Cells of a record on rows below its first: blank, or the same again; else they are reported. What a row was read for already (the
   * axes' names, on the first of children's rows that come from afar) is left alone.
   */
  #checkShared(parent: number, first: BlockRow, rows: readonly BlockRow[]): void {
    const { shape } = this.#context.layout;
    const everyRow = shape.is === "grouped" && shape.everyRow;
    let child: BlockRow = first;
    for (const row of rows) {
      if (row.role !== "more") child = row;
      for (const column of this.#shared) this.#compare(parent, column, row, first, everyRow && row.role !== "more");
      if (row.role === "more") for (const column of this.#ofChildren) this.#compare(parent, column, row, child, false);
    }
  }

  #compare(
    parent: number,
    { index, header }: { readonly index: number; readonly header: Header },
    row: BlockRow,
    above: BlockRow,
    isBlankToo: boolean,
  ): void {
    const here = row.cells[index] ?? "";
    const first = above.cells[index] ?? "";
    if ((here === "" && !isBlankToo) || row.marks[index] === cellMark.taken) return;
    if (here === first) {
      markCell(row, index, cellMark.repeated);
      return;
    }
    markCell(row, index, cellMark.reported);
    const location = this.#context.location(row.line, header, this.#parents, parent);
    const facts = { here: shorten(here), first: shorten(first) };
    this.#context.findings.add(
      finding("read/cells-disagree", facts, location, [this.#context.location(above.line, header)]),
    );
  }

  #fillChildren(parent: number, rows: readonly BlockRow[]): void {
    const table = present(this.#children);
    for (let at = 0; at < rows.length; at++) {
      const row = rows[at]!;
      if (row.role !== "child") continue;
      const key = this.#keyOf(row, this.#childKey) ?? this.#childFallbackKey(row, parent);
      const known = this.#context.merging ? table.find(key) : undefined;
      const isSame = known !== undefined && table.parent(known) === parent && this.#isElsewhere(table, known);
      const child = isSame ? known : table.append(this.#context.sheet, row.line, parent);
      if (!isSame) table.nameRecord(child, key);
      this.#axes.child(child, row, parent);
      present(this.#childFill).fill(child, row);
      this.#fillLanes("ofChild", child, rows, at);
    }
  }

  #isElsewhere(table: Table, row: number): boolean {
    return this.#context.translates || table.sheet(row) !== this.#context.sheet;
  }

  /** Where a child has neither key nor code: its parent's key, and its name or the values that set it apart. */
  #childFallbackKey(row: BlockRow, parent: number): string {
    const isValue = (_: Column, target: Feed) =>
      target.is === "named-axis" || (target.is === "axis" && target.holds === "value" && target.leads);
    const isOwnName = (column: Column, target: Feed) =>
      column.scope.is === "child" && target.is === "text" && target.field.startsWith("name@");
    const wordsOf = (test: (column: Column, target: Feed) => boolean) =>
      this.#context.layout.columns
        .filter((column) => column.bindings.some(({ feed: target }) => test(column, target)))
        .map((column) => cellAt(row, this.#context.indexOf(column.header)))
        .filter((word) => word !== undefined);
    const values = wordsOf(isValue).join(" / ");
    const word = values === "" ? wordsOf(isOwnName)[0] : values;
    return `${this.#parents.key(parent)}/${word ?? `line ${row.line}`}`;
  }

  /** The entries of the children's lanes, on a record's row and on the rows that continue it. */
  #fillLanes(owner: "ofParent" | "ofChild", record: number, rows: readonly BlockRow[], at: number): void {
    for (const laneFill of this.#lanes) {
      if (laneFill.lane.of !== "child") continue;
      laneFill[owner]?.fill(record, rows[at]!);
      for (let next = at + 1; rows[next]?.role === "more"; next++) laneFill[owner]?.fill(record, rows[next]!);
    }
  }
}

function cellAt(row: BlockRow, index: number): string | undefined {
  const cell = row.cells[index] ?? "";
  return cell === "" ? undefined : cell;
}

function headerFeeding(columns: readonly Column[], test: (target: Feed) => boolean): string | undefined {
  return columns.find((column) => column.bindings.some(({ feed: target }) => test(target)))?.header;
}
