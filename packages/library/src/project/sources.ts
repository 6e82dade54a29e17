/**
 * Reading the sources of a project: from files of any format to records of one catalogue.
 *
 * A new format is a case in `readInto`, beside its reader in `formats/`.
 */

import { present } from "../checked.js";
import type { Catalogue } from "../catalogue/catalogue.js";
import { finding, Findings } from "../findings/finding.js";
import { ByteReader } from "../formats/byte-reader.js";
import { readCsv } from "../formats/csv-read.js";
import { decodeText, knownEncoding } from "../formats/decode.js";
import { jsonAccess, xmlAccess } from "../formats/document.js";
import type { Format } from "../formats/format.js";
import { readJson } from "../formats/json-read.js";
import { chooseSheet, openWorkbook, readSheet, type Workbook } from "../formats/workbook-read.js";
import { parseXmlPath } from "../formats/xml-path.js";
import { declaredEncoding, readXml } from "../formats/xml-read.js";
import { isZip, readZip } from "../formats/zip-read.js";
import type { Layout } from "../layout/layout.js";
import { noRows, SheetReader, type ReadCounts, type SheetOptions } from "../layout/read.js";
import { DocumentReader } from "../layout/read-document.js";
import type { FilesPort } from "../ports.js";
import { phrase } from "../phrases/phrase.js";

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
  /** Is shown each row as it stands in the file. */
  readonly seen?: SheetOptions["seen"];
}

/** Said while long work goes on: what is being done, and how much of it is done, from 0 to 1 where that is known. */
export type Progress = (what: string, bytes: number) => void;

const maxWorkbookBytes = 500_000_000;

/** Workbooks that several sources read sheets of are opened once. */
type OpenBooks = Map<string, Workbook | undefined>;

/**
 * Reads all sources into one catalogue.
 *
 * Sources that only say more of records which others give come after them, whatever their order in the project. First what gives
 * records, then translations, then linked rows.
 *
 * @returns by source, in their order: what became of its rows.
 */
export async function readSources(
  sources: readonly Source[],
  catalogue: Catalogue,
  files: FilesPort,
  findings: Findings,
  progress: Progress = () => undefined,
): Promise<readonly ReadCounts[]> {
  const counts: ReadCounts[] = [];
  const books: OpenBooks = new Map();
  const turn = ({ layout, translates }: Source): number => (layout.shape.is === "linked" ? 2 : translates ? 1 : 0);
  const order = sources
    .map((source, at) => ({ source, at }))
    .sort((a, b) => turn(a.source) - turn(b.source) || a.at - b.at);
  for (const { source, at } of order) counts[at] = await readOne(source, catalogue, files, findings, progress, books);
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
  const { file, layout, within, precedence, translates, seen } = source;
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
  const isPacked = within !== undefined || (layout.format.is !== "workbook" && isZip(await bytes.peek(4)));
  const ofFile = new Findings();
  const content = isPacked ? new ByteReader(readZip(bytes, file, within, ofFile)) : bytes;
  const options = { layout, catalogue, file: name, findings, precedence, translates, seen };
  const counts = await readInto(options, layout.format, content, books, ofFile);
  findings.took({ ok: false, findings: ofFile });
  return counts;
}

/** From the bytes of one file to records. @param ofFile takes what is wrong with the file itself: its bytes, its form. */
async function readInto(
  options: SheetOptions,
  format: Format,
  bytes: ByteReader,
  books: OpenBooks,
  ofFile: Findings,
): Promise<ReadCounts> {
  const { file } = options;
  switch (format.is) {
    case "csv": {
      const reader = new SheetReader(options);
      const found = { encoding: "", delimiter: "" };
      const text = decodeText(bytes, file, format.encoding, ofFile, (encoding) => (found.encoding = encoding));
      const tellDelimiter = (delimiter: string) => void (found.delimiter = delimiter);
      for await (const batch of readCsv(text, file, { ...format, tellDelimiter }, ofFile)) reader.push(batch);
      reader.end(ofFile.hasErrors);
      reader.counts.form = `CSV ${JSON.stringify(found.delimiter)} ${found.encoding}`;
      return reader.counts;
    }
    case "workbook": {
      const book = await bookOf(file, bytes, ofFile, books);
      const name = book && chooseSheet(book, format.sheet, file, ofFile);
      const reader = new SheetReader({ ...options, sheet: name });
      if (!book || name === undefined) return reader.counts;
      reader.counts.form = `workbook, sheet ${name}`;
      const how = { ...format, headerLine: options.layout.headerLine };
      for (const batch of readSheet(book, name, how, { file, sheet: name }, ofFile)) reader.push(batch);
      reader.end();
      return reader.counts;
    }
    case "xml": {
      const reader = new DocumentReader(options, xmlAccess(format.namespaces), undefined);
      const declared = await declaredEncoding(bytes);
      const encoding = format.encoding ?? (declared !== undefined && knownEncoding(declared) ? declared : undefined);
      const tell = (found: string) => void (reader.counts.form = `XML ${found.toLowerCase()}`);
      const text = decodeText(bytes, file, encoding, ofFile, tell);
      const steps = present(parseXmlPath(elementOf(options.layout)));
      for await (const nodes of readXml(text, file, steps, format.namespaces, ofFile))
        reader.push(nodes.map((node) => ({ node, line: node.line })));
      reader.end(ofFile.hasErrors);
      return reader.counts;
    }
    case "json": {
      const element = elementOf(options.layout);
      const reader = new DocumentReader(options, jsonAccess, format.lines ? undefined : element);
      const tell = (found: string) => void (reader.counts.form = `JSON ${found}`);
      const text = decodeText(bytes, file, undefined, ofFile, tell);
      for await (const elements of readJson(text, file, element, format.lines, ofFile)) reader.push(elements);
      reader.end(ofFile.hasErrors);
      return reader.counts;
    }
  }
}

function elementOf({ shape }: Layout): string {
  if (shape.is !== "nested") throw new Error("a layout that is not of a document");
  return shape.element;
}

async function bookOf(
  file: string,
  bytes: ByteReader,
  findings: Findings,
  books: OpenBooks,
): Promise<Workbook | undefined> {
  if (books.has(file)) return books.get(file);
  const all = await bytes.all(maxWorkbookBytes);
  if (!all) {
    const problem = phrase("it has more than {0} bytes", maxWorkbookBytes);
    findings.add(finding("read/workbook-broken", { problem }, { file }));
  }
  const book = all && findings.took(await openWorkbook(all, file));
  books.set(file, book);
  return book;
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
