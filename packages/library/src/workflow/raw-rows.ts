/** The rows of a file as they stand in it, for looking at. */

import { Catalogue } from "../catalogue/catalogue.js";
import { Findings } from "../findings/finding.js";
import { ByteReader } from "../formats/byte-reader.js";
import { readCsv, type RowBatch } from "../formats/csv-read.js";
import { decodeText } from "../formats/decode.js";
import { openWorkbook, readSheet } from "../formats/workbook-read.js";
import { Kinds } from "../kind.js";
import type { Layout } from "../layout/layout.js";
import type { FilesPort } from "../ports.js";
import { readSource } from "../project/sources.js";

/** Which rows are looked at. */
export interface LookedAt {
  readonly file: string;
  /** Of a workbook: its name or number; its first, if left out. */
  readonly sheet?: string | undefined;
  /** In an archive. */
  readonly within?: string | undefined;
  /** What it is read by. Documents have no rows without one. */
  readonly layout?: Layout | undefined;
}

const maxWorkbookBytes = 500_000_000;

/** Batch by batch, as they are read; none where the file cannot be read. @param tellEncoding receives that of a text file. */
export async function* rawRows(
  files: FilesPort,
  given: LookedAt,
  tellEncoding: (encoding: string) => void = () => undefined,
): AsyncGenerator<RowBatch> {
  const findings = new Findings();
  const { file, layout } = given;
  const isDocument = layout?.format.is === "xml" || layout?.format.is === "json";
  const isPacked = given.within !== undefined || /\.zip$/i.test(file);
  if (layout && (isDocument || isPacked)) {
    yield* rowsByLayout(files, given, layout, findings);
    return;
  }
  const opened = await files.read(file);
  if (!opened.ok) return;
  if (layout?.format.is === "workbook" || /\.(xlsx?|xlsm|ods)$/i.test(file)) {
    const bytes = await new ByteReader(opened.value).all(maxWorkbookBytes);
    const book = bytes && findings.took(await openWorkbook(bytes, file));
    const wanted = given.sheet === undefined ? undefined : (book?.names[Number(given.sheet) - 1] ?? given.sheet);
    const own = wanted !== undefined && book?.names.includes(wanted) ? wanted : book?.names[0];
    if (!book || own === undefined) return;
    const how = { sheet: own, skipsHidden: false, repeatsMerged: false };
    yield* readSheet(book, own, how, { file, sheet: own }, findings);
    return;
  }
  const csv = layout?.format.is === "csv" ? layout.format : undefined;
  yield* readCsv(decodeText(opened.value, file, csv?.encoding, findings, tellEncoding), file, csv ?? {}, findings);
}

/** What only a layout can take apart: read by it, into a catalogue that is thrown away. */
async function* rowsByLayout(
  files: FilesPort,
  { file, within }: LookedAt,
  layout: Layout,
  findings: Findings,
): AsyncGenerator<RowBatch> {
  const rows: string[][] = [];
  const lines: number[] = [];
  const seen = (cells: readonly (string | undefined)[], line: number) => {
    rows.push(Array.from(cells, (cell) => cell ?? ""));
    lines.push(line);
  };
  await readSource({ file, within, layout, seen }, new Catalogue(new Kinds()), files, findings);
  yield { rows, lines };
}
