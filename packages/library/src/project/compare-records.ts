/** Two readings of the same records, record by record: what came back, what was lost, what was made, and what differs. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { compareCatalogues } from "../compare/catalogues.js";
import type { Unmatched } from "../compare/differences.js";
import { placeOf } from "../compare/place.js";
import type { Location, RecordName } from "../location.js";
import { matchRecords } from "../match/correspondence.js";
import { identityOf } from "../match/identities.js";

/** A field of a record that came back as something else. */
export interface FieldDifference {
  readonly record: RecordName;
  /** `name@en`, or the name of a list of entries. */
  readonly field: string;
  readonly was: string;
  readonly is: string;
  readonly at: Location;
}

/** How the records of a file came back. */
export interface RecordsCalibration {
  readonly records: number;
  readonly equal: number;
  /** Read, and not there when what was written is read. */
  readonly lost: readonly RecordName[];
  /** There only then. */
  readonly made: readonly RecordName[];
  /** The first of them. */
  readonly different: readonly FieldDifference[];
  readonly differentCount: number;
}

const maxShown = 20;

/** Compares the records of two catalogues by their keys; entries as they follow each other. */
export function compareRecords(before: ResolvedCatalogue, after: ResolvedCatalogue): RecordsCalibration {
  const matched = matchRecords({ own: before, other: after, identitiesOf: () => [identityOf("key")] });
  const { differences, onlyOwn, onlyOther, equal } = compareCatalogues({ matched, keepsEmptied: true, inOrder: true });
  const nameOf = (catalogue: ResolvedCatalogue) => (one: Unmatched) => recordAt(catalogue, one.kind, one.row);
  return {
    records: before.kinds.roots.reduce((sum, { name }) => sum + before.table(name).size, 0),
    equal,
    lost: onlyOwn.map(nameOf(before)),
    made: onlyOther.map(nameOf(after)),
    different: differences.slice(0, maxShown).map((one) => ({
      record: recordAt(before, one.kind, one.own),
      field: [one.entries, one.field].filter((word) => word !== undefined).join("."),
      was: one.value ?? "",
      is: one.there ?? "",
      at: placeOf(matched, one),
    })),
    differentCount: new Set(differences.map(({ kind, own }) => `${kind} ${own}`)).size,
  };
}

const recordAt = (catalogue: ResolvedCatalogue, kind: string, row: number): RecordName => ({
  kind,
  key: catalogue.table(kind).key(row),
});
