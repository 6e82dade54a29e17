/** One row whose cells list values, for a child of every combination. */

import { firstOf, present } from "../../checked.js";
import { listCodec } from "../../codecs/lists.js";
import { partsCodec } from "../../codecs/parts.js";
import { parsePattern, type Pattern } from "../../codecs/pattern.js";
import { textCodec } from "../../codecs/scalars.js";
import { phrase } from "../../phrases/phrase.js";
import { BlockFill } from "../fill/block.js";
import { ExpandFill } from "../fill/expanded.js";
import { expandedCells } from "../write/expanded.js";
import type { ShapeOf, ShapeOfTwo } from "./shape-kind.js";

/** So many axes may have a combination at most. */
const maxAxes = 20;

export const expandedShape: ShapeOfTwo<ShapeOf<"expanded">> = {
  words: ["expanded"],
  isMeant: ({ expanded }) => expanded !== undefined,
  ofTwo({ rows: { expanded: { code, excluded } = {} }, kind, parent, mistake }) {
    let pattern: Pattern | undefined;
    if (code !== undefined) {
      const parsed = parsePattern(code);
      const wrong = parsed.ok ? parsed.pattern.names.find((name) => !/^(key|[1-9]\d?)$/.test(name)) : undefined;
      if (!parsed.ok) return mistake(parsed.problem, undefined, "expanded", "code");
      if (wrong !== undefined)
        return mistake(
          phrase('"{0}" is neither "key" nor the number of an axis', wrong),
          undefined,
          "expanded",
          "code",
        );
      pattern = parsed.pattern;
    }
    const parts = Array.from({ length: maxAxes }, () => textCodec);
    const codec =
      excluded &&
      listCodec(
        { separator: excluded.list, of: partsCodec({ separator: excluded.parts, escape: undefined, parts }) },
        phrase("a list of combinations"),
      );
    const left = excluded && codec && { column: excluded.column, codec };
    return { is: "expanded", parent, child: kind, code: pattern, excluded: left };
  },
  tells: ({ excluded }) => (excluded ? [{ header: excluded.column }] : []),
  cut: () => () => ({ word: "", role: "own", begins: "always" }),
  fill(shape, options, parents) {
    const fill = new BlockFill(options, { parents });
    const expand = new ExpandFill(fill, shape);
    return fill.blocks((parent, rows) => {
      const first = firstOf(rows);
      if (expand.hasValues(first)) expand.fill(parent, first);
      else fill.fillSingle(parent, rows, 0);
    });
  },
  unroll(shape, pen) {
    const combined = expandedCells(pen.context, shape, pen.parents, present(pen.children));
    return (parent, children) => {
      if (children.length === 0) return pen.single(parent);
      const row = pen.parentRow(parent, false);
      // Rows in another language only name what is there.
      if (!pen.translates) combined.fill(row.cells, parent, children, pen.positions);
      for (const child of children) pen.reportOwn(child, parent);
      const rows = [row];
      pen.addParentLanes(rows, 0, parent, (lane) => lane.of === "parent");
      return rows;
    };
  },
};
