/** A row a record. */

import type { ShapeOf, ShapeOfOne } from "./shape-kind.js";

export const flatShape: ShapeOfOne<ShapeOf<"flat">> = {
  words: [],
  isMeant: () => true,
  ofOne: ({ kind }) => ({ is: "flat", parent: kind, child: undefined }),
};
