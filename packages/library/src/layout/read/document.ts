/**
 * Reading documents: elements of XML or JSON into records of the catalogue, by a layout.
 *
 * An element becomes a block as rows would: a row of its own, rows of its lanes, a row for each child and the child's lanes.
 */

import { usualCaps } from "../../caps.js";
import { present } from "../../checked.js";
import type { Header } from "../../nominal.js";
import { locationIn, type SheetInfo } from "../../catalogue/catalogue.js";
import { finding } from "../../findings/finding.js";
import type { DocumentAccess, DocumentElement } from "../../formats/document.js";
import { blockRow, type BlockRow } from "./block-row.js";
import { CellFixer } from "./cell-fixer.js";
import { documentPlan, isReadIn, type ElementLevel, type PlacedColumn } from "../document-plan.js";
import { InnerPlaces } from "./inner-places.js";
import { fieldHeaders, languagePasses, unknownLanguage, type LanguagePass } from "./language-passes.js";
import type { Column, Layout } from "../layout.js";
import { numberForColumn } from "./number-cells.js";
import { noRows, type ReadCounts } from "./counts.js";
import type { SheetOptions } from "./sheet.js";
import { CellTally, type TalliedColumn } from "./tally.js";
import { UnreadReport } from "./unread-report.js";

/** An element with those that it lies in, the block's first. */
interface Chain<N> {
  readonly nodes: readonly N[];
  /** Where elements have no lines: the pointer from the block's. */
  readonly pointer: string;
}

interface Reader<N> {
  readonly at: number;
  /** Which element of the chain the cell is seen from. */
  readonly depth: number;
  readonly text: (node: N) => string | undefined;
  readonly isNumber: (node: N) => boolean;
}

interface Rows<N> {
  /** From a chain to those of the elements below it. */
  readonly below: (chain: Chain<N>) => readonly Chain<N>[];
  readonly readers: readonly Reader<N>[];
}

export class DocumentReader<N> {
  readonly counts: ReadCounts = noRows();
  readonly #layout: Layout;
  readonly #passes: ReadonlyMap<string, LanguagePass>;
  readonly #languageAt: number;
  readonly #own: readonly Reader<N>[];
  readonly #children: Rows<N> | undefined;
  readonly #lanes: readonly { readonly of: "parent" | "child"; readonly rows: Rows<N> }[];
  readonly #width: number;
  readonly #met: boolean[];
  readonly #fixer: CellFixer;
  readonly #unread: UnreadReport<N>;
  readonly #info: SheetInfo;
  readonly #inner = new InnerPlaces();
  readonly #tally: CellTally;

  /** @param pointer in JSON the pointer that places begin with; undefined where lines tell the place. */
  constructor(
    readonly options: SheetOptions,
    readonly access: DocumentAccess<N>,
    pointer: string | undefined,
  ) {
    const { layout, catalogue, file, findings, precedence = 0, translates = false } = options;
    const { shape, columns } = layout;
    if (shape.is !== "nested") throw new Error("a layout that is not of a document");
    this.#layout = layout;
    this.#width = columns.length;
    this.#met = columns.map(() => false);
    const tallied = columns.map(({ header, bindings }): TalliedColumn => {
      const fed = bindings.filter(({ feed }) => feed.is !== "shape");
      const rule = fed.length === 0 ? "row marker" : undefined;
      return { header, rule, feeds: fed.map(({ name }) => name).join(", "), made: [] };
    });
    const tally = new CellTally(this.counts.cells, findings, tallied, columns.length, new Map());
    const overruled = (line: number, column: string | undefined) => tally.overruled(line, column);
    const pointerOf = (row: number) => this.#inner.pointerOf(row);
    this.#info = { file, headers: fieldHeaders(layout), precedence, pointer, pointerOf, overruled };
    const sheet = catalogue.sheets.push(this.#info) - 1;
    this.#tally = tally;
    const positions = new Map(columns.map((column, at) => [column.header, at]));
    const indexOf = (header: Header) => positions.get(header) ?? -1;
    this.#fixer = new CellFixer(
      columns.filter((column) => column.fixes.length > 0),
      indexOf,
    );
    const model = { cells: undefined };
    this.#passes = languagePasses(layout, {
      catalogue,
      sheet,
      indexOf,
      findings,
      translates,
      model,
      tally,
      caps: options.caps ?? usualCaps,
    });
    this.#languageAt = layout.languages ? indexOf(layout.languages.column) : -1;
    const plan = documentPlan(layout, shape, access, positions);
    const { own, child, lanes } = plan;
    const isRead = isReadIn(layout);
    const readersOf = (spots: readonly PlacedColumn[]) =>
      spots.filter(({ column }) => isRead(column)).map((spot) => readerOf(spot, access));
    this.#own = readersOf(own);
    this.#unread = new UnreadReport(layout, plan, isRead, access, this.counts.cells);
    this.#children = child && { below: elementsBelow(child.levels, access), readers: readersOf(child.spots) };
    this.#lanes = lanes.map(({ of, levels, ownerLevels, spots }) => ({
      of,
      rows: { below: elementsBelow(levels.slice(ownerLevels), access), readers: readersOf(spots) },
    }));
  }

  push(elements: readonly DocumentElement<N>[]): void {
    for (const { node, line } of elements) this.#element(node, line);
  }

  #element(node: N, line: number): void {
    this.counts.rows++;
    this.#unread.see(node);
    const block: Chain<N> = { nodes: [node], pointer: "" };
    const own = blockRow(this.#row(this.#own, block, line), line, "own");
    const rows: BlockRow[] = [own];
    this.#addLanes(rows, "parent", block, line);
    for (const child of this.#children?.below(block) ?? []) {
      const at = this.#lineOf(child, line);
      rows.push(blockRow(this.#row(present(this.#children).readers, child, at), at, "child"));
      this.#addLanes(rows, "child", child, line);
    }
    for (const row of rows) this.options.seen?.(row.cells, line);
    if (rows.every((row) => row.cells.every((cell) => cell === "" || cell === undefined))) {
      this.counts.blankRows++;
      return;
    }
    const pass = this.#passOf(own);
    if (pass) return pass.take({ rows, word: "" });
    this.counts.reportedRows++;
    for (const { cells } of rows) this.#tally.whole(cells, "in findings");
  }

  #passOf({ cells, line }: BlockRow): LanguagePass | undefined {
    const { languages } = this.#layout;
    if (!languages) return this.#passes.get("");
    const word = cells[this.#languageAt] ?? "";
    const pass = this.#passes.get(word);
    const location = () => locationIn(this.#info, line, languages.column);
    if (!pass) this.options.findings.add(unknownLanguage(word, languages, location()));
    return pass;
  }

  #addLanes(rows: BlockRow[], of: "parent" | "child", owner: Chain<N>, line: number): void {
    for (const lane of this.#lanes)
      if (lane.of === of)
        for (const element of lane.rows.below(owner)) {
          const at = this.#lineOf(element, line);
          rows.push(blockRow(this.#row(lane.rows.readers, element, at), at, "more"));
        }
  }

  /** The row of an element within a block: its own line, or its place in the block's. */
  #lineOf({ nodes, pointer }: Chain<N>, block: number): number {
    const { lineOf } = this.access;
    if (lineOf) return lineOf(nodes[nodes.length - 1]!);
    return this.#info.pointer === undefined ? block : this.#inner.add(block, pointer);
  }

  /** Cells that are not there are left out of the array: they are absent, not blank. */
  #row(readers: readonly Reader<N>[], chain: Chain<N>, line: number): readonly string[] {
    const cells = new Array<string>(this.#width);
    for (const { at, depth, text, isNumber } of readers) {
      const node = chain.nodes[depth]!;
      const cell = text(node);
      if (cell === undefined) continue;
      this.#met[at] = true;
      cells[at] = isNumber(node) ? this.#numberIn(at, cell, line) : cell;
    }
    return this.#fixer.fix(cells);
  }

  #numberIn(at: number, number: string, line: number): string {
    const location = locationIn(this.#info, line);
    const text = numberForColumn(this.#layout.columns[at]!, number, location, this.options.findings);
    if (text === undefined) this.#tally.reported(number);
    return text ?? "";
  }

  /** @param isCutShort whether the document could not be read to its end. */
  end(isCutShort = false): void {
    const { file, findings } = this.options;
    for (const pass of this.#passes.values()) pass.end();
    this.#fixer.report(findings, { file });
    this.#unread.report(findings, file);
    if (this.counts.rows === 0) {
      const { shape } = this.#layout;
      const element = shape.is === "nested" ? shape.element : "";
      if (!isCutShort) findings.add(finding("read/no-element", { element }, { file }));
      return;
    }
    const isRead = isReadIn(this.#layout);
    this.#layout.columns.forEach((column, at) => {
      if (isRead(column) && !isFixed(column) && !this.#met[at])
        findings.add(finding("read/nothing-there", { layout: this.#layout.name }, { file, column: column.header }));
    });
  }
}

const isFixed = ({ bindings }: Column): boolean => bindings.every(({ feed }) => feed.is === "shape");

function readerOf<N>({ at, level, path }: PlacedColumn, access: DocumentAccess<N>): Reader<N> {
  return { at, depth: level + 1, text: access.text(path), isNumber: access.isNumber(path) };
}

function elementsBelow<N>(
  levels: readonly ElementLevel[],
  access: DocumentAccess<N>,
): (chain: Chain<N>) => readonly Chain<N>[] {
  const steps = levels.map(({ step }) => {
    const [elementsOf, pointersOf] = [access.elements(step), access.pointersTo?.(step)];
    return ({ nodes, pointer }: Chain<N>): Chain<N>[] => {
      const node = nodes[nodes.length - 1]!;
      const pointers = pointersOf?.(node);
      return elementsOf(node).map((element, at) => ({
        nodes: [...nodes, element],
        pointer: `${pointer}${pointers?.[at] ?? ""}`,
      }));
    };
  });
  return (chain) => steps.reduce<readonly Chain<N>[]>((chains, below) => chains.flatMap(below), [chain]);
}
