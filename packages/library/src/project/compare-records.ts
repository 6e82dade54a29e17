/** Two readings of the same records, record by record: what came back, what was lost, what was made, and what differs. */

import { referenceFields, targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import type { Location, RecordName } from "../location.js";

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
  const lost: RecordName[] = [];
  const made: RecordName[] = [];
  const different: FieldDifference[] = [];
  let [records, equal, differentCount] = [0, 0, 0];
  for (const { name: kind } of before.kinds.roots) {
    const [one, other] = [before.table(kind), after.table(kind)];
    for (let row = 0; row < one.size; row++) {
      records++;
      const record = { kind, key: one.key(row) };
      const back = other.find(record.key);
      if (back === undefined) {
        lost.push(record);
        continue;
      }
      const [had, has] = [fieldsOf(before, one, row), fieldsOf(after, other, back)];
      const names = [...new Set([...had.keys(), ...has.keys()])].filter((field) => had.get(field) !== has.get(field));
      if (names.length === 0) equal++;
      else differentCount++;
      for (const field of names) {
        if (different.length >= maxShown) break;
        const at = before.location(one, row, field);
        different.push({ record, field, was: had.get(field) ?? "", is: has.get(field) ?? "", at });
      }
    }
    for (const key of other.keys()) if (one.find(key) === undefined) made.push({ kind, key });
  }
  return { records, equal, lost, made, different, differentCount };
}

/** Every field of a record, each as a text. */
function fieldsOf(catalogue: ResolvedCatalogue, table: ReadonlyTable, row: number): ReadonlyMap<string, string> {
  const fields = new Map(own(catalogue, table, row));
  for (const collection of Object.keys(table.kind.entries ?? {})) {
    const entries = catalogue.table(`${table.name}.${collection}`);
    const all = [...entries.childrenOf(row)].map((entry) =>
      own(catalogue, entries, entry)
        .map(([field, value]) => `${field} ${value}`)
        .join(", "),
    );
    if (all.length > 0) fields.set(collection, all.join("; "));
  }
  return fields;
}

function own(catalogue: ResolvedCatalogue, table: ReadonlyTable, row: number): (readonly [string, string])[] {
  const texts = [...table.texts].flatMap(([field, column]) => {
    const cell = column.get(row);
    return cell === undefined ? [] : [[field, cell ?? "(emptied)"] as const];
  });
  const references = referenceFields(table.kind).flatMap(({ name, to }) => {
    const keys = targetsOf(catalogue, table, name, row).map((target) => catalogue.table(to).key(target));
    return keys.length === 0 ? [] : [[name, keys.join(", ")] as const];
  });
  return [...texts, ...references].sort(([a], [b]) => (a < b ? -1 : 1));
}
