/**
 * What a platform holds, in our words: plain records with fields, whoever holds them. What is intended, what a rehearsal arrives at and
 * what a platform tells of itself are all put into this form, by code of their own, and then compared.
 *
 * A field is named as columns' bindings name it: `name@en`, `prices(price).amount`. An absent field is not in the map.
 */

import type { CellValue } from "../codecs/codec.js";
import { compareText } from "../location.js";

/**
 * By kind. On a platform of records everything goes by its key. On one of grouped rows variants go by code, singles among them.
 * Categories go by the names of their path there, as `pathKey` joins them.
 */
export type Snapshot = {
  readonly product: ReadonlyMap<string, SnapshotRecord>;
  readonly variant: ReadonlyMap<string, SnapshotRecord>;
  readonly category: ReadonlyMap<string, SnapshotRecord>;
} & { readonly [kind: string]: ReadonlyMap<string, SnapshotRecord> };
export type SnapshotRecord = ReadonlyMap<string, CellValue>;

const none: ReadonlyMap<string, SnapshotRecord> = new Map();

/** One field that is otherwise than intended. */
export interface Difference {
  readonly kind: string;
  readonly key: string;
  /** Left out when the record itself is missing or too much. */
  readonly field?: string;
  readonly intended: CellValue | undefined;
  readonly actual: CellValue | undefined;
}

/** What a category is known by in a snapshot: its names from the top down. */
export const pathKey = (path: readonly string[]): string => path.join(" / ");

/** Every difference, by kind, key and field. */
export function compareSnapshots(intended: Snapshot, found: Snapshot): Difference[] {
  const kinds = [...new Set([...Object.keys(intended), ...Object.keys(found)])];
  return kinds.flatMap((kind) => {
    const [own, other] = [intended[kind] ?? none, found[kind] ?? none];
    const keys = [...new Set([...own.keys(), ...other.keys()])].sort(compareText);
    return keys.flatMap((key) => compareRecords(kind, key, own.get(key), other.get(key)));
  });
}

function compareRecords(
  kind: string,
  key: string,
  intended: SnapshotRecord | undefined,
  found: SnapshotRecord | undefined,
): Difference[] {
  if (!intended || !found) return [{ kind, key, intended: intended && key, actual: found && key }];
  const differing: string[] = [];
  for (const [field, value] of intended) if (!sameValue(value, found.get(field))) differing.push(field);
  for (const field of found.keys()) if (!intended.has(field)) differing.push(field);
  return differing
    .sort(compareText)
    .map((field) => ({ kind, key, field, intended: intended.get(field), actual: found.get(field) }));
}

export function sameValue(a: CellValue | undefined, b: CellValue | undefined): boolean {
  if (typeof a !== "object" || typeof b !== "object") return a === b;
  return a.length === b.length && a.every((one, at) => sameValue(one, b[at]));
}

/** Puts a field in, unless there is nothing in it. */
export function setField(record: Map<string, CellValue>, field: string, value: CellValue | undefined): void {
  if (value !== undefined && value.length > 0) record.set(field, value);
}

/** Tiers in the order that does not depend on who tells them: quantity, then group, everybody first. */
export function sortTiers(tiers: readonly (readonly string[])[]): string[][] {
  return tiers
    .map((tier) => [...tier])
    .sort((a, b) => Number(a[0]) - Number(b[0]) || compareText(a[1] ?? "", b[1] ?? ""));
}

/** Entries in an order that does not depend on who tells them. */
export function sortEntries(entries: readonly CellValue[]): CellValue[] {
  return [...entries].sort((a, b) => compareText(JSON.stringify(a), JSON.stringify(b)));
}
