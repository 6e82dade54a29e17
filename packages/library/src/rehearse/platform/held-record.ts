/** A record on a simulated platform, as those see it that may not change it, and how its cells are read. */

import type { ByPlace, ReadonlyByPlace } from "./by-place.js";

/** A text, or the records that a field leads to. */
export type HeldValue = string | readonly HeldRecord[];

/** What no file said: where a field starts, or an address that the platform made. */
class OfPlatform {
  constructor(readonly value: HeldValue) {}
}

/** What stands in a field. */
export type HeldCell = HeldValue | OfPlatform;

/** @param isOfPlatform whether no file said it. */
export const heldCell = (value: HeldValue, isOfPlatform: boolean): HeldCell =>
  isOfPlatform ? new OfPlatform(value) : value;

/** Whether no file said it. */
export const isOfPlatform = (cell: HeldCell): boolean => cell instanceof OfPlatform;

export const valueOf = (cell: HeldCell): HeldValue => (cell instanceof OfPlatform ? cell.value : cell);

/** Fields with what stands in them. */
export type HeldCells = ReadonlyByPlace<HeldCell>;

/** An entry of a record, by its fields. It is never changed: another one takes its place. */
export type HeldEntry = HeldCells;

/** An entry while it is made. */
export type EntryCells = ByPlace<HeldCell>;

/** A record on the platform. It is changed through the store alone. */
export interface HeldRecord {
  readonly kind: string;
  /** In the order in which records were made. */
  readonly number: number;
  /** Of what is named within one record alone, such as the axes that rows name: that record. */
  readonly owner: HeldRecord | undefined;
  /** The record that it is contained in. */
  readonly container: HeldRecord | undefined;
  readonly isThere: boolean;
  readonly fields: HeldCells;
  readonly entries: ReadonlyByPlace<readonly HeldEntry[]>;
}

/** What stands in a field; undefined where nothing does. */
export function valueIn(fields: HeldCells, field: string): HeldValue | undefined {
  const cell = fields.get(field);
  return cell === undefined ? undefined : valueOf(cell);
}

/** A field's text; undefined where it has none. */
export function textIn(fields: HeldCells, field: string): string | undefined {
  const value = valueIn(fields, field);
  return typeof value === "string" ? value : undefined;
}

/** The first of the filled fields that is wanted. */
export function firstField(fields: HeldCells, isWanted: (field: string) => boolean): string | undefined {
  let first: string | undefined;
  fields.some((field) => isWanted(field) && ((first = field), true));
  return first;
}

/** The records that a field leads to. */
export function recordsIn(fields: HeldCells, field: string): readonly HeldRecord[] {
  const value = valueIn(fields, field);
  if (value === undefined || typeof value === "string") return noRecords;
  return value.every(isThere) ? value : value.filter(isThere);
}

const noRecords: readonly HeldRecord[] = [];
const isThere = (record: HeldRecord): boolean => record.isThere;

export function sameValue(a: HeldValue | undefined, b: HeldValue | undefined): boolean {
  if (typeof a !== "object" || typeof b !== "object") return a === b;
  return a.length === b.length && a.every((one, at) => one === b[at]);
}

export function sameEntry(a: HeldEntry, b: HeldEntry): boolean {
  return a.size === b.size && !a.some((field, cell) => !sameValue(valueOf(cell), valueIn(b, field)));
}
