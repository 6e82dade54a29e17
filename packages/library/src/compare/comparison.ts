/** What a comparison with a platform finds. */

import type { Location } from "../location.js";
import type { FieldChange } from "./changed-fields.js";
import type { Collision } from "./collisions.js";
import type { ChangedOrKept } from "./delivered-fields.js";
import type { Pair } from "./pairs.js";
import type { FormerOnPlatform } from "./former.js";
import type { Sides } from "./sides.js";

/** The most dangerous first. */
export const recordStates = [
  "would overwrite",
  "both changed",
  "changed on the platform",
  "deleted on the platform",
  "no longer in your sources",
  "changed",
  "new",
  "only on the platform",
] as const;
/** How a record differs; the most dangerous first. */
export type RecordState = (typeof recordStates)[number];

/** A record that differs, field by field. */
export interface ComparedRecord {
  readonly kind: string;
  /** Your key; of a record that only the platform has, the platform's. */
  readonly key: string;
  readonly state: RecordState;
  readonly fields: readonly FieldChange[];
  /** Of a record that was yours before an operation: the keys of those that it became. */
  readonly became?: readonly string[];
  /** Where your record comes from. */
  readonly at: Location | undefined;
  /** The rows of the record on both sides; -1 for none. */
  readonly own: number;
  readonly there: number;
}

/** What is intended against what is on the platform. */
export interface Comparison {
  /** All that are not the same. */
  readonly records: readonly ComparedRecord[];
  readonly unchanged: number;
  readonly collisions: readonly Collision[];
  /** What may be the same record under another key, for the specialist to say. */
  readonly suggestions: readonly Pair[];
  /** Lists with more entries on the platform than in your sources, where the platform cannot remove entries: `product p1: prices`. */
  readonly stays: readonly string[];
}

/** A comparison with the two sides that it is of, and who changed what. */
export interface PlatformComparison extends Comparison {
  readonly sides: Sides;
  /** Who has changed a field since it was last delivered, of fields that differ. @param row of the intended record, without singles. */
  readonly changedBy: (kind: string, row: number, field: string) => ChangedOrKept;
  /** The platform's records that were yours before an operation. */
  readonly former: FormerOnPlatform;
}
