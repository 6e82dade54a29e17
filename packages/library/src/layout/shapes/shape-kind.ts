/** What a row shape has to say for itself. One file for each; the table is in `shapes.ts`. */

import type { Header } from "../../nominal.js";
import type { KindSpec } from "../../kind.js";
import type { Text } from "../../phrases/phrase.js";
import type { RowRole } from "../read/cut.js";
import type { BlockFiller } from "../fill/block.js";
import type { FillOptions } from "../fill/context.js";
import type { Table } from "../../catalogue/table.js";
import type { Layout, Shape } from "../layout.js";
import type { GivenRows } from "../schema.js";
import type { BlockPen, MutableRow } from "../write/block.js";

/** `rows` of a layout, with the kinds that they name. */
export interface RowsPlace {
  readonly rows: GivenRows;
  /** The kind of `each`. */
  readonly kind: KindSpec;
  /** Reports a mistake at a word of `rows`. */
  readonly mistake: (problem: Text, nearest?: string, ...path: string[]) => undefined;
}

/** The same where rows are `of` another kind. */
export interface ContainedRows extends RowsPlace {
  /** The kind of `of`, which contains that of `each`. */
  readonly parent: KindSpec;
}

export type RowsWord = keyof GivenRows;

/** A column that tells what a row is, or which record it is of. */
export interface TellingColumn {
  readonly header: Header;
  /** The word of `rows` that names it, where it has to be one of the layout's columns; else it need not be listed there. */
  readonly listedFor?: RowsWord | undefined;
  /** Without it no row of a sheet can be read. */
  readonly isNeeded?: boolean | undefined;
  /** Whether rows that continue a record show it again. */
  readonly isRepeated?: boolean | undefined;
  /** The only words that it holds. */
  readonly words?: readonly string[] | undefined;
}

/** What every shape has to say of its rows. */
export interface ShapeKind<S extends Shape> {
  /** The words of `rows` that it takes, beside those that every shape takes. */
  readonly words: readonly RowsWord[];
  /** Whether these words make the shape. The first in the table that answers yes is taken. */
  readonly isMeant: (rows: GivenRows) => boolean;
  readonly tells: (shape: S) => readonly TellingColumn[];
  /** What each row of a sheet is; undefined for documents, which are cut by their elements. */
  readonly cut: ((shape: S, layout: Layout, indexOf: (header: Header) => number) => CutRow) | undefined;
  /** Takes the blocks that were cut. @param parents whose records they are of, where it is not the shape's own parent. */
  readonly fill: (shape: S, options: FillOptions, parents: Table | undefined) => BlockFiller;
  /** The rows of a record and its children. */
  readonly unroll: (shape: S, pen: BlockPen) => Unroll;
}

export type CutRow = (cells: readonly string[]) => RowRole;
export type Unroll = (parent: number, children: readonly number[]) => MutableRow[];

/** A shape of rows of one kind. */
export interface ShapeOfOne<S extends Shape> extends ShapeKind<S> {
  readonly ofOne: (place: RowsPlace) => S | undefined;
}

/** A shape of rows of a kind and of what contains it. */
export interface ShapeOfTwo<S extends Shape> extends ShapeKind<S> {
  readonly ofTwo: (place: ContainedRows) => S | undefined;
}

export type ShapeOf<K extends Shape["is"]> = Extract<Shape, { readonly is: K }>;
