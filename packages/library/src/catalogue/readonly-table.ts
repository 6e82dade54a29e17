/** A table as a stage sees it that reads a catalogue; and one that is asked for by its name. */

import type { KindSpec } from "../kind.js";
import type { Code, ContainerOf, Key, Row } from "../nominal.js";
import type { ReadonlyReferenceColumn } from "./reference-column.js";
import type { Cell } from "./cell.js";
import type { ReadonlyTextColumn } from "./text-column.js";

export interface FieldOrigin {
  readonly sheet: number;
  readonly line: number;
}

/** A table as a stage sees it that reads a catalogue. */
export interface ReadonlyTable {
  readonly kind: KindSpec;
  /** The name in the catalogue: `product`, or `product.prices`. */
  readonly name: string;
  readonly size: number;
  readonly texts: ReadonlyMap<string, ReadonlyTextColumn>;
  readonly references: ReadonlyMap<string, ReadonlyReferenceColumn>;
  /** A column of texts; without cells where no record has any. */
  textsOf(field: string): ReadonlyTextColumn;
  /** A column of references; without cells where no record has any. */
  referencesOf(field: string): ReadonlyReferenceColumn;
  text(field: string, row: number): Cell;
  find(key: Key): number | undefined;
  keys(): IterableIterator<Key>;
  key(row: number): Key;
  /** The row of what contains the record or entry, -1 for none. */
  parent(row: number): number;
  sheet(row: number): number;
  line(row: number): number;
  /** Every field that another sheet than the record's own has set. */
  fieldOrigins(): Generator<readonly [field: string, row: number, origin: FieldOrigin]>;
  /** @returns undefined where the field comes from the record's own sheet and line. */
  fieldOrigin(field: string, row: number): FieldOrigin | undefined;
  /** The rows contained in a parent, in the order in which they came. Do not change the result. */
  childrenOf(parent: number): Int32Array;
  /** How many rows are contained in a parent. */
  countChildren(parent: number): number;
  /** The first child that fits, -1 if none does. */
  findChild(parent: number, fits: (row: number) => boolean): number;
  /** The children that fit, in the order in which they came. */
  childrenWhere(parent: number, fits: (row: number) => boolean): readonly number[];
  /** The children of each parent as they are now, whatever is appended later. */
  childrenNow(): ChildrenThen;
}

/** The children of each parent as they were at one time. */
export interface ChildrenThen<P extends number = number, C extends number = number> {
  readonly of: (parent: P) => Int32Array;
  readonly count: (parent: P) => number;
  /** The first that fits, -1 if none does. */
  readonly find: (parent: P, fits: (row: C) => boolean) => number;
}

/** A table that is asked for by its name: its rows are not taken for those of another. */
export interface TableOf<T extends string> extends ReadonlyTable {
  text(field: "code", row: Row<T>): Cell<Code>;
  text(field: string, row: Row<T>): Cell;
  find(key: Key): Row<T> | undefined;
  key(row: Row<T>): Key;
  parent(row: Row<T>): Row<ContainerOf<T>>;
  sheet(row: Row<T>): number;
  line(row: Row<T>): number;
  fieldOrigin(field: string, row: Row<T>): FieldOrigin | undefined;
  childrenOf(parent: Row<ContainerOf<T>>): Int32Array;
  countChildren(parent: Row<ContainerOf<T>>): number;
  findChild(parent: Row<ContainerOf<T>>, fits: (row: Row<T>) => boolean): Row<T>;
  childrenWhere(parent: Row<ContainerOf<T>>, fits: (row: Row<T>) => boolean): readonly Row<T>[];
  childrenNow(): ChildrenThen<Row<ContainerOf<T>>, Row<T>>;
}
