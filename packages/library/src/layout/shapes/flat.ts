/** A row a record. */

import { firstOf } from "../../checked.js";
import { BlockFill } from "../fill/block.js";
import type { ShapeOf, ShapeOfOne } from "./shape-kind.js";

export const flatShape: ShapeOfOne<ShapeOf<"flat">> = {
  words: [],
  isMeant: () => true,
  ofOne: ({ kind }) => ({ is: "flat", parent: kind, child: undefined }),
  tells: () => [],
  cut: () => () => ({ word: "", role: "own", begins: "always" }),
  fill(_, options, parents) {
    const fill = new BlockFill(options, { parents });
    return {
      block({ rows }, found) {
        const first = firstOf(rows);
        const parent = fill.open(first, found);
        fill.fillParent(parent, rows);
        fill.checkShared(parent, first, rows.slice(1));
        fill.close(parent, rows);
      },
      end: () => undefined,
    };
  },
  unroll: (_, pen) => (parent) => {
    const rows = [pen.parentRow(parent, true)];
    pen.addParentLanes(rows, 0, parent);
    return rows;
  },
};
