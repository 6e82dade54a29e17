/** The words of a layout about its file, rows and lanes. */

import { entry, type ReferenceSection } from "./entry.js";

export const rowSections: readonly ReferenceSection[] = [
  {
    title: "The file",
    about: "What the file is, and what its header looks like.",
    entries: [
      entry("layout", "The name of the layout, for messages.", "layout: thornapple-range"),
      entry("about", "A note for people.", "about: The range list of March, from Thornapple."),
      entry("language", "The language of texts whose column names none. `en` if left out.", "language: de"),
      entry("format", "The format of the file. CSV if left out.", "format: { csv: {} }"),
      entry("format: csv", "A text file with cells between delimiters.", 'format: { csv: { delimiter: ";" } }'),
      entry(
        "format: csv: delimiter",
        "The character between cells. Found from the rows if left out.",
        'format: { csv: { delimiter: "\\t" } }',
      ),
      entry(
        "format: csv: quote",
        "The quote character, or `none` if the file has none.",
        "format: { csv: { quote: none } }",
      ),
      entry(
        "format: csv: encoding",
        "The encoding. Found from the bytes, and reported, if left out. Files are written in UTF-8, UTF-16 or an encoding of one byte a character.",
        "format: { csv: { encoding: windows-1252 } }",
      ),
      entry(
        "format: csv: line end",
        "The line end when writing: `lf` or `crlf`.",
        "format: { csv: { line end: crlf } }",
      ),
      entry(
        "format: csv: formulas",
        "What is done with texts that a spreadsheet program would run as a formula. `as they are` (the default) warns; `neutralise` writes an apostrophe before them, and takes it off in reading: only where the platform takes it off too; `refuse` takes no such text.",
        "format: { csv: { formulas: neutralise } }",
      ),
      entry("format: csv: mark", "Whether a byte order mark is written.", "format: { csv: { mark: true } }"),
      entry("format: workbook", "XLSX, XLS or ODS.", "format: { workbook: {} }"),
      entry("format: workbook: sheet", "The sheet, by name or number.", "format: { workbook: { sheet: Prices } }"),
      entry(
        "format: workbook: kind",
        "The kind of workbook when writing: `xlsx` or `xls`.",
        "format: { workbook: { kind: xlsx } }",
      ),
      entry(
        "format: workbook: hidden rows",
        "Whether hidden rows are `read` or `left out`.",
        "format: { workbook: { hidden rows: left out } }",
      ),
      entry(
        "format: workbook: merged cells",
        "A merged range gives its value to the `first only`, or `repeated` to each cell.",
        "format: { workbook: { merged cells: repeated } }",
      ),
      entry(
        "format: xml",
        "An XML document. It needs `rows: element`.",
        "format: { xml: {} }\nrows: { each: product, element: /feed/item }\ncolumns: { '@no': product.key }",
      ),
      entry(
        "format: xml: encoding",
        "The encoding, if the document states none.",
        "format: { xml: { encoding: utf-8 } }\nrows: { each: product, element: /feed/item }\ncolumns: { '@no': product.key }",
      ),
      entry(
        "format: xml: namespaces",
        "Prefixes of the paths in this layout.",
        "format: { xml: { namespaces: { g: 'urn:feed' } } }\nrows: { each: product, element: /g:feed/g:item }\ncolumns: { '@no': product.key }",
      ),
      entry(
        "format: json",
        "A JSON document. Columns are JSON Pointers.",
        "format: { json: {} }\nrows: { each: product, element: /items }\ncolumns: { /no: product.key }",
      ),
      entry(
        "format: json: lines",
        "One JSON document per line.",
        "format: { json: { lines: true } }\nrows: { each: product, element: / }\ncolumns: { /no: product.key }",
      ),
      entry(
        "format: json: envelope",
        "What is written around the elements.",
        "format: { json: { envelope: { version: 2 } } }\nrows: { each: product, element: /items }\ncolumns: { /no: product.key }",
      ),
      entry(
        "header",
        "`none` if the file has no header: columns are then called A, B, C.",
        "header: none\ncolumns: { A: product.key, B: product.name }",
      ),
      entry("header: line", "The line of the header, counted from 1.", "header: { line: 4 }"),
      entry(
        "header: notes",
        "Lines above the header when writing.",
        "header: { line: 3, notes: [Range list, Prices with tax] }",
      ),
      entry("ignore", "Headers that are not read. Every other unmapped column is reported.", "ignore: [Remarks]"),
      entry(
        "numbered",
        "How many columns `{n}` in a header stands for.",
        'numbered: 3\nrows: { each: variant, of: product, grouped by: Range }\ncolumns:\n  Range: product.key\n  Code: variant.code\n  Feature {n}: { axis: "{n}", holds: name }\n  Feature {n} is: { axis: "{n}", holds: value }',
      ),
      entry(
        "listed",
        "A column for each of these words.",
        "listed: { place: [Shed, Loft] }\ncolumns:\n  Key: product.key\n  In {place}: { field: 'product.stock({place}).quantity', as: integer }",
      ),
      entry(
        "filled down",
        "Columns in which a blank cell stands for the cell above, as where only the first row of a section is filled.",
        "filled down: [Range]\nrows: { each: variant, of: product, grouped by: Range }\ncolumns: { Range: product.key, Code: variant.code }",
      ),
      entry("model row", "Blank cells below a model row take its values.", "model row: { column: Key, is: MODEL }"),
      entry(
        "model row: is",
        "The text that marks a model row in its column.",
        "model row: { column: Key, is: default }",
      ),
    ],
  },
  {
    title: "Rows",
    about: "Which records the rows are, and how rows belong together.",
    entries: [
      entry("rows", "The row shape.", "rows: { each: product }"),
      entry(
        "rows: each",
        "The kind of record of a row.",
        "rows: { each: category }\ncolumns: { Id: category.key, Name: category.name }",
      ),
      entry(
        "rows: of",
        "The kind that contains it: rows of variants belong to products.",
        "rows: { each: variant, of: product, grouped by: Range }\ncolumns: { Range: product.key, Code: variant.code }",
      ),
      entry(
        "rows: grouped by",
        "The column that is the same on all rows of a group.",
        "rows: { each: variant, of: product, grouped by: Range }\ncolumns: { Range: product.key, Code: variant.code }",
      ),
      entry(
        "rows: groups",
        "`contiguous`: the rows of a group are next to each other. `scattered`: anywhere.",
        "rows: { each: variant, of: product, grouped by: Range, groups: scattered }\ncolumns: { Range: product.key, Code: variant.code }",
      ),
      entry(
        "rows: shared cells",
        "Where the product's cells are: on the `first row`, on `every row`, or on its `own row`.",
        "rows: { each: variant, of: product, grouped by: Range, shared cells: every row }\ncolumns: { Range: product.key, Name: product.name, Code: variant.code }",
      ),
      entry(
        "rows: joined by",
        "With `own row`: how a variant's row names its product. `following` if it is just below it.",
        "rows: { each: variant, of: product, shared cells: own row, joined by: { column: Article, names: key } }\ncolumns: { Article: product.key, Code: variant.code }",
      ),
      entry(
        "rows: joined by: names",
        "What that column contains: the product's `key` or `code`, or the `line` of its row.",
        "rows: { each: variant, of: product, shared cells: own row, joined by: { column: Parent, names: line } }\ncolumns: { Key: product.key, Code: variant.code }",
      ),
      entry(
        "rows: marker",
        "A column that tells products' rows from variants' rows.",
        "rows: { each: variant, of: product, shared cells: own row, joined by: following, marker: { column: Row, parent: article, child: form } }\ncolumns: { No: product.key, Code: variant.code }",
      ),
      entry(
        "rows: marker: parent",
        "The text on a product's row.",
        "rows: { each: variant, of: product, shared cells: own row, joined by: following, marker: { column: Row, parent: P, child: V } }\ncolumns: { No: product.key, Code: variant.code }",
      ),
      entry(
        "rows: marker: child",
        "The text on a variant's row.",
        "rows: { each: variant, of: product, shared cells: own row, joined by: following, marker: { column: Row, parent: P, child: V } }\ncolumns: { No: product.key, Code: variant.code }",
      ),
      entry(
        "rows: found by",
        "Linked rows: they add to records that other sheets give.",
        "rows: { each: variant, found by: { column: Item, names: code } }\ncolumns: { Price: { field: variant.prices(price).amount, as: decimal } }",
      ),
      entry(
        "rows: found by: column",
        "The column that names the record.",
        "rows: { each: variant, found by: { column: Item, names: code } }\ncolumns: { Weight: variant.weight }",
      ),
      entry(
        "rows: found by: sheet",
        "With `names: line`: the file whose lines are counted.",
        "rows: { each: product, found by: { column: Line, names: line, sheet: range.csv } }\ncolumns: { Text: product.description }",
      ),
      entry(
        "rows: found by: otherwise",
        "What happens if no record is found: `reported` or `ignored`.",
        "rows: { each: product, found by: { column: Key, names: key, otherwise: ignored } }\ncolumns: { Text: product.description }",
      ),
      entry(
        "rows: expanded",
        "Cells list the values of each axis. Every combination becomes a variant.",
        "rows: { each: variant, of: product, expanded: {} }\ncolumns:\n  Key: product.key\n  Woods: { axis: Wood, holds: values, as: { list: ', ' } }",
      ),
      entry(
        "rows: expanded: code",
        "The pattern of the codes.",
        "rows: { each: variant, of: product, expanded: { code: '{key}-{1|first 2|upper}' } }\ncolumns:\n  Key: product.key\n  Woods: { axis: 1, holds: values, as: { list: ', ' } }\n  Axis: { axis: 1, holds: name }",
      ),
      entry(
        "rows: expanded: excluded",
        "The column with combinations that do not exist.",
        "rows: { each: variant, of: product, expanded: { excluded: { column: Not sold, list: '; ', parts: ' / ' } } }\ncolumns:\n  Key: product.key\n  Woods: { axis: Wood, holds: values, as: { list: ', ' } }",
      ),
      entry(
        "rows: language",
        "Every row is in the language that a column names.",
        "rows: { each: product, language: { column: Lang, code words: { E: en, D: de } } }\ncolumns: { Key: product.key, Name: product.name }",
      ),
      entry(
        "rows: element",
        "In documents: the path of the repeated element.",
        "format: { xml: {} }\nrows: { each: product, element: /feed/item }\ncolumns: { '@no': product.key }",
      ),
      entry(
        "rows: child element",
        "In documents: the path of the variants, from the element.",
        "format: { xml: {} }\nrows: { each: variant, of: product, element: /feed/item, child element: forms/form }\ncolumns: { '@no': product.key, forms/form/@sku: variant.code }",
      ),
    ],
  },
  {
    title: "Lanes: repeating rows",
    about: "A lane is a list of entries with rows of their own, such as further prices below the row of a product.",
    entries: [
      entry(
        "lanes",
        "The lanes, by a name of your own.",
        "lanes: { tiers: { entries: product.prices, with: { role: price }, continued when blank: [Key] } }\ncolumns: { Key: product.key, From: { field: tiers.quantityFrom, as: integer }, Each: { field: tiers.amount, as: decimal } }",
      ),
      entry(
        "lanes: LANE: entries",
        "The entries or the list of references of the lane.",
        "lanes: { shots: { entries: product.pictures, continued when blank: [Key] } }\ncolumns: { Key: product.key, Photo: shots.file }",
      ),
      entry(
        "lanes: LANE: with",
        "Fields that are the same in all its entries.",
        "lanes: { shots: { entries: product.pictures, with: { role: main }, continued when blank: [Key] } }\ncolumns: { Key: product.key, Photo: shots.file }",
      ),
      entry(
        "lanes: LANE: continued when blank",
        "A row continues the record above if these cells are blank.",
        "lanes: { shots: { entries: product.pictures, continued when blank: [Key, Name] } }\ncolumns: { Key: product.key, Name: product.name, Photo: shots.file }",
      ),
      entry(
        "lanes: LANE: runs",
        "`beside the rows` of the variants, or `on rows of its own`.",
        "rows: { each: variant, of: product, grouped by: Range }\nlanes: { shots: { entries: product.pictures, continued when blank: [Range, Code], runs: on rows of its own } }\ncolumns: { Range: product.key, Code: variant.code, Photo: shots.file }",
      ),
    ],
  },
  {
    title: "Cells that make other cells",
    about: "Before columns are read, cells can be split, joined, or read out of JSON.",
    entries: [
      entry(
        "cells",
        "The columns that are split, joined or read out of JSON.",
        "cells: { Size: { split: ' x ', into: [W, H] } }\ncolumns: { Key: product.key, W: product.width, H: product.height }",
      ),
      entry(
        "cells: COLUMN: split",
        "The text between the parts.",
        "cells: { Size: { split: ' x ', into: [W, H] } }\ncolumns: { Key: product.key, W: product.width, H: product.height }",
      ),
      entry(
        "cells: COLUMN: into",
        "The names of the columns that the parts become.",
        "cells: { Size: { split: '/', into: [W, H] } }\ncolumns: { Key: product.key, W: product.width, H: product.height }",
      ),
      entry(
        "cells: COLUMN: join",
        "The columns that are joined into this one.",
        "cells: { Full: { join: [Line, Model], with: ' ' } }\ncolumns: { Key: product.key, Full: product.name }",
      ),
      entry(
        "cells: COLUMN: json",
        "Pointers into JSON in the cell, and the columns that they become.",
        "cells: { Texts: { json: { /en: E, /de: D } } }\ncolumns: { Key: product.key, E: product.name@en, D: product.name@de }",
      ),
    ],
  },
];
