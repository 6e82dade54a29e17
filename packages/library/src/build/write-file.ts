/** The rows of one file of the upload, as text and as bytes. Text goes lazily: a file of a million rows is never whole in memory. */

import type { Header } from "../nominal.js";
import { firstOf, present } from "../checked.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { finding, type Findings } from "../findings/finding.js";
import { rowsOf as rowsDriver } from "../formats/drivers/drivers.js";
import type { Layout } from "../layout/layout.js";
import { writeRows, writtenHeaders, writtenKind, type WrittenRow } from "../layout/write.js";
import type { PlannedBlock, UploadStep } from "../plan/plan.js";
import type { TargetFile } from "../target/target.js";

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

/** Every record that a file's layouts can write. */
export function allBlocks(catalogue: ResolvedCatalogue, { layouts }: TargetFile): PlannedBlock[] {
  return layouts.map((layout, at) => {
    const kind = writtenKind(layout, catalogue);
    const rows = Array.from({ length: catalogue.table(kind).size }, (_, row) => row);
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
  { blocks, step, isLeftOut }: RowSelection,
  findings: Findings,
): FileRows {
  const headers = writtenHeaders(firstOf(layouts), step.columns);
  const hasWaiting = step.waiting.size > 0;
  const { format } = firstOf(layouts);
  const limit = rowsDriver(format).limits(format, headers.length - 1);
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
      for (const cells of literal) yield { cells: literalCells(cells), parent: -1, child: -1, layout: at };
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
export function encodeFile(
  { layout }: TargetFile,
  { headers, rows }: FileRows,
  seeRow: (row: FileRow) => void,
): Promise<Iterable<Uint8Array>> {
  const { format } = layout;
  function* all(): Generator<readonly string[]> {
    yield headers;
    for (const row of rows) {
      seeRow(row);
      yield row.cells;
    }
  }
  const sheet = format.is === "workbook" && typeof format.sheet === "string" ? format.sheet : "Sheet1";
  return rowsDriver(format).write(format, { sheet, rows: all() });
}
