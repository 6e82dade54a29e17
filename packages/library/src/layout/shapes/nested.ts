/** A document: the element of a record, within it the elements of what it contains. */

import { phrase } from "../../phrases/phrase.js";
import { BlockFill } from "../fill/block.js";
import type { ShapeOf, ShapeOfOne, ShapeOfTwo } from "./shape-kind.js";

type Nested = ShapeOf<"nested">;

export const nestedShape: ShapeOfOne<Nested> & ShapeOfTwo<Nested> = {
  words: ["element", "child element"],
  isMeant: ({ element }) => element !== undefined,
  ofOne({ rows: { element = "", "child element": inner }, kind, mistake }) {
    if (inner !== undefined)
      return mistake(phrase('"{0}" is not for these rows', "child element"), undefined, "child element");
    return { is: "nested", parent: kind, child: undefined, element, childElement: undefined };
  },
  ofTwo({ rows: { element = "", "child element": inner }, kind, parent, mistake }) {
    if (inner === undefined)
      return mistake(phrase('the {0} records of a {1} need a "child element"', kind.name, parent.name));
    return { is: "nested", parent, child: kind, element, childElement: inner };
  },
  tells: () => [],
  cut: undefined,
  fill(_, options, parents) {
    const fill = new BlockFill(options, { parents });
    return fill.blocks((parent, rows) => {
      // A single's one version has an element of its own.
      const version = rows.findIndex(({ role }) => role === "child");
      if (fill.isSingle(parent, rows)) fill.fillSingle(parent, rows, version);
      else fill.fillChildren(parent, rows);
    });
  },
  unroll: (_, pen) => (parent, children) => {
    const rows = [pen.parentRow(parent, false)];
    pen.addParentLanes(rows, 1, parent, (lane) => lane.of === "parent");
    for (const child of children) {
      rows.push(pen.childRow(parent, child, false));
      pen.addChildLanes(rows, rows.length, child);
    }
    if (children.length > 0 || !pen.children) return rows;
    // What a single says in the columns of variants stands in the element of its one version.
    const own = pen.singleChildRow(parent);
    if (own.cells.some((cell) => cell !== "")) rows.push(own);
    pen.addParentLanes(rows, rows.length, parent, (lane) => lane.of === "child");
    return rows;
  },
};
