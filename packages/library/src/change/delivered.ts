/** What was delivered, field by field, into the ledger: so that later it can be told who has changed what. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { HeldBack } from "../build/hold-back.js";
import { stepsNow } from "../build/build.js";
import type { CellValue } from "../codecs/codec.js";
import type { Ledger } from "../ledger/ledger.js";
import type { Plan } from "../plan/plan.js";
import type { Sha256 } from "../ports.js";
import { meantByTarget } from "../rehearse/rehearse.js";
import type { Target } from "../target/target.js";
import { digestsOf } from "../compare/compare.js";
import { carryingColumns } from "./columns.js";

export interface DeliveredInput {
  readonly catalogue: ResolvedCatalogue;
  readonly target: Target;
  readonly plan: Plan;
  readonly heldBack: HeldBack;
  readonly ledger: Ledger;
  readonly sha256: Sha256;
  readonly run: string;
  /** Fields that were left as they are there: these were not delivered. By `kind key`. */
  readonly kept?: ReadonlyMap<string, ReadonlyMap<string, CellValue | undefined>> | undefined;
}

/** Notes the fields of what the ledger has as confirmed, for the steps that were uploaded. */
export function noteDelivered(input: DeliveredInput): void {
  const { catalogue, target, plan, heldBack, ledger, sha256, run, kept } = input;
  for (const step of stepsNow(plan)) {
    if (step.is !== "upload") continue;
    const file = target.files.get(step.slot.file)!;
    const { snapshot, origins } = meantByTarget(catalogue, target, heldBack, [file]);
    const namesOf = new Map<string, [kind: string, key: string][]>();
    for (const [name, { table, row }] of origins) {
      const [kind, key] = [name.slice(0, name.indexOf(" ")), name.slice(name.indexOf(" ") + 1)];
      const of = `${table.name} ${row}`;
      namesOf.set(of, [...(namesOf.get(of) ?? []), [kind, key]]);
    }
    // Of columns that were not written nothing was delivered.
    const written = new Set<string>();
    const left = new Set<string>();
    for (const layout of file.layouts)
      for (const { kind, field, header } of carryingColumns(target, file, layout, catalogue.kinds))
        ((step.columns?.has(header) ?? true) ? written : left).add(`${kind}.${field}`);
    const isWritten = (kind: string, field: string) => written.has(`${kind}.${field}`) || !left.has(`${kind}.${field}`);
    const note = (table: string, row: number) => {
      for (const [kind, key] of namesOf.get(`${table} ${row}`) ?? []) {
        const stays = kept?.get(`${kind} ${key}`);
        const fields = new Map(
          [...(snapshot[kind]?.get(key) ?? [])].filter(([field]) => !stays?.has(field) && isWritten(kind, field)),
        );
        ledger.noteDelivered(kind, key, digestsOf(fields, sha256), run);
      }
    };
    for (const { kind, update, records } of step.places) {
      const table = catalogue.table(kind);
      const child = catalogue.kinds.childOf(kind);
      for (const row of records) {
        if (!ledger.has(kind, table.key(row), update)) continue;
        note(kind, row);
        // What stands in the rows of a record was sent with them.
        if (child && file.layouts.some(({ shape }) => shape.child === child))
          for (const one of catalogue.table(child.name).childrenOf(row)) note(child.name, one);
      }
    }
  }
}
