/**
 * Tracing: for a cell of an upload, the source cells and rules that it came from; for a source cell, where it went.
 *
 * In: the catalogue, the plan. Nothing is kept for it while building: the rows are made again, and looked at.
 */

import { columnsIn, sheetCells } from "../layout/cells.js";
import type { CellOrigin } from "../layout/bindings/feed-kind.js";
import { kindOfFeed } from "../layout/bindings/feed-kinds.js";
import type { Header } from "../nominal.js";
import { firstOf, entryOf } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { linesIn } from "../build/lines-elsewhere.js";
import { fileRows, numberedRows, type FileRow, type RowSelection } from "../build/write-file.js";
import { Findings } from "../findings/finding.js";
import { byLanguage, type Layout } from "../layout/layout.js";
import { writtenKind } from "../layout/write/rows.js";
import { formatLocation, type Location, type RecordName } from "../location.js";
import type { Plan, PlannedFile, UploadStep } from "../plan/plan.js";
import type { Target } from "../target/target.js";
import { pushAll } from "../lists.js";

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

/** Every cell of the upload that a test wants, with its origins. Files that wait for ids are made as they would be by now. */
export function* traceCells(
  catalogue: ResolvedCatalogue,
  target: Target,
  plan: Plan,
  isLeftOut: LeftOut,
  wants: (file: string, line: number, header: Header) => boolean,
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
  wants: (file: string, line: number, header: Header) => boolean,
): Generator<TracedCell> {
  const { layouts } = entryOf(target.files, step.slot.file);
  const { catalogue = given } = step.from ?? {};
  const { headers, rows } = uploadRows(catalogue, target, step, planned, selection);
  const { cells: steps } = firstOf(layouts);
  const inFile = sheetCells(steps, headers).headers;
  const columns = inFile.map((header) => columnsIn(steps, header));
  for (const { line, row, nth } of rows) {
    if (row.parent < 0) continue;
    for (const [at, header] of inFile.entries()) {
      const text = row.inFile[at]!;
      if (text === "" || !wants(planned.name, line, header)) continue;
      // A cell that others are joined in comes from where these come from.
      const traced = columns[at]!.map((one) => originsOf(catalogue, layouts[row.layout]!, row, one, nth));
      const origins = distinct(traced.flatMap((one) => one.origins));
      yield { file: planned.name, line, header, text, record: firstOf(traced).record, origins };
    }
  }
}

/** @param nth which of the rows of the same record it is: which of its entries. */
function originsOf(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  row: FileRow,
  header: Header,
  nth: number,
): Pick<TracedCell, "record" | "origins"> {
  const { shape } = layout;
  const language = layout.languages;
  const word = language && row.cells[[...layout.columns.map((one) => one.header)].indexOf(language.column)];
  const own = byLanguage(layout).find(([one]) => one === word)?.[1] ?? layout;
  const kind = writtenKind(own, catalogue);
  const parents = catalogue.table(kind);
  const below = shape.child ?? (shape.parent.name === kind ? undefined : shape.parent);
  const children = below && catalogue.table(below.name);
  const isChild = row.child >= 0 && !row.isSingles && children !== undefined;
  const seen: CellOrigin[] = [];
  for (const column of own.columns) {
    if (column.header !== header) continue;
    const isParents = column.scope.is === "parent" && (!layout.link || shape.child);
    const [table, at] = isChild && !isParents ? [children, row.child] : [parents, row.parent];
    const { feed } = firstOf(column.bindings);
    pushAll(seen, kindOfFeed(feed).origins(feed, { catalogue, layout: own, column, table, row: at, nth }));
  }
  const [table, at] = isChild ? [children, row.child] : [parents, row.parent];
  return { record: { kind: table.name, key: table.key(at) }, origins: distinct(seen) };
}

const distinct = (origins: readonly CellOrigin[]): CellOrigin[] => [
  ...new Map(origins.map((one) => [`${one.field} ${formatLocation(one.location)}`, one])).values(),
];

/** Whether an element is another, or lies in it. */
const isWithin = (pointer: string | undefined, element: string | undefined): boolean =>
  pointer === element || (element !== undefined && pointer?.startsWith(`${element}/`) === true);

const withoutColumn = ({ column: _, ...location }: Location): Location => location;

/**
 * The cells of the upload that a source's line, or one cell of it, went into. Of documents, the element by its pointer.
 *
 * @param source a text is a location as it is printed, with its column or without.
 */
export function* traceSource(
  catalogue: ResolvedCatalogue,
  target: Target,
  plan: Plan,
  isLeftOut: LeftOut,
  source: Pick<Location, "file" | "sheet" | "pointer" | "line" | "column"> | string,
): Generator<TracedCell> {
  const isFrom = ({ location }: CellOrigin) =>
    typeof source === "string"
      ? formatLocation(location) === source || formatLocation(withoutColumn(location)) === source
      : location.file === source.file &&
        location.line === source.line &&
        isWithin(location.pointer, source.pointer) &&
        (source.sheet === undefined || location.sheet === source.sheet) &&
        (source.column === undefined || location.column === source.column);
  for (const cell of traceCells(catalogue, target, plan, isLeftOut, () => true))
    if (cell.origins.some(isFrom)) yield cell;
}
