/** Sheets that rules look things up in: CSV, by the column of their key. */

import type { LookUpTable } from "../derive/derive.js";
import { finding, type Findings } from "../finding.js";
import { readCsv } from "../formats/csv-read.js";
import { decodeText } from "../formats/decode.js";
import type { FilesPort } from "../ports.js";

export interface TableFile {
  readonly file: string;
  /** The header of the column that rows are looked up by. */
  readonly key: string;
  readonly delimiter?: string | undefined;
  readonly encoding?: string | undefined;
}

export async function readTables(
  tables: ReadonlyMap<string, TableFile>,
  files: FilesPort,
  findings: Findings,
): Promise<ReadonlyMap<string, LookUpTable>> {
  const read = new Map<string, LookUpTable>();
  for (const [name, table] of tables) read.set(name, await readTable(table, files, findings));
  return read;
}

async function readTable(
  { file, key, delimiter, encoding }: TableFile,
  files: FilesPort,
  findings: Findings,
): Promise<LookUpTable> {
  const table = new Map<string, ReadonlyMap<string, string>>();
  const opened = await files.read(file);
  if (!opened.ok) {
    findings.add(opened.finding);
    return table;
  }
  let headers: readonly string[] | undefined;
  let at = -1;
  const text = decodeText(opened.bytes, file, encoding, findings);
  for await (const { rows, lines } of readCsv(text, file, { delimiter }, findings))
    rows.forEach((cells, index) => {
      if (!headers) {
        headers = cells;
        at = headers.indexOf(key);
        if (at < 0)
          findings.add(
            finding("read/column-missing", { header: key, layout: "the table", nearest: undefined }, { file, line: 1 }),
          );
        return;
      }
      const word = cells[at] ?? "";
      if (word === "") return;
      if (table.has(word))
        findings.add(
          finding("read/repeated-key", { kind: "row", key: word }, { file, line: lines[index]!, column: key }),
        );
      else table.set(word, new Map(headers.map((header, place) => [header, cells[place] ?? ""])));
    });
  return table;
}
