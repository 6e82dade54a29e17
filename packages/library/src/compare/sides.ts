/** What is intended and what a platform tells, both as the platform keeps them, and which record is which. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import type { Kinds } from "../kinds.js";
import { matchRecords, type Answer, type Correspondence, type MatchInput } from "../match/correspondence.js";
import type { Key } from "../nominal.js";
import type { Identity } from "../match/identities.js";
import type { Target } from "../target/target.js";
import { asHeld, type IsLeftOut } from "./held-form.js";
import { heldIdentities, type HeldIdentities } from "./held-identities.js";
import { unfoldSingles, type Unfolded } from "./unfold.js";

/** Two catalogues in the form in which a platform keeps them. Their first rows are those of the catalogues that they are made of. */
export interface Sides {
  readonly from: SidesInput;
  readonly own: ResolvedCatalogue;
  readonly there: ResolvedCatalogue;
  readonly matched: Correspondence;
  /** By what the platform knows the records of a kind. */
  readonly identitiesOf: (kind: string) => readonly Identity[];
}

/** What the sides are made from. */
export interface SidesInput {
  readonly catalogue: ResolvedCatalogue;
  readonly target: Target;
  /** What the platform tells. */
  readonly platform: ResolvedCatalogue;
  readonly idOf?: MatchInput["idOf"];
  readonly answers?: readonly Answer[] | undefined;
}

/** Brings both catalogues into one form, and works out which record is which. */
export function sidesOf(from: SidesInput): Sides {
  const { catalogue, target, platform, idOf, answers } = from;
  const own = keptForm(catalogue, target).catalogue;
  const there = keptForm(platform, target).catalogue;
  const { of: identitiesOf, merged } = platformIdentities(target, catalogue.kinds);
  const matched = matchRecords({ own, other: there, identitiesOf, idOf, answers, merged });
  return { from, own, there, matched, identitiesOf };
}

/** By what a platform knows its records. An importer that knows them by their keys takes one with another key for another record. */
export function platformIdentities(target: Target, kinds: Kinds): HeldIdentities {
  const { of, merged } = heldIdentities(target, kinds);
  return { of: (kind) => (of(kind)[0]?.is === "key" ? of(kind).slice(0, 1) : of(kind)), merged };
}

/** A catalogue as a platform keeps it: without singles, texts as its files can hold them. */
export const keptForm = (catalogue: ResolvedCatalogue, target: Target, isLeftOut?: IsLeftOut): Unfolded =>
  unfoldSingles(asHeld(catalogue, target, isLeftOut), target);

/** What the ledger calls a record: as the platform knows it, so that it is found again when no source has it any more. */
export function deliveredName(sides: Sides, side: "own" | "there", kind: string, row: number): Key {
  return nameInLedger(sides.identitiesOf(kind), sides[side].table(kind), row);
}

/** The same, by what the platform knows records of the kind. */
export function nameInLedger(identities: readonly Identity[], table: ReadonlyTable, row: number): Key {
  const isByKey = identities[0]?.is === "key";
  const code = isByKey ? undefined : table.text("code", row);
  return code ? code : table.key(row);
}
