/**
 * Writing: records of the catalogue into rows, by a layout: the same layout that reads them.
 *
 * A block is unrolled by the row shape, and all of it again for each language that has rows of its own.
 */

import type { Header } from "../../nominal.js";
import { firstOf, fitting, entryOf, present } from "../../checked.js";
import { splitLanguage } from "../../field-name.js";
import type { ResolvedCatalogue } from "../../catalogue/catalogue.js";
import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import { finding, type Findings } from "../../findings/finding.js";
import { sheetCells } from "../cells.js";
import { byLetters, rowsAbove } from "./above.js";
import type { CellLimits } from "../../formats/drivers/driver.js";
import { driverOf, limitsOf } from "../../formats/drivers/drivers.js";
import type { Unwritable } from "../../codecs/codec.js";
import { phrase } from "../../phrases/phrase.js";
import { fieldName } from "../bindings/feed-kinds.js";
import { byLanguage, levelOf, type Column, type Layout } from "../layout.js";
import { tellingColumns } from "../shapes/layers.js";
import type { Unroll } from "../shapes/shape-kind.js";
import { kindOfShape } from "../shapes/shapes.js";
import { AxisReader } from "./axes.js";
import { emptying } from "./emptying.js";
import { BlockPen, type MutableRow } from "./block.js";
import { FilledDown } from "./filled-down.js";
import { noLine, WrittenLines } from "./lines.js";
import type { LineElsewhere, CellContext, WrittenRow } from "./context.js";
import { wordOf } from "./link-word.js";

/** Which records, and which columns of them, are written. */
export interface WriteOptions {
  /** Rows of the table that `writtenKind` names, in the order to write. */
  readonly records: Iterable<number>;
  /** Headers of the columns to write; all if left out. The layout's order stays. */
  readonly columns?: ReadonlySet<string> | undefined;
  /** Children that are not written, and records to which nothing is to refer. */
  readonly isLeftOut?: ((kind: string, row: number) => boolean) | undefined;
  /** Whether what belongs to no record is written as the record's own: the platform keeps one for each. */
  readonly copiesShared?: boolean | undefined;
  /** Where rows name the lines of another file that is written; else those of the files that were read. */
  readonly lineElsewhere?: LineElsewhere | undefined;
  /** One row for each parent, without children; with lanes only where their columns are written. */
  readonly parentsOnly?: boolean | undefined;
}

/** The kind whose records are written one after the other: rows about variants are written product by product, with the singles. */
export function writtenKind({ shape, link }: Layout, catalogue: ResolvedCatalogue): string {
  if (!link || shape.child || shape.parent.of === undefined) return shape.parent.name;
  return catalogue.kinds.get(shape.parent.of).single ? shape.parent.of : shape.parent.name;
}

/** The headers of a written sheet, each once. @param columns only these; all, if undefined. */
export function writtenHeaders(layout: Layout, columns: ReadonlySet<string> | undefined): string[] {
  const headers = layout.columns.map((column) => column.header).filter((header) => columns?.has(header) ?? true);
  return [...new Set(headers)];
}

/** The same as they stand in the file, where cells are joined and cut. */
export const headersInFile = (layout: Layout, columns: ReadonlySet<string> | undefined): readonly Header[] =>
  sheetCells(layout.cells, writtenHeaders(layout, columns)).headers;

/** The whole sheet as it stands in a file: notes and header, then the rows, with cells joined as the layout says. */
export interface WrittenSheet {
  readonly above: readonly (readonly string[])[];
  readonly rows: Iterable<readonly string[]>;
}

/** Writes records as a whole sheet. A value that the layout cannot write is a finding. */
export function writeSheet(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  options: WriteOptions,
  findings: Findings,
): WrittenSheet {
  const columns = writtenHeaders(layout, options.columns);
  const { headers, fold } = sheetCells(layout.cells, columns);
  const own = headers.map((header) => header.replace(/#\d+$/, ""));
  const above = rowsAbove(layout, own);
  function* rows(): Generator<readonly string[]> {
    const parents = catalogue.table(writtenKind(layout, catalogue));
    const lines = new WrittenLines([layout], present(driverOf(layout.format).rows).linesOf, above);
    const down = new FilledDown(layout, headers);
    for (const row of writeRows(catalogue, layout, options, findings)) {
      const report = (column: string, why: Unwritable) =>
        findings.add(finding("write/cannot-be-written", { column, ...why }, catalogue.location(parents, row.parent)));
      const lacks = (at: number) => report(columns[at]!, noLine);
      const cells = fold(lines.filled(row, row.cells, lacks), report);
      lines.next(row, cells);
      for (const column of down.misread(row, cells))
        report(column, { text: "", wanted: phrase("a text; a blank cell would be read as the cell above") });
      yield cells;
    }
  }
  return { above, rows: layout.headerLine === undefined ? byLetters(headers, rows()) : rows() };
}

/**
 * Records as the rows of a layout.
 *
 * @returns rows without the header, lazily: findings come as rows are taken. Cells are those of the layout's columns.
 */
export function* writeRows(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  options: WriteOptions,
  findings: Findings,
): Generator<WrittenRow> {
  for (const rows of writeBlocks(catalogue, layout, options, findings)) yield* rows;
}

/** The same, block by block. */
export function* writeBlocks(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  options: WriteOptions,
  findings: Findings,
): Generator<readonly WrittenRow[]> {
  const axes = new AxisReader(catalogue);
  const { isLeftOut, copiesShared, lineElsewhere } = options;
  const languages = byLanguage(layout);
  // Several words for a language are read; the first of them is written.
  const once = languages.filter(
    ([, { language }], at) => languages.findIndex(([, one]) => one.language === language) === at,
  );
  const writers = once.map(([word, own], at) => {
    const written = { catalogue, columns: own.columns, findings, axes, translates: at > 0 };
    const context = { ...written, isLeftOut, copiesShared, lineElsewhere };
    return new BlockWriter(
      context,
      own,
      options,
      layout.languages && { column: layout.languages.column, word },
      at > 0,
    );
  });
  for (const record of options.records)
    for (let at = 0; at < writers.length; at++) {
      const writer = writers[at]!;
      const rows = writer.block(record);
      // A language in which the record has no text has no rows.
      if (rows.length > 0 && (at === 0 ? writer.saysMore(rows) : writer.hasTexts(rows))) yield rows;
    }
}

/** Writes the blocks of one language. */
class BlockWriter {
  readonly #columns: readonly Column[];
  readonly #positions: ReadonlyMap<Header, number>;
  readonly #parents: ReadonlyTable;
  /** What blocks contain, or, where rows are about what is contained, what each is of. */
  readonly #children: ReadonlyTable | undefined;
  readonly #unrollParent: Unroll;
  /** Rows about children that are linked: each child is a block of its own. */
  readonly #unrollChild: Unroll | undefined;
  readonly #linkAt: number;
  readonly #languageAt: number;
  readonly #texts: readonly number[];
  /** Columns whose blank cells empty a field. */
  readonly #emptied: readonly Column[];
  readonly #empties: ReturnType<typeof emptying>;
  /** The positions of columns that do not only tell which record a row is of. */
  readonly #content: readonly number[];
  readonly #constants: readonly (readonly [number, string])[];
  /** What cells of the format cannot hold. */
  readonly #limits: CellLimits;

  constructor(
    readonly context: CellContext,
    readonly layout: Layout,
    readonly options: WriteOptions,
    readonly language: { readonly column: string; readonly word: string } | undefined,
    isLater: boolean,
  ) {
    const { shape, link, format } = layout;
    const { catalogue } = context;
    const headers = writtenHeaders(layout, options.columns);
    this.#positions = new Map(headers.map((header, at) => [header, at]));
    this.#columns = layout.columns.filter((column) => this.#positions.has(column.header));
    this.#parents = catalogue.table(writtenKind(layout, catalogue));
    const isAboutChildren = this.#parents.kind !== shape.parent;
    const child = isAboutChildren ? shape.parent : shape.child;
    this.#children = child && catalogue.table(child.name);
    const repeated = tellingColumns(layout).flatMap(({ header, isRepeated }) => (isRepeated ? [header] : []));
    const { unroll } = kindOfShape(shape);
    const unrollOf = (parents: ReadonlyTable, children: ReadonlyTable | undefined): Unroll => {
      const linkWord = link && { column: link.column, of: wordOf(context, parents, link) };
      const withLanes = !options.parentsOnly || this.#columns.some(({ scope }) => scope.is === "lane");
      const rest = { withLanes, translates: isLater, repeated, linkWord };
      return unroll(shape, new BlockPen(context, layout, { headers, parents, children, ...rest }));
    };
    this.#unrollParent = unrollOf(this.#parents, isAboutChildren ? undefined : this.#children);
    this.#unrollChild = isAboutChildren && this.#children ? unrollOf(this.#children, undefined) : undefined;
    this.#linkAt = this.#positions.get(link?.column ?? "") ?? -1;
    this.#languageAt = this.#positions.get(language?.column ?? "") ?? -1;
    this.#texts = this.#columns.flatMap(({ header, bindings }) =>
      bindings.some(({ feed: target }) => isTranslated(target)) ? [entryOf(this.#positions, header)] : [],
    );
    this.#emptied = this.#columns.filter(({ bindings }) => bindings.some(({ blankEmpties }) => blankEmpties));
    this.#empties = emptying(layout, this.#parents, this.#children);
    this.#content = this.#columns.flatMap(({ header, bindings }) =>
      header !== link?.column && bindings.some(({ feed }) => feed.is !== "key" && feed.is !== "shape")
        ? [entryOf(this.#positions, header)]
        : [],
    );
    this.#limits = limitsOf(format);
    this.#constants = this.#columns.flatMap(({ header, bindings: [first] }) =>
      first?.feed.is === "shape" && first.feed.constant !== undefined
        ? [[entryOf(this.#positions, header), first.feed.constant] as const]
        : [],
    );
  }

  /** Whether the first language's rows say more of a record than which it is; those that give records say at least that. */
  saysMore(rows: readonly WrittenRow[]): boolean {
    if (!this.layout.link || !this.language) return true;
    return rows.some((row) => this.#content.some((at) => row.cells[at] !== "") || this.#isEmptying(row));
  }

  hasTexts(rows: readonly WrittenRow[]): boolean {
    return rows.some((row) => this.#texts.some((at) => row.cells[at] !== ""));
  }

  block(parent: number): readonly WrittenRow[] {
    const { options, layout } = this;
    const all = this.#children && !options.parentsOnly ? [...this.#children.childrenOf(parent)] : [];
    const children = options.isLeftOut
      ? all.filter((row) => !present(options.isLeftOut)(present(this.#children).kind.name, row))
      : all;
    const rows = layout.link ? this.#linked(parent, children) : this.#unrollParent(parent, children);
    for (const row of rows) {
      for (const [at, constant] of this.#constants) if (row.cells[at] === "") row.cells[at] = constant;
      if (this.#languageAt >= 0) row.cells[this.#languageAt] = present(this.language).word;
      this.#blankWhatBreaks(row);
      this.#checkModel(row);
    }
    return rows;
  }

  /** A row that would be taken for the model row. */
  #checkModel({ cells, parent }: MutableRow): void {
    const { modelRow } = this.layout;
    const at = this.#positions.get(modelRow?.column ?? "");
    if (!modelRow || at === undefined || cells[at] !== modelRow.is) return;
    const wanted = phrase("a text that is not that of the model row");
    const facts = { column: modelRow.column, text: modelRow.is, wanted };
    this.context.findings.add(
      finding("write/cannot-be-written", facts, this.context.catalogue.location(this.#parents, parent)),
    );
  }

  /** Rows about a record, or about its children: none where there is nothing to say but which it is. */
  #linked(parent: number, children: readonly number[]): MutableRow[] {
    const unrollChild = this.#unrollChild;
    const blocks =
      unrollChild && children.length > 0
        ? children.map((child) => unrollChild(child, []).map((row) => ({ ...row, parent, child })))
        : [this.#unrollParent(parent, unrollChild ? [] : children)];
    return blocks.filter((rows) => rows.some((row) => this.#saysMore(row))).flat();
  }

  #saysMore(row: MutableRow): boolean {
    return row.cells.some((cell, at) => cell !== "" && at !== this.#linkAt) || this.#isEmptying(row);
  }

  #isEmptying(row: WrittenRow): boolean {
    return this.#emptied.some((column) => this.#empties(column, row));
  }

  /** A cell that would come back as something else is reported, and stays blank. */
  #blankWhatBreaks(row: MutableRow): void {
    const { each, last } = this.#limits;
    const end = row.cells.length - 1;
    for (let at = each ? 0 : last ? end : end + 1; at <= end; at++) {
      const cell = row.cells[at] ?? "";
      const wanted = each?.(cell) ?? (at === end ? last?.(cell) : undefined);
      if (wanted === undefined) continue;
      const { catalogue, findings } = this.context;
      const column = fitting(this.#columns, ({ header }) => this.#positions.get(header) === at);
      // In linked rows all columns are of what the row is about.
      const isAbout = (this.layout.link && !this.layout.shape.child) || levelOf(this.layout, column.scope) === "child";
      const isChild = row.child >= 0 && this.#children !== undefined && isAbout;
      const field = fieldName(firstOf(column.bindings).feed);
      const location = isChild
        ? catalogue.location(this.#children, row.child, field)
        : catalogue.location(this.#parents, row.parent, field);
      const facts = { column: column.header, text: cell, wanted };
      findings.add(finding("write/cannot-be-written", facts, location));
      row.cells[at] = "";
    }
  }
}

/** Whether a column says something that is in a language. */
function isTranslated(target: Column["bindings"][number]["feed"]): boolean {
  if (target.is === "axis" || target.is === "axes" || target.is === "named-axis") return true;
  return target.is === "text" && splitLanguage(target.field).lang !== undefined;
}
