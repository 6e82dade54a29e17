/** A document: the element of a record, within it the elements of what it contains. */

import { phrase } from "../../phrases/phrase.js";
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
};
