/** The rows of one file of the upload, as text and as bytes. Text goes lazily: a file of a million rows is never whole in memory. */

import type { Header } from "../nominal.js";
import { firstOf, present } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Findings } from "../findings/finding.js";
import { csvLine } from "../formats/csv-write.js";
import { writeWorkbook } from "../formats/workbook-write.js";
import { csvOf, type Layout } from "../layout/layout.js";
import { writeRows, writtenHeaders, writtenKind, type WrittenRow } from "../layout/write.js";
import type { PlannedBlock, UploadStep } from "../plan/plan.js";
import type { TargetFile } from "../target/target.js";

const chunkChars = 65_536;

export interface FileRow extends WrittenRow {
  /** The layout that it is written by, among those of the file. */
  readonly layout: number;
}

/** The rows of a file of the upload, below its headers. */
export interface FileRows {
  readonly headers: readonly Header[];
  readonly rows: Iterable<FileRow>;
}

/** Which records a file of the upload holds. */
export interface RowSelection {
  readonly blocks: readonly PlannedBlock[];
  readonly step: Pick<UploadStep, "slot" | "columns" | "waiting" | "cells">;
  readonly isLeftOut: (kind: string, row: number) => boolean;
}

export function lineWriter(layout: Layout): (cells: readonly string[]) => string {
  const { delimiter, lineEnd, quote } = csvOf(layout);
  return csvLine({ delimiter: delimiter ?? ",", lineEnd, quote });
}

/** Every record that a file's layouts can write. */
export function allBlocks(catalogue: ResolvedCatalogue, { layouts }: TargetFile): PlannedBlock[] {
  return layouts.map((layout, at) => {
    const kind = writtenKind(layout, catalogue);
    const rows = Array.from({ length: catalogue.table(kind).size }, (_, row) => row);
    // Rows about variants; singles have rows of their own kind.
    const isBelow = layout.shape.is === "linked" && layout.shape.parent.name !== kind && layouts.length > 1;
    const children = catalogue.table(layout.shape.parent.name);
    return { layout: at, kind, records: isBelow ? rows.filter((row) => children.childrenOf(row).length > 0) : rows };
  });
}

/** The rows of one file of an upload, as its layouts write them. */
export function fileRows(
  catalogue: ResolvedCatalogue,
  { name, layouts }: TargetFile,
  { blocks, step, isLeftOut }: RowSelection,
  findings: Findings,
): FileRows {
  const headers = writtenHeaders(firstOf(layouts), step.columns);
  const hasWaiting = step.waiting.size > 0;
  function* rows(): Generator<FileRow> {
    for (const { layout: at, kind, records, keeps, literal = [] } of blocks) {
      for (const cells of literal) yield { cells, parent: -1, child: -1, layout: at };
      let location = -1;
      let above: WrittenRow | undefined;
      const layout = layouts[at]!;
      const { shape } = layout;
      const parentsOnly = step.slot.mode === "update" && (shape.is === "grouped" || shape.is === "own-row");
      const options = { records, columns: step.columns, isLeftOut, parentsOnly };
      for (const row of writeRows(catalogue, layout, options, findings)) {
        const { parent, child } = row;
        if (keeps && !keeps.has(++location)) continue;
        const blank = hasWaiting ? step.waiting.get(parent) : undefined;
        const cells = blank
          ? row.cells.map((cell, location) => (blank.has(headers[location]!) ? "" : cell))
          : row.cells;
        const written = step.cells ? ownCells({ cells, parent, child }, above, kind, layout) : cells;
        above = row;
        yield { cells: written, parent, child, layout: at };
      }
    }
  }
  return { headers, rows: rows() };

  /** What is left as it is on the platform, on the first row that shows it. A single's cells below are its own. */
  function ownCells(row: WrittenRow, above: WrittenRow | undefined, kind: string, layout: Layout): readonly string[] {
    const of = shapeKinds(layout, kind);
    const isFirst = above?.parent !== row.parent;
    const parents = isFirst ? present(step.cells).get(`${of.above} ${row.parent}`) : undefined;
    const children =
      row.child >= 0 && (isFirst || above.child !== row.child)
        ? present(step.cells).get(`${of.below} ${row.child}`)
        : undefined;
    if (!parents && !children) return row.cells;
    return headers.map((header, at) => {
      const isBelow = layout.columns.some((column) => column.header === header && column.scope.is !== "parent");
      const own = (isBelow && row.child >= 0 ? children : parents)?.get(`${name} ${header}`);
      return own ?? row.cells[at]!;
    });
  }
}

/** The kinds of the records that a row is about: the block's, and what stands below it. */
function shapeKinds({ shape }: Layout, kind: string): { readonly above: string; readonly below: string } {
  const below = shape.child?.name ?? (shape.parent.name === kind ? kind : shape.parent.name);
  return { above: kind, below };
}

/** The bytes of a file. @param seeRow is called with each row before it is encoded. */
export async function encodeFile(
  { layout }: TargetFile,
  { headers, rows }: FileRows,
  seeRow: (row: FileRow) => void,
): Promise<Iterable<Uint8Array>> {
  if (layout.format.is === "csv") return encodeRows(layout, { headers, rows }, seeRow);
  if (layout.format.is !== "workbook") throw new Error(`${layout.name}: files of ${layout.format.is} are not built`);
  const all: (readonly string[])[] = [headers];
  for (const row of rows) {
    seeRow(row);
    all.push(row.cells);
  }
  const { sheet, kind } = layout.format;
  return [await writeWorkbook([{ name: typeof sheet === "string" ? sheet : "Sheet1", rows: all }], kind)];
}

function* encodeRows(
  layout: Layout,
  { headers, rows }: FileRows,
  seeRow: (row: FileRow) => void,
): Generator<Uint8Array> {
  const encoder = new TextEncoder();
  const toLine = lineWriter(layout);
  let text = (csvOf(layout).mark ? "\ufeff" : "") + toLine(headers);
  for (const row of rows) {
    seeRow(row);
    text += toLine(row.cells);
    if (text.length < chunkChars) continue;
    yield encoder.encode(text);
    text = "";
  }
  if (text !== "") yield encoder.encode(text);
}
