/** What was delivered, field by field, into the ledger: so that later it can be told who has changed what. */

import type { ResolvedCatalogue, TargetView } from "../catalogue/catalogue.js";
import { isHeldBack, type HeldBack } from "../build/hold-back.js";
import type { AcceptedRows } from "../collect/taken.js";
import { digestOf, notKept } from "../compare/delivered-fields.js";
import { FieldTexts, textsThere } from "../compare/field-texts.js";
import type { PlatformCatalogue } from "../compare/held.js";
import { keptForm, nameInLedger, platformIdentities, sidesOf } from "../compare/sides.js";
import type { DeliveredDigest, Ledger } from "../ledger/ledger.js";
import type { Correspondence } from "../match/correspondence.js";
import type { UploadStep } from "../plan/plan.js";
import type { Sha256 } from "../ports.js";
import type { Target } from "../target/target.js";
import { WrittenFields } from "./written-fields.js";

/** Whether a field of an intended record stays as it is on the platform. @param row of the record without singles. */
export type IsKept = (kind: string, row: number, field: string, value: string) => boolean;

/** What was delivered, and by which run. */
export interface DeliveredInput {
  readonly catalogue: TargetView;
  readonly target: Target;
  readonly heldBack: HeldBack;
  /** What was in the uploaded files and was taken, step by step. */
  readonly taken: ReadonlyMap<UploadStep, AcceptedRows>;
  readonly ledger: Ledger;
  readonly sha256: Sha256;
  readonly run: string;
  /** What an export shows that was made after the upload: what the platform made of what was sent. It is as sent, if left out. */
  readonly readBack?: PlatformCatalogue | undefined;
  /** What was not delivered, as it stays as it is there; nothing, if left out. */
  readonly kept?: IsKept | undefined;
}

/** A copy of the ledger that knows, field by field, what was in the uploaded files and was taken. */
export function withDelivered(input: DeliveredInput): Ledger {
  const { catalogue, target, taken, heldBack, run, kept } = input;
  const ledger = input.ledger.copy();
  const own = keptForm(catalogue, target, isHeldBack(heldBack)).catalogue;
  const { of: identitiesOf } = platformIdentities(target, catalogue.kinds);
  const texts = new FieldTexts(own);
  const readBack = new ReadBack(input);
  for (const [step, records] of taken) {
    const written = new WrittenFields(own, target, step);
    const note = (kind: string, row: number): void => {
      const { told, places } = written.of(kind, row);
      const table = own.table(kind);
      const fields: Record<string, DeliveredDigest> = {};
      const isWritten = places.hasEntry.bind(places);
      for (const [field, value] of texts.of(table.kind, row, told, isWritten))
        // Ids are the platform's to give.
        if (field !== "id" && !(kept?.(kind, row, field, value) ?? false))
          fields[field] = readBack.digest(kind, row, field, value);
      ledger.noteDelivered(kind, nameInLedger(identitiesOf(kind), table, row), fields, run);
    };
    for (const [kind, rows] of records)
      for (const row of rows) {
        // Records that only the platform has were not delivered.
        if (row >= own.table(kind).size) continue;
        note(kind, row);
        // The variant that a single is has its cells in the rows of the single.
        for (const single of singlesOf(own, catalogue, kind, row)) note(single.kind, single.row);
      }
  }
  return ledger;
}

function singlesOf(own: ResolvedCatalogue, given: ResolvedCatalogue, kind: string, row: number) {
  const child = own.kinds.childOf(kind);
  if (!child || row >= given.table(kind).size) return [];
  const made = [...own.table(child.name).childrenOf(row)].filter((one) => one >= given.table(child.name).size);
  return made.map((one) => ({ kind: child.name, row: one }));
}

/** What became of values that were sent. */
class ReadBack {
  readonly #there:
    { readonly matched: Correspondence; readonly own: FieldTexts; readonly texts: FieldTexts } | undefined;
  #last:
    | { readonly name: string; readonly told: ReadonlySet<string>; readonly values: ReadonlyMap<string, string> }
    | undefined;

  constructor(readonly input: DeliveredInput) {
    const { catalogue, target, ledger, readBack: platform } = input;
    if (!platform) return;
    const idOf = (kind: string, key: string) => ledger.id(kind, key);
    const { matched } = sidesOf({ catalogue, target, platform: platform.catalogue, idOf });
    this.#there = { matched, own: new FieldTexts(matched.own), texts: textsThere(matched) };
  }

  /** The digest of a value as it was sent, with that of what is there now, where that is another. */
  digest(kind: string, row: number, field: string, value: string): DeliveredDigest {
    const { sha256 } = this.input;
    const sent = digestOf(value, sha256);
    const there = this.#of(kind, row);
    if (!there?.told.has(field)) return sent;
    const now = there.values.get(field);
    return now === value ? sent : [sent, now === undefined ? notKept : digestOf(now, sha256)];
  }

  /** What is told of a record, and what it has; undefined where it is not found. */
  #of(kind: string, row: number) {
    const coverage = this.input.readBack?.coverage;
    if (!this.#there || !coverage) return undefined;
    const { matched, own, texts } = this.#there;
    const there = matched.otherOf(kind, row);
    if (there < 0) return undefined;
    const name = `${kind} ${row}`;
    if (this.#last?.name !== name) {
      const spec = matched.own.kinds.get(kind);
      const told = new Set([...own.of(spec, row, coverage)].map(([field]) => field));
      this.#last = { name, told, values: new Map(texts.of(spec, there, coverage)) };
    }
    return this.#last;
  }
}
