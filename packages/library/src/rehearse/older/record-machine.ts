/**
 * The rehearsal's machine for platforms of records: takes a file row by row, each a record or an entry of one, and says what becomes
 * of it. By the target's rules alone; it looks up and overwrites by itself.
 */

import { joined } from "../../formats/byte-reader.js";
import { Findings } from "../../findings/finding.js";
import { readCsv } from "../../formats/csv-read.js";
import { decodeText } from "../../formats/decode.js";
import { openWorkbook, readSheet } from "../../formats/workbook-read.js";
import type { Kinds } from "../../kinds.js";
import { byLanguage, csvOf } from "../../layout/layout.js";
import { writtenHeaders } from "../../layout/write/rows.js";
import { playsRecords, type Target, type TargetFile } from "../../target/target.js";
import type { RehearsedFile, RehearsedRow } from "../outcome.js";
import { recordColumns } from "./record-columns.js";
import { RecordRow, type RowCells } from "./record-row.js";
import { afterFile } from "./record-rules.js";
import { copyOf, type Registers } from "./registers.js";

/** Plays one file into the registers, which are changed. @param isWhole what the file does not name is taken out. */
export async function rehearseRecords(
  registers: Registers,
  target: Target,
  file: TargetFile,
  kinds: Kinds,
  name: string,
  bytes: AsyncIterable<Uint8Array>,
  isWhole = false,
): Promise<RehearsedFile> {
  const { importer } = file;
  if (!playsRecords(importer)) throw new Error(`${file.name} is a file of grouped rows`);
  const table = await readTable(name, file, bytes);
  if (typeof table === "string") return { name, refused: table, rows: [] };
  const { header, rows } = table;
  const refused = headerProblem(header, file, importer.header === "as it is");
  if (refused !== undefined) return { name, refused, rows: [] };

  const layouts = file.layouts.flatMap((layout) =>
    byLanguage(layout).map(([language, own]) => ({ layout: own, language, columns: recordColumns(file, own, kinds) })),
  );
  const isOne = importer["refusal costs"] === "file";
  const before = isOne ? allRecords(registers, kinds).map(copyOf) : [];
  const played: { readonly row: RecordRow; readonly line: number }[] = [];
  const seenCodes = new Set<string>();
  for (const { cells, line } of rows) {
    if (cells.every((cell) => cell === "")) continue;
    const given: RowCells | undefined =
      cells.length === header.length ? new Map(header.map((column, at) => [column, cells[at]!])) : undefined;
    const row = new RecordRow({ registers, target, file, importer, kinds, layouts, seenCodes, isWhole }, given);
    row.play();
    // What is looked up at the end of the file is looked up at once where it is not.
    if (importer.links === "as rows arrive") row.lookUp();
    if (!isOne) row.settle();
    played.push({ row, line });
  }
  if (isWhole)
    takeOut(
      registers,
      file,
      played.map(({ row }) => row),
    );
  if (importer.links === "at the end of the file") for (const { row } of played) row.lookUp();
  if (isOne)
    for (const { row, reason } of afterFile(
      played.map((one) => one.row),
      registers,
      importer,
    ))
      row.refuse(reason);

  const isRefused = isOne && played.some(({ row }) => row.reasons.size > 0);
  if (isRefused) restore(registers, kinds, before);
  const result = played.map(({ row, line }): RehearsedRow => ({
    line,
    parent: row.parentWord,
    child: row.childWord,
    outcome: isRefused || row.reasons.size > 0 ? "refused" : row.outcome(),
    reasons: [...row.reasons].sort(),
    notes: new Set(),
  }));
  return { name, refused: isRefused ? "rows of it are refused" : undefined, rows: result };
}

/** Takes out the records of a file's kinds that none of its rows has named. */
function takeOut(registers: Registers, { layout }: TargetFile, rows: readonly RecordRow[]): void {
  const { parent, child } = layout.shape;
  const parents = new Set(rows.map((row) => row.parentWord));
  const children = new Set(rows.map((row) => row.childWord));
  for (const record of [...registers.records(parent.name)]) if (!parents.has(record.key)) registers.remove(record);
  if (!child) return;
  for (const record of [...registers.records(child.name)]) if (!children.has(record.key)) registers.remove(record);
}

interface Table {
  readonly header: readonly string[];
  readonly rows: readonly { readonly cells: readonly string[]; readonly line: number }[];
}

/** @returns the reason in words where the platform would refuse the file as a whole. */
async function readTable(name: string, file: TargetFile, bytes: AsyncIterable<Uint8Array>): Promise<Table | string> {
  const findings = new Findings(10);
  const parts: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of bytes) {
    parts.push(chunk);
    size += chunk.length;
  }
  if (file.limits.bytes !== undefined && size > file.limits.bytes) return `more than ${file.limits.bytes} bytes`;
  const all: { cells: readonly string[]; line: number }[] = [];
  const take = (rows: readonly (readonly string[])[], lines: readonly number[]) =>
    rows.forEach((cells, at) => all.push({ cells, line: lines[at]! }));
  const { format } = file.layout;
  if (format.is === "workbook") {
    const book = findings.took(await openWorkbook(joined(parts), name));
    const sheet = book?.names[0];
    if (!book || sheet === undefined) return "it is no workbook";
    const how = { ...format, headerLine: 1 };
    for (const batch of readSheet(book, sheet, how, { file: name, sheet }, findings)) {
      if ([...(batch.evidence ?? [])].length > 0) return "a cell is not text";
      take(batch.rows, batch.lines);
    }
  } else {
    const csv = csvOf(file.layout);
    async function* chunks() {
      yield* parts;
    }
    for await (const batch of readCsv(
      decodeText(chunks(), name, csv.encoding ?? "utf-8", findings),
      name,
      csv,
      findings,
    ))
      take(batch.rows, batch.lines);
  }
  if (findings.hasErrors) return "it cannot be read";
  const [header, ...rows] = all;
  return header ? { header: header.cells, rows } : "it is empty";
}

function headerProblem(header: readonly string[], file: TargetFile, asItIs: boolean): string | undefined {
  const known = writtenHeaders(file.layout, undefined);
  if (asItIs) return header.join("\u0000") === known.join("\u0000") ? undefined : "the header is another";
  const unknown = header.find((column) => !known.includes(column));
  if (unknown !== undefined) return `unknown column "${unknown}"`;
  if (new Set(header).size < header.length) return "a column comes twice";
  const missing = file.mustHave.find((column) => !header.includes(column));
  return missing === undefined ? undefined : `no column "${missing}"`;
}

function allRecords(registers: Registers, kinds: Kinds) {
  return kinds.roots.flatMap(({ name }) => [...registers.records(name)]);
}

/** Back to what was there before a file that is refused as a whole. */
function restore(registers: Registers, kinds: Kinds, before: readonly ReturnType<typeof copyOf>[]): void {
  for (const record of allRecords(registers, kinds)) registers.remove(record);
  for (const record of before) registers.put(record);
}
