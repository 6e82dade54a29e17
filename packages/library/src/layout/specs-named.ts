/** How the cells of a column name records. */

import type { ReferenceSpec } from "../catalogue/reference-pool.js";
import type { Feed } from "./layout.js";

/** Specs of the records that a feed names, those in the parts of its cells among them. */
export function specsNamed(feed: Feed): readonly ReferenceSpec[] {
  if (feed.is === "container" || feed.is === "reference") return [feed.spec];
  if (feed.is === "entry" && feed.field.is === "reference") return [feed.field.spec];
  if (feed.is === "entries") return feed.parts.flatMap((part) => (part.is === "reference" ? [part.spec] : []));
  return [];
}
