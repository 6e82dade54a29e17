/**
 * What reading column by column needs of a layout: which columns are filled by column, and which row by row beside them. Undefined where rows
 * of the layout are all read one by one.
 */

import type { Table } from "../../catalogue/table.js";
import type { TextColumn } from "../../catalogue/text-column.js";
import type { Codec } from "../../codecs/codec.js";
import { textCodec } from "../../codecs/scalars.js";
import { fieldOfColumn } from "../../field-name.js";
import { fieldOf } from "../../kind.js";
import { AxisFill } from "../fill/axes.js";
import type { FillContext } from "../fill/context.js";
import { KeyReader } from "../fill/keys.js";
import { laneFill, type RowFill } from "../fill/lanes.js";
import { RecordFill } from "../fill/record.js";
import type { Binding, Column, Feed, Layout } from "../layout.js";

/** A column whose cells are texts of the record, as they stand in the file. */
export interface SpanStep {
  readonly index: number;
  readonly column: TextColumn;
}

/** A column whose cells go through a codec. */
export interface ValueStep {
  readonly index: number;
  readonly codec: Codec;
  readonly column: TextColumn;
}

/** The columns that make one entry together. */
export interface EntryStep {
  readonly table: Table;
  readonly constants: readonly { readonly column: TextColumn; readonly value: string }[];
  readonly values: readonly ValueStep[];
}

/** What of a row is of one record. */
export interface RecordColumns {
  readonly table: Table;
  readonly key: { readonly index: number; readonly codec: Codec };
  readonly spans: readonly SpanStep[];
  readonly values: readonly ValueStep[];
  readonly entries: readonly EntryStep[];
  /** The positions of the columns that are filled by column. */
  readonly byColumn: readonly number[];
  /** The positions of the others, and what fills them, row by row. */
  readonly beside: readonly number[];
  readonly fill: RecordFill;
}

export interface LaneFilling {
  readonly of: "parent" | "child";
  readonly fill: RowFill | undefined;
  /** A row continues the one above when these are all blank; never, if there are none. */
  readonly blanks: readonly number[];
}

export interface ColumnPlan {
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
const isPlain = ({ shape, link, languages, cells, filledDown, modelRow, columns, format }: Layout): boolean =>
  (shape.is === "flat" || shape.is === "grouped") &&
  !link &&
  !languages &&
  !modelRow &&
  cells.length + filledDown.length === 0 &&
  (format.is !== "csv" || format.formulas !== "refuse") &&
  columns.every(({ fixes, blankMeans }) => fixes.length === 0 && blankMeans === undefined);

const isPlainBinding = ({ feed, blankEmpties }: Binding): boolean =>
  !blankEmpties && feed.is !== "container" && (feed.is !== "shape" || (feed.constant ?? "") === "");

const isOnAxis = ({ feed }: Binding): boolean => feed.is === "axis" || feed.is === "axes" || feed.is === "named-axis";

export function columnPlan(context: FillContext): ColumnPlan | undefined {
  const { layout, catalogue, translates, indexOf } = context;
  const { shape, lanes } = layout;
  const columns = layout.columns.filter(({ header }) => indexOf(header) >= 0);
  const headers = new Set(columns.map(({ header }) => header));
  if (!isPlain(layout) || translates || headers.size < columns.length) return undefined;
  if (!columns.every(({ bindings }) => bindings.every(isPlainBinding))) return undefined;
  const groupColumn = shape.is === "grouped" ? shape.column : undefined;
  const parents = catalogue.table(shape.parent.name);
  const children = shape.child && catalogue.table(shape.child.name);
  const scopeOf = (is: "parent" | "child", table: Table) => {
    // What only tells rows apart fills nothing.
    const own = columns.filter(
      ({ scope, bindings }) => scope.is === is && bindings.some(({ feed }) => feed.is !== "shape"),
    );
    const { alone } = new KeyReader(context, table.kind, own, is === "parent" ? groupColumn : undefined);
    return alone && new ScopeMaker(context, table, own).made(alone);
  };
  const parent = scopeOf("parent", parents);
  const child = children && scopeOf("child", children);
  if (!parent || (children && !child)) return undefined;
  const places = (test: (column: Column) => boolean) => columns.filter(test).map(({ header }) => indexOf(header));
  const ownersOf = (of: "parent" | "child") => (of === "parent" ? parents : children);
  return {
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

/** Sorts the columns of one scope: those whose cells make one text of the record or of an entry go by column. */
class ScopeMaker {
  readonly #spans: SpanStep[] = [];
  readonly #values: ValueStep[] = [];
  readonly #entries = new Map<string, EntryStep & { readonly values: ValueStep[] }>();
  /** How many columns fill a field. */
  readonly #feeding = new Map<string, number>();

  constructor(
    readonly context: FillContext,
    readonly table: Table,
    readonly columns: readonly Column[],
  ) {}

  made(key: RecordColumns["key"]): RecordColumns {
    for (const { bindings } of this.columns)
      for (const field of bindings.flatMap(({ feed }) => fieldsOf(feed)))
        this.#feeding.set(field, (this.#feeding.get(field) ?? 0) + 1);
    const all = this.columns.flatMap(({ bindings }) => bindings);
    const areEntriesPlain = all.every(({ feed }) => !isOfEntries(feed) || this.#isPlainEntry(feed));
    const isByColumn = ({ bindings }: Column): boolean =>
      bindings.every(({ feed }) => this.#isPlainText(feed) || (areEntriesPlain && this.#isPlainEntry(feed)));
    const [byColumn, beside] = [this.columns.filter(isByColumn), this.columns.filter((one) => !isByColumn(one))];
    for (const column of byColumn) for (const binding of column.bindings) this.#take(column, binding);
    const places = (some: readonly Column[]) => some.map(({ header }) => this.context.indexOf(header));
    return {
      table: this.table,
      key,
      spans: this.#spans,
      values: this.#values,
      entries: [...this.#entries.values()],
      byColumn: places(byColumn),
      beside: places(beside),
      fill: new RecordFill(this.context, this.table, beside),
    };
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
      const column = this.table.textColumn(feed.field);
      if (codec === textCodec) this.#spans.push({ index, column });
      else this.#values.push({ index, codec, column });
    } else if (feed.is === "entry") {
      const table = this.context.catalogue.table(`${this.table.kind.name}.${feed.entries}`);
      const name = JSON.stringify([feed.entries, feed.constants]);
      const constants = Object.entries(feed.constants).map(([one, value]) => ({
        column: table.textColumn(one),
        value,
      }));
      const step = this.#entries.get(name) ?? { table, constants, values: new Array<ValueStep>() };
      this.#entries.set(name, step);
      step.values.push({ index, codec, column: table.textColumn(feed.field.name) });
    }
  }
}

const isOfEntries = (feed: Feed): boolean => feed.is === "entry" || feed.is === "entries";

/** What a column fills: two columns of one field are filled row by row. */
function fieldsOf(feed: Feed): readonly string[] {
  if (feed.is === "text") return feed.otherwise === undefined ? [feed.field] : [feed.field, feed.otherwise];
  return feed.is === "entry" ? [JSON.stringify([feed.entries, feed.constants, feed.field.name])] : [];
}
