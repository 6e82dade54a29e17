/**
 * Comparing three ways: what is intended, what the platform's export holds, what was last delivered.
 *
 * In: the snapshots, digests of what was delivered. Out: every record that is not the same, the most dangerous first, and what of it
 * is whose change.
 */

import { fieldOfColumn } from "../field-name.js";
import type { CellValue } from "../codecs/codec.js";
import { finding, type Findings } from "../findings/finding.js";
import { compareText, type Location } from "../location.js";
import type { Sha256 } from "../ports.js";
import { originKey, type Intended, type Origin } from "../rehearse/intended.js";
import { sameValue, type Snapshot, type SnapshotRecord } from "../rehearse/snapshot.js";
import type { TargetView } from "../catalogue/catalogue.js";
import { groundOf } from "./grounds.js";
import { collisions, suggestions, type RepliedPair, type Collision, type Pair } from "./matching.js";

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

/** Who has changed a field since it was last delivered. */
export type ChangedBy = "you" | "platform" | "both" | "not known";

/** A field that differs: your value, the platform's, and who changed it. */
export interface FieldChange {
  readonly field: string;
  readonly intended: CellValue | undefined;
  readonly onPlatform: CellValue | undefined;
  readonly by: ChangedBy;
}

/** A record that differs, field by field. */
export interface ComparedRecord {
  readonly kind: string;
  readonly key: string;
  readonly state: RecordState;
  readonly fields: readonly FieldChange[];
  /** Where your record comes from. */
  readonly at: Location | undefined;
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

/** Digests of the fields that were last delivered of a record; undefined if it never was. */
export type LastDelivered = (kind: string, key: string) => Readonly<Record<string, string>> | undefined;

export interface CompareInput {
  readonly catalogue: TargetView;
  readonly intended: Intended;
  readonly onPlatform: Snapshot;
  readonly delivered: LastDelivered;
  readonly sha256: Sha256;
  readonly pairs: readonly RepliedPair[];
  /** Collections, as `kind.field`, of which the platform never takes entries out. */
  readonly addOnly: ReadonlySet<string>;
  /** Fields, as `kind.field`, that keep the platform's value where your sources leave them blank. */
  readonly leftByBlank: ReadonlySet<string>;
}

const digestChars = 16;

/** What a field's value comes to in the ledger. */
export function digestOf(value: CellValue, sha256: Sha256): string {
  const hasher = sha256();
  hasher.update(new TextEncoder().encode(JSON.stringify(value)));
  return hasher.digest().slice(0, digestChars);
}

/** A digest of each field of a record: what a ledger keeps of what was delivered. */
export function digestsOf(record: SnapshotRecord, sha256: Sha256): Record<string, string> {
  return Object.fromEntries([...record].map(([field, value]) => [field, digestOf(value, sha256)]));
}

/** Compares what is intended with what the platform has, and both with what was delivered last. */
export function compareWithPlatform(input: CompareInput, findings: Findings): Comparison {
  const { intended, onPlatform: held, pairs } = input;
  const isDifferent = (pair: Pair) =>
    pairs.some(
      (one) =>
        one.kind === pair.kind &&
        one.yours === pair.yours &&
        one.platforms === pair.platforms &&
        one.reply === "different",
    );
  // What the platform makes by itself of names has no record to compare with.
  const kinds = Object.keys(held).filter((kind) => intended.snapshot[kind] || held[kind]!.size > 0);
  const clashes = kinds
    .flatMap((kind) => collisions(intended.snapshot, held, kind))
    // What we delivered ourselves is not a stranger: it is reshaped.
    .filter((one) => !input.delivered(one.kind, one.platforms) && (one.by === "code" || !isDifferent(one)));
  const clashing = new Set(clashes.map(({ kind, yours }) => originKey(kind, yours)));
  const records: ComparedRecord[] = [];
  const open: Pair[] = [];
  const stays: string[] = [];
  let unchanged = 0;
  for (const kind of kinds) {
    const own = intended.snapshot[kind] ?? new Map<string, SnapshotRecord>();
    const platformRecords = held[kind]!;
    for (const [key, record] of own) {
      const compared = compareRecord(input, kind, key, record, platformRecords.get(key), clashing, stays);
      if (compared) records.push(compared);
      else unchanged++;
    }
    for (const key of platformRecords.keys()) {
      if (own.has(key)) continue;
      const state = input.delivered(kind, key) ? "no longer in your sources" : "only on the platform";
      records.push({ kind, key, state, fields: [], at: undefined });
    }
    const isOpen = (key: string, others: ReadonlyMap<string, SnapshotRecord>) =>
      !others.has(key) && !clashing.has(originKey(kind, key));
    const left = new Map([...own].filter(([key]) => isOpen(key, platformRecords)));
    const there = new Map([...platformRecords].filter(([key]) => !own.has(key)));
    if (kind !== "variant") open.push(...suggestions(left, there, kind).filter((pair) => !isDifferent(pair)));
  }
  records.sort(
    (a, b) =>
      recordStates.indexOf(a.state) - recordStates.indexOf(b.state) ||
      compareText(a.kind, b.kind) ||
      compareText(a.key, b.key),
  );
  const comparison = { records, unchanged, collisions: clashes, suggestions: open, stays };
  report(input, comparison, findings);
  return comparison;
}

/** @returns undefined where nothing differs. */
function compareRecord(
  { catalogue, intended, delivered, sha256, addOnly, leftByBlank }: CompareInput,
  kind: string,
  key: string,
  own: SnapshotRecord,
  there: SnapshotRecord | undefined,
  clashing: ReadonlySet<string>,
  stays: string[],
): ComparedRecord | undefined {
  const origin = intended.origins.get(originKey(kind, key));
  const at = origin && catalogue.location(origin.table, origin.row);
  const last = delivered(kind, key);
  if (!there) {
    const state = clashing.has(originKey(kind, key)) ? "would overwrite" : last ? "deleted on the platform" : "new";
    return { kind, key, state, fields: [], at };
  }
  const names = new Set([...own.keys(), ...there.keys()]);
  const fields: FieldChange[] = [];
  for (const field of names) {
    const [wanted, held] = [own.get(field), there.get(field)];
    if (sameValue(wanted, held)) continue;
    // What the platform has made, or begun with, by itself.
    if (leftByBlank.has(`${kind}.${field}`) && origin && !saysAny(catalogue, origin, field)) continue;
    // What cannot be taken out is not a difference that a row could fix.
    if (addOnly.has(`${kind}.${field}`) && holdsAll(held, wanted)) {
      if (field !== "redirects") stays.push(`${kind} ${key}: ${field}`);
      continue;
    }
    fields.push({ field, intended: wanted, onPlatform: held, by: changedBy(field, wanted, held) });
  }
  if (fields.length === 0) return undefined;
  fields.sort((a, b) => compareText(a.field, b.field));
  const state = fields.some(({ by }) => by === "both")
    ? "both changed"
    : fields.some(({ by }) => by === "platform")
      ? "changed on the platform"
      : "changed";
  return { kind, key, state, fields, at };

  function changedBy(field: string, wanted: CellValue | undefined, held: CellValue | undefined): ChangedBy {
    if (!last) return "not known";
    const isLast = (value: CellValue | undefined) =>
      (value === undefined ? undefined : digestOf(value, sha256)) === last[field];
    if (isLast(held)) return "you";
    return isLast(wanted) ? "platform" : "both";
  }
}

/** Whether the sources say anything of a field: of the record, or of what contains it. */
function saysAny(catalogue: TargetView, { table, row }: Origin, field: string): boolean {
  // Entries and lists are there or not; only plain texts can be left to the platform.
  if (!table.kind.fields.some(({ name, reference }) => name === fieldOfColumn(field) && !reference)) return true;
  const ground = groundOf(catalogue, { table, row }, field, new Map());
  return ground === "source" || ground === "inherited";
}

/** Whether a list has every entry of another. */
const holdsAll = (held: CellValue | undefined, wanted: CellValue | undefined): boolean =>
  (wanted ?? []).length <= (held ?? []).length &&
  [...(wanted ?? [])].every((one) => [...(held ?? [])].some((other) => sameValue(one, other)));

const fewestKnown = 5;

function report(
  { catalogue, intended, onPlatform: held, delivered }: CompareInput,
  comparison: Comparison,
  findings: Findings,
): void {
  const placeOf = (kind: string, key: string): Location | undefined => {
    const origin = intended.origins.get(originKey(kind, key));
    return origin && catalogue.location(origin.table, origin.row);
  };
  for (const { kind, yours, platforms, by, value } of comparison.collisions)
    findings.add(finding("compare/would-overwrite", { kind, yours, platforms, by, value }, placeOf(kind, yours)));
  const known = [...intended.snapshot.product.keys()].filter((key) => delivered("product", key));
  const there = known.filter((key) => held.product.has(key));
  if (known.length >= fewestKnown && there.length * 2 < known.length) {
    const facts = { known: known.length, there: there.length };
    findings.add(there.length === 0 ? finding("compare/other-shop", facts) : finding("compare/half-export", facts));
  }
  const touched = comparison.records.filter(
    ({ state }) => state === "changed on the platform" || state === "both changed",
  );
  const shared = [...intended.snapshot.product.keys()].filter(
    (key) => delivered("product", key) && held.product.has(key),
  );
  const differing = touched.filter(({ kind }) => kind === "product").length;
  if (shared.length >= fewestKnown && differing * 2 > shared.length)
    findings.add(finding("compare/old-ledger", { differing, shared: shared.length }));
  for (const { kind, key, fields, at } of touched) {
    const changed = fields.filter(({ by }) => by === "platform" || by === "both").map(({ field }) => field);
    const isBoth = fields.some(({ by }) => by === "both");
    findings.add(
      finding(isBoth ? "compare/both-changed" : "compare/changed-on-platform", { kind, key, fields: changed }, at),
    );
  }
  const gone = comparison.records.filter(({ state }) => state === "no longer in your sources");
  if (gone.length > 0)
    findings.add(
      finding("compare/no-longer-in-sources", {
        count: gone.length,
        examples: gone.slice(0, 5).map(({ kind, key }) => `${kind} ${key}`),
      }),
    );
}
