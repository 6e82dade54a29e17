/**
 * CSV text to the spans of its cells, as long as it is usual: each quoted cell ends at a delimiter or a line end. What is not is
 * left to the parser.
 */

import { CellSpans } from "./cell-spans.js";

export interface Scanned {
  readonly spans: CellSpans;
  /** Up to where the text was taken: behind the last whole row. */
  readonly end: number;
  /** The line that comes next. */
  readonly line: number;
  /** Whether the row that comes next is for the parser. */
  readonly isOdd: boolean;
}

const carriageReturn = 13;
const newline = "\n";

/**
 * The rows of a text whose lines end with `\n`, or with `\r\n`. Lines with nothing on them are left out.
 *
 * @param line of the first row.
 * @param isLast whether nothing comes behind the text: then its last line need not end.
 */
export function scanRows(text: string, delimiter: string, quote: string, line: number, isLast: boolean): Scanned {
  const quoteCode = quote.charCodeAt(0);
  const delimiterCode = delimiter.charCodeAt(0);
  let starts = new Int32Array(4_096);
  let ends = new Int32Array(starts.length);
  const firsts: number[] = [0];
  const lines: number[] = [];
  const { length } = text;
  let place = 0;
  let at = 0;
  let end = 0;
  let nextLine = line;
  let nextDelimiter = text.indexOf(delimiter);
  let nextEnd = text.indexOf(newline);
  rows: while (at < length) {
    const first = place;
    let inRow = nextLine;
    for (;;) {
      if (place === starts.length) [starts, ends] = [longer(starts), longer(ends)];
      let cellEnd: number;
      let start = at;
      if (text.charCodeAt(at) === quoteCode) {
        start = at + 1;
        let isDoubled = false;
        cellEnd = text.indexOf(quote, start);
        while (cellEnd >= 0 && text.charCodeAt(cellEnd + 1) === quoteCode) {
          isDoubled = true;
          cellEnd = text.indexOf(quote, cellEnd + 2);
        }
        // Either the rest is to come, or the quote is never closed: the parser sees to that.
        if (cellEnd < 0 || (cellEnd + 1 === length && !isLast)) return scanned(isLast);
        at = cellEnd + 1;
        for (; nextEnd >= 0 && nextEnd < at; nextEnd = text.indexOf(newline, nextEnd + 1)) inRow++;
        if (nextDelimiter >= 0 && nextDelimiter < at) nextDelimiter = text.indexOf(delimiter, at);
        if (isDoubled) start = ~start;
        const isReturn = text.charCodeAt(at) === carriageReturn && at + 1 === nextEnd;
        if (isReturn) at++;
        else if (at < length && at !== nextEnd && text.charCodeAt(at) !== delimiterCode) return scanned(true);
      } else {
        const isRowEnd = nextDelimiter < 0 || (nextEnd >= 0 && nextEnd < nextDelimiter);
        at = isRowEnd ? (nextEnd < 0 ? length : nextEnd) : nextDelimiter;
        cellEnd = at;
      }
      starts[place] = start;
      ends[place++] = cellEnd;
      if (at === nextDelimiter) {
        nextDelimiter = text.indexOf(delimiter, ++at);
        continue;
      }
      // The row ends here: at a line end, or with the text.
      if (nextEnd < 0 && !isLast) return scanned(false);
      const begin = start < 0 ? ~start : start;
      if (cellEnd > begin && text.charCodeAt(cellEnd - 1) === carriageReturn) ends[place - 1] = cellEnd - 1;
      at = nextEnd < 0 ? length : nextEnd + 1;
      if (nextEnd >= 0) nextEnd = text.indexOf(newline, at);
      end = at;
      if (place === first + 1 && ends[first] === begin) place = first;
      else {
        lines.push(nextLine);
        firsts.push(place);
      }
      nextLine = inRow + 1;
      continue rows;
    }
  }
  return scanned(false);

  function scanned(isOdd: boolean): Scanned {
    const [taken, first] = [firsts[firsts.length - 1]!, Int32Array.from(firsts)];
    const spans = new CellSpans(text, quote, starts.slice(0, taken), ends.slice(0, taken), first, lines);
    return { spans, end, line: nextLine, isOdd };
  }
}

/** Where the lines end that are the end of a row: those within quotes belong to a cell. */
export function* rowEnds(text: string, delimiter: string, quote: string): Generator<number> {
  let nextDelimiter = text.indexOf(delimiter);
  let nextEnd = text.indexOf(newline);
  for (let at = 0; nextEnd >= 0;) {
    if (text[at] === quote) {
      let close = text.indexOf(quote, at + 1);
      while (close >= 0 && text[close + 1] === quote) close = text.indexOf(quote, close + 2);
      if (close < 0) return;
      at = close + 1;
      if (nextDelimiter >= 0 && nextDelimiter < at) nextDelimiter = text.indexOf(delimiter, at);
      if (nextEnd < at) nextEnd = text.indexOf(newline, at);
    }
    if (nextDelimiter >= 0 && nextDelimiter < nextEnd) {
      at = nextDelimiter + 1;
      nextDelimiter = text.indexOf(delimiter, at);
    } else if (nextEnd >= 0) {
      yield nextEnd;
      at = nextEnd + 1;
      nextEnd = text.indexOf(newline, at);
    }
  }
}

function longer(items: Int32Array): Int32Array<ArrayBuffer> {
  const made = new Int32Array(items.length * 2);
  made.set(items);
  return made;
}
