/** What the rows of a block say of their record again: it has to agree with the first, or is reported. */

import type { Header } from "../../nominal.js";
import { finding } from "../../findings/finding.js";
import { markCell, type BlockRow } from "../read/block-row.js";
import type { FillContext } from "./context.js";
import type { Column } from "../layout.js";
import { cellMark } from "../read/tally.js";
import { shorten } from "../../shorten.js";

interface SharedCell {
  readonly index: number;
  readonly header: Header;
}

export class SharedCells {
  /** The parent's columns, which on further rows are blank or agree. */
  readonly #ofParent: readonly SharedCell[];
  /** The same of the children, for rows that only add entries to them. */
  readonly #ofChildren: readonly SharedCell[];

  /** @param telling the column that says which record a row is of. */
  constructor(
    readonly context: FillContext,
    columns: readonly Column[],
    telling: string | undefined,
  ) {
    const cellsOf = (scope: "parent" | "child") =>
      columns.flatMap(({ header, bindings, scope: { is } }) =>
        is !== scope || header === telling || bindings.every(({ feed }) => feed.is === "shape")
          ? []
          : [{ index: context.indexOf(header), header }],
      );
    this.#ofParent = cellsOf("parent");
    this.#ofChildren = cellsOf("child");
  }

  /**
   * Cells of a record on rows below its first: blank, or the same again; else they are reported. What a row was read for already (the
   * axes' names, on the first of children's rows that come from afar) is left alone.
   *
   * @param isOnEveryRow whether a blank cell differs too.
   * @param at the location that a finding gets.
   */
  check(
    first: BlockRow,
    rows: readonly BlockRow[],
    isOnEveryRow: boolean,
    at: (line: number, header: Header) => ReturnType<FillContext["location"]>,
  ): void {
    let child = first;
    for (const row of rows) {
      if (row.role !== "more") child = row;
      for (const cell of this.#ofParent) this.#compare(cell, row, first, isOnEveryRow && row.role !== "more", at);
      if (row.role === "more") for (const cell of this.#ofChildren) this.#compare(cell, row, child, false, at);
    }
  }

  #compare(
    { index, header }: SharedCell,
    row: BlockRow,
    above: BlockRow,
    isBlankToo: boolean,
    at: (line: number, header: Header) => ReturnType<FillContext["location"]>,
  ): void {
    const here = row.cells[index] ?? "";
    const first = above.cells[index] ?? "";
    if ((here === "" && !isBlankToo) || row.marks[index] === cellMark.taken) return;
    if (here === first) {
      markCell(row, index, cellMark.repeated);
      return;
    }
    markCell(row, index, cellMark.reported);
    const facts = { here: shorten(here), first: shorten(first) };
    this.context.findings.add(
      finding("read/cells-disagree", facts, at(row.line, header), [this.context.location(above.line, header)]),
    );
  }
}
