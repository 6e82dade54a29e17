/** What a ledger knows of one record, of the lines that state it. */

import { present } from "../checked.js";
import type { Key } from "../nominal.js";
import type { LedgerLine } from "./ledger-line.js";

/** What a ledger knows of a record. */
export interface KnownRecord {
  readonly kind: string;
  readonly key: Key;
  readonly id: string | undefined;
  readonly isConfirmed: boolean;
  /** Whether it was unconfirmed: what was known before can be restored. */
  readonly isUnconfirmed: boolean;
  /** What updates have added to it: `prices`, `@de`. */
  readonly added: readonly string[];
  /** The fields that were delivered. */
  readonly fields: readonly string[];
  /** The last run that wrote of it. */
  readonly run: string;
}

/** @param withdrawn what was known before the record was unconfirmed. */
export function knownRecord(
  lines: readonly LedgerLine[],
  withdrawn: readonly LedgerLine[] | undefined,
  deliveredEntry: string,
): KnownRecord {
  const last = lines[lines.length - 1] ?? present(withdrawn?.[0]);
  const own = lines.filter(({ entry, lang }) => entry === undefined && lang === undefined);
  const delivered = lines.find(({ entry }) => entry === deliveredEntry);
  return {
    kind: last.kind,
    key: last.key,
    id: lines.find(({ id }) => id !== undefined)?.id,
    isConfirmed: own.some(({ state }) => state === "confirmed"),
    isUnconfirmed: withdrawn !== undefined && lines.length === 0,
    added: lines.flatMap(({ entry, lang }) => {
      if (lang !== undefined) return [`@${lang}`];
      return entry === undefined || entry === deliveredEntry ? [] : [entry];
    }),
    fields: Object.keys(delivered?.fields ?? {}),
    run: last.run,
  };
}
