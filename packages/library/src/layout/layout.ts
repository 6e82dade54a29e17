/**
 * A layout, compiled: what each column holds, of which record, by which codec. Reading and writing both go by it.
 *
 * Terms: a *block* is the run of rows of one root record (or of one record, where rows are one record each); its *parent* is the
 * root record (a product), its *children* the records it contains (variants), a *lane* a list of entries on rows of their own.
 */

import type { Header, Lang } from "../nominal.js";
import { fitting, present } from "../checked.js";
import type { Codec } from "../codecs/codec.js";
import type { Fix } from "../codecs/fixes.js";
import type { Pattern } from "../codecs/pattern.js";
import type { ReferenceSpec } from "../catalogue/reference-pool.js";
import type { Format } from "../formats/format.js";
import type { KindSpec } from "../kind.js";
import type { CellStep } from "./cells.js";

export type Scope =
  { readonly is: "parent" } | { readonly is: "child" } | { readonly is: "lane"; readonly lane: string };

/** What a cell feeds. */
export type Feed =
  | { readonly is: "key" }
  /** Tells rows apart, or stays as it is, and is not a field of a record: a marker, a child's word for its parent, a fixed text. */
  | { readonly is: "shape"; readonly constant?: string }
  /** `otherwise`: the field that takes what is not one of the code words. */
  | { readonly is: "text"; readonly field: string; readonly otherwise?: string | undefined }
  /** `parts`: what the cell states for the records besides their name. */
  | {
      readonly is: "reference";
      readonly field: string;
      readonly shape: ReferenceShape;
      readonly spec: ReferenceSpec;
      readonly parts: PartsPlan | undefined;
    }
  /** What contains the record: a variant's product, on rows that say nothing else of the product. */
  | { readonly is: "container"; readonly spec: ReferenceSpec }
  /** A field of the records that the reference `via` names. */
  | {
      readonly is: "referred";
      readonly via: string;
      /** Which node of a path, counted from its root; the record itself if left out. */
      readonly node: number | undefined;
      readonly field: string;
      readonly list: boolean;
      /** Where the field is of an entry of that record: its main picture. */
      readonly entry: ReferredEntry | undefined;
    }
  | {
      readonly is: "entry";
      readonly entries: string;
      readonly constants: Constants;
      readonly named: NamedConstants;
      readonly field: EntryField;
      /** The fields of the columns, or of the parallel lists, that make entries together with this one, itself among them. */
      readonly parallel: readonly string[];
    }
  /** Whole entries in one cell, each in parts. */
  | {
      readonly is: "entries";
      readonly entries: string;
      readonly constants: Constants;
      readonly named: NamedConstants;
      readonly list: boolean;
      readonly parts: PartsPlan;
    }
  | {
      readonly is: "axis";
      readonly number: number;
      /** `values`: all values of the product's variants on that axis, which the layout expands. */
      readonly holds: "name" | "value" | "values";
      readonly lang: Lang;
      /** Whether its names make the axis and the values; those in other languages name what is there. */
      readonly leads: boolean;
    }
  /** All axes of a product in one cell: their names, or a variant's values on them, in the same order. */
  | { readonly is: "axes"; readonly holds: "names" | "values"; readonly lang: Lang; readonly leads: boolean }
  /** An axis named by the layout: the variant's value on it, or all values of its product. */
  | {
      readonly is: "named-axis";
      readonly axis: string;
      /** The language of that name. */
      readonly axisLang: Lang;
      readonly holds: "value" | "values";
      readonly lang: Lang;
      readonly leads: boolean;
    }
  /** Names, in another language, of the nodes that the column `beside` refers to. */
  | { readonly is: "naming"; readonly beside: number; readonly lang: Lang; readonly list: boolean };

export interface ReferredEntry {
  readonly entries: string;
  readonly constants: Constants;
  readonly named: NamedConstants;
  /** The fields that other columns hold of the same entry, and its own. */
  readonly parallel: readonly string[];
}

/** One reference, a list of them, a path (a reference within a reference), or a list of paths. */
export type ReferenceShape = "one" | "list" | "path" | "paths";
/** What the parts of a cell feed, in their order. */
export type PartsPlan = readonly PartPlan[];
export type PartPlan =
  /** How the record is named. */
  | { readonly is: "name" }
  | { readonly is: "text"; readonly field: string }
  | { readonly is: "reference"; readonly field: string; readonly spec: ReferenceSpec }
  /** Records contained in the one that the cell names. */
  | {
      readonly is: "children";
      readonly spec: ReferenceSpec;
      readonly list: boolean;
      readonly parts: PartsPlan | undefined;
    };
export type Constants = Readonly<Record<string, string>>;
/** Of the constants those that name records, and how: the property of `properties(Voltage)`. */
export type NamedConstants = Readonly<Record<string, ReferenceSpec>>;
export type EntryField =
  | { readonly is: "text"; readonly name: string; readonly list: boolean }
  | { readonly is: "reference"; readonly name: string; readonly list: boolean; readonly spec: ReferenceSpec };

export interface Binding {
  readonly feed: Feed;
  readonly codec: Codec;
  readonly blankEmpties: boolean;
  /** As a person would write it: `product.name@en`. */
  readonly name: string;
  /** What line ends in a text are written as, where the file can hold none. */
  readonly lineEnds?: string | undefined;
}

/** The lanes of a layout that hold entries, with their columns. */
export const lanesOfEntries = ({ lanes, columns }: Layout): { readonly name: string; readonly headers: Header[] }[] =>
  lanes.flatMap(({ name, holds }) => {
    const own = columns.filter(({ scope }) => scope.is === "lane" && scope.lane === name);
    return holds === "entries" ? [{ name, headers: own.map(({ header }) => header) }] : [];
  });

/** A text as a file without line ends holds it. */
export function withoutLineEnds(text: string, by: string | undefined): string {
  return by === undefined ? text : text.replace(/\s*(?:\r\n|\r|\n)\s*/g, by);
}

export interface Column {
  /** In documents, the path from the element of the block. */
  readonly header: Header;
  readonly scope: Scope;
  /** A column may feed several fields; writing takes the first. */
  readonly bindings: readonly Binding[];
  /** Damage that is undone before the cell is looked at. */
  readonly fixes: readonly { readonly name: string; readonly fix: Fix }[];
  /** What a blank cell stands for. */
  readonly blankMeans: string | undefined;
}

export interface Lane {
  readonly name: string;
  readonly of: "parent" | "child";
  /** Entries of a collection, or references of a list: one a row. */
  readonly holds: "entries" | "references";
  /** The name of the collection, or of the field with the list. */
  readonly collection: string;
  readonly constants: Constants;
  readonly named: NamedConstants;
  /** A row continues the one above when these are all blank; never, if there are none. */
  readonly blankColumns: readonly string[];
  /** Whether a parent's lane has rows of its own below the first, and does not run beside those of its children. */
  readonly hasOwnRows: boolean;
  /** In documents, the repeated element of the lane, from the element of its owner. */
  readonly element: string | undefined;
}

export type Joined =
  | { readonly by: "following" }
  | { readonly by: "reference"; readonly column: string; readonly names: "key" | "code" | "line" };

/** How rows name a record that another sheet gives. */
export interface RowLink {
  readonly column: string;
  /** `key`, `line`, or a field: `code`, `barcode`. */
  readonly names: string;
  /** For lines: of which sheet, by the name of its file. */
  readonly sheet: string | undefined;
  readonly isReported: boolean;
}

/** `parent` is the kind of the records that blocks are of, `child` the kind that they contain. */
export type Shape = { readonly parent: KindSpec } & (
  | { readonly is: "flat"; readonly child: undefined }
  | {
      readonly is: "grouped";
      readonly child: KindSpec;
      readonly column: string;
      readonly scattered: boolean;
      readonly everyRow: boolean;
    }
  | {
      readonly is: "own-row";
      readonly child: KindSpec;
      readonly marker: Marker | undefined;
      readonly joined: Joined;
    }
  /** One row whose cells list values, for a child of every combination. */
  | {
      readonly is: "expanded";
      readonly child: KindSpec;
      readonly code: Pattern | undefined;
      readonly excluded: { readonly column: string; readonly codec: Codec } | undefined;
    }
  /** A document: the element of a block, within it the elements of its children. */
  | {
      readonly is: "nested";
      readonly child: KindSpec | undefined;
      readonly element: string;
      readonly childElement: string | undefined;
    }
);

export interface Marker {
  readonly column: string;
  readonly parent: string;
  readonly child: string;
}

/** How records stand in the rows and cells of a file, compiled. */
export interface Layout {
  /** The headers of the columns that tell what a row is, or which record it is of. */
  readonly telling: ReadonlySet<Header>;
  readonly name: string;
  /** The file it was read from, for places. */
  readonly file: string;
  readonly format: Format;
  /** Of texts whose column does not say one. */
  readonly language: Lang;
  /** The line that the header stands on; undefined where there is none, and columns are called A, B, C. */
  readonly headerLine: number | undefined;
  /** Lines above the header, for writing. */
  readonly notes: readonly string[];
  readonly shape: Shape;
  /** Where rows say more of records which other sheets give: how they name them. */
  readonly link: RowLink | undefined;
  readonly lanes: readonly Lane[];
  readonly columns: readonly Column[];
  /** How cells of the sheet make, and are made of, those that columns are bound to. */
  readonly cells: readonly CellStep[];
  /** Headers of the sheet whose blank cells stand for the cell above. */
  readonly filledDown: readonly Header[];
  readonly modelRow: { readonly column: string; readonly is: string } | undefined;
  readonly languages: RowLanguages | undefined;
  readonly ignored: readonly string[];
}

/** A layout, and, where it has a row a language, those of the rows in each; with the word that stands in the column. */
export function byLanguage(layout: Layout): readonly (readonly [word: string, layout: Layout])[] {
  return layout.languages ? [...layout.languages.layouts] : [["", layout]];
}

/** A row a language: the column that tells it, and the layout of the rows in each. */
export interface RowLanguages {
  readonly column: string;
  /** By the word in the column, the source language first: its rows hold what has no language. */
  readonly layouts: ReadonlyMap<string, Layout>;
}

/** @throws Error for a layout of another format: the caller's bug. */
export function csvOf({ name, format }: Layout): Extract<Format, { is: "csv" }> {
  if (format.is !== "csv") throw new Error(`layout ${name} is not of a CSV file`);
  return format;
}

/** The column with the record that those of a kind belong to, by whose name and their own they are told apart. */
export function ownerColumn(columns: readonly Column[], { within }: KindSpec): Column | undefined {
  if (within === undefined) return undefined;
  return columns.find(
    ({ scope, bindings }) =>
      scope.is === "parent" && bindings.some(({ feed }) => feed.is === "reference" && feed.field === within),
  );
}

/** The kind of record that a column's scope stands for. */
export function kindOfScope(layout: Layout, scope: Scope): KindSpec {
  const { parent, child } = layout.shape;
  return levelOf(layout, scope) === "parent" ? parent : present(child);
}

/** Whether columns are of the records that blocks are of, or of those that these contain. */
export function levelOf({ lanes }: Layout, scope: Scope): "parent" | "child" {
  return scope.is === "lane" ? fitting(lanes, ({ name }) => name === scope.lane).of : scope.is;
}
