/** What the plan and the writer need of a ledger: which records are there, and their ids in the catalogue. */

import { asTargetView, type ResolvedCatalogue, type TargetView } from "../catalogue/catalogue.js";
import type { Ledger } from "./ledger.js";

/** What a ledger knows of the records of a catalogue. */
export interface LedgerView {
  readonly isThere: (kind: string, row: number) => boolean;
  readonly isAdded: (update: string, kind: string, row: number) => boolean;
  readonly hasPicture: (name: string) => boolean;
  readonly isBegun: boolean;
}

/** What the ledger knows to be on the platform already, for a plan of the rest. */
export function thereBy(ledger: Ledger, catalogue: ResolvedCatalogue): LedgerView {
  const hasPicture = (name: string) => ledger.has("picture", name);
  if (ledger.isEmpty) return { isThere: () => false, isAdded: () => false, hasPicture, isBegun: false };
  return {
    isThere: (kind, row) => ledger.has(kind, catalogue.table(kind).key(row)),
    isAdded: (update, kind, row) => ledger.has(kind, catalogue.table(kind).key(row), update),
    hasPicture,
    isBegun: true,
  };
}

/** Puts the platform's ids where columns show them; what has none yet has none. */
export function withIds(given: TargetView, ledger: Ledger): TargetView {
  const catalogue = given.branch();
  for (const { name, fields } of catalogue.kinds.roots) {
    if (!fields.some((field) => field.name === "id")) continue;
    const table = catalogue.table(name);
    for (let row = 0; row < table.size; row++) {
      const id = ledger.id(name, table.key(row));
      if (id !== table.text("id", row)) table.setText("id", row, id);
    }
  }
  return asTargetView(catalogue);
}
