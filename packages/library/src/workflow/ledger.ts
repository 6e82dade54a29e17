/** What the ledger of a target knows, record by record; and taking that back where a record is no longer on the platform. */

import { nameInLedger, platformIdentities } from "../compare/sides.js";
import type { Finding } from "../findings/finding.js";
import type { KnownRecord, Ledger } from "../ledger/ledger.js";
import type { Key } from "../nominal.js";
import type { OpenedTarget } from "./open.js";

/** A record, as findings name it. */
export interface NamedRecord {
  readonly kind: string;
  readonly key: Key;
}

/** The run of lines that were written because someone asked for it. */
const byHand = "by-hand";

/** What is known of each record. What was delivered of a record that the platform knows by its code counts as the record's. */
export function recordsInLedger({ ledger, ...opened }: OpenedTarget): readonly KnownRecord[] {
  const keys = new Map<string, Key>();
  const { of: identitiesOf } = platformIdentities(opened.target, opened.catalogue.kinds);
  for (const { name: kind } of opened.catalogue.kinds.roots) {
    const table = opened.catalogue.table(kind);
    for (let row = 0; row < table.size; row++) {
      const [key, name] = [table.key(row), nameInLedger(identitiesOf(kind), table, row)];
      if (key !== name) keys.set(`${kind} ${name}`, key);
    }
  }
  const records = new Map<string, KnownRecord>();
  for (const one of ledger.records()) {
    const key = keys.get(`${one.kind} ${one.key}`) ?? one.key;
    const known = records.get(`${one.kind} ${key}`);
    records.set(`${one.kind} ${key}`, known ? merged(known, { ...one, key }) : { ...one, key });
  }
  return [...records.values()];
}

/** A ledger that knows nothing of a record any more: it was deleted on the platform. @returns undefined where nothing was known of it. */
export function withoutRecord(opened: OpenedTarget, { kind, key }: NamedRecord): Ledger | undefined {
  const ledger = opened.ledger.copy();
  const known = namesOf(opened, kind, key).map((name) => ledger.unconfirm(kind, name, byHand));
  return known.includes(true) ? ledger : undefined;
}

/** A ledger that knows again what it knew of a record before; with the finding why it cannot. @returns the ledger undefined where there is nothing to restore. */
export function withRecordRestored(
  opened: OpenedTarget,
  { kind, key }: NamedRecord,
): { readonly ledger: Ledger | undefined; readonly problem: Finding | undefined } {
  const ledger = opened.ledger.copy();
  const before = ledger.addedCount;
  const problems = namesOf(opened, kind, key).map((name) => ledger.restore(kind, name, byHand));
  const problem = problems.find((one) => one !== undefined);
  return { ledger: problem || ledger.addedCount === before ? undefined : ledger, problem };
}

type Sources = Pick<OpenedTarget, "catalogue" | "target">;

/** What a ledger calls a record: its key, and what the platform knows it by. */
function namesOf(opened: Sources, kind: string, key: Key): Key[] {
  const row = opened.catalogue.kinds.find(kind) && opened.catalogue.table(kind).find(key);
  if (row === undefined) return [key];
  const { of: identitiesOf } = platformIdentities(opened.target, opened.catalogue.kinds);
  return [...new Set([key, nameInLedger(identitiesOf(kind), opened.catalogue.table(kind), row)])];
}

const merged = (one: KnownRecord, other: KnownRecord): KnownRecord => ({
  ...one,
  id: one.id ?? other.id,
  isConfirmed: one.isConfirmed || other.isConfirmed,
  isUnconfirmed: one.isUnconfirmed && other.isUnconfirmed,
  added: [...new Set([...one.added, ...other.added])],
  fields: [...new Set([...one.fields, ...other.fields])],
});
