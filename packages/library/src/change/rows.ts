/** The rows of a file that say something else than what is there: the same layout writes both, and cells are compared. */

import { firstOf } from "../checked.js";
import { entryKeyOf } from "../kind.js";
import type { Kinds } from "../kinds.js";
import { Findings } from "../findings/finding.js";
import type { Column, Layout } from "../layout/layout.js";
import type { WrittenRow } from "../layout/write/context.js";
import { writeBlocks, writtenHeaders, writtenKind } from "../layout/write/rows.js";
import type { TargetFile } from "../target/target.js";
import type { ChangeView } from "./views.js";
import { pushAll } from "../lists.js";

/** A row of a record, and the headers of the cells that differ; all that say something, where it has no counterpart. */
export interface RowChange {
  readonly child: number;
  readonly isSingles: boolean;
  readonly changed: ReadonlySet<string>;
  /** Of these, the headers of cells that were blank. */
  readonly fills: ReadonlySet<string>;
  /** Whether there is no such row before. */
  readonly isNew: boolean;
  /** Of a new row: the headers of cells of its child that are as they are below the record that had the child before. */
  readonly asBefore: ReadonlySet<string>;
  readonly cells: readonly string[];
  /** What tells the row from others of the record. */
  readonly word: string;
}

/** The rows of a record, in the order in which they are written. */
export interface RecordRows {
  readonly record: number;
  readonly rows: readonly RowChange[];
  /** The headers of lists of which rows are no longer there. */
  readonly gone: ReadonlySet<string>;
}

/** Which records are written, and how. */
export interface RowsAsked {
  readonly records: readonly number[];
  readonly columns?: ReadonlySet<string> | undefined;
  readonly parentsOnly?: boolean | undefined;
}

/** The rows of records in the one view, compared with those in the other. */
export function* comparedRows(
  to: ChangeView,
  from: ChangeView,
  file: TargetFile,
  layout: Layout,
  asked: RowsAsked,
): Generator<RecordRows> {
  const headers = writtenHeaders(layout, asked.columns);
  const [written, there] = [rowsOf(to, layout, asked), rowsOf(from, layout, asked)];
  const before = new RowsByRecord(there, asked.records);
  const moved = movedRows(to, from, layout, asked);
  const form = formOf({ file, layout, headers, kinds: to.catalogue.kinds });
  for (const { record, rows } of written) yield compareRecord({ record, rows }, before.of(record), form, moved);
}

/** The first rows, before, of children that another record has then: by the child. */
function movedRows(
  { catalogue }: ChangeView,
  from: ChangeView,
  layout: Layout,
  asked: RowsAsked,
): ReadonlyMap<number, WrittenRow> {
  const found = new Map<number, WrittenRow>();
  const kind = layout.shape.child?.name;
  if (kind === undefined || layout.link) return found;
  const [children, earlier] = [catalogue.table(kind), from.catalogue.table(kind)];
  const owners = new Set<number>();
  const moved = new Set<number>();
  for (const record of asked.records)
    for (const child of children.childrenOf(record)) {
      const owner = child < earlier.size && !from.isOut(kind, child) ? earlier.parent(child) : -1;
      if (owner < 0 || owner === record) continue;
      owners.add(owner);
      moved.add(child);
    }
  if (moved.size === 0) return found;
  for (const { rows } of rowsOf(from, layout, { ...asked, records: [...owners].sort((a, b) => a - b) }))
    for (const row of rows) if (moved.has(row.child) && !found.has(row.child)) found.set(row.child, row);
  return found;
}

interface Grouped {
  readonly record: number;
  readonly rows: readonly WrittenRow[];
}

const anyLine = () => 9_999_999;

/** Records with their rows; those without any are left out. */
function* rowsOf({ catalogue, isOut }: ChangeView, layout: Layout, asked: RowsAsked): Generator<Grouped> {
  let rows: WrittenRow[] = [];
  let record = -1;
  const kind = writtenKind(layout, catalogue);
  const records = asked.records.filter((row) => !isOut(kind, row));
  const options = { ...asked, records, isLeftOut: isOut, copiesShared: true, lineElsewhere: anyLine };
  for (const block of writeBlocks(catalogue, layout, options, new Findings(0))) {
    const { parent } = firstOf(block);
    if (parent !== record && rows.length > 0) yield { record, rows };
    if (parent !== record) rows = [];
    record = parent;
    pushAll(rows, block);
  }
  if (rows.length > 0) yield { record, rows };
}

/** Groups that come in the order in which records are asked for, some of them left out. */
class RowsByRecord {
  readonly #places: ReadonlyMap<number, number>;
  #next: Grouped | undefined;

  constructor(
    readonly groups: Generator<Grouped>,
    records: readonly number[],
  ) {
    this.#places = new Map(records.map((record, at) => [record, at]));
  }

  of(record: number): readonly WrittenRow[] {
    const place = this.#placeOf(record);
    for (;;) {
      const next = (this.#next ??= this.groups.next().value as Grouped | undefined);
      if (!next || this.#placeOf(next.record) > place) return [];
      this.#next = undefined;
      if (next.record === record) return next.rows;
    }
  }

  #placeOf(record: number): number {
    return this.#places.get(record) ?? -1;
  }
}

/** What is written of each record alike. */
interface FileWritten {
  readonly file: TargetFile;
  readonly layout: Layout;
  readonly headers: readonly string[];
  readonly kinds: Kinds;
}

interface RowsForm extends FileWritten {
  readonly wordsOf: (rows: readonly WrittenRow[]) => string[];
  /** Headers that a record fills on its first row alone. */
  readonly shared: ReadonlySet<string>;
  readonly ofChild: ReadonlySet<string>;
  /** Headers of lists whose rows are put in and taken out as a whole. */
  readonly listed: readonly string[];
  /** Where a row says its language; -1 for nowhere. */
  readonly language: number;
  readonly lanesBeside: readonly LaneBeside[];
}

/** What holds for all records of a file, worked out once. */
function formOf(written: FileWritten): RowsForm {
  const { file, layout, headers } = written;
  const { columns, shape, telling } = layout;
  const headersWhere = (isOne: (column: Column) => boolean) =>
    columns.flatMap((column) => (isOne(column) ? [column.header] : []));
  // Rows of lists are put in and taken out as a whole, but where each goes by its own key.
  const isByKey = file.entryKey.length > 0 || file.importing.lists === "add";
  const inLanes = headersWhere(({ header, scope }) => scope.is === "lane" && headers.includes(header));
  const isOfMany = shape.child !== undefined;
  return {
    ...written,
    wordsOf: rowNames(written),
    shared: new Set(headersWhere(({ header, scope }) => isOfMany && scope.is === "parent" && !telling.has(header))),
    ofChild: new Set(headersWhere(({ scope }) => isOfMany && scope.is === "child")),
    listed: isByKey ? [] : [...new Set(inLanes)],
    language: headers.indexOf(layout.languages?.column ?? ""),
    lanesBeside: lanesBeside(written),
  };
}

function compareRecord(
  { record, rows }: Grouped,
  before: readonly WrittenRow[],
  form: RowsForm,
  moved: ReadonlyMap<number, WrittenRow>,
): RecordRows {
  const { file, headers, language, listed, ofChild, shared, wordsOf } = form;
  const firstIn = (all: readonly WrittenRow[], { cells }: WrittenRow) =>
    all.find((one) => language < 0 || one.cells[language] === cells[language]);
  const there = new Map(wordsOf(before).map((word, at) => [word, before[at]!]));
  const words = wordsOf(rows);
  const lists = new ListsBeside(form, rows, before);
  const compared = rows.map((row, at): RowChange => {
    const word = words[at]!;
    const other = there.get(word);
    there.delete(word);
    const changed = headers.filter((header, position) => {
      const cell = row.cells[position]!;
      // What a record shows on its first row is compared with its first row, whatever else stands on the two.
      const isShared = shared.has(header);
      if (isShared && cell === "" && row !== firstIn(rows, row)) return false;
      const was = lists.has(header)
        ? lists.cellBefore(row, header, position)
        : ((isShared ? firstIn(before, row) : other)?.cells[position] ?? "");
      const rule = file.rules.get(header);
      // A cell that leaves what is there says nothing of it.
      return (
        cell !== was && !(cell === "" && rule?.blank === "leave") && !((other ?? firstIn(before, row)) && rule?.fixed)
      );
    });
    const fills = changed.filter((header) => (other?.cells[headers.indexOf(header)] ?? "") === "");
    const { child, cells, isSingles = false } = row;
    const earlier = other ? undefined : moved.get(child)?.cells;
    const asBefore = earlier
      ? headers.filter((header, position) => ofChild.has(header) && cells[position] === earlier[position])
      : [];
    return {
      child,
      cells,
      isSingles,
      changed: new Set(changed),
      fills: new Set(fills),
      isNew: !other,
      asBefore: new Set(asBefore),
      word,
    };
  });
  const lost = [...there.values()];
  const gone = listed.filter((header) =>
    lists.has(header) ? lists.isShorter(header) : lost.some(({ cells }) => cells[headers.indexOf(header)] !== ""),
  );
  return { record, rows: compared, gone: new Set(gone) };
}

/** Of lists that are only added to, each row stands for itself: the columns that tell its record, or the key of its entry. */
function addedKeys({ importing }: TargetFile, layout: Layout, kinds: Kinds): readonly string[] {
  if (importing.lists !== "add") return [];
  return layout.columns.flatMap(({ header, scope, bindings }) => {
    const lane = scope.is === "lane" ? layout.lanes.find(({ name }) => name === scope.lane) : undefined;
    if (!lane) return [];
    if (lane.holds === "references") return [header];
    const { parent, child = parent } = layout.shape;
    const embedded = (lane.of === "parent" ? parent : child).entries?.[lane.collection];
    const { feed } = firstOf(bindings);
    const isKey =
      embedded !== undefined && feed.is === "entry" && entryKeyOf(kinds.get(embedded)).includes(feed.field.name);
    return isKey ? [header] : [];
  });
}

/** What tells the rows of a record apart: the language, the child, the key of an entry, else the place among its like. */
function rowNames({ file, layout, headers, kinds }: FileWritten): (rows: readonly WrittenRow[]) => string[] {
  const keys = [
    ...file.entryKey,
    ...addedKeys(file, layout, kinds),
    ...(layout.languages ? [layout.languages.column] : []),
  ];
  const at = keys.map((header) => headers.indexOf(header)).filter((position) => position >= 0);
  return (rows) => {
    const count = new Map<string, number>();
    return rows.map(({ cells, child }) => {
      const word = JSON.stringify([child, ...at.map((position) => cells[position])]);
      const nth = count.get(word) ?? 0;
      count.set(word, nth + 1);
      return `${word} ${nth}`;
    });
  };
}

/** A list whose entries stand on rows beside those of what the record contains. */
interface LaneBeside {
  readonly headers: readonly string[];
  /** Where its cells are among those that are written. */
  readonly positions: readonly number[];
}

function lanesBeside({ file, layout, headers }: FileWritten): LaneBeside[] {
  if (!layout.shape.child || file.entryKey.length > 0) return [];
  return layout.lanes.flatMap(({ name, of }) => {
    if (of !== "parent") return [];
    const own = layout.columns.flatMap(({ header, scope }) =>
      scope.is === "lane" && scope.lane === name ? [header] : [],
    );
    return [{ headers: own, positions: own.map((header) => headers.indexOf(header)).filter((at) => at >= 0) }];
  });
}

/** Entries of such lists are compared by their place in the list, whatever else is on the row. */
class ListsBeside {
  /** By header: the rows of its list, now and before. */
  readonly #lists = new Map<string, { readonly now: readonly WrittenRow[]; readonly then: readonly WrittenRow[] }>();
  readonly #language: number;

  constructor({ language, lanesBeside }: RowsForm, rows: readonly WrittenRow[], before: readonly WrittenRow[]) {
    this.#language = language;
    for (const { headers, positions } of lanesBeside) {
      const isListed = ({ cells }: WrittenRow) => positions.some((at) => cells[at] !== "");
      const list = { now: rows.filter(isListed), then: before.filter(isListed) };
      for (const header of headers) this.#lists.set(header, list);
    }
  }

  has(header: string): boolean {
    return this.#lists.has(header);
  }

  /** The cell at the same place of the list; blank on a row without an entry. */
  cellBefore(row: WrittenRow, header: string, position: number): string {
    const list = this.#lists.get(header);
    if (!list) return "";
    const at = this.#language;
    const isAlike = ({ cells }: WrittenRow) => at < 0 || cells[at] === row.cells[at];
    const place = list.now.filter(isAlike).indexOf(row);
    return place < 0 ? "" : (list.then.filter(isAlike)[place]?.cells[position] ?? "");
  }

  isShorter(header: string): boolean {
    const list = this.#lists.get(header);
    return list !== undefined && list.now.length < list.then.length;
  }
}
