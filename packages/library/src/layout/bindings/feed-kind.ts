/**
 * What a kind of binding has to say for itself: how it is bound, filled and written, and what everybody asks who wants to know what a
 * column feeds. One file for each kind; the table of all is in `feed-kinds.ts`.
 */

import type { ResolvedCatalogue } from "../../catalogue/catalogue.js";
import { formsOf, type By, type ReferenceSpec } from "../../catalogue/reference-pool.js";
import type { Table } from "../../catalogue/table.js";
import type { FieldOrigin, ReadonlyTable } from "../../catalogue/readonly-table.js";
import type { TextColumn } from "../../catalogue/text-column.js";
import type { Dependency, KindSpec } from "../../kind.js";
import type { Kinds } from "../../kinds.js";
import type { Location } from "../../location.js";
import type { Header } from "../../nominal.js";
import type { FillContext } from "../fill/context.js";
import type { Binding, Column, Feed, Layout } from "../layout.js";
import type { Meaning } from "../meanings.js";
import type { CellMark } from "../read/tally.js";
import type { CellContext, ToValue } from "../write/context.js";
import type { BindPlace, Bound } from "./place.js";

/** Sets a field of a record from a cell that is not blank. @returns what became of the cell. */
export type Fill = (row: number, cell: string, line: number) => CellMark;

/** How a column fills one record from its cell. */
export interface CellFill {
  readonly fill: Fill;
  /** What a blank cell empties, where the column says so. */
  readonly empties?: TextColumn | undefined;
}

/** A field that refers, and what that asks of the order. */
export interface NamedReference {
  /** `kind.field`, or `kind.entries`. */
  readonly name: string;
  readonly to: string;
  readonly by: By;
  readonly dependency: Dependency;
}

/** A field that a column fills with references, of records or of entries. */
export interface FedReference {
  /** `product`, or `product.relations`. */
  readonly table: string;
  readonly field: string;
  readonly spec: ReferenceSpec;
}

/** Where a cell has its value from: a cell of a source, or a rule of the project. */
export interface CellOrigin {
  /** `product.name@en`. */
  readonly field: string;
  readonly location: Location;
}

/** The written cell whose origins are asked for. */
export interface WrittenCell {
  readonly catalogue: ResolvedCatalogue;
  readonly layout: Layout;
  readonly column: Column;
  readonly table: ReadonlyTable;
  readonly row: number;
  /** Which of the rows of the same record it is: which of its entries. */
  readonly nth: number;
}

/** When a record's columns are filled: those that say more of what it refers to come after the references. */
export type FillTime = "with the record" | "after its references" | "after its axes";

export interface FeedKind<F extends Feed> {
  /** @returns undefined where the place is another kind's. @throws Mistake */
  readonly bind: (place: BindPlace) => Bound | undefined;
  /** The field as findings and origins know it: `name@en`, `prices(price).amount`. */
  readonly nameOf: (feed: F) => string;
  /** How it fills a record; undefined for what is read with the block, or with the entries and axes of a record. */
  readonly fill:
    | {
        readonly when: FillTime | ((feed: F) => FillTime);
        readonly of: (
          feed: F,
          context: FillContext,
          table: Table,
          binding: Binding,
          header: Header,
        ) => CellFill | undefined;
      }
    | undefined;
  /** @returns undefined where records of the table have nothing that it shows. */
  readonly write: (feed: F, context: CellContext, table: ReadonlyTable) => ToValue | undefined;
  /** `table.field` of everything that its column shows, on records of a kind. */
  readonly shows: (feed: F, kind: string, kinds: Kinds) => readonly string[];
  /** What its cells refer to, and what that asks of the order. */
  readonly refersTo: (feed: F, kind: KindSpec, kinds: Kinds) => readonly NamedReference[];
  /** The references that it fills. */
  readonly references: (feed: F, kind: string) => readonly FedReference[];
  /** The entries of a table that it takes; undefined where it takes none. @param lane the fields that the columns of its lane hold. */
  readonly takes: (
    feed: F,
    catalogue: ResolvedCatalogue,
    table: ReadonlyTable,
    kind: string,
    lane: readonly string[] | undefined,
  ) => ((entry: number) => boolean) | undefined;
  /** Where the value of a written cell comes from. */
  readonly origins: (feed: F, cell: WrittenCell) => readonly RecordOrigin[];
  /** The names that a record's cell holds; undefined where it holds none. @param joinedBy between the names of a path. */
  readonly names: (
    feed: F,
    catalogue: ResolvedCatalogue,
    table: ReadonlyTable,
    joinedBy: string,
  ) => ((row: number) => Iterable<string>) | undefined;
  /** Whether a record has something for its column; entries of any kind count. */
  readonly isFilled: (feed: F, catalogue: ResolvedCatalogue, table: ReadonlyTable, row: number) => boolean;
  /** For whoever fills the column in. @param owner the kind of record that the column is of. */
  readonly describe: (feed: F, owner: KindSpec, kinds: Kinds) => Meaning;
}

export type FeedOf<K extends Feed["is"]> = Extract<Feed, { readonly is: K }>;

/** Paths, axes and their values show names of records that have no columns of their own. */
export const namesShown = (spec: ReferenceSpec): string[] =>
  formsOf(spec).includes("name") ? [`${spec.to}.name@${spec.lang}`] : [];

/** Where a field of a record comes from. */
export const originOf = (
  catalogue: ResolvedCatalogue,
  from: ReadonlyTable,
  row: number,
  field: string,
  called: () => string = () => `${from.name}.${field}`,
): RecordOrigin => new RecordOrigin(catalogue, from, row, field, called);

/** An origin that is worked out when somebody asks: the cells of an upload are millions, and few are asked for. */
export class RecordOrigin implements CellOrigin {
  constructor(
    readonly catalogue: ResolvedCatalogue,
    readonly from: ReadonlyTable,
    readonly row: number,
    readonly ofField: string,
    readonly called: () => string,
  ) {}

  get field(): string {
    return this.called();
  }
  get location(): Location {
    return this.catalogue.location(this.from, this.row, this.ofField);
  }

  /** Where its row stands: the sheet by its number in the catalogue, and the line. */
  get position(): FieldOrigin {
    const { from, row } = this;
    return from.fieldOrigin(this.ofField, row) ?? { sheet: from.sheet(row), line: from.line(row) };
  }
}

export const none = (): readonly never[] => [];
export const nothing = (): undefined => undefined;
export const always = (): boolean => true;
