/** What was delivered, field by field, into the ledger: so that later it can be told who has changed what. */

import type { Header, Key } from "../nominal.js";
import { entryOf } from "../checked.js";
import type { TargetView } from "../catalogue/catalogue.js";
import type { HeldBack } from "../build/hold-back.js";
import type { CellValue } from "../codecs/codec.js";
import type { Ledger } from "../ledger/ledger.js";
import type { AcceptedRows } from "../collect/taken.js";
import type { Layout } from "../layout/layout.js";
import type { UploadStep } from "../plan/plan.js";
import type { Sha256 } from "../ports.js";
import { isOfRecords, intendedByTarget } from "../rehearse/intended-by-target.js";
import type { Target } from "../target/target.js";
import { digestsOf } from "../compare/compare.js";
import { carryingColumns } from "./columns.js";

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
  /** Fields that were left as they are there: these were not delivered. By `kind key`. */
  readonly kept?: ReadonlyMap<string, ReadonlyMap<string, CellValue | undefined>> | undefined;
}

/** A copy of the ledger that knows, field by field, what was in the uploaded files and was taken. */
export function withDelivered(input: DeliveredInput): Ledger {
  const { catalogue, target, taken, heldBack, sha256, run, kept } = input;
  const ledger = input.ledger.copy();
  for (const [step, records] of taken) {
    const file = entryOf(target.files, step.slot.file);
    const { snapshot, origins } = intendedByTarget(catalogue, target, heldBack, [file]);
    const namesOf = new Map<string, [kind: string, key: Key][]>();
    for (const [name, { table, row }] of origins) {
      const [kind, key] = [name.slice(0, name.indexOf(" ")), name.slice(name.indexOf(" ") + 1)];
      const of = `${table.name} ${row}`;
      namesOf.set(of, [...(namesOf.get(of) ?? []), [kind, key]]);
    }
    // Of columns that were not written nothing was delivered.
    const written = new Set<string>();
    const left = new Set<string>();
    const waits = new Map<string, Set<string>>();
    for (const layout of file.layouts) {
      for (const { kind, field, header } of carryingColumns(target, file, layout, catalogue.kinds)) {
        ((step.columns?.has(header) ?? true) ? written : left).add(`${kind}.${field}`);
        waits.set(header, (waits.get(header) ?? new Set()).add(`${kind}.${field}`));
      }
      for (const { kind, field, headers } of laneFields(target, layout))
        (headers.some((header) => step.columns?.has(header) ?? true) ? written : left).add(`${kind}.${field}`);
    }
    const isWritten = (name: string) => written.has(name) || !left.has(name);
    const note = (table: string, row: number) => {
      // Cells that are blank here, as what they name is not there yet.
      const waiting = new Set(
        table === "product"
          ? [...(step.waiting.get(row) ?? [])].flatMap((header) => [...(waits.get(header) ?? [])])
          : [],
      );
      for (const [kind, key] of namesOf.get(`${table} ${row}`) ?? []) {
        const stays = kept?.get(`${kind} ${key}`);
        const fields = new Map(
          [...(snapshot[kind]?.get(key) ?? [])].filter(
            ([field]) => !stays?.has(field) && isWritten(`${kind}.${field}`) && !waiting.has(`${kind}.${field}`),
          ),
        );
        ledger.noteDelivered(kind, key, digestsOf(fields, sha256), run);
      }
    };
    for (const [kind, rows] of records) for (const row of rows) note(kind, row);
  }
  return ledger;
}

/** The lists that lanes of a layout carry, as snapshots name them. */
function laneFields(
  target: Target,
  { shape, lanes, columns }: Layout,
): { readonly kind: string; readonly field: string; readonly headers: readonly Header[] }[] {
  return lanes.map(({ name, collection }) => ({
    kind: (isOfRecords(target) ? shape.parent : (shape.child ?? shape.parent)).name,
    field: isOfRecords(target) ? collection : name,
    headers: columns.flatMap(({ scope, header }) => (scope.is === "lane" && scope.lane === name ? [header] : [])),
  }));
}
