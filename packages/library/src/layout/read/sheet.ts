/**
 * Reading: rows of a sheet into records of the catalogue, by a layout.
 *
 * A row goes through: the header once, fixes, cells made of cells, the language it is in, the cutter, the filler. Batch by batch,
 * nothing of a row is kept but its values.
 */

import { usualCaps, type Caps } from "../../caps.js";
import type { Header } from "../../nominal.js";
import { present } from "../../checked.js";
import type { Catalogue } from "../../catalogue/catalogue.js";
import { finding, type Findings } from "../../findings/finding.js";
import { CellSpans } from "../../formats/cell-spans.js";
import type { RowBatch } from "../../formats/row-batch.js";
import type { Location } from "../../location.js";
import { byColumn } from "../by-column/by-column.js";
import type { LinkedRecords } from "../fill/block.js";
import { FillContext, type FillOptions } from "../fill/context.js";
import { CellFixer } from "./cell-fixer.js";
import { DownFiller } from "./down-filler.js";
import { cellAdder, type AddCells } from "../cells.js";
import { cutBlocks, type Cutter } from "./cut.js";
import { fieldHeaders, languagePasses, unknownLanguage, type LanguagePass } from "./language-passes.js";
import type { Column, Layout } from "../layout.js";
import { withNumbers, withoutFormulas } from "./stored-cells.js";
import { columnPositions, lettersOf, reportColumns, tallyOfSheet } from "./columns.js";
import { noRows, type ReadCounts } from "./counts.js";
import { rowCutter, tellingColumns } from "../shapes/layers.js";
import { ShownOtherwise } from "./shown-otherwise.js";
import { countFilled, type CellTally } from "./tally.js";
import { greatest } from "../../lists.js";

export interface SheetOptions {
  readonly layout: Layout;
  readonly catalogue: Catalogue;
  readonly file: string;
  readonly findings: Findings;
  /** The sheet of a workbook. */
  readonly sheet?: string | undefined;
  /** The usual ones, if left out. */
  readonly caps?: Caps | undefined;
  /** Of two sheets that disagree the one with the higher number wins. 0 if left out. */
  readonly precedence?: number | undefined;
  /** Whether the sheet gives texts in another language for records that are there. */
  readonly translates?: boolean | undefined;
  /** Is shown the header, and each row below it, as they stand in the file; in documents each row of a block. */
  readonly seen?: ((cells: readonly (string | undefined)[], line: number) => void) | undefined;
}

/** What reads the rows of one language. */
interface Pass {
  readonly cutter: Cutter;
  readonly filler: LanguagePass;
}

/** What reading a row needs, once the header has come. */
interface OpenSheet {
  readonly width: number;
  /** How many cells each row has to have: of a sheet without headers those of its first. */
  readonly least: number;
  readonly tally: CellTally;
  /** By the word that tells the language; one without a word where rows have none. */
  readonly passes: ReadonlyMap<string, Pass>;
  readonly languageAt: number;
  readonly modelAt: number;
  readonly addMade: AddCells | undefined;
  readonly fixer: CellFixer | undefined;
  readonly filler: DownFiller | undefined;
  /** Columns by their position, for what workbooks show of their cells. */
  readonly columnAt: ReadonlyMap<number, Column>;
  readonly shown: ShownOtherwise;
  /** Reads plain rows column by column; undefined where the layout has none. */
  readonly plain: ReturnType<typeof byColumn>;
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
  readonly #caps: Caps;
  /** Undefined until the header has come. */
  #open: OpenSheet | undefined;
  readonly #model: { cells: readonly string[] | undefined } = { cells: undefined };
  readonly #refusesFormulas: boolean;
  #failed = false;

  constructor(options: SheetOptions) {
    this.layout = options.layout;
    this.findings = options.findings;
    this.#options = options;
    this.#caps = options.caps ?? usualCaps;
    const { format } = options.layout;
    this.#refusesFormulas = format.is === "csv" && format.formulas === "refuse";
    this.#place = { file: options.file, ...(options.sheet === undefined ? {} : { sheet: options.sheet }) };
  }

  push(batch: RowBatch): void {
    if (batch instanceof CellSpans) return this.#pushSpans(batch);
    const { rows, lines, evidence, numbers } = batch;
    for (let at = 0; at < rows.length; at++) {
      const cells = evidence?.get(at);
      if (cells) this.#open?.shown.see(rows[at]!, cells, { ...this.#place, line: lines[at]! });
      this.#row(rows[at]!, lines[at]!, numbers?.get(at));
    }
  }

  /** Plain rows column by column, the header and all others one by one. */
  #pushSpans(spans: CellSpans): void {
    let at = 0;
    const readRow = (row: number) => this.#row(spans.row(row), spans.lines[row]!);
    while (at < spans.size && !this.#open && !this.#failed) readRow(at++);
    const { plain, passes } = this.#open ?? {};
    const [pass] = passes?.values() ?? [];
    if (!plain || !pass) for (; at < spans.size; at++) readRow(at);
    else {
      const { cutter, filler } = pass;
      plain.take(spans, at, { readRow, openWord: cutter.openWord, endOpen: () => filler.take(cutter.end()) });
    }
  }

  /** @param isCutShort whether the bytes could not be read to the end: then it is not a wonder if there are no rows. */
  end(isCutShort = false): void {
    if (!this.#open && !this.#failed && !isCutShort) this.findings.add(finding("read/empty-file", {}, this.#place));
    if (!this.#open) return;
    if (this.counts.rows === this.counts.blankRows)
      this.findings.add(finding("read/header-only", {}, { ...this.#place, line: this.layout.headerLine ?? 1 }));
    for (const { cutter, filler } of this.#open.passes.values()) {
      filler.take(cutter.end());
      filler.end();
    }
    this.#open.fixer?.report(this.findings, this.#place);
    this.#open.shown.report();
  }

  #row(asStored: readonly string[], line: number, numbers?: readonly number[]): void {
    // What is wrong with the sheet as a whole was reported; none of its rows is read.
    if (this.#failed) return this.#allReported(asStored);
    if (this.#open) return this.#ownRow(this.#open, asStored, line, numbers);
    const { headerLine } = this.layout;
    if (headerLine !== undefined && line < headerLine) {
      this.counts.rows++;
      this.counts.ignoredRows++;
      const filled = countFilled(asStored);
      this.counts.cells.filled += filled;
      this.counts.cells.byRule["above the header"] += filled;
      return;
    }
    this.#open = this.#begin(asStored, line);
    this.#failed = this.#open === undefined;
    if (headerLine !== undefined) this.#options.seen?.(asStored, line);
    else if (this.#open) this.#ownRow(this.#open, asStored, line, numbers);
    else this.#allReported(asStored);
  }

  #ownRow(open: OpenSheet, asStored: readonly string[], line: number, numbers?: readonly number[]): void {
    const { tally, width, least, fixer, filler, addMade, modelAt } = open;
    let cells = asStored;
    this.#options.seen?.(cells, line);
    this.counts.rows++;
    if (isBlank(cells)) {
      this.counts.blankRows++;
      return;
    }
    if (cells.length > width || cells.length < least) {
      this.findings.add(finding("read/ragged-row", { cells: cells.length, headers: width }, { ...this.#place, line }));
      if (cells.length > width) {
        this.counts.reportedRows++;
        tally.whole(cells, "in findings", cells.length);
        return;
      }
    }
    // Of a sheet without headers a row ends with its last filled cell; the others are blank.
    if (least < width && cells.length < width) cells = [...cells, ...Array<string>(width - cells.length).fill("")];
    if (numbers) cells = withNumbers(open, cells, numbers, { ...this.#place, line }, this.findings);
    if (this.#refusesFormulas) cells = withoutFormulas(open, cells, { ...this.#place, line }, this.findings);
    const fixedCells = fixer ? fixer.fix(cells) : cells;
    if (fixedCells !== cells) tally.fixedToBlank(cells, fixedCells);
    const wholeCells = filler ? filler.fill(fixedCells, line) : fixedCells;
    const prepared = addMade ? addMade(wholeCells, line) : wholeCells;
    if (modelAt >= 0 && prepared[modelAt] === present(this.layout.modelRow).is) {
      this.#model.cells = prepared;
      this.counts.ignoredRows++;
      tally.whole(prepared, "model row");
      return;
    }
    const pass = this.#passOf(open, prepared, line);
    if (pass) pass.filler.take(pass.cutter.push(prepared, line));
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

  #passOf({ passes, languageAt }: OpenSheet, cells: readonly string[], line: number): Pass | undefined {
    const { languages } = this.layout;
    if (!languages) return passes.get("");
    const word = cells[languageAt] ?? "";
    const pass = passes.get(word);
    if (!pass) this.findings.add(unknownLanguage(word, languages, { ...this.#place, line, column: languages.column }));
    return pass;
  }

  /** @returns undefined where no row of the sheet can be read. */
  #begin(cells: readonly string[], line: number): OpenSheet | undefined {
    const { layout, findings } = this;
    const location = { ...this.#place, line };
    const { columns: most, "header characters": longest } = this.#caps;
    if (cells.length > most) {
      findings.add(finding("read/too-many-columns", { columns: cells.length, most }, location));
      return undefined;
    }
    const chars = greatest(cells.map((cell) => cell.length));
    if (layout.headerLine !== undefined && chars > longest) {
      findings.add(finding("read/header-too-long", { chars, most: longest }, location));
      return undefined;
    }
    const headers = layout.headerLine === undefined ? lettersOf(layout, cells.length) : cells;
    const positions = columnPositions(headers, layout, findings, location);
    const uncut = (at: number, index: number) => present(this.#open).tally.uncut(at, index);
    const addMade =
      layout.cells.length > 0
        ? cellAdder(layout.cells, positions, headers.length, this.#options.file, findings, uncut)
        : undefined;
    if (!reportColumns(headers, positions, layout, findings, location)) return undefined;
    const indexOf = (header: Header) => positions.get(header) ?? -1;
    const fixedCells = layout.columns.filter((column) => column.fixes.length > 0 && indexOf(column.header) >= 0);
    const columnAt = new Map(layout.columns.map((column) => [indexOf(column.header), column]));
    const tally = tallyOfSheet(layout, headers, positions, this.counts.cells, findings);
    const options = this.#fillOptions(indexOf, tally);
    const passes = this.#openPasses(options);
    const [pass] = passes.values();
    return {
      width: headers.length,
      least: cells.length,
      tally,
      passes,
      languageAt: layout.languages ? indexOf(layout.languages.column) : -1,
      modelAt: layout.modelRow ? indexOf(layout.modelRow.column) : -1,
      addMade,
      filler: layout.filledDown.length > 0 ? new DownFiller(layout.filledDown.map(indexOf), tally) : undefined,
      fixer: fixedCells.length > 0 ? new CellFixer(fixedCells, indexOf) : undefined,
      columnAt,
      shown: new ShownOtherwise(columnAt, findings),
      plain: this.#options.seen ? undefined : this.#byColumn(options, pass?.filler.linked, headers.length),
    };
  }

  #byColumn(options: FillOptions, linked: LinkedRecords | undefined, width: number): OpenSheet["plain"] {
    return byColumn(new FillContext({ ...options, before: linked?.before }), linked?.index, width, this.counts);
  }

  #fillOptions(indexOf: (header: Header) => number, tally: CellTally): FillOptions {
    const { layout, findings } = this;
    const { catalogue, file, sheet: sheetName, precedence = 0, translates = false } = this.#options;
    const overruled = (line: number, column: string | undefined) => tally.overruled(line, column);
    const headers = fieldHeaders(layout);
    const sheet = catalogue.sheets.push({ file, sheet: sheetName, headers, precedence, overruled }) - 1;
    return { layout, catalogue, sheet, indexOf, findings, translates, model: this.#model, tally, caps: this.#caps };
  }

  #openPasses(options: FillOptions): ReadonlyMap<string, Pass> {
    const { indexOf, findings, tally } = options;
    const passes = [...languagePasses(this.layout, options)].map(([word, filler]) => {
      const own = filler.layout;
      const cutter = cutBlocks({
        lanes: own.lanes,
        telling: tellingColumns(own).find(({ isNeeded }) => isNeeded)?.header,
        roleOf: rowCutter(own)(own.shape, own, indexOf),
        indexOf,
        sheet: this.#place,
        findings,
        tally,
        maxRows: this.#caps["group rows"],
      });
      return [word, { cutter, filler }] as const;
    });
    return new Map(passes);
  }
}

function isBlank(cells: readonly string[]): boolean {
  for (const cell of cells) if (cell !== "") return false;
  return true;
}
