/** The rows of a file as they stand in it, for looking at. */

import { usualCaps } from "../caps.js";
import { Catalogue } from "../catalogue/catalogue.js";
import { Findings } from "../findings/finding.js";
import { ByteReader } from "../formats/byte-reader.js";
import type { RowBatch } from "../formats/row-batch.js";
import type { Opened, SourceFile } from "../formats/drivers/driver.js";
import { detectFormat, driverOf } from "../formats/drivers/drivers.js";
import type { Format } from "../formats/format.js";
import type { Workbook } from "../formats/workbook-read.js";
import { Kinds } from "../kinds.js";
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

/** How much of a file tells what it is. */
const headBytes = 4_096;

/** Batch by batch, as they are read; none where the file cannot be read. @param tellEncoding receives that of a text file. */
export async function* rawRows(
  files: FilesPort,
  given: LookedAt,
  tellEncoding: (encoding: string) => void = () => undefined,
): AsyncGenerator<RowBatch> {
  const findings = new Findings();
  const { file, layout } = given;
  const isPacked = given.within !== undefined || /\.zip$/i.test(file);
  if (layout && (isPacked || driverOf(layout.format).elements)) {
    yield* rowsByLayout(files, given, layout, findings);
    return;
  }
  const read = await files.read(file);
  if (!read.ok) return;
  const bytes = new ByteReader(read.value);
  const format = layout?.format ?? detectFormat(await bytes.peek(headBytes));
  if (!driverOf(format).rows) return;
  const books = new Map<string, Workbook | undefined>();
  const source = { bytes, file, findings, headerLine: undefined, element: undefined, books, caps: usualCaps };
  const opened = await openAt(format, given.sheet, source);
  if (opened?.is !== "rows") return;
  let told = false;
  for await (const batch of opened.batches) {
    const encoding = told ? undefined : opened.encoding();
    if (encoding !== undefined) tellEncoding(encoding);
    told = true;
    yield batch;
  }
}

/** Of a workbook one whole sheet, with what its layout leaves out. */
async function openAt(format: Format, sheet: string | undefined, source: SourceFile): Promise<Opened | undefined> {
  if (format.is !== "workbook") return driverOf(format).open(format, source);
  const whole = { ...format, skipsHidden: false, repeatsMerged: false };
  const number = /^\d+$/.test(sheet ?? "") ? Number(sheet) : undefined;
  for (const wanted of [sheet, number, 1]) {
    const opened = wanted === undefined ? undefined : await driverOf(whole).open({ ...whole, sheet: wanted }, source);
    if (opened) return opened;
  }
  return undefined;
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
