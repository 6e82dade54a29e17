/**
 * Tracing: for a cell of an upload, the source cells and rules that it came from; for a source cell, where it went.
 *
 * In: the catalogue, the plan. Nothing is kept for it while building: the rows are made again, and looked at.
 */

import { columnsIn, sheetCells } from "../layout/cells.js";
import type { CellOrigin, RecordOrigin } from "../layout/bindings/feed-kind.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import type { Header } from "../nominal.js";
import { firstOf, entryOf } from "../checked.js";
import { locationIn, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { linesIn } from "../build/lines-elsewhere.js";
import { fileRows, numberedRows, type FileRow, type RowSelection } from "../build/write-file.js";
import { Findings } from "../findings/finding.js";
import { byLanguage, type Column, type Layout } from "../layout/layout.js";
import { writtenHeaders, writtenKind } from "../layout/write/rows.js";
import { formatLocation, type Location, type RecordName } from "../location.js";
import type { Plan, PlannedFile, UploadStep } from "../plan/plan.js";
import type { Target } from "../target/target.js";
import { added } from "../lists.js";

/** A filled cell of the upload, with where it comes from. */
export interface TracedCell {
  readonly file: string;
  /** The line of the file, or the row of the sheet. */
  readonly line: number;
  readonly header: Header;
  readonly text: string;
  readonly record: RecordName;
  readonly origins: readonly CellOrigin[];
}

type LeftOut = RowSelection["isLeftOut"];
/** What of the records is written, and how rows name those of other files. */
export type TracedSelection = Pick<RowSelection, "isLeftOut" | "lineElsewhere">;

/** Which cells of the upload are traced. */
interface Wanted {
  readonly cell: (file: string, line: number, header: Header) => boolean;
  /** Only what comes from one of these, too; from anywhere, if left out. */
  readonly origin?: ((origin: RecordOrigin) => boolean) | undefined;
}

/** Every cell of the upload that a test wants, with its origins. Files that wait for ids are made as they would be by now. */
export function traceCells(
  catalogue: ResolvedCatalogue,
  target: Target,
  plan: Plan,
  isLeftOut: LeftOut,
  wants: (file: string, line: number, header: Header) => boolean,
): Generator<TracedCell> {
  return traceAll(catalogue, target, plan, isLeftOut, { cell: wants });
}

function* traceAll(
  catalogue: ResolvedCatalogue,
  target: Target,
  plan: Plan,
  isLeftOut: LeftOut,
  wants: Wanted,
): Generator<TracedCell> {
  const selection = { isLeftOut, lineElsewhere: linesIn(catalogue, target, plan.steps, isLeftOut) };
  for (const step of plan.steps) {
    if (step.is !== "upload") continue;
    for (const planned of step.files) yield* traceFile(catalogue, target, step, planned, selection, wants);
  }
}

/** A row of the upload, with where it stands in its file. */
export interface UploadRow {
  /** The line of the file, or the row of the sheet. */
  readonly line: number;
  readonly row: FileRow;
  /** Which of the rows of the same record it is: which of its entries. */
  readonly nth: number;
}

/** The rows of one file of the plan, as they are or will be written, by what is known now. */
export function uploadRows(
  catalogue: ResolvedCatalogue,
  target: Target,
  step: UploadStep,
  { blocks }: PlannedFile,
  selection: TracedSelection,
): { readonly headers: readonly Header[]; readonly rows: Iterable<UploadRow> } {
  const file = entryOf(target.files, step.slot.file);
  const { headers, rows } = fileRows(catalogue, file, { blocks, step, ...selection }, new Findings(0));
  function* numbered(): Generator<UploadRow> {
    let above: FileRow | undefined;
    let nth = 0;
    for (const { row, line } of numberedRows(file, rows)) {
      nth = above?.parent === row.parent && above.child === row.child && above.layout === row.layout ? nth + 1 : 0;
      above = row;
      yield { line, row, nth };
    }
  }
  return { headers, rows: numbered() };
}

function* traceFile(
  given: ResolvedCatalogue,
  target: Target,
  step: UploadStep,
  planned: PlannedFile,
  selection: TracedSelection,
  wants: Wanted,
): Generator<TracedCell> {
  const { layouts } = entryOf(target.files, step.slot.file);
  const { catalogue = given } = step.from ?? {};
  const { headers, rows } = uploadRows(catalogue, target, step, planned, selection);
  const { cells: steps } = firstOf(layouts);
  const inFile = sheetCells(steps, headers).headers;
  const columns = inFile.map((header) => columnsIn(steps, header));
  const tracers = layouts.map((layout) => new RowTracer(catalogue, layout, step.columns));
  for (const { line, row, nth } of rows) {
    if (row.parent < 0) continue;
    const tracer = tracers[row.layout]!;
    for (const [at, header] of inFile.entries()) {
      const text = row.inFile[at]!;
      if (text === "" || !wants.cell(planned.name, line, header)) continue;
      // A cell that others are joined in comes from where these come from.
      const all = columns[at]!.flatMap((one) => tracer.origins(row, one, nth));
      if (wants.origin && !all.some(wants.origin)) continue;
      yield { file: planned.name, line, header, text, record: tracer.recordOf(row), origins: distinct(all) };
    }
  }
}

interface ColumnsOf {
  readonly own: Layout;
  readonly byHeader: ReadonlyMap<Header, readonly Column[]>;
}

function columnsOf(own: Layout): ColumnsOf {
  const byHeader = new Map<Header, Column[]>();
  for (const column of own.columns) byHeader.set(column.header, added(byHeader.get(column.header), column));
  return { own, byHeader };
}

/** Where the cells of a layout's rows come from. What is the same for all rows is worked out once. */
class RowTracer {
  /** By the word of a row's language: by header the columns of that. */
  readonly #columns: ReadonlyMap<string, ColumnsOf>;
  readonly #all: ColumnsOf;
  readonly #languageAt: number;
  readonly #parents: ReadonlyTable;
  readonly #children: ReadonlyTable | undefined;

  constructor(
    readonly catalogue: ResolvedCatalogue,
    layout: Layout,
    written: UploadStep["columns"],
  ) {
    this.#all = columnsOf(layout);
    this.#columns = new Map(byLanguage(layout).map(([word, own]) => [word, columnsOf(own)]));
    const { languages, shape } = layout;
    this.#languageAt = languages ? writtenHeaders(layout, written).indexOf(languages.column) : -1;
    const kind = writtenKind(layout, catalogue);
    this.#parents = catalogue.table(kind);
    const below = shape.child ?? (shape.parent.name === kind ? undefined : shape.parent);
    this.#children = below && catalogue.table(below.name);
  }

  /** The children's table, where a row is of a child. */
  #ofChild({ child, isSingles }: FileRow): ReadonlyTable | undefined {
    return child >= 0 && !isSingles ? this.#children : undefined;
  }

  recordOf(row: FileRow): RecordName {
    const children = this.#ofChild(row);
    const [table, at] = children ? [children, row.child] : [this.#parents, row.parent];
    return { kind: table.name, key: table.key(at) };
  }

  /** @param nth which of the rows of the same record it is: which of its entries. */
  origins(row: FileRow, header: Header, nth: number): readonly RecordOrigin[] {
    const word = this.#languageAt < 0 ? undefined : row.cells[this.#languageAt];
    const { own, byHeader } = (word === undefined ? undefined : this.#columns.get(word)) ?? this.#all;
    const children = this.#ofChild(row);
    const { catalogue } = this;
    return (byHeader.get(header) ?? []).flatMap((column) => {
      const isParents = column.scope.is === "parent" && (!own.link || own.shape.child);
      const [table, at] = children && !isParents ? [children, row.child] : [this.#parents, row.parent];
      const { feed } = firstOf(column.bindings);
      return kindOfFeed(feed).origins(feed, { catalogue, layout: own, column, table, row: at, nth });
    });
  }
}

const distinct = (origins: readonly CellOrigin[]): CellOrigin[] => {
  const told = origins.map(({ field, location }): CellOrigin => ({ field, location }));
  return [...new Map(told.map((one) => [`${one.field} ${formatLocation(one.location)}`, one])).values()];
};

/** Whether an element is another, or lies in it. */
const isWithin = (pointer: string | undefined, element: string | undefined): boolean =>
  pointer === element || (element !== undefined && pointer?.startsWith(`${element}/`) === true);

const withoutColumn = ({ column: _, ...location }: Location): Location => location;

/**
 * The cells of the upload that a source's line, or one cell of it, went into. Of documents, the element by its pointer.
 *
 * @param source a text is a location as it is printed, with its column or without.
 */
export function traceSource(
  catalogue: ResolvedCatalogue,
  target: Target,
  plan: Plan,
  isLeftOut: LeftOut,
  source: Pick<Location, "file" | "sheet" | "pointer" | "line" | "column"> | string,
): Generator<TracedCell> {
  const [isCell, isRow] = typeof source === "string" ? printed(source) : isFrom(source);
  // Most rows are others: a cell is looked at only where its row may be the one.
  const mayBe = ({ catalogue: of, position: { sheet, line } }: RecordOrigin): boolean => {
    const info = of.sheets[sheet];
    // What was made here stands in no sheet.
    return info === undefined || isRow(locationIn(info, line));
  };
  const origin = (one: RecordOrigin): boolean => mayBe(one) && isCell(one.location);
  return traceAll(catalogue, target, plan, isLeftOut, { cell: () => true, origin });
}

type IsPlace = (location: Location) => boolean;

/** Whether a cell is the place, and whether a row, which has no column, may have it. */
function isFrom(source: Pick<Location, "file" | "sheet" | "pointer" | "line" | "column">): readonly [IsPlace, IsPlace] {
  const isRow = (location: Location): boolean =>
    location.line === source.line &&
    location.file === source.file &&
    isWithin(location.pointer, source.pointer) &&
    (source.sheet === undefined || location.sheet === source.sheet);
  return [(location) => isRow(location) && (source.column === undefined || location.column === source.column), isRow];
}

/** The same of a location as it is printed. */
function printed(source: string): readonly [IsPlace, IsPlace] {
  const lines = new Set([...source.matchAll(/:(\d+)/g)].map(([, line]) => Number(line)));
  return [
    (location) => formatLocation(location) === source || formatLocation(withoutColumn(location)) === source,
    // Few have a line that stands in it: the others need not be printed.
    (location) => location.line === undefined || lines.has(location.line),
  ];
}
