/** What became of an upload, record by record and field by field: what was there before, what was sent, whether it was taken. */

import { entryOf } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { AcceptedRows } from "../collect/taken.js";
import { everything } from "../compare/coverage.js";
import { FieldTexts } from "../compare/field-texts.js";
import type { Ledger } from "../ledger/ledger.js";
import { compareText } from "../location.js";
import type { UploadStep } from "../plan/plan.js";
import type { Target } from "../target/target.js";
import type { ChangeView } from "./views.js";
import { WrittenFields } from "./written-fields.js";

/** A field that an upload changed. */
export interface CollectedField {
  /** `name@en`, `prices(tier, 10, trade).amount`. */
  readonly field: string;
  readonly before: string | undefined;
  readonly sent: string;
}

/** A record of an upload, and what became of it. */
export interface CollectedRecord {
  readonly kind: string;
  readonly key: string;
  readonly id: string | undefined;
  /** Whether it is new: all of its fields are. Without an export of what was there it is not known which others changed. */
  readonly isNew: boolean;
  /** Whether the platform took all of its rows. */
  readonly isTaken: boolean;
  /** Whether its row deleted it, if it was taken. */
  readonly isDeleted: boolean;
  readonly fields: readonly CollectedField[];
}

/** What the records are collected from. */
export interface CollectedRecordsInput {
  readonly catalogue: ResolvedCatalogue;
  readonly target: Target;
  readonly taken: ReadonlyMap<UploadStep, AcceptedRows>;
  readonly ledger: Ledger;
  /** Of an upload of changes: what was there before. */
  readonly before: ChangeView | undefined;
}

export function collectedRecords(input: CollectedRecordsInput): readonly CollectedRecord[] {
  const found = new Map<string, CollectedRecord>();
  for (const [step, accepted] of input.taken)
    for (const one of recordsOf(step, accepted, input)) {
      const known = found.get(`${one.kind} ${one.key}`);
      found.set(`${one.kind} ${one.key}`, known ? both(known, one) : one);
    }
  return [...found.values()].sort((a, b) => compareText(a.kind, b.kind) || compareText(a.key, b.key));
}

/** The same record in two files. */
function both(one: CollectedRecord, other: CollectedRecord): CollectedRecord {
  const known = new Set(one.fields.map(({ field }) => field));
  const fields = [...one.fields, ...other.fields.filter(({ field }) => !known.has(field))];
  return {
    ...one,
    isTaken: one.isTaken && other.isTaken,
    isNew: one.isNew || other.isNew,
    isDeleted: one.isDeleted || other.isDeleted,
    fields,
  };
}

function* recordsOf(
  step: UploadStep,
  accepted: AcceptedRows,
  { catalogue: given, target, ledger, before }: CollectedRecordsInput,
): Generator<CollectedRecord> {
  const catalogue = step.from?.catalogue ?? given;
  const written = new WrittenFields(catalogue, target, step);
  const [texts, textsBefore] = [new FieldTexts(catalogue), before && new FieldTexts(before.catalogue)];
  for (const [kind, rows] of rowsOf(step, accepted, target)) {
    const table = catalogue.table(kind);
    for (const row of rows) {
      const key = table.key(row);
      const isNew = before ? before.isOut(kind, row) : step.slot.mode === "create";
      const there = textsBefore && !isNew ? new Map(textsBefore.of(table.kind, row, everything)) : undefined;
      const { told, places } = written.of(kind, row);
      const sent = there ? [...texts.of(table.kind, row, told, places.hasEntry.bind(places))] : [];
      const fields = sent.flatMap(([field, value]) =>
        there?.get(field) === value ? [] : [{ field, before: there?.get(field), sent: value }],
      );
      const isTaken = accepted.get(kind)?.has(row) ?? false;
      const isDeleted = step.slot.mode === "delete";
      yield { kind, key, id: ledger.id(kind, key), isNew, isTaken, isDeleted, fields };
    }
  }
}

/** The records that a step has rows of, taken or not; what it sets up by the way is not among them. */
function rowsOf(step: UploadStep, accepted: AcceptedRows, target: Target): Map<string, ReadonlySet<number>> {
  const rows = new Map<string, Set<number>>();
  const kinds = new Set<string>();
  for (const { kind, records, layout } of step.files.flatMap(({ blocks }) => blocks)) {
    const own = rows.get(kind) ?? new Set();
    rows.set(kind, own);
    for (const record of records) own.add(record);
    const child = entryOf(target.files, step.slot.file).layouts[layout]?.shape.child;
    if (child) kinds.add(child.name);
  }
  for (const kind of kinds) rows.set(kind, new Set([...(rows.get(kind) ?? []), ...(accepted.get(kind) ?? [])]));
  return rows;
}
