/**
 * What a rehearsal leaves, against the goal: every difference with the cell of the source that it comes from, and how many filled cells
 * arrived, have no place on the platform, or are held back.
 */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { compareCatalogues } from "../compare/catalogues.js";
import type { Coverage } from "../compare/coverage.js";
import type { CatalogueDifference, Matters, Unmatched } from "../compare/differences.js";
import { placeOf } from "../compare/place.js";
import { coverageOf } from "../compare/told.js";
import { splitTable } from "../field-name.js";
import { entryKeyOf } from "../kind.js";
import type { Location } from "../location.js";
import { matchRecords, none, type Correspondence } from "../match/correspondence.js";
import { Places } from "../target/places.js";
import type { Target } from "../target/target.js";
import type { HeldCatalogue } from "../rehearse/platform/held-catalogue.js";
import { countCells, type ArrivedCells } from "./cells.js";
import { asHeld, layoutsOf, type IsLeftOut } from "../compare/held-form.js";
import { heldIdentities } from "../compare/held-identities.js";
import { movedEntries } from "../compare/order.js";

/** A field that is otherwise than intended, with its cell in the source. Without a field, a record that is missing or too much. */
export interface LocatedDifference {
  readonly kind: string;
  readonly key: string;
  readonly field?: string;
  readonly intended: string | undefined;
  readonly actual: string | undefined;
  readonly at: Location | undefined;
}

export interface ComparedHeld {
  readonly differences: readonly LocatedDifference[];
  readonly cells: ArrivedCells;
  /** Which record is which: the goal as the platform could hold it, and what it holds. */
  readonly matched: Correspondence;
}

/** Compares what a platform is to have with what it has, as far as the target has a place for it. @param isLeftOut what is held back, or taken out. @param isGone what of it is taken out on purpose. */
export function compareHeld(
  catalogue: ResolvedCatalogue,
  target: Target,
  held: HeldCatalogue,
  isLeftOut: IsLeftOut,
  isGone: IsLeftOut = () => false,
): ComparedHeld {
  const places = new Places(catalogue, target);
  const isOut: IsLeftOut = (kind, row) => isLeftOut(kind, row) || !places.isTaken(catalogue.table(kind), row);
  const goal = asHeld(catalogue, target, isOut);
  const simulated = asHeld(held.catalogue, target);
  const { of, merged } = heldIdentities(target, catalogue.kinds);
  const matched = matchRecords({ own: goal, other: simulated, identitiesOf: of, merged });
  const placesOfGoal = new Places(goal, target);
  const told = coverageOf(layoutsOf(target), catalogue.kinds);
  const coverage: Coverage = {
    ...told,
    entries: (table) => (told.entries(table) === "none" ? "none" : "all"),
    tellsEntry: () => true,
  };
  // Ids are the platform's to give.
  const comparing = (_: string, field: string) => (field === "id" ? "not at all" : "exactly");
  const matters = differencesThatMatter(matched, placesOfGoal, held);
  const compared = compareCatalogues({ matched, coverage, comparing, matters });
  const inCells = [...compared.differences, ...movedEntries(matched, target)];
  const missing = compared.onlyOwn.filter(({ kind, row }) => !isOut(kind, row) && places.makes(kind));
  const isMissing = recordsIn(goal, missing);
  const differences = [
    // What a record contains is missing with it.
    ...missing.flatMap(({ kind, row }) =>
      isContained(goal, kind, row, isMissing) ? [] : [alone(goal, kind, row, true)],
    ),
    ...compared.onlyOther.map(({ kind, row }) => alone(simulated, kind, row, false)),
    ...inCells.map((one) => described(one, matched)),
  ];
  const isOther = cellsOf(inCells);
  const isDifferent = (table: string, row: number, field: string): boolean => {
    const owner = catalogue.ownerOf(catalogue.table(table), row);
    return isMissing(owner.table.name, owner.row) || isOther(table, row, field);
  };
  // Most rehearsals find no difference: then no cell is asked about.
  const isNone = missing.length === 0 && inCells.length === 0;
  const cells = countCells(catalogue, places, isLeftOut, isNone ? undefined : isDifferent, isGone);
  return { differences: differences.sort(byPlace), cells, matched };
}

/** The records that are missing, those that they contain among them. */
function recordsIn(goal: ResolvedCatalogue, missing: readonly Unmatched[]): (kind: string, row: number) => boolean {
  const rows = new Set(missing.map(({ kind, row }) => `${kind} ${row}`));
  return (kind, row) =>
    rows.has(`${kind} ${row}`) || isContained(goal, kind, row, (of, parent) => rows.has(`${of} ${parent}`));
}

function isContained(
  goal: ResolvedCatalogue,
  kind: string,
  row: number,
  isMissing: (kind: string, row: number) => boolean,
): boolean {
  const table = goal.table(kind);
  return table.kind.of !== undefined && table.parent(row) >= 0 && isMissing(table.kind.of, table.parent(row));
}

/** The cells that differ; all of an entry that is not there. */
function cellsOf(differences: readonly CatalogueDifference[]): (table: string, row: number, field: string) => boolean {
  const cells = new Set<string>();
  for (const { kind, entries, own, ownEntry, field, value } of differences)
    if (value !== undefined)
      cells.add(entries === undefined ? `${kind} ${own} ${field}` : `${kind}.${entries} ${ownEntry} ${field ?? ""}`);
  return (table, row, field) => cells.has(`${table} ${row} ${field}`) || cells.has(`${table} ${row} `);
}

const order = ({ kind, key, field = "" }: LocatedDifference): string => `${kind}\u0000${key}\u0000${field}`;
const byPlace = (a: LocatedDifference, b: LocatedDifference): number =>
  order(a) < order(b) ? -1 : Number(order(a) > order(b));

function alone(catalogue: ResolvedCatalogue, kind: string, row: number, isOwn: boolean): LocatedDifference {
  const table = catalogue.table(kind);
  const key = table.key(row);
  const at = isOwn ? catalogue.location(table, row) : undefined;
  return { kind, key, intended: isOwn ? key : undefined, actual: isOwn ? undefined : key, at };
}

/** Not what the target has no place for, and not what the platform puts into cells that are blank. */
function differencesThatMatter(
  { own, other }: Correspondence,
  places: Places,
  { isOfPlatform }: HeldCatalogue,
): Matters {
  return (name, field) => {
    const table = own.table(name);
    const takes = splitTable(name).collection === undefined ? undefined : places.takingEntries(table);
    if (field === undefined) {
      const isFromFiles = entriesFromFiles(other.table(name), isOfPlatform);
      return (row, there) => (row === none ? isFromFiles(there) : takes?.(row) !== false);
    }
    const isWithout = places.withoutField(table, field);
    return (row, there, isSaid, isThere) => {
      if (takes?.(row) === false) return false;
      if (!isThere) return isWithout?.(row) !== true;
      return isSaid || !isOfPlatform(name, field, there);
    };
  };
}

/** Entries of which a file said more than their key, or nothing is the platform's own. */
function entriesFromFiles(
  table: ReadonlyTable,
  isOfPlatform: HeldCatalogue["isOfPlatform"],
): (entry: number) => boolean {
  const key = entryKeyOf(table.kind);
  return (entry) => {
    const fields = [...table.texts].flatMap(([field, column]) => (column.has(entry) ? [field] : []));
    const isOwn = (field: string) => isOfPlatform(table.name, field, entry);
    return fields.some((field) => !key.includes(field) && !isOwn(field)) || !fields.some(isOwn);
  };
}

function described(difference: CatalogueDifference, matched: Correspondence): LocatedDifference {
  const { kind, entries, field, ownEntry, otherEntry, value, there } = difference;
  const key = matched.own.table(kind).key(difference.own);
  if (entries === undefined)
    return { kind, key, field: field ?? "", intended: value, actual: there, at: placeOf(matched, difference) };
  const word = nameOfEntry(matched, `${kind}.${entries}`, ownEntry, otherEntry);
  const name = `${entries}${word === "" ? "" : `(${word})`}${field === undefined ? "" : `.${field}`}`;
  const at = ownEntry === none ? undefined : placeOfEntry(matched.own, `${kind}.${entries}`, ownEntry, field);
  return { kind, key, field: name, intended: value, actual: there, at };
}

/** The cell of an entry; of a whole one, the first that it comes from. */
function placeOfEntry(own: ResolvedCatalogue, name: string, entry: number, field: string | undefined): Location {
  const table = own.table(name);
  const fields = field === undefined ? [...table.texts.keys(), ...table.references.keys()] : [field];
  const isFilled = (one: string) =>
    typeof table.text(one, entry) === "string" || (table.references.get(one)?.first(entry) ?? -1) >= 0;
  const places = fields
    .filter((one) => field !== undefined || isFilled(one))
    .map((one) => own.location(table, entry, one));
  return places.find(({ column }) => column !== undefined) ?? own.location(table, entry);
}

/** `price`: what tells the entry apart first of all. */
function nameOfEntry({ own, other }: Correspondence, name: string, ownEntry: number, otherEntry: number): string {
  const [table, entry] = ownEntry !== none ? [own.table(name), ownEntry] : [other.table(name), otherEntry];
  const [first = ""] = table.kind.entryKey ?? [];
  const word = entry === none ? undefined : table.text(first, entry);
  return typeof word === "string" ? word : "";
}
