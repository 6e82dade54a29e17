/** Sheets that rules look things up in, CSV files or sheets of workbooks, by the column of their key. */

import type { Header } from "../nominal.js";
import type { LookUpTable } from "../derive/rule-run.js";
import { finding, type Findings } from "../findings/finding.js";
import { ByteReader } from "../formats/byte-reader.js";
import { readCsv } from "../formats/csv-read.js";
import type { RowBatch } from "../formats/row-batch.js";
import { decodeText } from "../formats/decode.js";
import { chooseSheet, isWorkbook, openWorkbook, readSheet } from "../formats/workbook-read.js";
import type { FilesPort } from "../ports.js";

const maxBytes = 100_000_000;

export interface TableFile {
  readonly file: string;
  /** The header of the column that rows are looked up by. */
  readonly key: string;
  /** Of a workbook: its name or number; the only one, if left out. */
  readonly sheet?: string | number | undefined;
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

async function readTable(given: TableFile, files: FilesPort, findings: Findings): Promise<LookUpTable> {
  const { file, key } = given;
  const table = new Map<string, ReadonlyMap<string, string>>();
  const bytes = findings.took(await files.read(file));
  if (!bytes) return table;
  let headers: readonly Header[] | undefined;
  let at = -1;
  for await (const { rows, lines } of batchesOf(given, new ByteReader(bytes), findings))
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
      if (table.has(word)) {
        const location = { file, line: lines[index]!, column: key };
        findings.add(finding("read/repeated-key", { kind: "row", key: word }, location));
      } else table.set(word, new Map(headers.map((header, location) => [header, cells[location] ?? ""])));
    });
  return table;
}

async function* batchesOf(
  { file, sheet, delimiter, encoding }: TableFile,
  bytes: ByteReader,
  findings: Findings,
): AsyncGenerator<RowBatch> {
  const isBook = isWorkbook(await bytes.peek(4));
  if (!isBook) {
    yield* readCsv(decodeText(bytes, file, encoding, findings), file, { delimiter }, findings);
    return;
  }
  const book = findings.took(await openWorkbook((await bytes.all(maxBytes)) ?? new Uint8Array(0), file));
  const name = book && chooseSheet(book, sheet, file, findings);
  const options = { sheet: name, skipsHidden: false, repeatsMerged: false };
  if (book && name !== undefined) yield* readSheet(book, name, options, { file, sheet: name }, findings);
}
