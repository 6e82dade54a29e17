/** The uploads that bring a change: for each file the records and columns that say something else, the rows of products apart from those of variants. */

import { bytesBy, measureRows } from "../build/prepare.js";
import { entryOf, present } from "../checked.js";
import { driverOf } from "../formats/drivers/drivers.js";
import type { Kinds } from "../kinds.js";
import type { Layout } from "../layout/layout.js";
import { writtenKind } from "../layout/write/rows.js";
import { phrase, type Text } from "../phrases/phrase.js";
import { splitIntoBatches } from "../plan/batches.js";
import type { PlannedBlock, Purpose, UploadStep } from "../plan/plan.js";
import { recordsOfImports } from "../target/import-records.js";
import type { Target, TargetFile } from "../target/target.js";
import { carryingColumns, identityHeaders, isOf, withPartners } from "./columns.js";
import { comparedRows, type RowChange } from "./rows.js";
import type { ChangeView } from "./views.js";
import { numbersWhere } from "../lists.js";

/** A change, and which records of it are brought here. */
export interface StepsAsked {
  readonly target: Target;
  readonly kinds: Kinds;
  readonly to: ChangeView;
  readonly from: ChangeView;
  readonly isFor: (kind: string, row: number) => boolean;
  /** Whether a record is on the platform: rows of what is new come with it. */
  readonly isThere: (kind: string, row: number) => boolean;
  readonly purpose: Purpose;
  /** Whether a row of a file is looked at: by the record, and by what lies in it. All are, if left out. */
  readonly isAffected?: IsAffected | undefined;
  /** Whether updates that have imports of their own go by these. */
  readonly leavesUpdates: boolean;
}

/** Whether a row of a file may be written: by its record and the record in it. */
export type IsAffected = (file: string, kind: string, row: number, child: string, childRow: number) => boolean;

type RowSizes = ReturnType<typeof bytesBy>;
type Level = "parent" | "child" | undefined;

/** An upload for each file, and each level of it, that has anything to say. Its rows are not chosen yet. */
export function changeSteps(asked: StepsAsked): UploadStep[] {
  const { target } = asked;
  // What sets all back needs the files of updates too; else these have steps of their own.
  const slots = target.slots.filter(({ mode }) => mode === "create" || !asked.leavesUpdates);
  const files = new Set(slots.map(({ file }) => file));
  const sizes = bytesBy(measureRows(asked.to.catalogue, target));
  return [...files].flatMap((name) => {
    const file = entryOf(target.files, name);
    const all = changedIn(file, asked);
    // A record that is made again has all of its columns, and rows of its own file.
    const isAgain = (kind: string, record: number) => asked.purpose === "rollback" && asked.from.isOut(kind, record);
    const changed = only(all, (kind, record) => !isAgain(kind, record));
    const again = stepOf(file, undefined, only(all, isAgain), asked, sizes).map((step) => ({
      ...step,
      columns: undefined,
    }));
    // Where products and variants share rows, each of the two has a file: then no row says more than what changes.
    const levels: readonly Level[] = file.grouped && !namesAllChildren(file) ? ["parent", "child"] : [undefined];
    return [...again, ...levels.flatMap((level) => stepOf(file, level, changed, asked, sizes))];
  });
}

const only = (changed: Changed, isOf: (kind: string, record: number) => boolean): Changed =>
  changed.map(({ kind, records }) => ({
    kind,
    records: new Map([...records].filter(([record]) => isOf(kind, record))),
  }));

/** By layout: the records that differ, each with the headers of its cells that do. */
type Changed = readonly { readonly kind: string; readonly records: ReadonlyMap<number, ReadonlySet<string>> }[];

function changedIn(
  file: TargetFile,
  { target, kinds, to, from, isFor, isThere, isAffected, leavesUpdates, purpose }: StepsAsked,
): Changed {
  const isForFile = recordsOfImports(to.catalogue, target);
  return file.layouts.map((layout) => {
    const kind = writtenKind(layout, to.catalogue);
    const below = layout.shape.child?.name ?? layout.shape.parent.name;
    const own = ownHeaders(target, file, layout, kinds, leavesUpdates);
    const all = numbersWhere(
      to.catalogue.table(kind).size,
      (row) => !to.isOut(kind, row) && isFor(kind, row) && isForFile(file.name, kind, row),
    );
    const records = new Map<number, ReadonlySet<string>>();
    for (const { record, rows, gone } of comparedRows(to, from, file, layout, { records: all })) {
      const isKnown = ({ child, isSingles }: RowChange) => child < 0 || isSingles || isThere(below, child);
      const known = rows.filter(
        (row) =>
          (purpose === "rollback" || isKnown(row)) &&
          (isAffected?.(file.name, kind, record, below, row.isSingles ? -1 : row.child) ?? true),
      );
      const headers = new Set(
        [...known.flatMap((row) => changedHeaders(row, file)), ...gone].filter((one) => own.has(one)),
      );
      if (headers.size > 0) records.set(record, headers);
    }
    return { kind, records };
  });
}

/** The headers of cells that change anything: what moves to another record with its child stays where its blank leaves it. */
function changedHeaders({ changed, asBefore }: RowChange, { rules }: TargetFile): string[] {
  const leaves = (header: string) => {
    const blank = rules.get(header)?.blank;
    return blank === "leave" || blank === "generate";
  };
  return [...changed].filter((header) => !(asBefore.has(header) && leaves(header)));
}

/** The headers of what has no import of its own. */
function ownHeaders(
  target: Target,
  file: TargetFile,
  layout: Layout,
  kinds: Kinds,
  leavesUpdates: boolean,
): ReadonlySet<string> {
  const updates = leavesUpdates ? target.slots.flatMap((slot) => slot.updates) : [];
  const others = new Set<string>();
  const isCovered = (kind: string, field: string) =>
    updates.some((update) => update.startsWith(`${kind}.`) && isOf(update, field));
  for (const { header, kind, field } of carryingColumns(target, file, layout, kinds))
    if (isCovered(kind, field)) others.add(header);
  for (const { name, of, collection } of layout.lanes) {
    const kind = present(of === "parent" ? layout.shape.parent : layout.shape.child).name;
    if (!isCovered(kind, collection)) continue;
    for (const { header, scope } of layout.columns) if (scope.is === "lane" && scope.lane === name) others.add(header);
  }
  return new Set(layout.columns.flatMap(({ header }) => (others.has(header) ? [] : [header])));
}

function stepOf(file: TargetFile, level: Level, changed: Changed, asked: StepsAsked, sizes: RowSizes): UploadStep[] {
  const { target, purpose } = asked;
  const headers = new Set<string>();
  const blocks = changed.flatMap(({ kind, records }, at): PlannedBlock[] => {
    const layout = file.layouts[at]!;
    const isOfLevel = (header: string) => level === undefined || levelsOf(layout, header).has(level);
    const rows = [...records].flatMap(([record, own]) => {
      const here = [...own].filter(isOfLevel);
      for (const header of here) headers.add(header);
      return here.length > 0 ? [record] : [];
    });
    return rows.length > 0 ? [{ layout: at, kind, records: rows }] : [];
  });
  if (blocks.length === 0) return [];
  const columns = columnsOf(file, headers);
  const name = `${file.name}-${fileNames[purpose]}${level === "child" ? "-of-variants" : ""}`;
  const mode = level === "parent" ? ("update" as const) : ("create" as const);
  return [
    {
      number: 0,
      is: "upload",
      purpose,
      title: titleOf(purpose, file.name, level),
      why: whyOf(purpose, target.name, [...headers]),
      slot: { name, file: file.name, mode, creates: [], updates: [] },
      files: splitByLimit(file, blocks, sizes).map((one) => ({
        name: `${name}.${driverOf(file.layout.format).ending(file.layout.format)}`,
        blocks: one,
      })),
      columns,
      waiting: new Map(),
      // Only records of yours are followed further.
      places: purpose === "change" ? blocks.map(({ kind, records }) => ({ kind, update: undefined, records })) : [],
      after: [],
    },
  ];
}

const fileNames: Readonly<Record<Purpose, string>> = {
  create: "new",
  change: "changes",
  retire: "retired",
  delete: "deleted",
  release: "released",
  rollback: "changes",
};

function titleOf(purpose: Purpose, file: string, level: Level): Text {
  if (purpose === "release") return phrase("Release codes that move to other records");
  if (purpose === "retire") return phrase("Take out of sale what is no longer in your sources");
  return phrase("Upload the changes in {0}{1}", file, level === "child" ? ", variant by variant" : "");
}

function whyOf(purpose: Purpose, target: string, headers: readonly string[]): Text {
  if (purpose === "release")
    return phrase("{0} allows each code only once. The record that has it now lets go of it first.", target);
  if (purpose === "retire") return phrase("These records are on {0} and are no longer in your sources.", target);
  return phrase("Overwrites only what differs from what is on {0}: {1}.", target, headers.join(", "));
}

/** The levels at which a column of a header stands: columns of a parent and of its children may have one header. */
function levelsOf({ columns }: Layout, header: string): ReadonlySet<"parent" | "child"> {
  return new Set(
    columns.flatMap((column) =>
      column.header === header ? [column.scope.is === "parent" ? ("parent" as const) : ("child" as const)] : [],
    ),
  );
}

/** Whether rows have to name all that a record contains: what they do not name is deleted. */
export const namesAllChildren = ({ importing, layout }: TargetFile): boolean =>
  layout.shape.child !== undefined && !layout.link && importing["children not named"] === "deleted";

/** The columns of a file that writes some: with those that tell its rows apart, and those that have to be beside them. */
export function columnsOf(file: TargetFile, headers: ReadonlySet<string>): ReadonlySet<string> {
  const { layout, grouped } = file;
  const languages = file.layouts.flatMap((one) => (one.languages ? [one.languages.column] : []));
  const asked = [...identityHeaders(file), ...file.mustHave, ...languages, ...file.entryKey, ...headers];
  const all = withPartners(file, asked);
  // Cells of a variant need its code beside them.
  const isBelow = layout.columns.some(({ header, scope }) => all.has(header) && scope.is !== "parent");
  return grouped && (isBelow || namesAllChildren(file)) ? new Set([...all, grouped.child]) : all;
}

/** The blocks of each file: as many records as it takes. Rows are measured with all their columns, so that they surely fit. */
export function splitByLimit(file: TargetFile, blocks: readonly PlannedBlock[], sizes: RowSizes): PlannedBlock[][] {
  const [main, ...others] = blocks;
  const { kind, records } = present(main);
  const { batches, tooLarge } = splitIntoBatches(
    records,
    [],
    file.limits,
    (record) => sizes.bytesOf(file, record),
    sizes.headerBytes(file),
  );
  const parts = [...batches, ...tooLarge.map((record) => [record])];
  return parts.map((part, at) => [{ ...present(main), kind, records: part }, ...(at === 0 ? others : [])]);
}
