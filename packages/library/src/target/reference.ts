/**
 * Every word of a target with its meaning and one example: for docs/reference/target-words.md. A test loads each example.
 *
 * An example is a part of a target. What it leaves out is as in `baseTarget`.
 */

import type { ReferenceSection } from "../layout/reference/entry.js";
import { ruleSections } from "./reference/columns.js";
import { fileSections } from "./reference/files.js";
import { platformSections } from "./reference/platform.js";

/** What examples leave out. */
export const baseTarget = `target: example
version: 1
languages: [en]
endpoints: { pictures: /pictures, upload: "/imports/{name}", catalogue: /catalogue }
files:
  goods:
    layout:
      layout: goods
      rows: { each: variant, of: product, grouped by: Item, shared cells: first row }
      columns:
        Item: product.key
        Code: variant.code
        Title: product.name@en
        Address: product.slug@en
        Place: { field: product.categories, as: { list: "|", of: { path: /, by: name@en } } }
        Brand: { field: product.brand, as: { by: name@en } }
        Pictures: { field: product.pictures.file, as: { list: "|" } }
        Picture texts: { field: product.pictures.alternative@en, as: { list: "|", blanks: true } }
        Price: { field: variant.prices(price).amount, as: decimal }
        Was: { field: variant.prices(was).amount, as: decimal }
        Barcode: variant.barcode
        Told apart by: { axis: 1, holds: name@en }
        It is: { axis: 1, holds: value@en }
        Goes with: { field: product.relations(goes-with).to, as: { list: "|", of: { by: key } } }
      numbered: 1
    columns: { Place: { unknown: create }, Brand: { unknown: create } }
    importer: { refusal costs: record, looked up: at the end of the file, unknown names: leave out }
imports: [{ file: goods }]
`;

/** Every word of a target, with an example, by section. */
export const targetReference: readonly ReferenceSection[] = [...platformSections, ...fileSections, ...ruleSections];
