/** The kinds of record that a column shows fields of. */

import type { KindSpec } from "../kind.js";
import type { Kinds } from "../kinds.js";
import { kindOfScope, type Column, type Layout } from "./layout.js";

/** A record that is complete without children shows its own fields in the columns of children. */
export function shownKinds(layout: Layout, column: Column, kinds: Kinds): KindSpec[] {
  const kind = kindOfScope(layout, column.scope);
  const above = kind.of === undefined ? undefined : kinds.get(kind.of);
  return above?.single && layout.shape.child ? [kind, above] : [kind];
}
