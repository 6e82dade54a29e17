/**
 * A layout, compiled: what each column holds, of which record, by which codec. Reading and writing both go by it.
 *
 * Terms: a *block* is the run of rows of one root record (or of one record, where rows are one record each); its *parent* is the
 * root record (a product), its *children* the records it contains (variants), a *lane* a list of entries on rows of their own.
 */

import type { Codec } from "../codecs/codec.js";
import type { ReferenceSpec } from "../catalogue/reference-pool.js";
import type { CsvOptions } from "../formats/csv-read.js";
import type { KindSpec } from "../kind.js";

export type Scope =
  { readonly is: "parent" } | { readonly is: "child" } | { readonly is: "lane"; readonly lane: string };

/** What a cell feeds. */
export type Target =
  | { readonly feeds: "key" }
  /** Tells rows apart and is no field of a record: a marker, a child's word for its parent. */
  | { readonly feeds: "shape" }
  | { readonly feeds: "text"; readonly field: string }
  /** `shape`: one reference, a list of them, a path (a reference within a reference), or a list of paths. */
  | {
      readonly feeds: "reference";
      readonly field: string;
      readonly shape: ReferenceShape;
      readonly spec: ReferenceSpec;
    }
  | { readonly feeds: "entry"; readonly entries: string; readonly constants: Constants; readonly field: EntryField }
  | {
      readonly feeds: "axis";
      readonly number: number;
      readonly holds: "name" | "value";
      readonly lang: string;
      readonly leads: boolean;
    }
  | { readonly feeds: "named-axis"; readonly axis: string; readonly lang: string }
  /** Names, in another language, of the nodes that the column `beside` refers to. */
  | { readonly feeds: "naming"; readonly beside: number; readonly lang: string; readonly list: boolean };

export type ReferenceShape = "one" | "list" | "path" | "paths";
export type Constants = Readonly<Record<string, string>>;
export type EntryField =
  | { readonly is: "text"; readonly name: string; readonly list: boolean }
  | { readonly is: "reference"; readonly name: string; readonly list: boolean; readonly spec: ReferenceSpec };

export interface Binding {
  readonly target: Target;
  readonly codec: Codec;
  readonly blankEmpties: boolean;
  /** As a person would write it: `product.name@en`. */
  readonly name: string;
}

export interface Column {
  readonly header: string;
  readonly scope: Scope;
  /** A column may feed several fields; writing takes the first. */
  readonly bindings: readonly Binding[];
}

export interface Lane {
  readonly name: string;
  readonly of: "parent" | "child";
  /** Entries of a collection, or references of a list: one a row. */
  readonly holds: "entries" | "references";
  /** The name of the collection, or of the field with the list. */
  readonly collection: string;
  readonly constants: Constants;
  /** A row continues the one above when these are all blank. */
  readonly blankColumns: readonly string[];
}

export type Joined =
  | { readonly by: "following" }
  | { readonly by: "reference"; readonly column: string; readonly names: "key" | "code" | "line" };

export type Shape =
  | { readonly is: "flat"; readonly kind: KindSpec }
  | {
      readonly is: "grouped";
      readonly parent: KindSpec;
      readonly child: KindSpec;
      readonly column: string;
      readonly scattered: boolean;
      readonly everyRow: boolean;
    }
  | {
      readonly is: "own-row";
      readonly parent: KindSpec;
      readonly child: KindSpec;
      readonly marker: Marker | undefined;
      readonly joined: Joined;
    };

export interface Marker {
  readonly column: string;
  readonly parent: string;
  readonly child: string;
}

export interface Layout {
  readonly name: string;
  /** The file it was read from, for places. */
  readonly file: string;
  readonly csv: CsvOptions & { readonly encoding: string; readonly lineEnd: "\r\n" | "\n"; readonly mark: boolean };
  readonly shape: Shape;
  readonly lanes: readonly Lane[];
  readonly columns: readonly Column[];
  readonly ignored: readonly string[];
}

/** The kind of record that a column's scope stands for. */
export function kindOfScope(layout: Layout, scope: Scope): KindSpec {
  const { shape } = layout;
  if (shape.is === "flat") return shape.kind;
  const is = scope.is === "lane" ? layout.lanes.find((lane) => lane.name === scope.lane)!.of : scope.is;
  return is === "parent" ? shape.parent : shape.child;
}

/** Name of the field a binding feeds, as findings and origins know it: `name@en`, `prices(regular).amount`. */
export function fieldName(target: Target): string {
  switch (target.feeds) {
    case "key":
    case "shape":
      return target.feeds;
    case "text":
    case "reference":
      return target.field;
    case "entry": {
      const constant = Object.values(target.constants)[0];
      return `${target.entries}${constant === undefined ? "" : `(${constant})`}.${target.field.name}`;
    }
    case "axis":
      return target.holds === "name" ? `axes@${target.lang}` : `values@${target.lang}`;
    case "named-axis":
      return `values@${target.lang}`;
    case "naming":
      return `naming@${target.lang}`;
  }
}

/** The same for a column: a lane's entries have more to their key than the constants, and are named apart from those that have not. */
export function columnField({ scope }: Column, target: Target): string {
  return scope.is === "lane" && target.feeds === "entry"
    ? `${target.entries}[].${target.field.name}`
    : fieldName(target);
}
