/**
 * Filling: the rows of a block into a record, its children and their entries.
 *
 * Each binding is turned once into a function that sets one cell; a block runs through them.
 */

import type { Catalogue } from "../catalogue/catalogue.js";
import { noReference, type ReferenceSpec } from "../catalogue/reference-pool.js";
import type { Table } from "../catalogue/table.js";
import { isProblem, type CellValue, type Problem } from "../codecs/codec.js";
import { finding, type Findings } from "../finding.js";
import { fieldOf, type KindSpec } from "../kind.js";
import type { Place } from "../place.js";
import type { Block, BlockRow } from "./cut.js";
import type { Binding, Column, Constants, EntryField, Lane, Layout, Target } from "./layout.js";

export const maxCellChars = 1_000_000;
const cachedCells = 20_000;

/** Sets a field of a record from a cell that is not blank. */
type Fill = (row: number, cell: string, line: number) => void;

interface FillColumn {
  readonly index: number;
  readonly header: string;
  readonly fills: readonly Fill[];
  readonly blankEmpties: readonly string[];
}

/** Columns that together make one entry: same collection, same constants. */
interface EntryGroup {
  readonly entries: string;
  readonly constants: Constants;
  readonly columns: {
    readonly index: number;
    readonly header: string;
    readonly field: EntryField;
    readonly binding: Binding;
  }[];
}

/** What the cells of one scope do to records of one table. */
interface ScopeFill {
  readonly table: Table;
  readonly columns: readonly FillColumn[];
  readonly groups: readonly EntryGroup[];
}

type ReadReferences = (cell: string, line: number) => readonly number[] | Problem;

interface AxisColumn {
  readonly index: number;
  readonly header: string;
  readonly target: Extract<Target, { feeds: "axis" | "named-axis" }>;
}

export class Filler {
  readonly #parent: Table;
  readonly #child: Table | undefined;
  readonly #parentFill: ScopeFill;
  readonly #childFill: ScopeFill | undefined;
  /** The children's columns, as they fill a parent that has no children. */
  readonly #singleFill: ScopeFill | undefined;
  readonly #laneGroups: ReadonlyMap<Lane, EntryGroup>;
  readonly #axisColumns: readonly AxisColumn[];
  readonly #parentKey: number;
  readonly #childKey: number;
  readonly #shared: readonly { readonly index: number; readonly header: string }[];
  /** Parents by the word that their children name them by; only where rows do. */
  readonly #named = new Map<string, number>();
  readonly #orphans: Block[] = [];
  #merging = false;

  constructor(
    readonly layout: Layout,
    readonly catalogue: Catalogue,
    readonly sheet: number,
    readonly indexOf: (header: string) => number,
    readonly findings: Findings,
  ) {
    const { shape } = layout;
    const [parent, child] = shape.is === "flat" ? [shape.kind, undefined] : [shape.parent, shape.child];
    this.#parent = catalogue.table(parent.name);
    this.#child = child && catalogue.table(child.name);
    const present = layout.columns.filter((column) => indexOf(column.header) >= 0);
    const ofScope = (is: string) => present.filter((column) => column.scope.is === is);
    this.#parentFill = this.#scopeFill(this.#parent, ofScope("parent"));
    this.#childFill = this.#child && this.#scopeFill(this.#child, ofScope("child"));
    this.#singleFill = this.#child && this.#scopeFill(this.#parent, ofScope("child"));
    this.#laneGroups = new Map(layout.lanes.map((lane) => [lane, this.#laneGroup(lane, present)]));
    this.#axisColumns = present.flatMap((column) =>
      column.bindings.flatMap(({ target }) =>
        target.feeds === "axis" || target.feeds === "named-axis"
          ? [{ index: indexOf(column.header), header: column.header, target }]
          : [],
      ),
    );
    this.#parentKey = this.#keyIndex(ofScope("parent"), shape.is === "grouped" ? shape.column : undefined);
    this.#childKey = this.#keyIndex(ofScope("child"), undefined);
    const groupColumn = shape.is === "grouped" ? shape.column : undefined;
    this.#shared = ofScope("parent")
      .filter((column) => column.header !== groupColumn)
      .map(({ header }) => ({ index: indexOf(header), header }));
  }

  block(block: Block): void {
    const { shape } = this.layout;
    const first = block.rows[0]!;
    if (shape.is === "own-row" && first.role === "child") {
      const parent = this.#named.get(block.word);
      if (parent === undefined) this.#orphans.push(block);
      else this.#children(parent, block.rows);
      return;
    }
    const parent = this.#openParent(first, block);
    const single = shape.is === "flat" || this.#isSingle(block.rows);
    this.#fillShared(parent, block.rows);
    if (!single) this.#children(parent, block.rows);
    else if (this.#singleFill) this.#lanesAndCells(this.#singleFill, parent, block.rows, 0);
    for (const row of block.rows) this.#lanes(this.#parentFill, parent, [row], 0, "parent");
  }

  /** Children whose parent came after them, or never. */
  end(): void {
    for (const block of this.#orphans) {
      const parent = this.#named.get(block.word);
      if (parent !== undefined) this.#children(parent, block.rows);
      else
        for (const row of block.rows)
          this.findings.add(finding("read/orphan-row", { names: block.word }, this.#place(row.line)));
    }
  }

  #isSingle(rows: readonly BlockRow[]): boolean {
    const children = rows.filter((row) => row.role === "child");
    if (this.layout.shape.is === "own-row") return children.length === 0;
    return children.length === 1 && this.#axisColumns.every(({ index }) => (children[0]!.cells[index] ?? "") === "");
  }

  #openParent(first: BlockRow, block: Block): number {
    const { shape } = this.layout;
    const key = this.#keyOf(first, this.#parentKey) ?? this.#fallbackKey(first, this.#parent.kind);
    const known = this.#parent.find(key);
    if (known !== undefined && shape.is === "grouped") {
      const sameSheet = this.#parent.sheet(known) === this.sheet;
      if (!shape.scattered && sameSheet)
        this.findings.add(
          finding("read/scattered-group", { group: key }, this.#place(first.line, shape.column, key), [
            this.catalogue.place(this.#parent, known),
          ]),
        );
      this.#merging = true;
      return known;
    }
    this.#merging = false;
    const row = this.#parent.append(this.sheet, first.line);
    const { taken } = this.#parent.nameRecord(row, key);
    if (taken !== undefined)
      this.findings.add(
        finding("read/repeated-key", { kind: this.#parent.kind.name, key }, this.#place(first.line), [
          this.catalogue.place(this.#parent, taken),
        ]),
      );
    if (shape.is === "own-row" && shape.joined.by === "reference") {
      const { names } = shape.joined;
      this.#named.set(names === "line" ? String(first.line) : names === "key" ? key : block.word, row);
    }
    return row;
  }

  #keyOf(row: BlockRow, index: number): string | undefined {
    const cell = row.cells[index] ?? "";
    return cell === "" ? undefined : cell;
  }

  #keyIndex(columns: readonly Column[], otherwise: string | undefined): number {
    const feeding = (test: (target: Target) => boolean) =>
      columns.find((column) => column.bindings.some(({ target }) => test(target)))?.header;
    const header =
      feeding((target) => target.feeds === "key") ??
      otherwise ??
      feeding((target) => target.feeds === "text" && target.slot === "code");
    return header === undefined ? -1 : this.indexOf(header);
  }

  /** Where nothing is declared as key: the record's name, in the first language that has a column. */
  #fallbackKey(row: BlockRow, kind: KindSpec): string {
    const named = this.layout.columns.find((column) =>
      column.bindings.some(
        ({ target }) => target.feeds === "text" && target.slot.startsWith("name@") && fieldOf(kind, "name"),
      ),
    );
    const cell = named ? (row.cells[this.indexOf(named.header)] ?? "") : "";
    if (cell === "") this.findings.add(finding("read/no-key", { kind: kind.name }, this.#place(row.line)));
    return cell === "" ? `${kind.name} on line ${row.line}` : cell;
  }

  #fillShared(parent: number, rows: readonly BlockRow[]): void {
    const [first, ...later] = rows as readonly [BlockRow, ...BlockRow[]];
    this.#cells(this.#parentFill, parent, first);
    this.#axes(parent, first);
    if (this.layout.shape.is !== "grouped") return;
    for (const row of later) {
      if (row.role === "more") continue;
      for (const { index, header } of this.#shared) {
        const own = row.cells[index] ?? "";
        const above = first.cells[index] ?? "";
        if (own === above || (own === "" && !this.layout.shape.everyRow)) continue;
        this.findings.add(
          finding(
            "read/cells-disagree",
            { here: shorten(own), first: shorten(above) },
            this.#place(row.line, header, this.#parent.key(parent)),
            [this.#place(first.line, header)],
          ),
        );
      }
    }
  }

  #children(parent: number, rows: readonly BlockRow[]): void {
    const table = this.#child!;
    for (let at = 0; at < rows.length; at++) {
      const row = rows[at]!;
      if (row.role !== "child") continue;
      const child = table.append(this.sheet, row.line, parent);
      table.nameRecord(child, this.#keyOf(row, this.#childKey) ?? this.#childFallbackKey(row, parent));
      this.#values(child, row, parent);
      this.#lanesAndCells(this.#childFill!, child, rows, at);
    }
  }

  #childFallbackKey(row: BlockRow, parent: number): string {
    const named = this.layout.columns.filter((column) =>
      column.bindings.some(
        ({ target }) =>
          target.feeds === "axis" ||
          (column.scope.is === "child" && target.feeds === "text" && target.slot.startsWith("name@")),
      ),
    );
    const own = named.map((column) => row.cells[this.indexOf(column.header)] ?? "").filter((cell) => cell !== "");
    return `${this.#parent.key(parent)}/${own[0] ?? `line ${row.line}`}`;
  }

  #lanesAndCells(fill: ScopeFill, record: number, rows: readonly BlockRow[], at: number): void {
    this.#cells(fill, record, rows[at]!);
    this.#lanes(fill, record, rows, at, "child");
  }

  /** The entries of lanes on a row and on the rows that continue it. */
  #lanes(fill: ScopeFill, record: number, rows: readonly BlockRow[], at: number, of: Lane["of"]): void {
    for (const [lane, group] of this.#laneGroups) {
      if (lane.of !== of) continue;
      this.#entry(fill.table, group, record, rows[at]!);
      for (let next = at + 1; rows[next]?.role === "more"; next++) this.#entry(fill.table, group, record, rows[next]!);
    }
  }

  #cells(fill: ScopeFill, record: number, row: BlockRow): void {
    for (const column of fill.columns) {
      const cell = row.cells[column.index] ?? "";
      if (cell === "") {
        for (const slot of column.blankEmpties) fill.table.setText(slot, record, null);
        continue;
      }
      if (cell.length > maxCellChars) {
        this.findings.add(
          finding(
            "read/cell-too-long",
            { chars: cell.length, most: maxCellChars },
            this.#place(row.line, column.header),
          ),
        );
        continue;
      }
      for (const set of column.fills) set(record, cell, row.line);
    }
    for (const group of fill.groups) this.#entry(fill.table, group, record, row);
  }

  #scopeFill(table: Table, columns: readonly Column[]): ScopeFill {
    const groups: EntryGroup[] = [];
    const filled: FillColumn[] = [];
    for (const column of columns) {
      const index = this.indexOf(column.header);
      const fills: Fill[] = [];
      for (const binding of column.bindings) {
        const { target } = binding;
        if (target.feeds === "entry") {
          if (table.kind.entries?.[target.entries])
            addToGroup(groups, target, { index, header: column.header, field: target.field, binding });
          continue;
        }
        const fill = this.#fillOf(table, binding, column.header);
        if (fill) fills.push(fill);
      }
      const blankEmpties = column.bindings.flatMap(({ target, blankEmpties: empties }) =>
        empties && target.feeds === "text" ? [target.slot] : [],
      );
      if (fills.length > 0) filled.push({ index, header: column.header, fills, blankEmpties });
    }
    return { table, columns: filled, groups };
  }

  #fillOf(table: Table, binding: Binding, header: string): Fill | undefined {
    const { target } = binding;
    switch (target.feeds) {
      case "text":
        return fieldOf(table.kind, target.slot.split("@")[0]!) && this.#textFill(table, target.slot, binding, header);
      case "reference":
        return fieldOf(table.kind, target.slot) && this.#referenceFill(table, target, binding, header);
      case "naming":
        return this.#namingFill(table, target, binding, header);
      default:
        // Keys are read with the block, axes after its cells, entries in groups.
        return undefined;
    }
  }

  #textFill(table: Table, slot: string, { codec }: Binding, header: string): Fill {
    const column = table.textColumn(slot);
    return (row, cell, line) => {
      const value = codec.parse(cell);
      if (typeof value !== "string") {
        this.#problem(value as Problem, table, row, line, header);
        return;
      }
      const old = this.#merging ? column.get(row) : undefined;
      if (old === undefined || old === value) column.set(row, value);
      else
        this.findings.add(
          finding(
            "read/cells-disagree",
            { here: shorten(value), first: shorten(old ?? "") },
            this.#place(line, header, table.key(row)),
            [this.catalogue.place(table, row, slot)],
          ),
        );
    };
  }

  #referenceFill(
    table: Table,
    target: Extract<Target, { feeds: "reference" }>,
    binding: Binding,
    header: string,
  ): Fill {
    const column = table.referenceColumn(target.slot);
    const referencesOf = this.#referencesOf(
      target.spec,
      target.shape === "path" || target.shape === "paths",
      target.shape === "list" || target.shape === "paths",
      binding,
    );
    return (row, cell, line) => {
      const numbers = referencesOf(cell, line);
      if (isNumbers(numbers)) column.set(row, numbers);
      else this.#problem(numbers, table, row, line, header);
    };
  }

  /** The references that a cell names. The same cell is taken apart once. */
  #referencesOf(spec: ReferenceSpec, isPath: boolean, isList: boolean, { codec }: Binding) {
    const { pool } = this.catalogue;
    const number = pool.specNumber(spec);
    const cache = new Map<string, readonly number[]>();
    return (cell: string, line: number): readonly number[] | Problem => {
      const known = cache.get(cell);
      if (known) return known;
      const value = codec.parse(cell);
      if (isProblem(value)) return value;
      const met = { sheet: this.sheet, line };
      const one = (entry: CellValue): number =>
        isPath
          ? (entry as readonly string[]).reduce((within, name) => pool.intern(number, within, name, met), noReference)
          : pool.intern(number, noReference, entry as string, met);
      const numbers = isList ? [...new Set((value as readonly CellValue[]).map(one))] : [one(value)];
      if (cache.size >= cachedCells) cache.clear();
      cache.set(cell, numbers);
      return numbers;
    };
  }

  #namingFill(
    table: Table,
    target: Extract<Target, { feeds: "naming" }>,
    { codec }: Binding,
    header: string,
  ): Fill | undefined {
    const beside = this.layout.columns[target.beside]!.bindings[0]!.target;
    if (beside.feeds !== "reference") return undefined;
    const column = table.referenceColumn(beside.slot);
    const { pool } = this.catalogue;
    return (row, cell, line) => {
      const value = codec.parse(cell);
      if (isProblem(value)) {
        this.#problem(value, table, row, line, header);
        return;
      }
      const paths = (target.list ? value : [value]) as readonly (readonly string[])[];
      const named = column.get(row);
      const fits =
        paths.length === named.length && paths.every((path, at) => path.length === pool.texts(named[at]!).length);
      if (!fits) {
        this.findings.add(
          finding(
            "read/not-parallel",
            { beside: this.layout.columns[target.beside]!.header },
            this.#place(line, header, table.key(row)),
          ),
        );
        return;
      }
      paths.forEach((path, at) => {
        let reference = named[at]!;
        for (const name of [...path].reverse()) {
          this.catalogue.addNaming({ reference, lang: target.lang, name, met: { sheet: this.sheet, line } });
          reference = pool.within(reference);
        }
      });
    };
  }

  #entry(owner: Table, group: EntryGroup, record: number, row: BlockRow): void {
    let entry = -1;
    const table = this.catalogue.table(`${owner.kind.name}.${group.entries}`);
    const open = (): number => {
      const made = table.append(this.sheet, row.line, record);
      for (const [field, value] of Object.entries(group.constants)) table.setText(field, made, value);
      return made;
    };
    for (const { index, header, field, binding } of group.columns) {
      const cell = row.cells[index] ?? "";
      if (cell === "") continue;
      const value =
        field.is === "reference" ? this.#entryReferences(field, binding)(cell, row.line) : binding.codec.parse(cell);
      if (isProblemOrNumbers(value)) {
        this.#problem(value, owner, record, row.line, header);
      } else if (field.is === "reference") {
        const numbers = value as readonly number[];
        const column = table.referenceColumn(field.slot);
        if (field.list) for (const number of numbers) column.set(open(), [number]);
        else column.set(entry < 0 ? (entry = open()) : entry, numbers);
      } else if (field.list) {
        for (const one of value as readonly string[]) table.setText(field.slot, open(), one);
      } else table.setText(field.slot, entry < 0 ? (entry = open()) : entry, value as string);
    }
  }

  readonly #entryCaches = new Map<EntryField, ReadReferences>();
  #entryReferences(field: Extract<EntryField, { is: "reference" }>, binding: Binding) {
    let read = this.#entryCaches.get(field);
    if (!read) this.#entryCaches.set(field, (read = this.#referencesOf(field.spec, false, field.list, binding)));
    return read;
  }

  #laneGroup(lane: Lane, columns: readonly Column[]): EntryGroup {
    const own = columns.filter((column) => column.scope.is === "lane" && column.scope.lane === lane.name);
    return {
      entries: lane.entries,
      constants: lane.constants,
      columns: own.flatMap((column) =>
        column.bindings.flatMap((binding) =>
          binding.target.feeds === "entry"
            ? [{ index: this.indexOf(column.header), header: column.header, field: binding.target.field, binding }]
            : [],
        ),
      ),
    };
  }

  /** The axes of the block: by number from the parent's cells, or from the headers of columns. */
  #axisReferences: (number | undefined)[] = [];
  #parentAxes: number[] = [];

  #axes(parent: number, row: BlockRow): void {
    if (this.#axisColumns.length === 0) return;
    // Rows that come back to a product go on with the axes it has.
    this.#parentAxes = [...this.#parent.referenceColumn("axes").get(parent)];
    this.#axisReferences = [undefined, ...this.#parentAxes];
    const { pool } = this.catalogue;
    const met = { sheet: this.sheet, line: row.line };
    for (const pass of [true, false]) {
      for (const { index, target } of this.#axisColumns) {
        const cell = row.cells[index] ?? "";
        if (target.feeds !== "axis" || target.holds !== "name" || target.leads !== pass || cell === "") continue;
        if (target.leads)
          this.#axisReferences[target.number] = pool.intern(
            this.#nameSpec("axis", target.lang),
            noReference,
            cell,
            met,
          );
        else this.#nameIn(this.#axisReferences[target.number], target.lang, cell, row.line);
      }
    }
    this.#parentAxes = [
      ...new Set([...this.#axisReferences.filter((reference) => reference !== undefined), ...this.#parentAxes]),
    ];
    if (this.#parentAxes.length > 0) this.#parent.referenceColumn("axes").set(parent, this.#parentAxes);
  }

  #nameSpec(to: string, lang: string): number {
    return this.catalogue.pool.specNumber({ to, by: "name", lang, missing: "create", inTree: false });
  }

  #nameIn(reference: number | undefined, lang: string, name: string, line: number): void {
    if (reference !== undefined) this.catalogue.addNaming({ reference, lang, name, met: { sheet: this.sheet, line } });
  }

  #values(child: number, row: BlockRow, parent: number): void {
    if (this.#axisColumns.length === 0) return;
    const { pool } = this.catalogue;
    const met = { sheet: this.sheet, line: row.line };
    const byNumber: (number | undefined)[] = [];
    const values: number[] = [];
    for (const pass of [true, false]) {
      for (const { index, header, target } of this.#axisColumns) {
        const cell = row.cells[index] ?? "";
        if (cell === "" || (target.feeds === "axis" && (target.holds === "name" || target.leads !== pass))) continue;
        if (target.feeds === "named-axis") {
          if (!pass) continue;
          const axis = pool.intern(this.#nameSpec("axis", target.lang), noReference, target.axis, met);
          if (!this.#parentAxes.includes(axis))
            this.#parent.referenceColumn("axes").set(parent, (this.#parentAxes = [...this.#parentAxes, axis]));
          values.push(pool.intern(this.#nameSpec("value", target.lang), axis, cell, met));
          continue;
        }
        const axis = this.#axisReferences[target.number];
        if (axis === undefined) {
          if (pass)
            this.findings.add(
              finding(
                "read/value-without-axis",
                { value: shorten(cell), axis: target.number },
                this.#place(row.line, header, this.#child!.key(child), "variant"),
              ),
            );
        } else if (pass) {
          byNumber[target.number] = pool.intern(this.#nameSpec("value", target.lang), axis, cell, met);
          values.push(byNumber[target.number]!);
        } else this.#nameIn(byNumber[target.number], target.lang, cell, row.line);
      }
    }
    if (values.length > 0) this.#child!.referenceColumn("values").set(child, values);
  }

  #problem(given: Problem, table: Table, row: number, line: number, header: string): void {
    const { text, wanted } = given;
    this.findings.add(
      finding(`cell/${given.problem}`, { text, wanted }, this.#place(line, header, table.key(row), table.kind.name)),
    );
  }

  #place(line: number, column?: string, key?: string, kind = this.#parent.kind.name): Place {
    return {
      file: this.catalogue.sheets[this.sheet]!.file,
      line,
      ...(column === undefined ? {} : { column }),
      ...(key === undefined ? {} : { record: { kind, key } }),
    };
  }
}

function addToGroup(
  groups: EntryGroup[],
  target: Extract<Target, { feeds: "entry" }>,
  column: EntryGroup["columns"][number],
): void {
  const same = groups.find(
    (group) => group.entries === target.entries && JSON.stringify(group.constants) === JSON.stringify(target.constants),
  );
  if (same) same.columns.push(column);
  else groups.push({ entries: target.entries, constants: target.constants, columns: [column] });
}

const isNumbers = (value: readonly number[] | Problem): value is readonly number[] => Array.isArray(value);
const isProblemOrNumbers = (value: CellValue | readonly number[] | Problem): value is Problem =>
  typeof value === "object" && !Array.isArray(value);

export const shorten = (text: string): string => (text.length > 60 ? `${text.slice(0, 59)}…` : text);
