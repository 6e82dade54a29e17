/**
 * What the columns of a file do to a record on the platform. One file for each kind of feed, or for those that work together; the table of
 * all is in `effects.ts`.
 */

import type { CellValue } from "../../../codecs/codec.js";
import type { KindSpec } from "../../../kind.js";
import type { Kinds } from "../../../kinds.js";
import type { Layout } from "../../../layout/layout.js";
import type { Use } from "../columns.js";
import type { Names } from "../names.js";
import type { HeldRecord } from "../held-record.js";
import type { PlatformStore } from "../store.js";

/** What a cell asks for: what it says, nothing at all, or that the platform puts something there by itself. */
export type Act =
  | { readonly is: "say"; readonly value: CellValue }
  | { readonly is: "clear" }
  | { readonly is: "leave" }
  | { readonly is: "begin"; readonly text: string };

/** The record that a row is about. */
export interface RecordPlace {
  readonly store: PlatformStore;
  readonly names: Names;
  readonly kinds: Kinds;
  readonly kind: KindSpec;
  readonly record: HeldRecord;
  readonly isNew: boolean;
  readonly importing: {
    readonly lists: "replace" | "add";
    readonly "axes of a known parent": "must match" | "replace";
  };
  /** Whether records of a kind have rows of their own in some file; else they are what cells name. */
  readonly hasRows: (kind: string) => boolean;
  /** The language whose names make axes and values. */
  readonly axisLanguage: string | undefined;
  readonly refuse: (reason: string) => void;
  readonly note: (note: string) => void;
  /** By field: the places in its list whose names lead nowhere and are left out. */
  readonly leftOut: NamesLeftOut;
  /** Looks up what cells name: now, or when the platform does. */
  lookUp(use: Use, run: (find: LookUpNow) => void): void;
  /** The same place, but for this. */
  otherwise(changed: ChangedPlace): RecordPlace;
}

export type ChangedPlace = Partial<Pick<RecordPlace, "record" | "importing">>;

/** Of a row's lists of names, by field: the places of those that are left out. Most rows leave none out. */
export class NamesLeftOut {
  #places: Map<string, ReadonlySet<number>> | undefined;

  get(field: string): ReadonlySet<number> | undefined {
    return this.#places?.get(field);
  }

  /** @param found the records that the names lead to; undefined for one that leads nowhere. */
  note(field: string, found: readonly unknown[]): void {
    if (!found.includes(undefined)) return void this.#places?.delete(field);
    this.#places ??= new Map();
    this.#places.set(field, new Set(found.flatMap((one, at) => (one === undefined ? [at] : []))));
  }
}

/** Finds records while they are looked up. */
export interface LookUpNow {
  /** Only records with smaller numbers are found. */
  readonly before: number;
  readonly refuse: (reason: string) => void;
  readonly note: (note: string) => void;
}

/** What the columns together do to a record. */
export interface Effect {
  /** Later ones go on with what the record refers to by then. */
  readonly when: "first" | "after references";
  readonly apply: (place: RecordPlace, actOf: (use: Use) => Act) => void;
}

/** @param uses those of the kind, of one record. */
export type EffectsOf<U extends Use> = (uses: readonly U[], kind: KindSpec, layout: Layout) => readonly Effect[];

/** An effect for each column by itself. */
export const each =
  <U extends Use>(
    of: (use: U, kind: KindSpec, layout: Layout) => Effect["apply"] | undefined,
    when: Effect["when"] = "first",
  ): EffectsOf<U> =>
  (uses, kind, layout) =>
    uses.flatMap((use) => {
      const apply = of(use, kind, layout);
      return apply ? [{ when, apply }] : [];
    });
