/** A table to be written to that is asked for by its name: its rows are not taken for those of another. */

import type { Code, ContainerOf, Key, Row } from "../nominal.js";
import type { Cell } from "./cell.js";
import type { ChildrenThen, FieldOrigin } from "./readonly-table.js";
import type { Table } from "./table.js";

/** `TableOf` for a table that is written to. */
export interface WritableTableOf<T extends string> extends Table {
  append(sheet: number, line: number, parent?: Row<ContainerOf<T>>): Row<T>;
  nameRecord(row: Row<T>, key: Key): { readonly key: Key; readonly taken: number | undefined };
  reparent(row: Row<T>, parent: Row<ContainerOf<T>>): void;
  rename(row: Row<T>, key: Key): void;
  setText(field: string, row: Row<T>, cell: Cell): void;
  setFieldOrigin(field: string, row: Row<T>, origin: FieldOrigin): void;
  text(field: "code", row: Row<T>): Cell<Code>;
  text(field: string, row: Row<T>): Cell;
  find(key: Key): Row<T> | undefined;
  key(row: Row<T>): Key;
  parent(row: Row<T>): Row<ContainerOf<T>>;
  sheet(row: Row<T>): number;
  line(row: Row<T>): number;
  fieldOrigin(field: string, row: Row<T>): FieldOrigin | undefined;
  childrenOf(parent: Row<ContainerOf<T>>): Int32Array;
  findChild(parent: Row<ContainerOf<T>>, fits: (row: Row<T>) => boolean): Row<T>;
  countChildren(parent: Row<ContainerOf<T>>): number;
  childrenWhere(parent: Row<ContainerOf<T>>, fits: (row: Row<T>) => boolean): readonly Row<T>[];
  childrenNow(): ChildrenThen<Row<ContainerOf<T>>, Row<T>>;
}
