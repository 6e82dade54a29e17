/** The rows of a file that say something else than what is there: the same layout writes both, and cells are compared. */

import { firstOf } from "../checked.js";
import { Findings } from "../findings/finding.js";
import type { Layout } from "../layout/layout.js";
import type { WrittenRow } from "../layout/write/context.js";
import { writeBlocks, writtenHeaders, writtenKind } from "../layout/write/rows.js";
import type { TargetFile } from "../target/target.js";
import type { ChangeView } from "./views.js";

/** A row of a record, and the headers of the cells that differ; all that say something, where it has no counterpart. */
export interface RowChange {
  readonly child: number;
  readonly isSingles: boolean;
  readonly changed: ReadonlySet<string>;
  /** Of these, the headers of cells that were blank. */
  readonly fills: ReadonlySet<string>;
  /** Whether there is no such row before. */
  readonly isNew: boolean;
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
  for (const { record, rows } of written) {
    const own = before.of(record);
    yield compareRecord({ record, rows }, own, { file, layout, headers });
  }
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
    rows.push(...block);
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

interface RowsForm {
  readonly file: TargetFile;
  readonly layout: Layout;
  readonly headers: readonly string[];
}

function compareRecord({ record, rows }: Grouped, before: readonly WrittenRow[], form: RowsForm): RecordRows {
  const { file, layout, headers } = form;
  const wordOf = rowNames(form);
  const shared = new Set(
    layout.columns.flatMap(({ header, scope }) =>
      layout.shape.child && scope.is === "parent" && !layout.telling.has(header) ? [header] : [],
    ),
  );
  const language = headers.indexOf(layout.languages?.column ?? "");
  const firstIn = (all: readonly WrittenRow[], { cells }: WrittenRow) =>
    all.find((one) => language < 0 || one.cells[language] === cells[language]);
  const there = new Map(wordOf(before).map((word, at) => [word, before[at]!]));
  const words = wordOf(rows);
  const compared = rows.map((row, at): RowChange => {
    const word = words[at]!;
    const other = there.get(word);
    there.delete(word);
    const changed = headers.filter((header, position) => {
      const cell = row.cells[position]!;
      // What a record shows on its first row is compared with its first row, whatever else stands on the two.
      const isShared = shared.has(header);
      if (isShared && cell === "" && row !== firstIn(rows, row)) return false;
      const was = (isShared ? firstIn(before, row) : other)?.cells[position] ?? "";
      const rule = file.rules.get(header);
      // A cell that leaves what is there says nothing of it.
      return (
        cell !== was && !(cell === "" && rule?.blank === "leave") && !((other ?? firstIn(before, row)) && rule?.fixed)
      );
    });
    const fills = changed.filter((header) => (other?.cells[headers.indexOf(header)] ?? "") === "");
    const { child, cells, isSingles = false } = row;
    return { child, cells, isSingles, changed: new Set(changed), fills: new Set(fills), isNew: !other, word };
  });
  // Rows of lists are put in and taken out as a whole, but where each goes by its own key.
  const isByKey = file.entryKey.length > 0;
  const inLanes = layout.columns.flatMap(({ header, scope }) => (scope.is === "lane" ? [header] : []));
  const listed = new Set(isByKey ? [] : inLanes.filter((header) => headers.includes(header)));
  const lost = [...there.values()];
  const gone = [...listed].filter((header) => lost.some(({ cells }) => cells[headers.indexOf(header)] !== ""));
  return { record, rows: compared, gone: new Set(gone) };
}

/** What tells the rows of a record apart: the language, the child, the key of an entry, else the place among its like. */
function rowNames({ file, layout, headers }: RowsForm): (rows: readonly WrittenRow[]) => string[] {
  const keys = [...file.entryKey, ...(layout.languages ? [layout.languages.column] : [])];
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
