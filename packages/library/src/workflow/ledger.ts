/** What the ledger of a target knows, record by record; and taking that back where a record is no longer on the platform. */

import { nameInLedger, platformIdentities } from "../compare/sides.js";
import type { Finding } from "../findings/finding.js";
import type { KnownRecord } from "../ledger/known-record.js";
import type { Ledger } from "../ledger/ledger.js";
import type { Key } from "../nominal.js";
import type { OpenedTarget } from "./open.js";

/** A record, as findings name it. */
export interface NamedRecord {
  readonly kind: string;
  readonly key: Key;
}

/** The run of lines that were written because someone asked for it. */
const byHand = "by-hand";

/**
 * What is known of each record. Some records are delivered under their code: that counts as the record's. So does what was delivered of
 * the one variant that a single is there.
 */
export function recordsInLedger({ ledger, ...opened }: OpenedTarget): readonly KnownRecord[] {
  const owners = new Map<string, NamedRecord>();
  for (const { name: kind } of opened.catalogue.kinds.roots) {
    const table = opened.catalogue.table(kind);
    const namesOf = namesIn(opened, kind);
    for (let row = 0; row < table.size; row++)
      for (const name of namesOf(row)) owners.set(`${name.kind} ${name.key}`, { kind, key: table.key(row) });
  }
  const records = new Map<string, KnownRecord>();
  for (const one of ledger.records()) {
    const owner = owners.get(`${one.kind} ${one.key}`) ?? one;
    const own = { ...one, kind: owner.kind, key: owner.key };
    const known = records.get(`${own.kind} ${own.key}`);
    records.set(`${own.kind} ${own.key}`, known ? merged(known, own) : own);
  }
  return [...records.values()];
}

/** A ledger that knows nothing of a record any more: it was deleted on the platform. @returns undefined where nothing was known of it. */
export function withoutRecord(opened: OpenedTarget, { kind, key }: NamedRecord): Ledger | undefined {
  const ledger = opened.ledger.copy();
  const known = namesOf(opened, kind, key).map((name) => ledger.unconfirm(name.kind, name.key, byHand));
  return known.includes(true) ? ledger : undefined;
}

/** A ledger that knows again what it knew of a record before; with the finding why it cannot. @returns the ledger undefined where there is nothing to restore. */
export function withRecordRestored(
  opened: OpenedTarget,
  { kind, key }: NamedRecord,
): { readonly ledger: Ledger | undefined; readonly problem: Finding | undefined } {
  const ledger = opened.ledger.copy();
  const before = ledger.addedCount;
  const problems = namesOf(opened, kind, key).map((name) => ledger.restore(name.kind, name.key, byHand));
  const problem = problems.find((one) => one !== undefined);
  return { ledger: problem || ledger.addedCount === before ? undefined : ledger, problem };
}

type Sources = Pick<OpenedTarget, "catalogue" | "target">;

/** What a ledger calls a record: by its key, and by what the platform knows it by. */
function namesOf(opened: Sources, kind: string, key: Key): readonly NamedRecord[] {
  const row = opened.catalogue.kinds.find(kind) && opened.catalogue.table(kind).find(key);
  return row === undefined ? [{ kind, key }] : namesIn(opened, kind)(row);
}

function namesIn({ catalogue, target }: Sources, kind: string): (row: number) => readonly NamedRecord[] {
  const { of: identitiesOf } = platformIdentities(target, catalogue.kinds);
  const table = catalogue.table(kind);
  const child = table.kind.single ? catalogue.kinds.childOf(kind)?.name : undefined;
  return (row) => {
    const key = table.key(row);
    const name = nameInLedger(identitiesOf(kind), table, row);
    const isSingle = child !== undefined && [...catalogue.table(child).childrenOf(row)].length === 0;
    const code = isSingle ? (table.text("code", row) as Key | null | undefined) : undefined;
    return [
      { kind, key },
      ...(name === key ? [] : [{ kind, key: name }]),
      ...(code ? [{ kind: child!, key: code }] : []),
    ];
  };
}

const merged = (one: KnownRecord, other: KnownRecord): KnownRecord => ({
  ...one,
  id: one.id ?? other.id,
  isConfirmed: one.isConfirmed || other.isConfirmed,
  isUnconfirmed: one.isUnconfirmed && other.isUnconfirmed,
  added: [...new Set([...one.added, ...other.added])],
  fields: [...new Set([...one.fields, ...other.fields])],
});
