/** What every part of filling needs: where it reads, where it writes, and how it says what is wrong. */

import type { Catalogue } from "../catalogue/catalogue.js";
import type { Table } from "../catalogue/table.js";
import type { Problem } from "../codecs/codec.js";
import { finding, type Findings } from "../finding.js";
import type { Place } from "../place.js";
import type { Layout } from "./layout.js";

export const maxCellChars = 1_000_000;

export class FillContext {
  /** True while rows are added to a record that was there before: then what they say has to agree with it. */
  merging = false;

  constructor(
    readonly layout: Layout,
    readonly catalogue: Catalogue,
    /** The sheet's number in the catalogue. */
    readonly sheet: number,
    /** The position of a header; -1 when the sheet lacks it. */
    readonly indexOf: (header: string) => number,
    readonly findings: Findings,
  ) {}

  place(line: number, column?: string, table?: Table, row = -1): Place {
    const record = table && row >= 0 ? { record: { kind: table.kind.name, key: table.key(row) } } : {};
    return {
      file: this.catalogue.sheets[this.sheet]!.file,
      line,
      ...(column === undefined ? {} : { column }),
      ...record,
    };
  }

  problem({ problem, text, wanted }: Problem, table: Table, row: number, line: number, header: string): void {
    this.findings.add(finding(`cell/${problem}`, { text, wanted }, this.place(line, header, table, row)));
  }

  /** A finding, where a cell holds more than is ever read. */
  isTooLong(cell: string, line: number, header: string): boolean {
    if (cell.length <= maxCellChars) return false;
    this.findings.add(
      finding("read/cell-too-long", { chars: cell.length, most: maxCellChars }, this.place(line, header)),
    );
    return true;
  }
}

export const shorten = (text: string): string => (text.length > 60 ? `${text.slice(0, 59)}…` : text);
