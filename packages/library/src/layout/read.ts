/**
 * Reading: rows of a sheet into records of the catalogue, by a layout.
 *
 * The cutter makes blocks; the filler here makes records of a block's rows. Batch by batch, nothing of a row is kept but its values.
 */

import type { Catalogue } from "../catalogue/catalogue.js";
import { finding, type Findings } from "../finding.js";
import { nearestWord } from "../given/yaml.js";
import type { RowBatch } from "../formats/csv-read.js";
import { cutBlocks, type Block, type BlockRow, type Cutter } from "./cut.js";
import { Filler } from "./fill.js";
import { columnField, kindOfScope, type Layout } from "./layout.js";

const maxColumns = 16_384;
const maxUnboundListed = 50;

/** How many rows came, and what became of them. Together they are all rows below the header. */
export interface ReadCounts {
  rows: number;
  blankRows: number;
  reportedRows: number;
}

export class SheetReader {
  readonly counts: ReadCounts = { rows: 0, blankRows: 0, reportedRows: 0 };
  #cutter: Cutter | undefined;
  #filler: Filler | undefined;
  #width = 0;
  #failed = false;

  constructor(
    readonly layout: Layout,
    readonly catalogue: Catalogue,
    readonly file: string,
    readonly findings: Findings,
  ) {}

  push(batch: RowBatch): void {
    batch.rows.forEach((cells, at) => this.#row(cells, batch.lines[at]!));
  }

  /** @param isCutShort whether the bytes could not be read to the end: then it is no wonder if there are no rows. */
  end(isCutShort = false): void {
    if (!this.#cutter && !this.#failed && !isCutShort)
      this.findings.add(finding("read/empty-file", {}, { file: this.file }));
    if (this.#cutter && this.counts.rows === this.counts.blankRows)
      this.findings.add(finding("read/header-only", {}, { file: this.file, line: 1 }));
    this.#fill(this.#cutter?.end());
    this.#filler?.end();
  }

  #row(cells: readonly string[], line: number): void {
    if (this.#failed) return;
    if (!this.#cutter) {
      this.#header(cells, line);
      return;
    }
    this.counts.rows++;
    if (cells.every((cell) => cell === "")) {
      this.counts.blankRows++;
      return;
    }
    if (cells.length !== this.#width) {
      this.findings.add(
        finding("read/ragged-row", { cells: cells.length, headers: this.#width }, { file: this.file, line }),
      );
      if (cells.length > this.#width) {
        this.counts.reportedRows++;
        return;
      }
    }
    this.#fill(this.#cutter.push(cells, line));
  }

  #fill(block: Block | undefined): void {
    if (block) this.#filler!.block(block);
  }

  #header(cells: readonly string[], line: number): void {
    const { layout, file, findings } = this;
    if (cells.length > maxColumns) {
      findings.add(finding("read/too-many-columns", { columns: cells.length, most: maxColumns }, { file, line }));
      this.#failed = true;
      return;
    }
    const positions = new Map<string, number>();
    cells.forEach((header, index) => {
      if (header !== "" && positions.has(header))
        findings.add(finding("read/column-repeated", {}, { file, line, column: header }));
      else positions.set(header, index);
    });
    this.#reportColumns(cells, positions, line);
    if (this.#failed) return;
    this.#width = cells.length;
    const indexOf = (header: string) => positions.get(header) ?? -1;
    const headers = new Map<string, string>();
    for (const column of layout.columns)
      for (const { target } of column.bindings)
        headers.set(`${kindOfScope(layout, column.scope).name}.${columnField(column, target)}`, column.header);
    const sheet = this.catalogue.sheets.push({ file, headers }) - 1;
    this.#cutter = cutBlocks(layout, indexOf, file, findings);
    this.#filler = new Filler(layout, this.catalogue, sheet, indexOf, findings);
  }

  #reportColumns(cells: readonly string[], positions: ReadonlyMap<string, number>, line: number): void {
    const { layout, file, findings } = this;
    const bound = new Set([...layout.columns.map((column) => column.header), ...layout.ignored]);
    const unbound = cells.filter((header) => header !== "" && !bound.has(header));
    const missing = [...bound].filter((header) => !positions.has(header) && !layout.ignored.includes(header));
    if (missing.length > 0 && missing.length === layout.columns.length) {
      findings.add(
        finding("read/no-column-known", { layout: layout.name, found: cells.slice(0, 8).join(", ") }, { file, line }),
      );
      this.#failed = true;
      return;
    }
    for (const header of missing)
      findings.add(
        finding(
          "read/column-missing",
          { header, layout: layout.name, nearest: nearestWord(header, unbound) },
          { file, line },
        ),
      );
    for (const header of unbound.slice(0, maxUnboundListed))
      findings.add(finding("read/column-unbound", { layout: layout.name }, { file, line, column: header }));
    const { shape } = layout;
    if (shape.is === "grouped" && !positions.has(shape.column)) this.#failed = true;
  }
}

export type { Block, BlockRow };
