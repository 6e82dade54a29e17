/**
 * What is to become of each field that differs: written over, filled where it is blank there, added to, or left alone.
 *
 * In: the comparison, what the project wishes. Out: what the platform shall hold in the end, and what of it has to be written.
 */

import { policyOf, type ChangeWishes } from "../compare/policies.js";
import type { CellValue } from "../codecs/codec.js";
import type { ComparedRecord, FieldChange } from "../compare/compare.js";
import { originKey, type Intended } from "../rehearse/intended.js";
import type { LaneKeys } from "../rehearse/older/start.js";
import { sameValue, sortEntries, type Snapshot, type SnapshotRecord } from "../rehearse/snapshot.js";

/** Whether ours says nothing of a field, which is not the same as saying that there is to be nothing. */
export function isLeftOut(
  intended: Intended,
  kind: string,
  key: string,
  { field, intended: wanted }: FieldChange,
): boolean {
  // Which axes there are, and which values, is said as a whole.
  if (wanted !== undefined || /^(axis|value) \d+$|^(axes|values)$/.test(field)) return false;
  const origin = intended.origins.get(originKey(kind, key));
  return origin?.table.text(field, origin.row) !== null;
}

/** What the platform shall have in the end in a field that differs. */
export function settled(
  intended: Intended,
  { kind, key }: Pick<ComparedRecord, "kind" | "key">,
  change: FieldChange,
  wishes: ChangeWishes,
  laneKeys?: readonly number[],
): CellValue | undefined {
  const { field, intended: wanted, onPlatform: held, by } = change;
  const policy = policyOf(kind, field, wishes);
  if (isLeftOut(intended, kind, key, change)) return held;
  if (policy === "leave" || (policy === undefined && by === "platform")) return held;
  if (policy === "fill") return held ?? wanted;
  // Entries that are there stay there; those of the same key are written over.
  if (laneKeys && typeof wanted === "object" && typeof held === "object") {
    const keyOf = (entry: CellValue) => JSON.stringify(laneKeys.map((at) => entry[at]));
    const ours = new Set(wanted.map(keyOf));
    return sortEntries([...held.filter((one) => !ours.has(keyOf(one))), ...wanted]);
  }
  if (policy === "add" && typeof wanted === "object" && typeof held === "object")
    return [...held, ...wanted.filter((one) => !held.some((other) => sameValue(one, other)))];
  return wanted;
}

export interface Settled {
  /** What the platform holds in the end, if all goes well. */
  readonly after: Record<string, ReadonlyMap<string, SnapshotRecord>> & Snapshot;
  /** By kind and key: the fields that have to be written. */
  readonly changed: ReadonlyMap<string, ReadonlyMap<string, ReadonlySet<string>>>;
  /** Fields whose cells have to say what is there, where they are written at all: by kind and key, with what. */
  readonly kept: ReadonlyMap<string, ReadonlyMap<string, CellValue | undefined>>;
  /** Records of ours that are not made. */
  readonly notMade: ReadonlySet<string>;
}

/** Works out what is to be written, and what will be there then. */
export function settle(
  intended: Intended,
  held: Snapshot,
  records: readonly ComparedRecord[],
  wishes: ChangeWishes,
  lanes: LaneKeys,
): Settled {
  const after: Record<string, Map<string, SnapshotRecord>> = {};
  for (const [kind, own] of Object.entries(held)) after[kind] = new Map(own);
  const changed = new Map<string, Map<string, Set<string>>>();
  const kept = new Map<string, Map<string, CellValue | undefined>>();
  const notMade = new Set<string>();
  for (const one of records) {
    const { kind, key, fields } = one;
    const wanted = intended.snapshot[kind]?.get(key);
    const there = held[kind]?.get(key);
    if (!wanted) continue;
    if (!there) {
      // What the platform makes of names comes with what names it.
      if (wishes.only === "update") notMade.add(originKey(kind, key));
      else (after[kind] ??= new Map<string, SnapshotRecord>()).set(key, wanted);
      continue;
    }
    const result = new Map(there);
    const own = new Set<string>();
    for (const change of fields) {
      const value =
        wishes.only === "create"
          ? change.onPlatform
          : settled(intended, one, change, wishes, lanes.get(`${kind}.${change.field}`));
      if (value === undefined) result.delete(change.field);
      else result.set(change.field, value);
      if (!sameValue(value, change.onPlatform)) own.add(change.field);
      if (!sameValue(value, change.intended)) {
        const name = originKey(kind, key);
        kept.set(name, (kept.get(name) ?? new Map<string, CellValue | undefined>()).set(change.field, value));
      }
    }
    after[kind]!.set(key, result);
    if (own.size > 0) changed.set(kind, (changed.get(kind) ?? new Map<string, Set<string>>()).set(key, own));
  }
  const none = new Map<string, SnapshotRecord>();
  return { after: { product: none, variant: none, category: none, ...after }, changed, kept, notMade };
}
