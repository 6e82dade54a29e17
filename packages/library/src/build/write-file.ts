/** The rows of one file of the upload, as text and as bytes. Text goes lazily: a file of a million rows is never whole in memory. */

import type { Header } from "../nominal.js";
import { entryOf, firstOf, present } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { finding, type Findings } from "../findings/finding.js";
import { driverOf, limitsOf, sheetName } from "../formats/drivers/drivers.js";
import { utf8Chunks } from "../formats/encode.js";
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
  readonly step: Pick<UploadStep, "slot" | "columns" | "waiting" | "cells">;
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
    const all = Array.from({ length: catalogue.table(kind).size }, (_, row) => row);
    const rows = all.filter((row) => isFor(name, kind, row));
    // Rows about variants; singles have rows of their own kind.
    const isBelow = layout.link && layout.shape.parent.name !== kind && layouts.length > 1;
    const children = catalogue.table(layout.shape.parent.name);
    return { layout: at, kind, records: isBelow ? rows.filter((row) => children.childrenOf(row).length > 0) : rows };
  });
}

/** The rows of one file of an upload, as its layouts write them. */
export function fileRows(
  catalogue: ResolvedCatalogue,
  { name, layouts }: TargetFile,
  { blocks, step, isLeftOut, lineElsewhere = anyLine }: RowSelection,
  findings: Findings,
): FileRows {
  const headersOf = layouts.map((layout) => writtenHeaders(layout, step.columns));
  const headers = firstOf(headersOf);
  const hasWaiting = step.waiting.size > 0;
  const { format } = firstOf(layouts);
  const limit = limitsOf(format, headers.length - 1);
  const lines = new WrittenLines(driverOf(format).rows?.linesOf ?? (() => 1), rowsAbove(firstOf(layouts), headers));
  /** What the platform told is sent back as it is, as far as a cell holds it. */
  const literalCells = (cells: readonly string[]): readonly string[] =>
    cells.map((cell, column) => {
      const wanted = limit?.(cell, column);
      if (wanted === undefined) return cell;
      findings.add(
        finding("write/cannot-be-written", { column: headers[column]!, text: cell, wanted }, { file: name }),
      );
      return "";
    });
  function* rows(): Generator<FileRow> {
    for (const { layout: at, kind, records, keeps, literal = [] } of blocks) {
      for (const cells of literal) {
        const row = { cells: literalCells(cells), parent: -1, child: -1 };
        lines.next(row, row.cells);
        yield { ...row, layout: at, begins: true };
      }
      let location = -1;
      let above: WrittenRow | undefined;
      const layout = layouts[at]!;
      const parentsOnly = step.slot.mode === "update" && isOfParents(layout, headersOf[at]!);
      const options = { records, columns: step.columns, isLeftOut, parentsOnly, copiesShared: true, lineElsewhere };
      for (const block of writeBlocks(catalogue, layout, options, findings)) {
        let begins = true;
        for (const row of block) {
          const { parent, child, isSingles } = row;
          if (keeps && !keeps.has(++location)) continue;
          const blank = hasWaiting ? step.waiting.get(parent) : undefined;
          const cells = blank
            ? row.cells.map((cell, location) => (blank.has(headersOf[at]![location]!) ? "" : cell))
            : row.cells;
          const own = lines.filled({ ...row, cells }, (column) => {
            const location = catalogue.location(catalogue.table(kind), parent);
            findings.add(finding("write/cannot-be-written", { column: headersOf[at]![column]!, ...noLine }, location));
          });
          const written = step.cells ? ownCells({ cells: own, parent, child }, above, kind, at) : own;
          lines.next(row, written);
          above = row;
          yield { cells: written, parent, child, isSingles, layout: at, begins };
          begins = false;
        }
      }
    }
  }
  return { headers, headersOf, rows: rows() };

  /** What is left as it is on the platform, on the first row that shows it. A single's cells below are its own. */
  function ownCells(row: WrittenRow, above: WrittenRow | undefined, kind: string, at: number): readonly string[] {
    const layout = layouts[at]!;
    const of = shapeKinds(layout, kind);
    const isFirst = above?.parent !== row.parent;
    const parents = isFirst ? present(step.cells).get(`${of.above} ${row.parent}`) : undefined;
    const children =
      row.child >= 0 && (isFirst || above.child !== row.child)
        ? present(step.cells).get(`${of.below} ${row.child}`)
        : undefined;
    if (!parents && !children) return row.cells;
    return headersOf[at]!.map((header, position) => {
      const isBelow = layout.columns.some((column) => column.header === header && column.scope.is !== "parent");
      const own = (isBelow && row.child >= 0 ? children : parents)?.get(`${name} ${header}`);
      return own ?? row.cells[position]!;
    });
  }
}

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

/** The kinds of the records that a row is about: the block's, and what stands below it. */
function shapeKinds({ shape }: Layout, kind: string): { readonly above: string; readonly below: string } {
  const below = shape.child?.name ?? (shape.parent.name === kind ? kind : shape.parent.name);
  return { above: kind, below };
}

/**
 * The bytes of a file: where the format allows, chunk by chunk. Layouts that name sheets of their own are sheets of one workbook.
 *
 * @param seeRow is called with each row before it is encoded.
 */
export async function encodeFile(
  catalogue: ResolvedCatalogue,
  { layout, layouts }: TargetFile,
  { headers, headersOf, rows }: FileRows,
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
  if (!driver) return utf8Chunks(documentOf(catalogue, layout, headers, blocksOf(seen()), findings));
  const sheets = sheetsOf(layouts);
  function* one(): Generator<readonly string[]> {
    yield* rowsAbove(layout, headers);
    const cells = (function* () {
      for (const row of seen()) yield row.cells;
    })();
    yield* layout.headerLine === undefined ? byLetters(headers, cells) : cells;
  }
  if (sheets.length === 1) return driver.write(format, [{ sheet: sheetName(format), rows: one() }]);
  // A workbook is made as a whole: what goes into which sheet is known at its end.
  const inSheets = new Map(sheets.map((name) => [name, [] as (readonly string[])[]]));
  layouts.forEach(({ format: own }, at) => {
    const sheet = entryOf(inSheets, sheetName(own));
    if (sheet.length === 0) sheet.push(headersOf[at]!);
  });
  for (const row of seen()) entryOf(inSheets, sheetName(layouts[row.layout]!.format)).push(row.cells);
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
      line += driver.linesOf(row.cells);
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
