/** A row a record. */

import { BlockFill } from "../fill/block.js";
import type { ShapeOf, ShapeOfOne } from "./shape-kind.js";

export const flatShape: ShapeOfOne<ShapeOf<"flat">> = {
  words: [],
  isMeant: () => true,
  ofOne: ({ kind }) => ({ is: "flat", parent: kind, child: undefined }),
  tells: () => [],
  cut: () => () => ({ word: "", role: "own", begins: "always" }),
  fill: (_, options, parents) => new BlockFill(options, { parents }).blocks(() => undefined),
  unroll: (_, pen) => (parent) => pen.single(parent),
};
