/** What a generated layout may bind: a feature of the records, the plain sheet that gives it, and the ways to lay it down. */

import type { Stuff, Things } from "./things.js";

export type Given = Readonly<Record<string, unknown>>;
export type Binding = string | Given | readonly (string | Given)[];

/** `block`: the record's own columns, `child`: those of what it contains; else a lane's. */
export type Place = string;

export interface Placed {
  readonly place: Place;
  readonly name: string;
  readonly binding: Binding;
}

export interface GivenLane {
  readonly entries: string;
  readonly with?: Given;
}

/** What a way adds to a layout. */
export interface Part {
  readonly columns: readonly Placed[];
  readonly lanes?: Readonly<Record<string, GivenLane>>;
  /** For sheets only. */
  readonly cells?: Given;
  readonly listed?: Readonly<Record<string, readonly string[]>>;
}

export interface Kit {
  readonly isDocument: boolean;
  /** The word for what has the sellable fields: `variant`, or `product` where products have no variants. */
  readonly sold: string;
  /** Where its columns stand. */
  readonly soldAt: Place;
  readonly all: Things;
  /** A column for each language, or one that is in the language of its row or file. */
  readonly texts: (place: Place, name: string, bindingOf: (lang: "" | "@en" | "@de") => Binding) => readonly Placed[];
}

/** The record whose cells are wanted. */
export interface Owner extends Stuff {
  readonly all: Things;
  readonly productKeys: readonly string[];
  readonly codes: readonly string[];
}

export interface PlainSheet {
  readonly layout: Given;
  readonly rows: readonly (readonly string[])[];
}

export interface Feature {
  readonly of: "product" | "sold";
  /** Features of which a layout has one at most. */
  readonly instead?: string;
  /** Sheets of records that are there anyway. */
  readonly beside?: (all: Things) => readonly PlainSheet[];
  /** The plain columns, by the word of the record; `each.` stands for the lane's. */
  readonly plain: (sold: string) => { readonly columns: Readonly<Record<string, Binding>>; readonly lane?: GivenLane };
  readonly rows: (owner: Owner) => readonly (readonly string[])[];
  readonly ways: readonly ((kit: Kit) => Part)[];
}

export const csv = { csv: { delimiter: ";" } };

/** A way of one column. */
export const column =
  (name: string, binding: (kit: Kit) => Binding, place?: Place) =>
  (kit: Kit): Part => ({ columns: [{ place: place ?? kit.soldAt, name, binding: binding(kit) }] });

export const plainSheet = (
  rows: Given,
  columns: Readonly<Record<string, Binding>>,
  cells: readonly (readonly string[])[],
  more: Given = {},
): PlainSheet => ({
  layout: { layout: "plain", format: csv, rows, columns, ...more },
  rows: [Object.keys(columns), ...cells],
});

/** The sheets of records that features refer to, each once. */
export const besides = (used: readonly Feature[], all: Things): readonly PlainSheet[] =>
  [...new Set(used.flatMap(({ beside }) => beside ?? []))].flatMap((one) => one(all));
