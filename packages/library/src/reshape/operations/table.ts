/** All operations, by the word that names them in a project. A new one is a file beside this one, and a line here. */

import { add, remove, replace } from "./change-list.js";
import { combine } from "./combine.js";
import { makeSingles } from "./make-single.js";
import { makeVariants } from "./make-variants.js";
import { merge } from "./merge.js";
import { move } from "./move.js";
import { order } from "./order.js";
import { rename } from "./rename.js";
import { renumber } from "./renumber.js";
import { split } from "./split.js";
import { splitCategory } from "./split-category.js";
import { useAxis } from "./use-axis.js";

export const operations = {
  combine,
  split,
  merge,
  rename,
  move,
  order,
  "use axis": useAxis,
  "split category": splitCategory,
  replace,
  add,
  remove,
  renumber,
  "make variants of": makeVariants,
  "make single": makeSingles,
};
