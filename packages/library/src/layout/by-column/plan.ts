/**
 * What reading column by column needs of a layout: what each column of plain rows fills. Undefined where the layout asks for anything else;
 * then all rows are read one by one.
 */

import type { Table } from "../../catalogue/table.js";
import type { TextColumn } from "../../catalogue/text-column.js";
import type { ReferenceColumn } from "../../catalogue/reference-column.js";
import type { Codec } from "../../codecs/codec.js";
import { textCodec } from "../../codecs/scalars.js";
import { fieldOfColumn } from "../../field-name.js";
import { fieldOf } from "../../kind.js";
import type { FillContext } from "../fill/context.js";
import { KeyReader } from "../fill/keys.js";
import { referencesReader, type ReadReferences } from "../fill/references.js";
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

export interface ReferenceStep {
  readonly index: number;
  readonly read: ReadReferences;
  readonly column: ReferenceColumn;
  readonly isPath: boolean;
}

/** The columns that make one entry together. */
export interface EntryStep {
  readonly table: Table;
  readonly values: readonly ValueStep[];
}

/** A column of entries, and what fills it: of which entries, with a constant or with the values of a step. */
export interface EntryColumn {
  readonly column: TextColumn;
  readonly parts: readonly { readonly entry: EntryStep; readonly fills: string | ValueStep }[];
}

export interface ColumnPlan {
  readonly table: Table;
  readonly key: { readonly index: number; readonly codec: Codec };
  readonly spans: readonly SpanStep[];
  readonly values: readonly ValueStep[];
  readonly references: readonly ReferenceStep[];
  readonly entries: readonly EntryStep[];
  readonly entryColumns: readonly EntryColumn[];
  /** The positions of all columns that fill something. */
  readonly bound: readonly number[];
}

/** Whether a layout says of its rows only what each column holds. */
const isPlain = ({ shape, link, languages, lanes, cells, filledDown, modelRow, columns, format }: Layout): boolean =>
  shape.is === "flat" &&
  !link &&
  !languages &&
  !modelRow &&
  lanes.length + cells.length + filledDown.length === 0 &&
  (format.is !== "csv" || format.formulas !== "refuse") &&
  columns.every(({ fixes, blankMeans }) => fixes.length === 0 && blankMeans === undefined);

export function columnPlan(context: FillContext): ColumnPlan | undefined {
  const { layout, catalogue, translates, indexOf } = context;
  const columns = layout.columns.filter(({ header }) => indexOf(header) >= 0);
  const headers = new Set(columns.map(({ header }) => header));
  if (!isPlain(layout) || translates || headers.size < columns.length) return undefined;
  const table = catalogue.table(layout.shape.parent.name);
  const { alone } = new KeyReader(context, table.kind, columns, undefined);
  if (!alone) return undefined;
  const plan = new PlanMaker(context, table);
  if (!columns.every((column) => column.bindings.every((binding) => plan.take(column, binding)))) return undefined;
  return { table, key: alone, ...plan.made, bound: columns.map(({ header }) => indexOf(header)) };
}

class PlanMaker {
  readonly #spans: SpanStep[] = [];
  readonly #values: ValueStep[] = [];
  readonly #references: ReferenceStep[] = [];
  readonly #entries = new Map<string, EntryStep & { readonly values: ValueStep[] }>();
  readonly #entryColumns = new Map<TextColumn, EntryColumn["parts"][number][]>();
  /** What is filled already: two columns of one field are read row by row. */
  readonly #filled = new Set<string>();

  constructor(
    readonly context: FillContext,
    readonly table: Table,
  ) {}

  get made(): Omit<ColumnPlan, "table" | "key" | "bound"> {
    const entries = [...this.#entries.values()];
    const entryColumns = [...this.#entryColumns].map(([column, parts]) => ({ column, parts }));
    return { spans: this.#spans, values: this.#values, references: this.#references, entries, entryColumns };
  }

  /** @returns whether the column's cells can be read by column. */
  take(column: Column, binding: Binding): boolean {
    const { feed, blankEmpties } = binding;
    if (blankEmpties) return false;
    if (feed.is === "key") return true;
    if (feed.is === "text") return this.#takeText(column, binding, feed);
    if (feed.is === "reference") return this.#takeReference(column, binding, feed);
    return feed.is === "entry" && this.#takeEntry(column, binding, feed);
  }

  #isNew(filled: string): boolean {
    const { size } = this.#filled;
    return this.#filled.add(filled).size > size;
  }

  #takeText({ header }: Column, { codec }: Binding, { field, otherwise }: Extract<Feed, { is: "text" }>): boolean {
    if (otherwise !== undefined || !fieldOf(this.table.kind, fieldOfColumn(field)) || !this.#isNew(field)) return false;
    const index = this.context.indexOf(header);
    const column = this.table.textColumn(field);
    if (codec === textCodec) this.#spans.push({ index, column });
    else this.#values.push({ index, codec, column });
    return true;
  }

  #takeReference({ header }: Column, binding: Binding, feed: Extract<Feed, { is: "reference" }>): boolean {
    const { field, shape, spec, parts } = feed;
    if (parts || spec.within !== undefined || !fieldOf(this.table.kind, field) || !this.#isNew(field)) return false;
    this.#references.push({
      index: this.context.indexOf(header),
      read: referencesReader(this.context, feed, binding, header),
      column: this.table.referenceColumn(field),
      isPath: shape === "path",
    });
    return true;
  }

  #takeEntry({ header }: Column, { codec }: Binding, feed: Extract<Feed, { is: "entry" }>): boolean {
    const { entries: name, constants, named, field } = feed;
    const isPlainField = field.is === "text" && !field.list && Object.keys(named).length === 0;
    const key = JSON.stringify([name, constants]);
    if (!isPlainField || !this.table.kind.entries?.[name] || !this.#isNew(key + field.name)) return false;
    const table = this.context.catalogue.table(`${this.table.kind.name}.${name}`);
    let step = this.#entries.get(key);
    if (!step) {
      this.#entries.set(key, (step = { table, values: [] }));
      for (const [one, value] of Object.entries(constants)) this.#fillEntries(table.textColumn(one), step, value);
    }
    const value = { index: this.context.indexOf(header), codec, column: table.textColumn(field.name) };
    step.values.push(value);
    this.#fillEntries(value.column, step, value);
    return true;
  }

  #fillEntries(column: TextColumn, entry: EntryStep, fills: string | ValueStep): void {
    const parts = this.#entryColumns.get(column) ?? [];
    parts.push({ entry, fills });
    this.#entryColumns.set(column, parts);
  }
}
