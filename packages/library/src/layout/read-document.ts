/**
 * Reading documents: elements of XML or JSON into records of the catalogue, by a layout.
 *
 * An element becomes a block as rows would: a row of its own, rows of its lanes, a row for each child and the child's lanes.
 */

import { present } from "../checked.js";
import type { Header } from "../nominal.js";
import { locationIn } from "../catalogue/catalogue.js";
import { finding } from "../findings/finding.js";
import type { DocumentAccess, DocumentElement } from "../formats/document.js";
import { blockRow, type BlockRow } from "./block-row.js";
import { Filler } from "./fill.js";
import { columnField } from "./bindings/feed-kinds.js";
import { kindOfScope, type Column, type Layout } from "./layout.js";
import { CellFixer } from "./cell-fixer.js";
import { numberForColumn } from "./number-cells.js";
import { noRows, type ReadCounts, type SheetOptions } from "./read.js";
import { CellTally, type TalliedColumn } from "./tally.js";

interface Reader<N> {
  readonly at: number;
  readonly text: (node: N, parent: N) => string | undefined;
  readonly isNumber: (node: N, parent: N) => boolean;
}

interface Rows<N> {
  readonly elements: (node: N) => readonly N[];
  readonly readers: readonly Reader<N>[];
}

export class DocumentReader<N> {
  readonly counts: ReadCounts = noRows();
  readonly #layout: Layout;
  readonly #filler: Filler;
  readonly #own: readonly Reader<N>[];
  readonly #children: Rows<N> | undefined;
  readonly #lanes: readonly { readonly of: "parent" | "child"; readonly rows: Rows<N> }[];
  readonly #width: number;
  readonly #met: boolean[];
  readonly #fixer: CellFixer;
  readonly #sheet: number;
  readonly #tally: CellTally;

  /** @param pointer in JSON the pointer that places begin with; undefined where lines tell the place. */
  constructor(
    readonly options: SheetOptions,
    readonly access: DocumentAccess<N>,
    pointer: string | undefined,
  ) {
    const { layout, catalogue, file, findings, precedence = 0, translates = false } = options;
    const { shape } = layout;
    if (shape.is !== "nested") throw new Error("a layout that is not of a document");
    this.#layout = layout;
    this.#width = layout.columns.length;
    this.#met = layout.columns.map(() => false);
    const headers = new Map<string, string>();
    for (const column of layout.columns)
      for (const { feed: target } of column.bindings)
        headers.set(`${kindOfScope(layout, column.scope).name}.${columnField(column, target)}`, column.header);
    const columns = layout.columns.map(({ header, bindings }): TalliedColumn => {
      const fed = bindings.filter(({ feed: target }) => target.is !== "shape");
      const rule = fed.length === 0 ? "row marker" : undefined;
      return { header, rule, feeds: fed.map(({ name }) => name).join(", "), made: [] };
    });
    const tally = new CellTally(this.counts.cells, findings, columns, columns.length, new Map());
    const overruled = (line: number, column: string | undefined) => tally.overruled(line, column);
    const sheet = catalogue.sheets.push({ file, headers, precedence, pointer, overruled }) - 1;
    this.#sheet = sheet;
    this.#tally = tally;
    const positions = new Map(layout.columns.map((column, at) => [column.header, at]));
    const indexOf = (header: Header) => positions.get(header) ?? -1;
    this.#fixer = new CellFixer(
      layout.columns.filter((column) => column.fixes.length > 0),
      indexOf,
    );
    this.#filler = new Filler({
      layout,
      catalogue,
      sheet,
      indexOf,
      findings,
      translates,
      model: { cells: undefined },
      tally,
    });
    this.#own = this.#readers((column) => column.scope.is === "parent", undefined);
    const { childElement } = shape;
    this.#children =
      childElement === undefined
        ? undefined
        : {
            elements: access.elements(childElement),
            readers: this.#readers((column) => column.scope.is === "child", childElement),
          };
    this.#lanes = layout.lanes.map((lane) => {
      const owner = lane.of === "child" ? childElement : undefined;
      const seen =
        owner === undefined
          ? present(lane.element)
          : (access.within(present(lane.element), owner) ?? present(lane.element));
      const isOwn = (column: Column) => column.scope.is === "lane" && column.scope.lane === lane.name;
      return { of: lane.of, rows: { elements: access.elements(seen), readers: this.#readers(isOwn, lane.element) } };
    });
  }

  /** Columns of a scope, with paths seen from its element; a path that does not lead through it is the block's. */
  #readers(isOwn: (column: Column) => boolean, element: string | undefined): readonly Reader<N>[] {
    return this.#layout.columns.flatMap((column, at): Reader<N>[] => {
      if (!isOwn(column) || column.bindings.every(({ feed: target }) => target.is === "shape")) return [];
      const seen = element === undefined ? column.header : this.access.within(column.header, element);
      const read = this.access.text(seen ?? column.header);
      const isNumber = this.access.isNumber(seen ?? column.header);
      const from = (node: N, parent: N) => (seen === undefined ? parent : node);
      return [
        {
          at,
          text: (node, parent) => read(from(node, parent)),
          isNumber: (node, parent) => isNumber(from(node, parent)),
        },
      ];
    });
  }

  push(elements: readonly DocumentElement<N>[]): void {
    for (const { node, line } of elements) this.#element(node, line);
  }

  #element(node: N, line: number): void {
    this.counts.rows++;
    const rows: BlockRow[] = [blockRow(this.#row(this.#own, node, node, line), line, "own")];
    this.#addLanes(rows, "parent", node, node, line);
    for (const child of this.#children?.elements(node) ?? []) {
      rows.push(blockRow(this.#row(present(this.#children).readers, child, node, line), line, "child"));
      this.#addLanes(rows, "child", child, node, line);
    }
    for (const row of rows) this.options.seen?.(row.cells, line);
    if (rows.every((row) => row.cells.every((cell) => cell === "" || cell === undefined))) this.counts.blankRows++;
    else this.#filler.block({ rows, word: "" });
  }

  #addLanes(rows: BlockRow[], of: "parent" | "child", owner: N, block: N, line: number): void {
    for (const lane of this.#lanes)
      if (lane.of === of)
        for (const element of lane.rows.elements(owner))
          rows.push(blockRow(this.#row(lane.rows.readers, element, block, line), line, "more"));
  }

  /** Cells that are not there are left out of the array: they are absent, not blank. */
  #row(readers: readonly Reader<N>[], node: N, block: N, line: number): readonly string[] {
    const cells = new Array<string>(this.#width);
    for (const { at, text, isNumber } of readers) {
      const cell = text(node, block);
      if (cell === undefined) continue;
      this.#met[at] = true;
      cells[at] = isNumber(node, block) ? this.#numberIn(at, cell, line) : cell;
    }
    return this.#fixer.fix(cells);
  }

  #numberIn(at: number, number: string, line: number): string {
    const { catalogue, findings } = this.options;
    const location = locationIn(catalogue.sheets[this.#sheet]!, line);
    const text = numberForColumn(this.#layout.columns[at]!, number, location, findings);
    if (text === undefined) this.#tally.reported(number);
    return text ?? "";
  }

  /** @param isCutShort whether the document could not be read to its end. */
  end(isCutShort = false): void {
    const { file, findings } = this.options;
    this.#filler.end();
    this.#fixer.report(findings, { file });
    if (this.counts.rows === 0) {
      const { shape } = this.#layout;
      const element = shape.is === "nested" ? shape.element : "";
      if (!isCutShort) findings.add(finding("read/no-element", { element }, { file }));
      return;
    }
    this.#layout.columns.forEach(({ header, bindings }, at) => {
      const isRead = bindings.some(({ feed: target }) => target.is !== "shape");
      if (isRead && !this.#met[at])
        findings.add(finding("read/nothing-there", { layout: this.#layout.name }, { file, column: header }));
    });
  }
}
