/** Rows of what a record contains, with a column that names the record. */

import { keyWithin } from "../../catalogue/made-key.js";
import { phrase } from "../../phrases/phrase.js";
import { BlockFill } from "../fill/block.js";
import type { BlockRow } from "../read/block-row.js";
import { ownerColumn } from "../layout.js";
import type { MutableRow } from "../write/block.js";
import type { ShapeOf, ShapeOfTwo } from "./shape-kind.js";

export const groupedShape: ShapeOfTwo<ShapeOf<"grouped">> = {
  words: ["grouped by", "groups", "shared cells"],
  isMeant: () => true,
  ofTwo({ rows: { "grouped by": column, groups, "shared cells": shared }, kind, parent, mistake }) {
    if (column === undefined)
      return mistake(
        phrase(
          'rows of {0} records need "grouped by", the column that names the {1} of a row',
          parent.name,
          parent.name,
        ),
      );
    const everyRow = shared === "every row";
    return { is: "grouped", parent, child: kind, column, scattered: groups === "scattered", everyRow };
  },
  tells: ({ column }) => [{ header: column, listedFor: "grouped by", isNeeded: true, isRepeated: true }],
  cut({ column, parent }, { columns }, indexOf) {
    const index = indexOf(column);
    const owner = ownerColumn(columns, parent);
    const ownerIndex = owner ? indexOf(owner.header) : -1;
    let above = { word: "", owner: "" };
    return (cells) => {
      const word = cells[index] ?? "";
      // Shared cells may stand on the first row alone: a blank is the owner of the row above, as long as the group's word stays.
      const own = (cells[ownerIndex] ?? "") || (word === above.word ? above.owner : "");
      above = { word, owner: own };
      const both = own === "" ? word : keyWithin(own, word);
      return { word: both, role: word === "" ? "of no record" : "child", begins: "by word" };
    };
  },
  fill({ column, scattered, everyRow }, options, parents) {
    const fill = new BlockFill(options, { parents, groupColumn: column });
    const below = (parent: number, rows: readonly BlockRow[]): void => {
      if (fill.isSingle(parent, rows)) fill.fillSingle(parent, rows, 0);
      else fill.fillChildren(parent, rows);
    };
    return fill.blocks(below, scattered ? "goes on" : "goes on, reported", everyRow);
  },
  unroll:
    ({ everyRow }, pen) =>
    (parent, children) => {
      if (children.length === 0) return pen.single(parent);
      const rows: MutableRow[] = [];
      pen.addChildren(rows, parent, children, (child, at) => pen.childRow(parent, child, at === 0 || everyRow));
      return rows;
    },
};
