/**
 * Workbooks (XLSX, XLS, ODS) to rows: cells as they are stored, not as they are shown. What is shown is kept as evidence where it
 * differs: dates that were no dates, numbers that lost their zeros.
 */

import { present } from "../checked.js";
import type { Header } from "../nominal.js";
import { failure, success } from "../findings/result.js";
import { usualCaps, type Caps } from "../caps.js";
import { finding, type Finding, type Result, type Findings } from "../findings/finding.js";
import Big from "big.js";
import type { Location } from "../location.js";
import type { CellEvidence, RowBatch } from "./row-batch.js";
import { mostColumns, mostRows, WorkbookGuard } from "./workbook-guard.js";
import { isZip, zipProblem } from "./zip-read.js";
import { phrase, type Text } from "../phrases/phrase.js";

export interface WorkbookOptions {
  readonly sheet: string | number | undefined;
  readonly skipsHidden: boolean;
  readonly repeatsMerged: boolean;
  /** The line of the header; the first row that is not blank, if left out. */
  readonly headerLine?: number | undefined;
}

/** A workbook taken apart. Several sources may read its sheets. */
export interface Workbook {
  readonly names: readonly string[];
  /** Undefined for a sheet whose part is missing from the file. */
  readonly sheet: (name: string) => SheetData | undefined;
  readonly isHidden: (name: string) => boolean;
}

interface StoredCell {
  readonly t: string;
  readonly v?: unknown;
  readonly w?: string;
  readonly f?: string;
  /** The XML of a text, as it is stored. */
  readonly r?: string;
}
interface At {
  readonly r: number;
  readonly c: number;
}
interface SheetData {
  readonly "!data"?: readonly (readonly (StoredCell | undefined)[] | undefined)[];
  readonly "!rows"?: readonly ({ readonly hidden?: boolean } | undefined)[];
  readonly "!cols"?: readonly ({ readonly hidden?: boolean } | undefined)[];
  readonly "!merges"?: readonly { readonly s: At; readonly e: At }[];
}

const batchRows = 500;
const maxMergedCells = 100_000;

/** Opens a workbook; fails for bytes that are none. @param file as findings call it. */
export async function openWorkbook(bytes: Uint8Array, file: string, caps: Caps = usualCaps): Promise<Result<Workbook>> {
  const wrong = whatIsWrong(bytes, file, caps);
  if (wrong) return failure(wrong);
  const xlsx = await import("@e965/xlsx");
  try {
    const book = xlsx.read(bytes, {
      type: "array",
      dense: true,
      cellDates: true,
      UTC: true,
      cellStyles: true,
      cellHTML: false,
      // Formulas without a result are cells only so.
      sheetStubs: true,
    });
    for (const name of book.SheetNames) {
      const problem = sizeProblem(book.Sheets[name], file, caps);
      if (problem) return failure(problem);
    }
    const hidden = new Set(
      (book.Workbook?.Sheets ?? []).flatMap((sheet, at) => (sheet.Hidden ? [book.SheetNames[at]!] : [])),
    );
    return success({
      names: book.SheetNames,
      sheet: (name) => book.Sheets[name] as SheetData | undefined,
      isHidden: (name) => hidden.has(name),
    });
  } catch (error) {
    const message = String((error as Error).message).slice(0, 200);
    return failure(finding("read/workbook-broken", { problem: message }, { file }));
  }
}

/** What is not XML (XLS, binary parts) cannot be looked at before: only once it is taken apart, before its rows are walked through. */
function sizeProblem(sheet: SheetData | undefined, file: string, caps: Caps): Finding | undefined {
  const rows = sheet?.["!data"] ?? [];
  const broken = (problem: Text) => finding("read/workbook-broken", { problem }, { file });
  if (rows.length > mostRows)
    return broken(phrase("a sheet has at most {0} rows, and one stands in row {1}", mostRows, rows.length));
  let cells = 0;
  for (const row of rows) {
    const width = row?.length ?? 0;
    cells += width;
    if (width > mostColumns)
      return broken(phrase("a sheet has at most {0} columns, and a cell stands in column {1}", mostColumns, width));
    if (cells > caps["sheet cells"])
      return finding("read/over-cap", { cap: "sheet cells", most: caps["sheet cells"] }, { file });
  }
  return undefined;
}

/** A workbook is a zip: it is walked through once under our own limits before the package unpacks it. */
function whatIsWrong(bytes: Uint8Array, file: string, caps: Caps): Finding | undefined {
  const broken = (problem: Text) => finding("read/workbook-broken", { problem }, { file });
  if (!isZip(bytes)) return isOldWorkbook(bytes) ? undefined : broken(phrase("it is not a workbook"));
  const guard = new WorkbookGuard(caps);
  const problem = zipProblem(bytes, caps, (name, part) => {
    guard.see(name, part);
    return !guard.isStopped;
  });
  if (guard.overCap !== undefined)
    return finding("read/over-cap", { cap: guard.overCap, most: caps[guard.overCap] }, { file });
  return (guard.problem ?? problem) === undefined ? undefined : broken(present(guard.problem ?? problem));
}

/** Whether bytes begin as a workbook does. */
export const isWorkbook = (head: Uint8Array): boolean => isZip(head) || isOldWorkbook(head);

/** The compound files of old workbooks. Anything else would be taken for text, and text is read by its own reader. */
export function isOldWorkbook(bytes: Uint8Array): boolean {
  return [0xd0, 0xcf, 0x11, 0xe0].every((byte, at) => bytes[at] === byte) || (bytes[0] === 0x09 && bytes[1] === 0x08);
}

/** The sheet that a layout means; a finding where that is not clear. */
export function chooseSheet(
  book: Workbook,
  wanted: string | number | undefined,
  file: string,
  findings: Findings,
): string | undefined {
  const { names } = book;
  const visible = names.filter((name) => !book.isHidden(name));
  const say = (problem: Text): undefined => {
    findings.add(finding("read/which-sheet", { wanted: problem, names: names.slice(0, 20) }, { file }));
    return undefined;
  };
  if (typeof wanted === "string")
    return names.includes(wanted) ? wanted : say(phrase('there is no sheet "{0}"', wanted));
  if (typeof wanted === "number") return names[wanted - 1] ?? say(phrase("there is no sheet {0}", wanted));
  return visible.length === 1 ? visible[0] : say(phrase("the layout does not name a sheet"));
}

/** The rows of one sheet, in batches. Lines count from 1, as the spreadsheet shows them. */
export function* readSheet(
  book: Workbook,
  name: string,
  options: WorkbookOptions,
  location: Location,
  findings: Findings,
): Generator<RowBatch> {
  const sheet = book.sheet(name);
  if (!sheet) {
    findings.add(
      finding("read/workbook-broken", { problem: phrase('the sheet "{0}" is missing from it', name) }, location),
    );
    return;
  }
  const data = sheet["!data"] ?? [];
  const merged = mergedCells(sheet, options.repeatsMerged, location, findings);
  reportHidden(sheet, options, location, findings);
  let batch = empty();
  let headers: readonly Header[] = [];
  for (let at = 0; at < data.length; at++) {
    const stored = data[at];
    if (!stored || (options.skipsHidden && sheet["!rows"]?.[at]?.hidden)) continue;
    const cells: string[] = [];
    const evidence = new Map<number, CellEvidence>();
    const numbers: number[] = [];
    for (let column = 0; column < stored.length; column++) {
      const cell = stored[column] ?? (merged.size > 0 ? merged.get(`${at} ${column}`) : undefined);
      const text = cell ? textOf(cell, evidence, column) : "";
      if (typeof cell?.v === "number" && Number.isFinite(cell.v) && cell.t !== "e") numbers.push(column);
      if (typeof text === "string") cells.push(text);
      else {
        cells.push("");
        const header = headers[column];
        const at1 = { ...location, line: at + 1, ...(header === undefined ? {} : { column: header }) };
        findings.add(
          text.error === undefined
            ? finding("cell/formula-without-result", {}, at1)
            : finding("cell/formula-error", { shown: text.error }, at1),
        );
      }
    }
    while (cells.length > 0 && cells[cells.length - 1] === "") cells.pop();
    if (cells.length === 0) continue;
    // Cells to the right that a row lacks are blank ones: only the header tells how wide the sheet is.
    if (headers.length === 0 && at + 1 >= (options.headerLine ?? 1)) headers = cells;
    while (cells.length < headers.length) cells.push("");
    if (numbers.length > 0) batch.numbers.set(batch.rows.length, numbers);
    if (evidence.size > 0) batch.evidence.set(batch.rows.length, evidence);
    batch.rows.push(cells);
    batch.lines.push(at + 1);
    if (batch.rows.length < batchRows) continue;
    yield batch;
    batch = empty();
  }
  yield batch;
}

const empty = () => ({
  rows: new Array<string[]>(),
  lines: new Array<number>(),
  evidence: new Map<number, ReadonlyMap<number, CellEvidence>>(),
  numbers: new Map<number, readonly number[]>(),
});

/** Spreadsheets keep fifteen digits of a number; what stands behind them is noise of the binary form. */
const digitsKept = 15;

function textOf(
  cell: StoredCell,
  evidence: Map<number, CellEvidence>,
  column: number,
): string | { readonly error: string | undefined } {
  const { t, v, w } = cell;
  if (t === "e") return { error: w ?? "an error" };
  if (t === "z" || v === undefined || v === null) return cell.f === undefined ? "" : { error: undefined };
  if (v instanceof Date) {
    const iso = Number.isNaN(v.getTime()) ? (w ?? "") : v.toISOString();
    evidence.set(column, { is: "date", shown: w ?? iso });
    return iso.endsWith("T00:00:00.000Z") ? iso.slice(0, 10) : iso.replace(/\.000Z$/, "");
  }
  if (typeof v === "number" && !Number.isFinite(v)) return { error: w ?? String(v) };
  if (typeof v === "number") {
    const text = Number.isInteger(v) && Math.abs(v) < 1e15 ? String(v) : new Big(v.toPrecision(digitsKept)).toFixed();
    if (w !== undefined && w !== text) evidence.set(column, { is: "number", shown: w });
    return text;
  }
  if (typeof v === "boolean") return String(v);
  return cell.r?.includes("_x000D_\n") ? textOfXml(cell.r) : (v as string);
}

const entities: Readonly<Record<string, string>> = { amp: "&", lt: "<", gt: ">", quot: '"', apos: "'" };

/** The text of a string's own XML: the package gives out `\n` where `\r\n` was kept. Runs of another look are put together. */
function textOfXml(xml: string): string {
  const inner = [...xml.matchAll(/<t(?:\s[^>]*)?>([^<]*)<\/t>/g)].map((match) => present(match[1])).join("");
  return inner
    .replace(
      /&(?:#(\d{1,7})|#x([0-9a-fA-F]{1,6})|(\w{2,4}));/g,
      (whole, decimal: string, hex: string, name: string) => {
        if (name !== undefined) return entities[name] ?? whole;
        const point = decimal === undefined ? parseInt(hex, 16) : Number(decimal);
        return point <= 0x10ffff ? String.fromCodePoint(point) : whole;
      },
    )
    .replace(/_x([0-9a-fA-F]{4})_/g, (_, unit: string) => String.fromCharCode(parseInt(unit, 16)));
}

function mergedCells(
  sheet: SheetData,
  repeats: boolean,
  location: Location,
  findings: Findings,
): ReadonlyMap<string, StoredCell> {
  const merges = sheet["!merges"] ?? [];
  const cells = new Map<string, StoredCell>();
  if (merges.length > 0)
    findings.add(finding("read/merged-cells", { count: merges.length, isRepeated: repeats }, location));
  if (!repeats) return cells;
  for (const { s, e } of merges) {
    const first = sheet["!data"]?.[s.r]?.[s.c];
    for (let row = s.r; first && row <= e.r; row++)
      for (let column = s.c; column <= e.c && cells.size < maxMergedCells; column++)
        cells.set(`${row} ${column}`, first);
  }
  return cells;
}

function reportHidden(
  sheet: SheetData,
  { skipsHidden }: WorkbookOptions,
  location: Location,
  findings: Findings,
): void {
  const count = (list: readonly ({ readonly hidden?: boolean } | undefined)[] | undefined) =>
    (list ?? []).reduce((sum, one) => sum + (one?.hidden ? 1 : 0), 0);
  const rows = count(sheet["!rows"]);
  const columns = count(sheet["!cols"]);
  if (rows > 0) findings.add(finding("read/hidden", { what: "row", count: rows, isRead: !skipsHidden }, location));
  if (columns > 0) findings.add(finding("read/hidden", { what: "column", count: columns, isRead: true }, location));
}
