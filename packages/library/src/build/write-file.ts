/** The rows of one file of the upload, as text and as bytes. Lazily: a file of a million rows is never whole in memory. */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Findings } from "../finding.js";
import { csvLine } from "../formats/csv-write.js";
import { csvOf, type Layout } from "../layout/layout.js";
import { writeRows, writtenHeaders, type WrittenRow } from "../layout/write.js";
import type { UploadStep } from "../plan/plan.js";

const chunkChars = 65_536;

export interface FileRows {
  readonly headers: readonly string[];
  /** The line of the header, and of a row. */
  readonly toLine: (cells: readonly string[]) => string;
  readonly rows: Iterable<WrittenRow>;
}

export interface RowSelection {
  readonly records: Iterable<number>;
  readonly step: Pick<UploadStep, "slot" | "columns" | "waiting">;
  readonly isLeftOut: (kind: string, row: number) => boolean;
}

export function lineWriter(layout: Layout): (cells: readonly string[]) => string {
  const { delimiter, lineEnd } = csvOf(layout);
  return csvLine({ delimiter: delimiter ?? ",", lineEnd });
}

export function fileRows(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  { records, step, isLeftOut }: RowSelection,
  findings: Findings,
): FileRows {
  const headers = writtenHeaders(layout, step.columns);
  const written = writeRows(
    catalogue,
    layout,
    { records, columns: step.columns, isLeftOut, parentsOnly: step.slot.mode === "update" },
    findings,
  );
  return {
    headers,
    toLine: lineWriter(layout),
    rows: step.waiting.size === 0 ? written : withoutWaiting(written, headers, step.waiting),
  };
}

/** Cells whose links wait for a later file stay blank. */
function* withoutWaiting(
  rows: Iterable<WrittenRow>,
  headers: readonly string[],
  waiting: UploadStep["waiting"],
): Generator<WrittenRow> {
  for (const row of rows) {
    const blank = waiting.get(row.parent);
    yield blank ? { ...row, cells: row.cells.map((cell, at) => (blank.has(headers[at]!) ? "" : cell)) } : row;
  }
}

/** UTF-8 chunks of the header and the rows. @param seeRow is called with each row before it is encoded. */
export function* encodeRows(
  { headers, toLine, rows }: FileRows,
  mark: boolean,
  seeRow: (row: WrittenRow) => void,
): Generator<Uint8Array> {
  const encoder = new TextEncoder();
  let text = (mark ? "\ufeff" : "") + toLine(headers);
  for (const row of rows) {
    seeRow(row);
    text += toLine(row.cells);
    if (text.length < chunkChars) continue;
    yield encoder.encode(text);
    text = "";
  }
  if (text !== "") yield encoder.encode(text);
}
