/** What the plan and the writer need of a ledger: which records are there, and their ids in the catalogue. */

import { asTargetView, type ResolvedCatalogue, type TargetView } from "../catalogue/catalogue.js";
import { formsOf, type ReferenceSpec } from "../catalogue/reference-pool.js";
import { finding, type Findings } from "../findings/finding.js";
import type { Feed } from "../layout/layout.js";
import { specsNamed } from "../layout/specs-named.js";
import type { Target } from "../target/target.js";
import type { Key } from "../nominal.js";
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
    isBegun: ledger.isBegun,
  };
}

/**
 * A ledger that knows the ids in the sources too: these records are on the platform. Where the two contradict each other, the ledger
 * counts, and it is reported. A target whose files know no ids leaves it as it is.
 *
 * @param isOnPlatform what an export tells of it.
 */
export function withSourceIds(
  given: Ledger,
  catalogue: ResolvedCatalogue,
  target: Target,
  findings: Findings,
  isOnPlatform: (kind: string, key: Key) => boolean = () => true,
): Ledger {
  if (!usesIds(target)) return given;
  const ledger = given.copy();
  const known: string[] = [];
  for (const { name, fields } of catalogue.kinds.roots) {
    if (!fields.some((field) => field.name === "id")) continue;
    const table = catalogue.table(name);
    for (let row = 0; row < table.size; row++) {
      const id = table.text("id", row);
      if (typeof id !== "string" || id === "" || !isOnPlatform(name, table.key(row))) continue;
      const line = { kind: name, key: table.key(row), id, state: "confirmed", run: "source" } as const;
      const problem = ledger.assume(line, catalogue.location(table, row, "id"));
      if (problem) findings.add(problem);
      else if (!given.has(name, table.key(row))) known.push(`${name} ${table.key(row)}`);
    }
  }
  const facts = { count: known.length, examples: known.slice(0, 5), target: target.name };
  if (known.length > 0) findings.add(finding("ledger/ids-in-sources", facts));
  return ledger;
}

/** Whether the files of a target show ids, name records by them, or are answered with them. */
function usesIds({ files }: Target): boolean {
  const isId = (feed: Feed): boolean => (feed.is === "text" ? feed.field === "id" : specsNamed(feed).some(byId));
  const byId = (spec: ReferenceSpec): boolean => formsOf(spec).includes("id");
  return [...files.values()].some(
    ({ ids, layouts }) =>
      ids !== undefined ||
      layouts.some(
        ({ link, columns }) =>
          link?.names === "id" || columns.some(({ bindings }) => bindings.some(({ feed }) => isId(feed))),
      ),
  );
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
