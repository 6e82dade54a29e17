/**
 * What a rehearsal leaves, against the goal: every difference with the cell of the source that it comes from, and how many filled cells
 * arrived, have no place on the platform, or are held back.
 */

import { referenceFields, targetsOf, type ResolvedCatalogue } from "../../catalogue/catalogue.js";
import { entryLookup } from "../../catalogue/entry-lookup.js";
import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import { compareCatalogues, type CatalogueDifference } from "../../compare/catalogues.js";
import type { Coverage } from "../../compare/coverage.js";
import { describedEntry, entryTexts } from "../../compare/entries.js";
import { placeOf } from "../../compare/place.js";
import { coverageOf } from "../../compare/told.js";
import { splitTable } from "../../field-name.js";
import { entryKeyOf } from "../../kind.js";
import { kindOfScope } from "../../layout/layout.js";
import { namedIn } from "../../layout/named-constants.js";
import type { Location } from "../../location.js";
import { matchRecords, none, type Correspondence } from "../../match/correspondence.js";
import { Places } from "../../target/places.js";
import type { Target } from "../../target/target.js";
import type { HeldCatalogue } from "../platform/held-catalogue.js";
import { asHeld, layoutsOf, type IsLeftOut } from "./held-form.js";
import { heldIdentities } from "./identities.js";

/** A field that is otherwise than intended; without one, a record or an entry that is missing or too much. */
export interface HeldDifference {
  readonly kind: string;
  readonly key: string;
  readonly field?: string;
  readonly intended: string | undefined;
  readonly actual: string | undefined;
  readonly at: Location | undefined;
}

/** The filled cells of what is intended. The numbers add up. */
export interface CellCounts {
  readonly filled: number;
  readonly arrived: number;
  readonly noPlace: number;
  readonly heldBack: number;
  readonly different: number;
}

export interface ComparedHeld {
  readonly differences: readonly HeldDifference[];
  readonly cells: CellCounts;
}

/** @param isLeftOut what is held back. */
export function compareHeld(
  catalogue: ResolvedCatalogue,
  target: Target,
  held: HeldCatalogue,
  isLeftOut: IsLeftOut,
): ComparedHeld {
  const places = new Places(catalogue, target);
  const isOut: IsLeftOut = (kind, row) => isLeftOut(kind, row) || !places.isTaken(catalogue.table(kind), row);
  const goal = asHeld(catalogue, target, isOut);
  const simulated = asHeld(held.catalogue, target, () => false);
  const { of, merged } = heldIdentities(target, catalogue.kinds);
  const matched = matchRecords({ own: goal, other: simulated, identitiesOf: of, merged });
  const placesOfGoal = new Places(goal, target);
  const told = coverageOf(layoutsOf(target), catalogue.kinds);
  const coverage: Coverage = { ...told, entries: (table) => (told.entries(table) === "none" ? "none" : "all") };
  const compared = compareCatalogues({ matched, coverage });
  const isMeant = (one: CatalogueDifference) => isDifference(one, matched, placesOfGoal, held);
  const inCells = [...compared.differences.filter(isMeant), ...ordered(matched, target)];
  const differences = [
    ...compared.onlyOwn
      .filter(({ kind, row }) => !isOut(kind, row) && places.makes(kind))
      .map(({ kind, row }) => alone(goal, kind, row, true)),
    ...compared.onlyOther.map(({ kind, row }) => alone(simulated, kind, row, false)),
    ...inCells.map((one) => described(one, matched)),
  ];
  return { differences: differences.sort(byPlace), cells: countCells(catalogue, places, isLeftOut, differences) };
}

const order = ({ kind, key, field = "" }: HeldDifference): string => `${kind}\u0000${key}\u0000${field}`;
const byPlace = (a: HeldDifference, b: HeldDifference): number =>
  order(a) < order(b) ? -1 : Number(order(a) > order(b));

function alone(catalogue: ResolvedCatalogue, kind: string, row: number, isOwn: boolean): HeldDifference {
  const table = catalogue.table(kind);
  const key = table.key(row);
  const at = isOwn ? catalogue.location(table, row) : undefined;
  return { kind, key, intended: isOwn ? key : undefined, actual: isOwn ? undefined : key, at };
}

/** Not what the target has no place for, and not what the platform puts where nothing is said. */
function isDifference(
  difference: CatalogueDifference,
  { own, other }: Correspondence,
  places: Places,
  { isOfPlatform }: HeldCatalogue,
): boolean {
  const { kind, entries, field, ownEntry, otherEntry, value, there } = difference;
  const name = entries === undefined ? kind : `${kind}.${entries}`;
  if (entries !== undefined && ownEntry === none) {
    const table = other.table(name);
    const fields = [...table.texts].filter(([, column]) => typeof column.get(otherEntry) === "string");
    const key = entryKeyOf(table.kind);
    const isSaid = fields.some(([one]) => !key.includes(one) && !isOfPlatform(name, one, otherEntry));
    return isSaid || fields.every(([one]) => key.includes(one));
  }
  const table = own.table(name);
  if (entries !== undefined && ownEntry !== none && !places.hasEntry(table, ownEntry)) return false;
  if (field === undefined) return true;
  const row = entries === undefined ? difference.own : ownEntry;
  if (value === undefined && there !== undefined)
    return !isOfPlatform(name, field, entries === undefined ? difference.other : otherEntry);
  return !(there === undefined && places.withoutField(table, field)?.(row));
}

function described(difference: CatalogueDifference, matched: Correspondence): HeldDifference {
  const { kind, entries, field, ownEntry, otherEntry, value, there } = difference;
  const key = matched.own.table(kind).key(difference.own);
  const at = ownEntry === none && entries !== undefined ? undefined : placeOf(matched, difference);
  const entryName = entries === undefined ? "" : nameOfEntry(matched, `${kind}.${entries}`, ownEntry, otherEntry);
  const name =
    entries === undefined ? (field ?? "") : `${entries}${entryName}${field === undefined ? "" : `.${field}`}`;
  return { kind, key, field: name, intended: value, actual: there, at };
}

/** `(price)`: what tells the entry apart first of all. */
function nameOfEntry({ own, other }: Correspondence, name: string, ownEntry: number, otherEntry: number): string {
  const [table, entry] = ownEntry !== none ? [own.table(name), ownEntry] : [other.table(name), otherEntry];
  const [first = ""] = table.kind.entryKey ?? [];
  const word = entry === none ? undefined : table.text(first, entry);
  return typeof word === "string" ? `(${word})` : "";
}

/** Lists whose entries stand in another order than intended. */
function ordered(matched: Correspondence, target: Target): CatalogueDifference[] {
  const found: CatalogueDifference[] = [];
  const seen = new Set<string>();
  for (const layout of layoutsOf(target))
    for (const column of layout.columns)
      for (const { feed } of column.bindings) {
        const isList = (feed.is === "entry" && feed.field.list) || (feed.is === "entries" && feed.list);
        if (!isList) continue;
        const { entries, constants, named } = feed;
        const free =
          feed.is === "entry"
            ? [feed.field.name, ...feed.parallel]
            : feed.parts.flatMap((part) => ("field" in part ? [part.field] : []));
        for (const kind of [kindOfScope(layout, column.scope)]) {
          const name = `${kind.name}.${entries}`;
          const key = JSON.stringify([name, constants]);
          if (kind.entries?.[entries] === undefined || seen.has(key)) continue;
          seen.add(key);
          const [own, other] = [matched.own.table(name), matched.other.table(name)];
          const of = (table: ReadonlyTable, catalogue: ResolvedCatalogue) =>
            entryLookup(table, constants, free, namedIn(catalogue, constants, named));
          const [mine, theirs] = [of(own, matched.own), of(other, matched.other)];
          const texts = [
            entryTexts(matched, own, "own", () => "exactly"),
            entryTexts(matched, other, "other", () => "exactly"),
          ] as const;
          const records = matched.own.table(kind.name);
          for (let row = 0; row < records.size; row++) {
            const there = matched.otherOf(kind.name, row);
            if (there === none) continue;
            const [a, b] = [mine.all(row).map(texts[0]), theirs.all(there).map(texts[1])];
            if (a.length !== b.length || a.join() === b.join() || [...a].sort().join() !== [...b].sort().join())
              continue;
            const listed = (catalogue: ResolvedCatalogue, table: ReadonlyTable, rows: readonly number[]) =>
              rows.map((entry) => describedEntry(catalogue, table, entry)).join("; ");
            found.push({
              kind: kind.name,
              own: row,
              other: there,
              entries,
              ownEntry: mine.all(row)[0] ?? none,
              otherEntry: none,
              field: undefined,
              value: listed(matched.own, own, mine.all(row)),
              there: listed(matched.other, other, theirs.all(there)),
            });
          }
        }
      }
  return found;
}

/** Keys, ids and places in order are carried by every row, and say nothing of their own. */
const carriedAnyhow = new Set(["id", "position", "rule"]);

function countCells(
  catalogue: ResolvedCatalogue,
  places: Places,
  isLeftOut: IsLeftOut,
  differences: readonly HeldDifference[],
): CellCounts {
  let [filled, noPlace, heldBack] = [0, 0, 0];
  const { pool } = catalogue;
  for (const table of catalogue.tables) {
    const { kind } = splitTable(table.name);
    const isEntry = table.kind.entryKey !== undefined;
    const leads = isEntry
      ? referenceFields(table.kind).flatMap(({ name, to }) => {
          const column = table.references.get(name);
          return column ? [{ column, to }] : [];
        })
      : [];
    const isHeld = (row: number): boolean =>
      isLeftOut(kind, isEntry ? table.parent(row) : row) ||
      leads.some(({ column, to }) => [...column.get(row)].some((number) => isLeftOut(to, pool.target.get(number))));
    const columns = [
      ...[...table.texts].map(
        ([field, column]) => [field, (row: number) => typeof column.get(row) === "string"] as const,
      ),
      ...[...table.references].map(
        ([field]) => [field, (row: number) => targetsOf(catalogue, table, field, row).length > 0] as const,
      ),
    ].filter(([field]) => !carriedAnyhow.has(field));
    for (const [field, isFilled] of columns) {
      const isWithout = places.withoutField(table, field);
      for (let row = 0; row < table.size; row++) {
        if (!isFilled(row) || (isEntry && table.parent(row) < 0)) continue;
        filled++;
        if (isHeld(row)) heldBack++;
        else if (isWithout?.(row) || (isEntry && !places.hasEntry(table, row)) || !places.isTaken(table, row))
          noPlace++;
      }
    }
  }
  const different = differences.filter(({ intended }) => intended !== undefined).length;
  return { filled, noPlace, heldBack, different, arrived: filled - noPlace - heldBack - different };
}
