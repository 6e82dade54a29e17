/**
 * Every word of a layout with its meaning and one example: for docs/reference/layout-words.md. A test loads each example.
 *
 * An example is a part of a layout. What it leaves out is as in `baseLayout`.
 */

import { codecSections } from "./reference/codecs.js";
import { columnSections } from "./reference/columns.js";
import type { ReferenceSection } from "./reference/entry.js";
import { rowSections } from "./reference/rows.js";

export type { ReferenceEntry, ReferenceSection } from "./reference/entry.js";

/** What examples leave out. */
export const baseLayout = "layout: example\nrows: { each: product }\ncolumns: { Key: product.key }\n";

/** Every word of a layout, with an example, by section. */
export const layoutReference: readonly ReferenceSection[] = [...rowSections, ...columnSections, ...codecSections];
