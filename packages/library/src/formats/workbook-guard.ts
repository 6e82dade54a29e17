/**
 * Looks at the XML of a workbook's sheets before the package takes it apart: cells in places that no spreadsheet has, and more cells than
 * are read. The package keeps room for every cell up to the last one of a row, so one cell far away can cost all memory.
 *
 * Places: ECMA-376 part 1, 18.3.1 (row, c, col, mergeCell); OpenDocument 1.3 part 3, 19.675 and 19.679 (cells and rows that are repeated).
 */

import type { CapName, Caps } from "../caps.js";
import { phrase, type Text } from "../phrases/phrase.js";
import { columnAt } from "./letters.js";

/** What a sheet has at most in any program that writes these files. */
export const mostRows = 1_048_576;
export const mostColumns = 16_384;
/** No tag of a sheet is as long. */
const longestTag = 1_000_000;

const tags = /<(?:[\w.-]+:)?(row|c|col|mergeCell|table-row|table-cell|covered-table-cell)\b([^>]*)>/g;

export class WorkbookGuard {
  problem: Text | undefined;
  overCap: CapName | undefined;
  #part = "";
  #decoder = new TextDecoder();
  #rest = "";
  /** Cells of the sheet so far; of its last row the last column; how often that row stands there. */
  #cells = 0;
  #width = 0;
  #column = 0;
  #times = 1;
  #rows = 0;

  constructor(readonly caps: Caps) {}

  get isStopped(): boolean {
    return this.problem !== undefined || this.overCap !== undefined;
  }

  /** Takes the next bytes of a part of the archive. Whatever it is called, the package may take it for a sheet. */
  see(part: string, bytes: Uint8Array): void {
    if (this.isStopped) return;
    if (part !== this.#part) this.#begin(part, bytes);
    const text = this.#rest + this.#decoder.decode(bytes, { stream: true });
    const last = text.lastIndexOf("<");
    const isWhole = last < 0 || text.includes(">", last);
    this.#rest = isWhole ? "" : text.slice(last);
    if (this.#rest.length > longestTag) this.problem ??= phrase("a tag has more than {0} characters", longestTag);
    for (const [, name = "", attributes = ""] of (isWhole ? text : text.slice(0, last)).matchAll(tags)) {
      this.#tag(name, attributes);
      if (this.isStopped) return;
    }
    this.#count();
  }

  #begin(part: string, bytes: Uint8Array): void {
    this.#part = part;
    this.#decoder = new TextDecoder(encodingOf(bytes));
    this.#rest = "";
    this.#cells = 0;
    this.#rows = 0;
    this.#nextRow(1);
  }

  #nextRow(times: number): void {
    this.#count();
    this.#cells += this.#width * this.#times;
    this.#rows += this.#times;
    this.#width = 0;
    this.#column = 0;
    this.#times = times;
  }

  #count(): void {
    if (this.#cells + this.#width * this.#times > this.caps["sheet cells"]) this.overCap ??= "sheet cells";
  }

  #tag(name: string, attributes: string): void {
    if (name === "row") {
      this.#nextRow(1);
      this.#checkRow(numberOf(attributes, "r") ?? 0);
    } else if (name === "c") {
      const [, letters, row] = /\br=["']([A-Za-z]{1,10})(\d{1,12})["']/.exec(attributes) ?? [];
      this.#column = letters === undefined ? this.#column + 1 : columnOf(letters);
      this.#width = Math.max(this.#width, this.#column);
      this.#checkColumn(this.#column);
      this.#checkRow(Number(row ?? 0));
    } else if (name === "col") this.#checkColumn(numberOf(attributes, "max") ?? 0);
    else if (name === "mergeCell")
      for (const [, letters = "", row] of attributes.matchAll(/([A-Za-z]{1,10})(\d{1,12})/g)) {
        this.#checkColumn(columnOf(letters));
        this.#checkRow(Number(row));
      }
    else this.#openDocumentTag(name, attributes);
  }

  /** Blank rows and cells may be repeated up to any edge: only those that hold something count. */
  #openDocumentTag(name: string, attributes: string): void {
    if (name === "table-row") return this.#nextRow(numberOf(attributes, "number-rows-repeated") ?? 1);
    this.#column += numberOf(attributes, "number-columns-repeated") ?? 1;
    if (!/value-type|formula/.test(attributes)) return;
    this.#width = this.#column;
    this.#checkColumn(this.#column);
    this.#checkRow(this.#rows + this.#times);
  }

  #checkRow(row: number): void {
    if (row > mostRows)
      this.problem ??= phrase("a sheet has at most {0} rows, and one stands in row {1}", mostRows, row);
  }

  #checkColumn(column: number): void {
    if (column > mostColumns)
      this.problem ??= phrase("a sheet has at most {0} columns, and a cell stands in column {1}", mostColumns, column);
  }
}

/** XML may stand in UTF-16, which the package reads too: known by its mark, or by the zero beside its first `<`. */
function encodingOf([first, second]: Uint8Array): string {
  if ((first === 0xff && second === 0xfe) || (first === 0x3c && second === 0)) return "utf-16le";
  return (first === 0xfe && second === 0xff) || (first === 0 && second === 0x3c) ? "utf-16be" : "utf-8";
}

/** From 1; of more letters than any column has, one behind the last. */
const columnOf = (letters: string): number => (letters.length > 3 ? mostColumns : columnAt(letters.toUpperCase())) + 1;

function numberOf(attributes: string, name: string): number | undefined {
  const text = new RegExp(`(?:^|[\\s:])${name}=["'](\\d{1,15})["']`).exec(attributes)?.[1];
  return text === undefined ? undefined : Number(text);
}
