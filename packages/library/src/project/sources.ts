/** Reading the sources of a project: from files of any format to records of one catalogue. */

import { usualCaps, type Caps } from "../caps.js";
import type { Catalogue } from "../catalogue/catalogue.js";
import { finding, Findings } from "../findings/finding.js";
import { ByteReader } from "../formats/byte-reader.js";
import { driverOf } from "../formats/drivers/drivers.js";
import { chooseSheet, type Workbook } from "../formats/workbook-read.js";
import { isZip, readZip } from "../formats/zip-read.js";
import type { Layout } from "../layout/layout.js";
import { SheetReader, type SheetOptions } from "../layout/read/sheet.js";
import { noRows, type ReadCounts } from "../layout/read/counts.js";
import { DocumentReader } from "../layout/read/document.js";
import type { FilesPort } from "../ports.js";

/** A file of a project, and what it is read by. */
export interface Source {
  readonly file: string;
  readonly layout: Layout;
  /** The file in an archive. */
  readonly within?: string | undefined;
  /** Whether it gives texts in another language than its layout's for records that are there. */
  readonly translates?: boolean;
  /** Of two sources that disagree the one with the higher number wins. */
  readonly precedence?: number | undefined;
  /** The usual ones, if left out. */
  readonly caps?: Caps | undefined;
  /** Is shown each row as it stands in the file. */
  readonly seen?: SheetOptions["seen"];
}

/** Said while long work goes on: what is being done, and how much of it is done, from 0 to 1 where that is known. */
export type Progress = (what: string, bytes: number) => void;

/** Workbooks that several sources read sheets of are opened once. */
type OpenBooks = Map<string, Workbook | undefined>;

/**
 * Reads all sources into one catalogue.
 *
 * Sources that only say more of records which others give come after them, whatever their order in the project. First what gives
 * records, then translations, then linked rows.
 *
 * @param beforeLinked what is done before rows come that find their records by a word: rules that make keys and codes. They are read into what it
 * returns.
 * @returns by source, in their order: what became of its rows.
 */
export async function readSources(
  sources: readonly Source[],
  catalogue: Catalogue,
  files: FilesPort,
  findings: Findings,
  progress: Progress = () => undefined,
  beforeLinked: (catalogue: Catalogue) => Catalogue = (read) => read,
): Promise<readonly ReadCounts[]> {
  const counts: ReadCounts[] = [];
  const books: OpenBooks = new Map();
  const turn = ({ layout, translates }: Source): number => (layout.link ? 2 : translates ? 1 : 0);
  const order = sources
    .map((source, at) => ({ source, at }))
    .sort((a, b) => turn(a.source) - turn(b.source) || a.at - b.at);
  let into = catalogue;
  let areLinked = false;
  for (const { source, at } of order) {
    if (source.layout.link && !areLinked) into = beforeLinked(into);
    areLinked ||= source.layout.link !== undefined;
    counts[at] = await readOne(source, into, files, findings, progress, books);
  }
  reportUnreadSheets(sources, books, findings);
  return counts;
}

/** Reads one source into the catalogue. */
export async function readSource(
  source: Source,
  catalogue: Catalogue,
  files: FilesPort,
  findings: Findings,
  progress: Progress = () => undefined,
): Promise<ReadCounts> {
  return readOne(source, catalogue, files, findings, progress, new Map());
}

async function readOne(
  source: Source,
  catalogue: Catalogue,
  files: FilesPort,
  findings: Findings,
  progress: Progress,
  books: OpenBooks,
): Promise<ReadCounts> {
  const { file, layout, within, precedence, translates, seen, caps = usualCaps } = source;
  const none: ReadCounts = noRows();
  const opened = findings.took(await files.read(file));
  if (!opened) return none;
  let taken = 0;
  async function* counted(from: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
    for await (const chunk of from) {
      taken += chunk.length;
      progress(file, taken);
      yield chunk;
    }
  }
  const name = within === undefined ? file : `${file}/${within}`;
  const bytes = new ByteReader(counted(opened));
  const isPacked = within !== undefined || (!driverOf(layout.format).isArchive && isZip(await bytes.peek(4)));
  const ofFile = new Findings();
  const content = isPacked ? new ByteReader(readZip(bytes, file, within, ofFile, caps)) : bytes;
  const options = { layout, catalogue, file: name, findings, precedence, translates, seen, caps };
  const counts = await readInto(options, content, books, ofFile);
  findings.took({ ok: false, findings: ofFile });
  return counts;
}

/** From the bytes of one file to records. @param ofFile takes what is wrong with the file itself: its bytes, its form. */
async function readInto(
  options: SheetOptions,
  bytes: ByteReader,
  books: OpenBooks,
  ofFile: Findings,
): Promise<ReadCounts> {
  const { file, layout, caps = usualCaps } = options;
  const { format, headerLine, shape } = layout;
  const element = shape.is === "nested" ? shape.element : undefined;
  const opened = await driverOf(format).open(format, {
    bytes,
    file,
    findings: ofFile,
    headerLine,
    element,
    books,
    caps,
  });
  if (!opened) return noRows();
  const counts =
    opened.is === "rows"
      ? await readAll(new SheetReader({ ...options, sheet: opened.sheet }), opened.batches, ofFile)
      : await opened.with(({ access, pointer, batches }) =>
          readAll(new DocumentReader(options, access, pointer), batches, ofFile),
        );
  counts.form = opened.form();
  return counts;
}

/** What takes the batches of a file: rows, or elements. */
interface BatchReader<B> {
  readonly counts: ReadCounts;
  readonly push: (batch: B) => void;
  readonly end: (isCutShort: boolean) => void;
}

async function readAll<B>(
  reader: BatchReader<B>,
  batches: AsyncIterable<B> | Iterable<B>,
  ofFile: Findings,
): Promise<ReadCounts> {
  for await (const batch of batches) reader.push(batch);
  reader.end(ofFile.hasErrors);
  return reader.counts;
}

function reportUnreadSheets(sources: readonly Source[], books: OpenBooks, findings: Findings): void {
  for (const [file, book] of books) {
    if (!book) continue;
    const read = new Set(
      sources.flatMap(({ file: own, within, layout: { format } }) => {
        if ((within === undefined ? own : `${own}/${within}`) !== file || format.is !== "workbook") return [];
        return [chooseSheet(book, format.sheet, file, new Findings()) ?? ""];
      }),
    );
    const names = book.names.filter((name) => !read.has(name));
    if (names.length > 0) findings.add(finding("read/sheets-left", { names }, { file }));
  }
}
