/**
 * CSV to rows, streaming, a chunk at a time: usual rows by where their cells begin and end (`csv-spans.ts`), all others by papaparse.
 *
 * Counts the physical lines, which a parser of records does not know. A quote that is never closed swallows the rest of a file;
 * here the line it stands on is taken as it is, without quotes, with a finding, and reading goes on below it.
 */

import type { TextPieces } from "./decode.js";
import { asGiven, type FormulaCells } from "./formulas.js";
import { usualCaps } from "../caps.js";
import { isFastPathOn } from "../fast-path.js";
import { rowEnds, scanRows } from "./csv-spans.js";
import type { RowBatch } from "./row-batch.js";
import Papa from "papaparse";
import { finding, type Findings } from "../findings/finding.js";
import { greatest } from "../lists.js";

/** How a CSV file is written. What is left out is found out. */
export interface CsvOptions {
  /** Guessed from the first row where it is left out. */
  readonly delimiter?: string | undefined;
  /** `none` where the file knows no quotes. */
  readonly quote?: string | undefined;
  /** `neutralise`: an apostrophe before what would be a formula is taken off. As they are, if left out. */
  readonly formulas?: FormulaCells | undefined;
  /** A row longer than this, in characters, has an open quote in it. The usual cap, if left out. */
  readonly maxRowChars?: number | undefined;
  /** Receives the delimiter, given or found. */
  readonly tellDelimiter?: ((delimiter: string) => void) | undefined;
}

/** How many broken quotes are fixed, and how much text is looked at again for them, before the rest of the file is given up. */
const maxRetries = 1_000;
const retryChars = 40_000_000;
const firstChars = 65_536;
/** How much text is taken apart at once: its rows are all in memory together. */
const windowChars = 1_000_000;
const afterRetryChars = 16_384;
/** How much of a text is left to the parser where a row is not usual. */
const oddChars = 16_384;

interface Parsed {
  readonly data: string[][];
  /** `row` counts from 0; a row that is not complete yet has the number after the last. */
  readonly errors: readonly { readonly row: number }[];
  readonly meta: { readonly cursor: number };
}
type Parse = (text: string, base: number, ignoreLast: boolean) => Parsed;
// Exported by papaparse for callers that feed it text themselves, but not in its types.
const Parser = (Papa as unknown as { readonly Parser: new (config: object) => { readonly parse: Parse } }).Parser;

/**
 * Text to rows, batch by batch. A quote that is not closed is a finding at its line; the row is read as it stands, and reading goes on.
 *
 * @param file as findings call it.
 */
export async function* readCsv(
  text: TextPieces,
  file: string,
  options: CsvOptions,
  findings: Findings,
): AsyncGenerator<RowBatch> {
  let cutter: Cutter | undefined;
  let waiting = "";
  let enough = firstChars;
  for await (const chunk of text) {
    waiting += chunk;
    if (waiting.length < enough) continue;
    cutter ??= new Cutter(file, options, findings, waiting);
    waiting = yield* cutter.cut(waiting, false);
    if (cutter.stopped) return;
    // A row that is not complete is looked at again only when there is half as much text again: linear, however long it gets.
    enough = Math.max(firstChars, waiting.length * 1.5);
  }
  cutter ??= new Cutter(file, options, findings, waiting);
  // Where the bytes stopped fitting their encoding, the row that they stopped in is not a row.
  if (waiting !== "") yield* cutter.cut(waiting, text.isCutShort !== true);
}

class Cutter {
  readonly #config: { readonly delimiter: string; readonly newline: string; readonly quoteChar: string };
  #line = 1;
  #retryLeft = retryChars;
  #retries = 0;
  stopped = false;
  #hasReturn: boolean | undefined;
  #isMixed = false;
  /** Whether usual rows are taken by where their cells stand. */
  readonly #isScanned: boolean;
  readonly #maxRowChars: number;
  readonly #isNeutral: boolean;

  constructor(
    readonly file: string,
    options: CsvOptions,
    readonly findings: Findings,
    sample: string,
  ) {
    this.#isNeutral = options.formulas === "neutralise";
    this.#maxRowChars = options.maxRowChars ?? usualCaps["row characters"];
    const head = sample.slice(0, firstChars);
    const newline = head.includes("\r") && !head.includes("\n") ? "\r" : "\n";
    // A character that no text holds stands for none.
    const quoteChar = options.quote === "none" ? "\u0000" : (options.quote ?? '"');
    this.#config = { delimiter: options.delimiter ?? guessDelimiter(head, newline, quoteChar), newline, quoteChar };
    const { delimiter } = this.#config;
    options.tellDelimiter?.(delimiter);
    const isUsual = newline === "\n" && !this.#isNeutral && !["\n", "\r", quoteChar].includes(delimiter);
    this.#isScanned = isUsual && isFastPathOn();
  }

  /**
   * Yields the complete rows, at the end all rows; returns the text that is left. However long the text, only a window of it is
   * taken apart at a time.
   */
  *cut(text: string, atEnd: boolean): Generator<RowBatch, string> {
    const { newline, delimiter } = this.#config;
    let rest = text;
    let window = windowChars;
    let isOdd = !this.#isScanned;
    for (;;) {
      const isWhole = window >= rest.length;
      const part = isWhole ? rest : rest.slice(0, window);
      const isLast = isWhole && atEnd;
      const scanned = isOdd ? undefined : scanRows(part, delimiter, this.#config.quoteChar, this.#line, isLast);
      if (scanned && scanned.end > 0) {
        this.#seeLineEnds(part.slice(0, scanned.end));
        this.#line = scanned.line;
        if (scanned.spans.size > 0) yield scanned.spans;
        isOdd = scanned.isOdd;
        if (isWhole && (!isOdd || scanned.end === rest.length)) return rest.slice(scanned.end);
        rest = rest.slice(scanned.end);
        window = isOdd ? oddChars : windowChars;
        continue;
      }
      isOdd = !this.#isScanned;
      const { data, errors, meta } = new Parser(this.#config).parse(part, 0, !isLast);
      const tooLong = !isLast && part.length - meta.cursor >= this.#maxRowChars;
      // Of a row that is not complete, one wrong quote may only be the cut; two are none.
      const isHopeless = tooLong || errors.filter((error) => error.row === data.length).length > 1;
      const broken = errors.find((error) => error.row < data.length)?.row ?? (isHopeless ? data.length : undefined);
      if (broken === undefined) {
        const taken = isLast ? part : part.slice(0, meta.cursor);
        this.#seeLineEnds(taken);
        yield this.#batch(data, taken, !isLast);
        if (isWhole) return isLast ? "" : rest.slice(meta.cursor);
        // A row that is longer than the window wants a larger one; so does a file in which nothing is broken any more.
        window =
          meta.cursor === 0
            ? Math.min(window * 4, Math.max(window + 1, this.#maxRowChars))
            : Math.min(window * 2, windowChars);
        rest = rest.slice(meta.cursor);
        continue;
      }
      const start = this.#offsetOf(broken, part);
      this.#seeLineEnds(part.slice(0, start));
      yield this.#batch(data.slice(0, broken), part);
      // The windows before this one were about as long together.
      this.#retryLeft -= 2 * part.length;
      const end = rest.indexOf(newline, start);
      const stopHere = (end < 0 && !atEnd) || this.#retryLeft < 0 || ++this.#retries > maxRetries;
      const location = { file: this.file, line: this.#line };
      const over = { cap: "row characters", most: this.#maxRowChars };
      if (stopHere && tooLong) this.findings.add(finding("read/over-cap", over, location));
      else this.findings.add(finding(stopHere ? "read/gave-up" : "read/open-quote", {}, location));
      if (stopHere) {
        this.stopped = true;
        return "";
      }
      const line = end < 0 ? rest.slice(start) : rest.slice(start, end);
      yield this.#batch([line.split(delimiter)], "");
      if (end < 0) return "";
      rest = rest.slice(end + newline.length);
      // Where one quote is broken the next may be near: little is taken apart in vain.
      window = afterRetryChars;
    }
  }

  /** Says once where line ends begin to be of the other kind. Those within quotes are part of a cell. */
  #seeLineEnds(text: string): void {
    const { newline, delimiter, quoteChar } = this.#config;
    if (this.#isMixed || newline !== "\n") return;
    // Nearly all text is of one kind: that is seen without walking from line to line.
    if (this.#hasReturn === true && !/[^\r]\n/.test(text)) return;
    if (this.#hasReturn === false && !text.includes("\r\n")) return;
    let line = this.#line;
    let from = 0;
    for (const end of rowEnds(text, delimiter, quoteChar)) {
      const hasReturn = text[end - 1] === "\r";
      line += text.slice(from, end).split(newline).length - 1;
      this.#hasReturn ??= hasReturn;
      if (hasReturn !== this.#hasReturn) {
        this.#isMixed = true;
        this.findings.add(finding("read/mixed-line-ends", {}, { file: this.file, line }));
        return;
      }
      line++;
      from = end + 1;
    }
  }

  #offsetOf(row: number, text: string): number {
    return row === 0 ? 0 : new Parser({ ...this.#config, preview: row }).parse(text, 0, true).meta.cursor;
  }

  /** @param isEnded whether each row of the text has a line end behind it. */
  #batch(data: string[][], text: string, isEnded = false): RowBatch {
    const { newline, quoteChar } = this.#config;
    const manyLines = text.includes(quoteChar) && !(isEnded && lineEndsUpTo(text, newline, data.length));
    const rows: string[][] = [];
    const lines: number[] = [];
    for (const row of data) {
      const line = this.#line++;
      if (manyLines) for (const cell of row) if (cell.includes(newline)) this.#line += cell.split(newline).length - 1;
      // Rows are cut at \n, so that files with mixed line ends are read; of \r\n the \r is left.
      const last = row[row.length - 1]!;
      if (newline === "\n" && last.endsWith("\r")) row[row.length - 1] = last.slice(0, -1);
      if (row.length === 1 && row[0] === "") continue;
      rows.push(this.#isNeutral ? row.map(asGiven) : row);
      lines.push(line);
    }
    return { rows, lines };
  }
}

/** Whether a text has no more line ends than rows: then there are none within cells. */
function lineEndsUpTo(text: string, newline: string, rows: number): boolean {
  let count = 0;
  for (let at = text.indexOf(newline); at >= 0; at = text.indexOf(newline, at + 1)) if (++count > rows) return false;
  return true;
}

const delimiters = [",", ";", "\t", "|"];
/** How many rows are looked at for a delimiter. */
const rowsLookedAt = 20;

/**
 * The candidate that cuts the first rows most alike; of those the one that cuts them most. Notes above a header have none, or few.
 * A comma, if there is none.
 */
export function guessDelimiter(head: string, newline: string, quote: string): string {
  const rows: Map<string, number>[] = [];
  let counts = new Map<string, number>();
  let quoted = false;
  for (const char of head) {
    if (char === quote) quoted = !quoted;
    else if (quoted) continue;
    else if (char === newline) {
      rows.push(counts);
      counts = new Map();
      if (rows.length === rowsLookedAt) break;
    } else if (delimiters.includes(char)) counts.set(char, (counts.get(char) ?? 0) + 1);
  }
  if (rows.length === 0) rows.push(counts);
  const scored = delimiters.map((one) => {
    const each = rows.map((row) => row.get(one) ?? 0);
    const most = greatest(each);
    const same = each.filter((count) => count === most).length;
    return { one, score: most === 0 ? 0 : same * 1_000 + Math.min(most, 999) };
  });
  return scored.reduce((best, next) => (next.score > best.score ? next : best)).one;
}
