/** What a row shape has to say for itself: which words of `rows` make it, and what they give. One file for each; the table is in `shapes.ts`. */

import type { KindSpec } from "../../kind.js";
import type { Text } from "../../phrases/phrase.js";
import type { Shape } from "../layout.js";
import type { GivenRows } from "../schema.js";

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

interface AnyShape {
  /** The words of `rows` that it takes, beside `each`, `of` and `language`. */
  readonly words: readonly RowsWord[];
  /** Whether these words make the shape. The first in the table that answers yes is taken. */
  readonly isMeant: (rows: GivenRows) => boolean;
}

/** A shape of rows of one kind. */
export interface ShapeOfOne<S extends Shape> extends AnyShape {
  readonly ofOne: (place: RowsPlace) => S | undefined;
}

/** A shape of rows of a kind and of what contains it. */
export interface ShapeOfTwo<S extends Shape> extends AnyShape {
  readonly ofTwo: (place: ContainedRows) => S | undefined;
}

export type ShapeOf<K extends Shape["is"]> = Extract<Shape, { readonly is: K }>;
