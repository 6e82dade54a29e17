/**
 * Reading: rows of a sheet into records of the catalogue, by a layout.
 *
 * A row goes through: the header once, fixes, cells made of cells, the language it is in, the cutter, the filler. Batch by batch,
 * nothing of a row is kept but its values.
 */

import type { Header } from "../nominal.js";
import { entryOf, present } from "../checked.js";
import type { Catalogue } from "../catalogue/catalogue.js";
import { finding, type Findings } from "../findings/finding.js";
import type { CellEvidence, RowBatch } from "../formats/csv-read.js";
import { columnLetters } from "../formats/letters.js";
import { nearestSpelling } from "../spelling.js";
import type { Location } from "../location.js";
import { cellAdder, columnInSheet, madeHeaders, sheetHeaders, type AddCells } from "./cells.js";
import { cutBlocks, type Block, type Cutter } from "./cut.js";
import type { BlockRow } from "./block-row.js";
import { Filler, type BlockFiller } from "./fill.js";
import type { FillOptions } from "./fill-context.js";
import { LinkedFiller } from "./fill-linked.js";
import { columnField } from "./bindings/feed-kinds.js";
import { byLanguage, kindOfScope, type Column, type Layout } from "./layout.js";
import { CellFixer } from "./cell-fixer.js";
import { numberForColumn } from "./number-cells.js";
import { CellTally, countFilled, noCells, type CellCounts, type CellRule, type TalliedColumn } from "./tally.js";

const maxColumns = 16_384;
const maxUnboundListed = 50;

/** How many rows came, and what became of them. Together they are all rows below the header. */
export interface ReadCounts {
  rows: number;
  blankRows: number;
  reportedRows: number;
  /** Left out because the layout says so: notes, a model row. */
  ignoredRows: number;
  /** Every filled cell, and what became of it. In documents the values of paths that the layout binds. */
  readonly cells: CellCounts;
  /** What the file was found to be: `CSV ";" utf-8`, `workbook`, `XML utf-8`. */
  form: string;
}

export const noRows = (): ReadCounts => ({
  rows: 0,
  blankRows: 0,
  reportedRows: 0,
  ignoredRows: 0,
  cells: noCells(),
  form: "",
});

export interface SheetOptions {
  readonly layout: Layout;
  readonly catalogue: Catalogue;
  readonly file: string;
  readonly findings: Findings;
  /** The sheet of a workbook. */
  readonly sheet?: string | undefined;
  /** Of two sheets that disagree the one with the higher number wins. 0 if left out. */
  readonly precedence?: number | undefined;
  /** Whether the sheet gives texts in another language for records that are there. */
  readonly translates?: boolean | undefined;
  /** Is shown the header, and each row below it, as they stand in the file; in documents each row of a block. */
  readonly seen?: ((cells: readonly (string | undefined)[], line: number) => void) | undefined;
}

/** What reads the rows of one language. Rows in other languages than the source's wait until its own are all there. */
interface Pass {
  readonly cutter: Cutter;
  readonly filler: BlockFiller;
  readonly waiting: Block[] | undefined;
}

/**
 * Rows of one sheet to records, as its layout says: rows are pushed in batches, and `end` makes the last record. What is wrong with a cell
 * is a finding at its line and column.
 */
export class SheetReader {
  readonly counts: ReadCounts = noRows();
  readonly layout: Layout;
  readonly findings: Findings;
  readonly #options: SheetOptions;
  readonly #place: Location;
  /** By the word that tells the language; one without a word where rows have none. */
  #passes: ReadonlyMap<string, Pass> | undefined;
  #languageAt = -1;
  #prepare: AddCells | undefined;
  #fixer: CellFixer | undefined;
  /** Undefined until the header has come. */
  #tally: CellTally | undefined;
  #modelAt = -1;
  readonly #model: { cells: readonly string[] | undefined } = { cells: undefined };
  #width = 0;
  #failed = false;
  /** Columns by their position, for what workbooks show of their cells. */
  #columnAt: ReadonlyMap<number, Column> = new Map();
  readonly #shownOtherwise = new Map<number, { shown: string; stored: string; count: number; location: Location }>();

  constructor(options: SheetOptions) {
    this.layout = options.layout;
    this.findings = options.findings;
    this.#options = options;
    this.#place = { file: options.file, ...(options.sheet === undefined ? {} : { sheet: options.sheet }) };
  }

  push(batch: RowBatch): void {
    const { rows, lines, evidence, numbers } = batch;
    for (let at = 0; at < rows.length; at++) {
      const cells = evidence?.get(at);
      if (cells && this.#passes) this.#judge(rows[at]!, cells, lines[at]!);
      this.#row(rows[at]!, lines[at]!, numbers?.get(at));
    }
  }

  /** Numbers in the form that their columns take. */
  #withNumbers(cells: readonly string[], numbers: readonly number[], line: number): readonly string[] {
    let changed: string[] | undefined;
    for (const index of numbers) {
      const column = this.#columnAt.get(index);
      if (!column) continue;
      const text = numberForColumn(column, cells[index]!, { ...this.#place, line }, this.findings);
      if (text === undefined) present(this.#tally).reported(cells[index]!);
      if (text !== cells[index]) (changed ??= [...cells])[index] = text ?? "";
    }
    return changed ?? cells;
  }

  /** @param isCutShort whether the bytes could not be read to the end: then it is not a wonder if there are no rows. */
  end(isCutShort = false): void {
    if (!this.#passes && !this.#failed && !isCutShort) this.findings.add(finding("read/empty-file", {}, this.#place));
    if (this.#passes && this.counts.rows === this.counts.blankRows)
      this.findings.add(finding("read/header-only", {}, { ...this.#place, line: this.layout.headerLine ?? 1 }));
    for (const pass of this.#passes?.values() ?? []) {
      take(pass, pass.cutter.end());
      for (const block of pass.waiting ?? []) pass.filler.block(block);
      pass.filler.end();
    }
    this.#fixer?.report(this.findings, this.#place);
    for (const { shown, stored, count, location } of this.#shownOtherwise.values())
      this.findings.add(finding("cell/shown-otherwise", { shown, stored, count }, location));
  }

  #row(asStored: readonly string[], line: number, numbers?: readonly number[]): void {
    let cells = asStored;
    if (this.#failed) {
      // What is wrong with the sheet as a whole was reported; none of its rows is read.
      this.#allReported(cells);
      return;
    }
    if (!this.#passes) {
      const { headerLine } = this.layout;
      if (headerLine !== undefined && line < headerLine) {
        this.counts.rows++;
        this.counts.ignoredRows++;
        const filled = countFilled(cells);
        this.counts.cells.filled += filled;
        this.counts.cells.byRule["above the header"] += filled;
        return;
      }
      this.#begin(cells, line);
      if (headerLine !== undefined) this.#options.seen?.(cells, line);
      if (headerLine === undefined && this.#failed) this.#allReported(cells);
      if (headerLine !== undefined || this.#failed) return;
    }
    const tally = present(this.#tally);
    this.#options.seen?.(cells, line);
    this.counts.rows++;
    if (isBlank(cells)) {
      this.counts.blankRows++;
      return;
    }
    if (cells.length !== this.#width) {
      this.findings.add(
        finding("read/ragged-row", { cells: cells.length, headers: this.#width }, { ...this.#place, line }),
      );
      if (cells.length > this.#width) {
        this.counts.reportedRows++;
        tally.whole(cells, "in findings", cells.length);
        return;
      }
    }
    if (numbers) cells = this.#withNumbers(cells, numbers, line);
    const fixedCells = this.#fixer ? this.#fixer.fix(cells) : cells;
    if (fixedCells !== cells) tally.fixedToBlank(cells, fixedCells);
    const prepared = this.#prepare ? this.#prepare(fixedCells, line) : fixedCells;
    if (this.#modelAt >= 0 && prepared[this.#modelAt] === present(this.layout.modelRow).is) {
      this.#model.cells = prepared;
      this.counts.ignoredRows++;
      tally.whole(prepared, "model row");
      return;
    }
    const pass = this.#passOf(prepared, line);
    if (pass) take(pass, pass.cutter.push(prepared, line));
    else {
      this.counts.reportedRows++;
      tally.whole(prepared, "in findings");
    }
  }

  #allReported(cells: readonly string[]): void {
    const filled = countFilled(cells);
    this.counts.cells.filled += filled;
    this.counts.cells.inFindings += filled;
  }

  /** Cells of a workbook that look otherwise than they are stored. */
  #judge(cells: readonly string[], evidence: ReadonlyMap<number, CellEvidence>, line: number): void {
    for (const [index, { is, shown }] of evidence) {
      const column = this.#columnAt.get(index);
      const takes = column?.bindings[0]?.codec.holds;
      if (!column || takes === "date") continue;
      const stored = cells[index] ?? "";
      const location = { ...this.#place, line, column: column.header };
      if (is === "date") this.findings.add(finding("cell/turned-into-date", { shown, stored }, location));
      else if (takes === undefined) {
        const known = this.#shownOtherwise.get(index);
        if (known) known.count++;
        else this.#shownOtherwise.set(index, { shown, stored, count: 1, location });
      }
    }
  }

  #passOf(cells: readonly string[], line: number): Pass | undefined {
    const { languages } = this.layout;
    if (!languages) return present(this.#passes).get("");
    const word = cells[this.#languageAt] ?? "";
    const pass = present(this.#passes).get(word);
    if (!pass) {
      const known = [...languages.layouts.keys()].join(", ");
      const location = { ...this.#place, line, column: languages.column };
      this.findings.add(finding("read/unknown-language", { word, known }, location));
    }
    return pass;
  }

  #begin(cells: readonly string[], line: number): void {
    const { layout, findings } = this;
    if (cells.length > maxColumns) {
      const facts = { columns: cells.length, most: maxColumns };
      findings.add(finding("read/too-many-columns", facts, { ...this.#place, line }));
      this.#failed = true;
      return;
    }
    const headers = layout.headerLine === undefined ? cells.map((_, at) => columnLetters(at)) : cells;
    const positions = this.#positions(headers, line);
    this.#width = cells.length;
    if (layout.cells.length > 0) {
      const uncut = (at: number, index: number) => present(this.#tally).uncut(at, index);
      this.#prepare = cellAdder(layout.cells, positions, cells.length, this.#options.file, findings, uncut);
    }
    this.#reportColumns(headers, positions, line);
    if (this.#failed) return;
    const indexOf = (header: Header) => positions.get(header) ?? -1;
    const fixedCells = layout.columns.filter((column) => column.fixes.length > 0 && indexOf(column.header) >= 0);
    if (fixedCells.length > 0) this.#fixer = new CellFixer(fixedCells, indexOf);
    this.#columnAt = new Map(layout.columns.map((column) => [indexOf(column.header), column]));
    if (layout.modelRow) this.#modelAt = indexOf(layout.modelRow.column);
    if (layout.languages) this.#languageAt = indexOf(layout.languages.column);
    this.#tally = this.#openTally(headers, positions);
    this.#passes = this.#openPasses(indexOf, this.#tally);
  }

  #openTally(headers: readonly Header[], positions: ReadonlyMap<string, number>): CellTally {
    const { layout } = this;
    const nameAt = new Map([...positions].map(([header, at]) => [at, header] as const));
    const feeds = new Map<string, string>();
    const markers = new Set<string>(layout.languages ? [layout.languages.column] : []);
    for (const { header, bindings } of layout.columns) {
      const fed = bindings.filter(({ feed: target }) => target.is !== "shape");
      if (fed.length === 0) markers.add(header);
      else feeds.set(header, fed.map(({ name }) => name).join(", "));
    }
    for (const header of shapeColumns(layout)) if (!feeds.has(header)) markers.add(header);
    const ruleOf = (header: Header): CellRule | undefined => {
      if (layout.ignored.includes(header)) return "ignored column";
      if (markers.has(header)) return "row marker";
      return feeds.has(header) ? undefined : "unbound column";
    };
    const columns = headers.map((_, at): TalliedColumn => {
      const header = nameAt.get(at) ?? "";
      const made = layout.cells.flatMap((step) =>
        sheetHeaders(step).includes(header) ? madeHeaders(step).map((one) => entryOf(positions, one)) : [],
      );
      return { header, rule: made.length > 0 ? undefined : ruleOf(header), feeds: feeds.get(header) ?? "", made };
    });
    const made = layout.cells.flatMap(madeHeaders);
    const madeFeeds = new Map(
      made.flatMap((header) =>
        feeds.has(header) ? [[entryOf(positions, header), entryOf(feeds, header)] as const] : [],
      ),
    );
    return new CellTally(this.counts.cells, this.findings, columns, headers.length, madeFeeds);
  }

  /** Where each header stands; the second of the same name is called `Name#2`. */
  #positions(headers: readonly Header[], line: number): Map<string, number> {
    const bound = new Set([...this.layout.columns.map((column) => column.header), ...this.layout.ignored]);
    const positions = new Map<string, number>();
    const seen = new Map<string, number>();
    headers.forEach((header, index) => {
      const count = (seen.get(header) ?? 0) + 1;
      seen.set(header, count);
      if (count === 1) positions.set(header, index);
      else if (header !== "") {
        positions.set(`${header}#${count}`, index);
        if (!bound.has(`${header}#${count}`))
          this.findings.add(finding("read/column-repeated", {}, { ...this.#place, line, column: header }));
      }
    });
    return positions;
  }

  #openPasses(indexOf: (header: Header) => number, tally: CellTally): ReadonlyMap<string, Pass> {
    const { layout, findings } = this;
    const { catalogue, file, sheet: sheetName, precedence = 0, translates = false } = this.#options;
    const headers = new Map<string, string>();
    const layouts = byLanguage(layout);
    for (const [, one] of [...layouts].reverse())
      for (const column of one.columns)
        for (const { feed: target } of column.bindings)
          headers.set(
            `${kindOfScope(one, column.scope).name}.${columnField(column, target)}`,
            columnInSheet(layout.cells, column.header),
          );
    const overruled = (line: number, column: string | undefined) => tally.overruled(line, column);
    const sheet = catalogue.sheets.push({ file, sheet: sheetName, headers, precedence, overruled }) - 1;
    return new Map(
      layouts.map(([word, own], at): [string, Pass] => {
        const isLater = at > 0;
        const options: FillOptions = {
          layout: own,
          catalogue,
          sheet,
          indexOf,
          findings,
          translates: translates || isLater,
          model: this.#model,
          tally,
        };
        return [
          word,
          {
            cutter: cutBlocks(own, indexOf, this.#place, findings, tally),
            filler: own.shape.is === "linked" ? new LinkedFiller(options) : new Filler(options),
            waiting: isLater ? [] : undefined,
          },
        ];
      }),
    );
  }

  #reportColumns(cells: readonly string[], positions: ReadonlyMap<string, number>, line: number): void {
    const { layout, findings } = this;
    const made = new Set(layout.cells.flatMap(madeHeaders));
    const taken = layout.cells.flatMap(sheetHeaders);
    const columns = [...layout.columns.map((column) => column.header).filter((header) => !made.has(header)), ...taken];
    const known = new Set([...columns, ...layout.ignored]);
    const unbound = cells.filter((header) => header !== "" && !known.has(header));
    const missing = [...new Set(columns)].filter(
      (header) => !positions.has(header) && !layout.ignored.includes(header),
    );
    if (missing.length > 0 && missing.length === new Set(columns).size) {
      findings.add(
        finding(
          "read/no-column-known",
          { layout: layout.name, found: cells.slice(0, 8).join(", ") },
          { ...this.#place, line },
        ),
      );
      this.#failed = true;
      return;
    }
    for (const header of missing)
      findings.add(
        finding(
          "read/column-missing",
          { header, layout: layout.name, nearest: nearestSpelling(header, unbound) },
          { ...this.#place, line },
        ),
      );
    for (const header of unbound.slice(0, maxUnboundListed))
      findings.add(finding("read/column-unbound", { layout: layout.name }, { ...this.#place, line, column: header }));
    const { shape } = layout;
    const needed = shape.is === "grouped" ? shape.column : shape.is === "linked" ? shape.found.column : undefined;
    if (needed !== undefined && !positions.has(needed)) this.#failed = true;
  }
}

function take(pass: Pass, block: Block | undefined): void {
  if (!block) return;
  if (pass.waiting) pass.waiting.push(block);
  else pass.filler.block(block);
}

/** Columns that tell what a row is, or which record it is of. */
function shapeColumns({ shape }: Layout): readonly string[] {
  switch (shape.is) {
    case "grouped":
      return [shape.column];
    case "linked":
      return [shape.found.column];
    case "own-row":
      return [
        ...(shape.marker ? [shape.marker.column] : []),
        ...(shape.joined.by === "reference" ? [shape.joined.column] : []),
      ];
    case "expanded":
      return shape.excluded ? [shape.excluded.column] : [];
    case "flat":
    case "nested":
      return [];
  }
}

function isBlank(cells: readonly string[]): boolean {
  for (const cell of cells) if (cell !== "") return false;
  return true;
}

export type { Block, BlockRow };
