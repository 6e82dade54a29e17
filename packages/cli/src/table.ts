/** Small sheets of our own: lists that people answer. */

import { decodeText, readCsv, type FilesPort, type Findings } from "zest-tier";

export interface ReadTable {
  readonly rows: readonly (readonly string[])[];
  readonly lines: readonly number[];
}

/** @param file as findings call it. Nothing, with a finding, where it cannot be read. */
export async function readTable(file: string, files: FilesPort, findings: Findings): Promise<ReadTable> {
  const rows: (readonly string[])[] = [];
  const lines: number[] = [];
  const opened = await files.read(file);
  if (!opened.ok) {
    findings.add(opened.finding);
    return { rows, lines };
  }
  for await (const batch of readCsv(decodeText(opened.bytes, file, undefined, findings), file, {}, findings)) {
    rows.push(...batch.rows);
    lines.push(...batch.lines);
  }
  return { rows, lines };
}
