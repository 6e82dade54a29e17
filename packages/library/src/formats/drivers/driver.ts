/** What a format has to say for itself: one file for each, the table of all in `drivers.ts`. */

import type { z } from "zod";
import type { Caps } from "../../caps.js";
import type { Findings } from "../../findings/finding.js";
import type { Text } from "../../phrases/phrase.js";
import type { ByteReader } from "../byte-reader.js";
import type { RowBatch } from "../row-batch.js";
import type { DocumentAccess, DocumentElement } from "../document.js";
import type { Format } from "../format.js";
import type { Workbook } from "../workbook-read.js";

/** Rows for a file. */
export interface RowsToWrite {
  /** Of the sheet, where the format has sheets. */
  readonly sheet: string;
  readonly rows: Iterable<readonly string[]>;
}

/** What a cell cannot hold, in words of what it can; undefined for what it can. */
export type CellLimit = (cell: string) => Text | undefined;

/** What the cells of a row cannot hold: each of them, and the last one alone. */
export interface CellLimits {
  readonly each?: CellLimit | undefined;
  readonly last?: CellLimit | undefined;
}

/** Of formats whose files are rows of cells. */
export interface RowsDriver<F extends Format> {
  /** How many lines a row takes in the file. */
  readonly linesOf: (cells: readonly string[]) => number;
  /** How many bytes a row takes; undefined where rows are packed together. */
  readonly bytesOf: ((format: F) => (cells: readonly string[]) => number) | undefined;
  /** How many bytes stand before the first row: a byte order mark. */
  readonly bytesBefore?: ((format: F) => number) | undefined;
  readonly limits: (format: F) => CellLimits;
  /** Whether a spreadsheet takes a text that begins like a formula, and is written as it is, for one. */
  readonly isOpenToFormulas: (format: F) => boolean;
  /** @param sheets one, and more of them only where the format has sheets. */
  readonly write: (format: F, sheets: readonly RowsToWrite[]) => Promise<Iterable<Uint8Array>>;
}

/** A text of an element. */
export interface ElementText {
  readonly text: string;
  /** What its codec holds: JSON has a form of its own for numbers and flags. */
  readonly holds: "number" | "flag" | undefined;
}

/** What a format makes of elements. */
export interface ElementMaker<E> {
  readonly root: () => E;
  /** One more element at a step below another. @param itself its text; undefined where it has more within it. */
  readonly add: (owner: E, step: string, itself: ElementText | undefined) => E;
  /** The one element at a step below another, made if it is not there. */
  readonly reach: (owner: E, step: string) => E;
  /** Puts a text where a path leads from an element. */
  readonly put: (element: E, path: string, text: ElementText) => void;
}

/** A document that is written, one element after the other. */
export interface DocumentWriter<E> extends ElementMaker<E> {
  readonly head: string;
  readonly between: string;
  readonly tail: string;
  readonly textOf: (element: E) => string;
}

/** Of formats whose files are documents. */
export interface ElementsDriver<F extends Format> {
  /** How paths lead through them. */
  readonly access: (
    format: F,
  ) => Pick<DocumentAccess<unknown>, "levels" | "within" | "normal" | "isPath" | "isOutside">;
  /** What a path is, in words. */
  readonly pathForm: Text;
  /** @returns undefined where elements hold any text. */
  readonly limits: CellLimit | undefined;
  /** Where the first element stands, as reading it says: a line, or a position among the elements. */
  readonly firstLine: (format: F) => number;
  /** How far the next element is from one with these cells. */
  readonly linesOf: (format: F, cells: readonly string[]) => number;
  /**
   * Which of several repeated elements a document has, be they ever so few; undefined where only elements themselves tell. In the end
   * undefined for what is not a complete document.
   */
  readonly lists:
    | ((
        format: F,
        source: Pick<SourceFile, "bytes" | "file" | "findings">,
        elements: readonly string[],
      ) => Promise<ReadonlySet<string> | undefined>)
    | undefined;
  /** Hands on what makes its elements, whatever they are. @param element the path of the repeated one. */
  readonly write: (format: F, element: string) => <R>(take: <E extends object>(writer: DocumentWriter<E>) => R) => R;
}

/** A file that is read. */
export interface SourceFile {
  readonly bytes: ByteReader;
  /** As findings call it. */
  readonly file: string;
  /** Takes what is wrong with the file itself: its bytes, its form. */
  readonly findings: Findings;
  readonly headerLine: number | undefined;
  /** The path of the repeated element, for documents. */
  readonly element: string | undefined;
  readonly caps: Caps;
  /** Workbooks that were opened before: several sources may read their sheets. */
  readonly books: Map<string, Workbook | undefined>;
}

type Batches<T> = AsyncIterable<T> | Iterable<T>;

/** A file that has been opened, batch by batch. */
export type Opened = {
  /** What was found of its form, once it is read: `CSV ";" utf-8`. */
  readonly form: () => string;
  /** What its texts were found to be in, once they are read; undefined where the format settles it. */
  readonly encoding: () => string | undefined;
} & (
  | { readonly is: "rows"; readonly sheet: string | undefined; readonly batches: Batches<RowBatch> }
  | {
      readonly is: "elements";
      /** Hands on the elements with what takes them apart, whatever they are. */
      readonly with: <R>(take: <N>(elements: Elements<N>) => R) => R;
    }
);

export interface Elements<N> {
  readonly access: DocumentAccess<N>;
  /** Where the elements stand, for formats that count them instead of their lines. */
  readonly pointer: string | undefined;
  readonly batches: AsyncIterable<readonly DocumentElement<N>[]>;
}

/** @typeParam W what stands in a layout behind the name of the format. */
export interface FormatDriver<F extends Format, W extends z.ZodType = z.ZodType> {
  /** The words that a layout may say of it. */
  readonly schema: W;
  /** The format that these words give. */
  readonly of: (given: z.infer<W>) => F;
  /** The format of a file that begins so; undefined where it is another. @param text the bytes as they read in their encoding. */
  readonly detect: (head: Uint8Array, text: string) => F | undefined;
  /** Whether its own bytes are an archive: then no other is looked for in it. */
  readonly isArchive: boolean;
  /** @returns undefined for a file that is none of this format; the findings say why. */
  readonly open: (format: F, source: SourceFile) => Promise<Opened | undefined>;
  /** The ending of its files, without the dot. */
  readonly ending: (format: F) => string;
  /** As a Data Package describes its files: https://specs.frictionlessdata.io/tabular-data-resource. */
  readonly resource: (format: F) => Readonly<Record<string, unknown>>;
  /** Why files of it cannot be written, though they can be read; undefined where they can. */
  readonly unwritten: (format: F) => Text | undefined;
  /** Undefined for documents. */
  readonly rows: RowsDriver<F> | undefined;
  /** Undefined for rows. */
  readonly elements: ElementsDriver<F> | undefined;
}

export type FormatOf<K extends Format["is"]> = Extract<Format, { readonly is: K }>;
