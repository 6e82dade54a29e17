/** The words of a layout about its columns. */

import { entry, type ReferenceSection } from "./entry.js";

export const columnSections: readonly ReferenceSection[] = [
  {
    title: "Columns",
    about: "What a column feeds. `Header: product.name@de` is short for `Header: { field: product.name@de }`.",
    entries: [
      entry(
        "columns",
        "By header: what each column feeds. A list feeds several fields; writing uses the first.",
        "columns: { No: [product.key, product.code], Name: product.name }",
      ),
      entry(
        "columns: COLUMN: field",
        "The field. See the [kinds and their fields](kinds.md).",
        "columns: { Key: product.key, Name: { field: product.name@de } }",
      ),
      entry(
        "columns: COLUMN: as",
        "How the text of the cell is read and written: see [below](#cells-as).",
        "columns: { Key: product.key, Kg: { field: product.weight, as: { decimal: ',' } } }",
      ),
      entry(
        "columns: COLUMN: blank",
        "`absent`: a blank cell says nothing. `emptied`: it empties the field.",
        "columns: { Key: product.key, Text: { field: product.description, blank: emptied } }",
      ),
      entry(
        "columns: COLUMN: blank means",
        "A blank cell stands for this text.",
        "columns: { Key: product.key, Web: { field: product.shown, blank means: no } }",
      ),
      entry(
        "columns: COLUMN: missing",
        "A name without a record is an `error`, is `create`d, or its record is held (`hold`).",
        "columns: { Key: product.key, Shelf: { field: product.categories, as: { path: ' / ', by: name }, missing: create } }",
      ),
      entry(
        "columns: COLUMN: within",
        "`product`: the option groups or properties that the cell names belong to the product of the row. The same name on another product names another record.",
        "columns:\n  Key: product.key\n  Options:\n    field: product.optionGroups\n    as: { list: ', ', of: { by: name } }\n    missing: create\n    within: product",
      ),
      entry(
        "columns: COLUMN: fix",
        "Known damage that is undone and counted: `trim`, `spaces`, `invisible`, `mojibake`, `digits`, `spreadsheet text`.",
        "columns: { Key: product.key, Name: { field: product.name, fix: [trim, mojibake] } }",
      ),
      entry(
        "columns: COLUMN: fix: pad",
        "Leading zeros up to this many digits.",
        "columns: { Key: product.key, EAN: { field: product.barcode, fix: { pad: 13 } } }",
      ),
      entry(
        "columns: COLUMN: line ends",
        "What line ends become in a file that cannot contain them.",
        "columns: { Key: product.key, Text: { field: product.description, line ends: ' ' } }",
      ),
      entry(
        "columns: COLUMN: node",
        "For a field of a category on a path: which node, from the root.",
        "columns:\n  Key: product.key\n  Shelf: { field: product.categories, as: { path: ' / ', by: name }, missing: create }\n  Root in German: { field: product.categories.name@de, node: 1 }",
      ),
      entry(
        "columns: COLUMN: axis",
        "An axis, by number or by name.",
        "rows: { each: variant, of: product, grouped by: Range }\ncolumns: { Range: product.key, Code: variant.code, Wood: { axis: Wood, holds: value } }",
      ),
      entry(
        "columns: COLUMN: holds",
        "Whether the cell is the `name` of the axis, its `value`, or a list of `values`.",
        "rows: { each: variant, of: product, grouped by: Range }\ncolumns: { Range: product.key, Code: variant.code, What: { axis: 1, holds: name }, Is: { axis: 1, holds: value } }",
      ),
      entry(
        "columns: COLUMN: axes",
        "All axes in one cell: their `names`, or the `values` of a variant in the same order. A gap is blank.",
        "rows: { each: variant, of: product, grouped by: Range }\ncolumns:\n  Range: product.key\n  Code: variant.code\n  Differ in: { axes: names, as: { list: ', ' } }\n  Are: { axes: values, as: { list: ', ', blanks: true } }",
      ),
      entry(
        "columns: COLUMN: other words",
        "With `code words`: the field that takes any other text.",
        "columns: { Key: product.key, Unit: { field: product.sort, as: { code words: { H: hire } }, other words: product.unit } }",
      ),
      entry(
        "columns: COLUMN: beside",
        "The same paths as in that column, by names in another language.",
        "columns:\n  Key: product.key\n  Shelf: { field: product.categories, as: { path: ' / ', by: name@en }, missing: create }\n  Regal: { beside: Shelf, as: { path: ' / ', by: name@de } }",
      ),
      entry(
        "columns: COLUMN: constant",
        "A fixed text when writing.",
        "columns: { Key: product.key, Version: { constant: '2' } }",
      ),
    ],
  },
];
