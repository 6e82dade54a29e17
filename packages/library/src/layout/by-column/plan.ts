/**
 * What reading column by column needs of a layout: which columns are filled by column, and which row by row beside them. Undefined where rows
 * of the layout are all read one by one.
 */

import type { Table } from "../../catalogue/table.js";
import type { TextColumn } from "../../catalogue/text-column.js";
import type { Codec } from "../../codecs/codec.js";
import { textCodec } from "../../codecs/scalars.js";
import { fieldOfColumn } from "../../field-name.js";
import { isFormula } from "../../formats/formulas.js";
import { fieldOf } from "../../kind.js";
import { AxisFill } from "../fill/axes.js";
import type { FillContext } from "../fill/context.js";
import { KeyReader } from "../fill/keys.js";
import { laneFill, type RowFill } from "../fill/lanes.js";
import { RecordFill } from "../fill/record.js";
import type { Header } from "../../nominal.js";
import type { Binding, Column, Feed, Layout } from "../layout.js";

/** A column whose cells are texts of the record, or of an entry. */
export interface ValueStep {
  readonly index: number;
  readonly header: Header;
  readonly codec: Codec;
  readonly field: string;
  readonly column: TextColumn;
}

/** The columns that make one entry together. */
export interface EntryStep {
  readonly table: Table;
  readonly constants: readonly { readonly field: string; readonly column: TextColumn; readonly value: string }[];
  readonly values: readonly ValueStep[];
}

/** What of a row is of one record. */
export interface ScopeColumns {
  readonly table: Table;
  readonly texts: readonly ValueStep[];
  readonly entries: readonly EntryStep[];
  /** The positions of the columns that are filled by column. */
  readonly byColumn: readonly number[];
  /** The positions of the others, and what fills them, row by row. */
  readonly beside: readonly number[];
  readonly fill: RecordFill;
}

/** The same of a record that the row gives. */
export interface RecordColumns extends ScopeColumns {
  readonly key: { readonly index: number; readonly codec: Codec };
  /** Of its texts those that stay as they stand in the file, and those that go through a codec. */
  readonly spans: readonly ValueStep[];
  readonly values: readonly ValueStep[];
}

export interface LaneFilling {
  readonly of: "parent" | "child";
  readonly fill: RowFill | undefined;
  /** A row continues the one above when these are all blank; never, if there are none. */
  readonly blanks: readonly number[];
}

export interface ColumnPlan {
  readonly unusual: readonly UnusualColumn[];
  readonly parent: RecordColumns;
  readonly child: RecordColumns | undefined;
  /** The column that says which record a row is of, where a record has several. */
  readonly group: number;
  /** Whether all rows of a record show its cells. */
  readonly isOnEveryRow: boolean;
  readonly lanes: readonly LaneFilling[];
  readonly laneColumns: readonly number[];
  readonly axes: AxisFill;
  readonly axisColumns: readonly number[];
  /** What says more of a record's axes. */
  readonly afterAxes: RecordFill;
}

/** Whether rows of a layout hold nothing but what their columns are bound to. */
const isPlain = ({ languages, cells, filledDown, modelRow }: Layout): boolean =>
  !languages && !modelRow && cells.length + filledDown.length === 0;

/** A column in which some cells say more than they hold: rows with such a cell are read one by one. */
export interface UnusualColumn {
  readonly index: number;
  readonly isUnusual: (cell: string) => boolean;
}

/** Cells that a fix would change, blank ones that stand for something, other texts than the constant, and what a spreadsheet would run. */
function unusualColumns({ layout, indexOf }: FillContext, columns: readonly Column[]): readonly UnusualColumn[] {
  const { format, telling } = layout;
  const refusesFormulas = format.is === "csv" && format.formulas === "refuse";
  return columns.flatMap(({ header, fixes, blankMeans, bindings }) => {
    const tests: UnusualColumn["isUnusual"][] = [];
    if (fixes.length > 0) tests.push((cell) => cell !== "" && fixes.some(({ fix }) => fix(cell) !== cell));
    if (blankMeans !== undefined || bindings.some(({ blankEmpties }) => blankEmpties))
      tests.push((cell) => cell === "");
    for (const { feed } of bindings)
      if (feed.is === "shape" && (feed.constant ?? "") !== "" && !telling.has(header))
        tests.push((cell) => cell !== "" && cell !== feed.constant);
    if (refusesFormulas) tests.push(isFormula);
    return tests.map((isUnusual) => ({ index: indexOf(header), isUnusual }));
  });
}

/** The columns that the sheet has; undefined where its rows are read one by one whatever shape they have. */
function plainColumns({ layout, translates, indexOf }: FillContext): readonly Column[] | undefined {
  const columns = layout.columns.filter(({ header }) => indexOf(header) >= 0);
  const headers = new Set(columns.map(({ header }) => header));
  if (!isPlain(layout) || translates || headers.size < columns.length) return undefined;
  // What a row lies in is looked up with it.
  return columns.every(({ bindings }) => bindings.every(({ feed }) => feed.is !== "container")) ? columns : undefined;
}

/** What only tells rows apart fills nothing. */
const isFilling = ({ bindings }: Column): boolean => bindings.some(({ feed }) => feed.is !== "shape");

const isOnAxis = ({ feed }: Binding): boolean => feed.is === "axis" || feed.is === "axes" || feed.is === "named-axis";

export function columnPlan(context: FillContext): ColumnPlan | undefined {
  const { layout, catalogue, indexOf } = context;
  const { shape, lanes, link } = layout;
  const columns = plainColumns(context);
  if (!columns || link || (shape.is !== "flat" && shape.is !== "grouped")) return undefined;
  const groupColumn = shape.is === "grouped" ? shape.column : undefined;
  const parents = catalogue.table(shape.parent.name);
  const children = shape.child && catalogue.table(shape.child.name);
  const scopeOf = (is: "parent" | "child", table: Table): RecordColumns | undefined => {
    const own = columns.filter((column) => column.scope.is === is && isFilling(column));
    const { alone: key } = new KeyReader(context, table.kind, own, is === "parent" ? groupColumn : undefined);
    if (!key) return undefined;
    const made = scopeColumns(context, table, own);
    const isSpan = ({ codec }: ValueStep): boolean => codec === textCodec;
    return { ...made, key, spans: made.texts.filter(isSpan), values: made.texts.filter((step) => !isSpan(step)) };
  };
  const parent = scopeOf("parent", parents);
  const child = children && scopeOf("child", children);
  if (!parent || (children && !child)) return undefined;
  const places = (test: (column: Column) => boolean) => columns.filter(test).map(({ header }) => indexOf(header));
  const ownersOf = (of: "parent" | "child") => (of === "parent" ? parents : children);
  return {
    unusual: unusualColumns(context, columns),
    parent,
    child,
    group: groupColumn === undefined ? -1 : indexOf(groupColumn),
    isOnEveryRow: shape.is === "grouped" && shape.everyRow,
    lanes: lanes.map((lane) => {
      const owners = ownersOf(lane.of);
      return {
        of: lane.of,
        fill: owners && laneFill(context, owners, lane, columns),
        blanks: lane.blankColumns.map(indexOf).filter((index) => index >= 0),
      };
    }),
    laneColumns: places(({ scope }) => scope.is === "lane"),
    axes: new AxisFill(context, parents, children, columns),
    axisColumns: places(({ bindings }) => bindings.some(isOnAxis)),
    afterAxes: new RecordFill(
      context,
      parents,
      columns.filter(({ scope }) => scope.is === "parent"),
      ["after its axes"],
    ),
  };
}

/** What linked rows say of a record that is found. */
export interface LinkedColumns extends ScopeColumns {
  readonly lanes: readonly RowFill[];
  /** What says more of its axes. */
  readonly afterAxes: RecordFill;
}

/** How linked rows are taken by column. */
export interface LinkedPlan {
  readonly unusual: readonly UnusualColumn[];
  /** The position of the cell that names the record. */
  readonly link: number;
  readonly laneColumns: readonly number[];
  /** By the table of the records that are found. */
  readonly columnsOf: (table: Table) => LinkedColumns;
}

/** @returns undefined where linked rows of the layout are all read one by one. */
export function linkedPlan(context: FillContext): LinkedPlan | undefined {
  const { shape, lanes, link } = context.layout;
  const columns = plainColumns(context);
  if (!columns || !link || shape.is !== "flat") return undefined;
  // A row that may continue the one above is of the same record.
  if (lanes.some(({ blankColumns }) => blankColumns.some((header) => context.indexOf(header) >= 0))) return undefined;
  // A key has to be that of the record that was found.
  const isKeyOrAxis = (binding: Binding): boolean => binding.feed.is === "key" || isOnAxis(binding);
  if (columns.some(({ bindings }) => bindings.some(isKeyOrAxis))) return undefined;
  const own = columns.filter((column) => column.scope.is === "parent" && isFilling(column));
  const columnsOf = (table: Table): LinkedColumns => ({
    ...scopeColumns(context, table, own),
    lanes: lanes.flatMap((lane) => laneFill(context, table, lane, columns) ?? []),
    afterAxes: new RecordFill(context, table, own, ["after its axes"]),
  });
  const inLanes = columns.filter(({ scope }) => scope.is === "lane");
  const laneColumns = inLanes.map(({ header }) => context.indexOf(header));
  return { unusual: unusualColumns(context, columns), link: context.indexOf(link.column), laneColumns, columnsOf };
}

/** Sorts the columns of one scope: those whose cells make one text of the record or of an entry go by column. */
class ScopeMaker {
  readonly #texts: ValueStep[] = [];
  readonly #entries = new Map<string, EntryStep & { readonly values: ValueStep[] }>();
  /** How many columns fill a field. */
  readonly #feeding = new Map<string, number>();

  constructor(
    readonly context: FillContext,
    readonly table: Table,
    readonly columns: readonly Column[],
  ) {}

  made(): ScopeColumns {
    for (const { bindings } of this.columns)
      for (const field of bindings.flatMap(({ feed }) => fieldsOf(feed)))
        this.#feeding.set(field, (this.#feeding.get(field) ?? 0) + 1);
    const [byColumn, beside] = this.#sorted();
    for (const column of byColumn) for (const binding of column.bindings) this.#take(column, binding);
    const places = (some: readonly Column[]) => some.map(({ header }) => this.context.indexOf(header));
    return {
      table: this.table,
      texts: this.#texts,
      entries: [...this.#entries.values()],
      byColumn: places(byColumn),
      beside: places(beside),
      fill: new RecordFill(this.context, this.table, beside),
    };
  }

  /** Columns by column, and the others. Those that feed the same entries go together: they may make one. */
  #sorted(): readonly [byColumn: readonly Column[], beside: readonly Column[]] {
    let byColumn = this.columns.filter(({ bindings }) =>
      bindings.every(({ feed }) => this.#isPlainText(feed) || this.#isPlainEntry(feed)),
    );
    for (;;) {
      const beside = this.columns.filter((one) => !byColumn.includes(one));
      const apart = new Set(beside.flatMap(collectionsOf));
      const stay = byColumn.filter((column) => collectionsOf(column).every((name) => !apart.has(name)));
      if (stay.length === byColumn.length) return [byColumn, beside];
      byColumn = stay;
    }
  }

  #isPlainText(feed: Feed): boolean {
    if (feed.is === "key") return true;
    const isOne = feed.is === "text" && feed.otherwise === undefined && this.#feeding.get(feed.field) === 1;
    return isOne && fieldOf(this.table.kind, fieldOfColumn(feed.field)) !== undefined;
  }

  #isPlainEntry(feed: Feed): boolean {
    if (feed.is !== "entry" || feed.field.is !== "text" || feed.field.list) return false;
    const isOfKind = this.table.kind.entries?.[feed.entries] !== undefined;
    return (
      isOfKind && Object.keys(feed.named).length === 0 && fieldsOf(feed).every((one) => this.#feeding.get(one) === 1)
    );
  }

  #take({ header }: Column, { feed, codec }: Binding): void {
    const index = this.context.indexOf(header);
    if (feed.is === "text") {
      this.#texts.push({ index, header, codec, field: feed.field, column: this.table.textColumn(feed.field) });
    } else if (feed.is === "entry") {
      const table = this.context.catalogue.table(`${this.table.kind.name}.${feed.entries}`);
      const name = JSON.stringify([feed.entries, feed.constants]);
      const constants = Object.entries(feed.constants).map(([one, value]) => ({
        field: one,
        column: table.textColumn(one),
        value,
      }));
      const step = this.#entries.get(name) ?? { table, constants, values: new Array<ValueStep>() };
      this.#entries.set(name, step);
      const field = feed.field.name;
      step.values.push({ index, header, codec, field, column: table.textColumn(field) });
    }
  }
}

const collectionsOf = ({ bindings }: Column): readonly string[] =>
  bindings.flatMap(({ feed }) => (feed.is === "entry" || feed.is === "entries" ? [feed.entries] : []));

/** What a column fills: two columns of one field are filled row by row. */
function fieldsOf(feed: Feed): readonly string[] {
  if (feed.is === "text") return feed.otherwise === undefined ? [feed.field] : [feed.field, feed.otherwise];
  return feed.is === "entry" ? [JSON.stringify([feed.entries, feed.constants, feed.field.name])] : [];
}

const scopeColumns = (context: FillContext, table: Table, columns: readonly Column[]): ScopeColumns =>
  new ScopeMaker(context, table, columns).made();
