/** The rows of one file of the upload, as text and as bytes. Text goes lazily: a file of a million rows is never whole in memory. */

import type { Header } from "../nominal.js";
import { numbersWhere } from "../lists.js";
import { entryOf, firstOf, present } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Unwritable } from "../codecs/codec.js";
import { finding, type Findings } from "../findings/finding.js";
import { driverOf, sheetName } from "../formats/drivers/drivers.js";
import { utf8Chunks } from "../formats/encode.js";
import { sheetCells } from "../layout/cells.js";
import { levelOf, type Layout, type Scope } from "../layout/layout.js";
import { sheetsOf } from "../layout/write/layout-file.js";
import { documentOf } from "../layout/write/document.js";
import { noLine, WrittenLines } from "../layout/write/lines.js";
import type { LineElsewhere, WrittenRow } from "../layout/write/context.js";
import { byLetters, rowsAbove } from "../layout/write/above.js";
import { writeBlocks, writtenHeaders, writtenKind } from "../layout/write/rows.js";
import type { PlannedBlock, UploadStep } from "../plan/plan.js";
import { recordsOfImports } from "../target/import-records.js";
import type { Target, TargetFile } from "../target/target.js";

export interface FileRow extends WrittenRow {
  /** Its cells as they stand in the file: joined and cut as the layout says. */
  readonly inFile: readonly string[];
  /** Whether it is the first of a record's block. */
  readonly begins: boolean;
  /** The layout that it is written by, among those of the file. */
  readonly layout: number;
}

/** The rows of a file of the upload, below its headers. */
export interface FileRows {
  /** Of the file's first layout. */
  readonly headers: readonly Header[];
  /** By layout: they differ where each has a sheet of its own. */
  readonly headersOf: readonly (readonly Header[])[];
  readonly rows: Iterable<FileRow>;
}

/** Which records a file of the upload holds. */
export interface RowSelection {
  readonly blocks: readonly PlannedBlock[];
  readonly step: Pick<UploadStep, "slot" | "columns" | "waiting" | "from">;
  readonly isLeftOut: (kind: string, row: number) => boolean;
  /** For rows that name the lines of another file; where they do not count, all are the same. */
  readonly lineElsewhere?: LineElsewhere | undefined;
}

const anyLine: LineElsewhere = () => 9_999_999;

/** Every record that a file's layouts can write. */
export function allBlocks(catalogue: ResolvedCatalogue, target: Target, { name, layouts }: TargetFile): PlannedBlock[] {
  const isFor = recordsOfImports(catalogue, target);
  return layouts.map((layout, at) => {
    const kind = writtenKind(layout, catalogue);
    const rows = numbersWhere(catalogue.table(kind).size, (row) => isFor(name, kind, row));
    // Rows about variants; singles have rows of their own kind.
    const isBelow = layout.link && layout.shape.parent.name !== kind && layouts.length > 1;
    const children = catalogue.table(layout.shape.parent.name);
    return { layout: at, kind, records: isBelow ? rows.filter((row) => children.countChildren(row) > 0) : rows };
  });
}

/** The rows of one file of an upload, as its layouts write them. */
export function fileRows(
  given: ResolvedCatalogue,
  { layouts }: TargetFile,
  { blocks, step, isLeftOut: isLeft, lineElsewhere = anyLine }: RowSelection,
  findings: Findings,
): FileRows {
  const { catalogue, isLeftOut } = step.from ?? { catalogue: given, isLeftOut: isLeft };
  const headersOf = layouts.map((layout) => writtenHeaders(layout, step.columns));
  const headers = firstOf(headersOf);
  const hasWaiting = step.waiting.size > 0;
  const sheets = layouts.map(({ cells }, at) => sheetCells(cells, headersOf[at]!));
  const { format } = firstOf(layouts);
  const lines = new WrittenLines(
    layouts,
    driverOf(format).rows?.linesOf ?? (() => 1),
    rowsAbove(firstOf(layouts), firstOf(sheets).headers),
  );
  function* rows(): Generator<FileRow> {
    for (const { layout: at, kind, records, rows: chosen } of blocks) {
      let number = -1;
      let parent = -1;
      const layout = layouts[at]!;
      const table = catalogue.table(kind);
      const cannot = (column: string, why: Unwritable) =>
        findings.add(finding("write/cannot-be-written", { column, ...why }, catalogue.location(table, parent)));
      const lacks = (column: number) => cannot(headersOf[at]![column]!, noLine);
      const { fold } = sheets[at]!;
      const parentsOnly = writesParentsOnly(step, layout);
      const options = { records, columns: step.columns, isLeftOut, parentsOnly, copiesShared: true, lineElsewhere };
      for (const block of writeBlocks(catalogue, layout, options, findings)) {
        let begins = true;
        for (const row of block) {
          const { child, isSingles } = row;
          parent = row.parent;
          const left = chosen?.get(++number);
          if (chosen && !left) continue;
          const waiting = hasWaiting ? step.waiting.get(parent) : undefined;
          const cells =
            waiting || (left && left.size > 0)
              ? row.cells.map((cell, position) => {
                  const header = headersOf[at]![position]!;
                  return (waiting?.has(header) ?? false) || (left?.has(header) ?? false) ? "" : cell;
                })
              : row.cells;
          const own = lines.filled(row, cells, lacks);
          const inFile = fold(own, cannot);
          lines.next(row, inFile);
          yield { cells: own, inFile, parent, child, isSingles, layout: at, begins, leftBlank: left };
          begins = false;
        }
      }
    }
  }
  return { headers, headersOf, rows: rows() };
}

/** Whether a step writes one row for each record of a block, without what it contains. */
export const writesParentsOnly = ({ slot, columns }: RowSelection["step"], layout: Layout): boolean =>
  slot.mode === "update" && isOfParents(layout, writtenHeaders(layout, columns));

/**
 * Whether columns that are written say nothing of what records contain, and no entries on rows below: one row a record says it all. In
 * documents entries have elements of their own.
 */
function isOfParents(layout: Layout, headers: readonly Header[]): boolean {
  const { shape, columns } = layout;
  if (shape.child === undefined || shape.is === "expanded") return false;
  const isParents = (scope: Scope): boolean =>
    shape.is === "nested" ? levelOf(layout, scope) === "parent" : scope.is === "parent";
  return columns.every(({ header, scope }) => isParents(scope) || !headers.includes(header));
}

/**
 * The bytes of a file: where the format allows, chunk by chunk. Layouts that name sheets of their own are sheets of one workbook.
 *
 * @param seeRow is called with each row before it is encoded.
 */
export async function encodeFile(
  catalogue: ResolvedCatalogue,
  { layout, layouts }: TargetFile,
  { headers: columns, headersOf, rows }: FileRows,
  findings: Findings,
  seeRow: (row: FileRow) => void = () => undefined,
): Promise<Iterable<Uint8Array>> {
  const { format } = layout;
  const { rows: driver } = driverOf(format);
  function* seen(): Generator<FileRow> {
    for (const row of rows) {
      seeRow(row);
      yield row;
    }
  }
  if (!driver) return utf8Chunks(documentOf(catalogue, layout, columns, blocksOf(seen()), findings));
  const { headers } = sheetCells(layout.cells, columns);
  const sheets = sheetsOf(layouts);
  function* one(): Generator<readonly string[]> {
    yield* rowsAbove(layout, headers);
    const cells = (function* () {
      for (const row of seen()) yield row.inFile;
    })();
    yield* layout.headerLine === undefined ? byLetters(headers, cells) : cells;
  }
  if (sheets.length === 1) return driver.write(format, [{ sheet: sheetName(format), rows: one() }]);
  // A workbook is made as a whole: what goes into which sheet is known at its end.
  const inSheets = new Map(sheets.map((name) => [name, [] as (readonly string[])[]]));
  layouts.forEach(({ format: own }, at) => {
    const sheet = entryOf(inSheets, sheetName(own));
    if (sheet.length === 0) sheet.push(sheetCells(layouts[at]!.cells, headersOf[at]!).headers);
  });
  for (const row of seen()) entryOf(inSheets, sheetName(layouts[row.layout]!.format)).push(row.inFile);
  return driver.write(
    format,
    [...inSheets].map(([sheet, own]) => ({ sheet, rows: own })),
  );
}

/** The rows of a file with the line on which each stands; of a document, where its element stands. */
export function* numberedRows(
  { layout: { format, headerLine } }: TargetFile,
  rows: Iterable<FileRow>,
): Generator<{ readonly row: FileRow; readonly line: number }> {
  const { rows: driver, elements } = driverOf(format);
  if (driver) {
    let line = (headerLine ?? 0) + 1;
    for (const row of rows) {
      yield { row, line };
      line += driver.linesOf(row.inFile);
    }
    return;
  }
  const { firstLine, linesOf } = present(elements);
  let line = firstLine(format);
  for (const block of blocksOf(rows)) {
    for (const row of block) yield { row, line };
    line += linesOf(
      format,
      block.flatMap(({ cells }) => cells),
    );
  }
}

function* blocksOf(rows: Iterable<FileRow>): Generator<readonly FileRow[]> {
  let block: FileRow[] = [];
  for (const row of rows) {
    if (row.begins && block.length > 0) {
      yield block;
      block = [];
    }
    block.push(row);
  }
  if (block.length > 0) yield block;
}
