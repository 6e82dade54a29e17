/**
 * Every word of a layout with its meaning and one example: for docs/reference/layout-words.md. A test loads each example.
 *
 * An example is a part of a layout. What it leaves out is as in `baseLayout`.
 */

export interface ReferenceEntry {
  /** As it is written: `format: csv: delimiter`. The last part is the word itself. */
  readonly word: string;
  readonly means: string;
  readonly example: string;
}

/** A part of a reference. */
export interface ReferenceSection {
  readonly title: string;
  readonly about: string;
  readonly entries: readonly ReferenceEntry[];
}

/** What examples leave out. */
export const baseLayout = "layout: example\nrows: { each: product }\ncolumns: { Key: product.key }\n";

const entry = (word: string, means: string, example: string): ReferenceEntry => ({ word, means, example });

/** Every word of a layout, with an example, by section. */
export const layoutReference: readonly ReferenceSection[] = [
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
        "header: { notes: [Range list, Prices with tax] }",
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
  {
    title: "Cells: as",
    about: "Besides these, `as` takes `text`, `integer` and `decimal` (with a point).",
    entries: [
      entry(
        "as: decimal",
        "Exact decimals, by the decimal sign.",
        "columns: { Key: product.key, Kg: { field: product.weight, as: { decimal: ',' } } }",
      ),
      entry(
        "as: decimal: sign",
        "A sign that may be in the cell, such as a currency. It is not written.",
        "columns: { Key: product.key, Price: { field: product.prices(price).amount, as: { decimal: ',', sign: € } } }",
      ),
      entry(
        "as: decimal: places",
        "The number of decimals when writing.",
        "columns: { Key: product.key, Price: { field: product.prices(price).amount, as: { decimal: ',', places: 2 } } }",
      ),
      entry(
        "as: decimal: thousands",
        "The sign between thousands.",
        "columns: { Key: product.key, Price: { field: product.prices(price).amount, as: { decimal: ',', thousands: . } } }",
      ),
      entry(
        "as: measure",
        "A number with a unit, by the factor to the unit of the field. The first is written.",
        "columns: { Key: product.key, Weight: { field: product.weight, as: { measure: { kg: '1', g: '0.001' } } } }",
      ),
      entry(
        "as: measure: bare",
        "The unit of a number without one.",
        "columns: { Key: product.key, Weight: { field: product.weight, as: { measure: { kg: '1', g: '0.001' }, bare: g } } }",
      ),
      entry(
        "as: code words",
        "Agreed words for values.",
        "columns: { Key: product.key, Web: { field: product.shown, as: { code words: { yes: true, no: false } } } }",
      ),
      entry(
        "as: date",
        "Dates, by one or more patterns. The first is written.",
        "columns: { Key: product.key, Until: { field: product.prices(offer).until, as: { date: [DD.MM.YYYY, YYYY-MM-DD] } } }",
      ),
      entry(
        "as: markup",
        "Text in HTML with p and br.",
        "columns: { Key: product.key, Html: { field: product.description, as: { markup: text } } }",
      ),
      entry(
        "as: markup: other elements",
        "Other HTML elements are `refused` or `dropped`.",
        "columns: { Key: product.key, Html: { field: product.description, as: { markup: text, other elements: dropped } } }",
      ),
      entry(
        "as: between",
        "A fixed beginning and ending.",
        "columns: { Key: product.key, Order: { field: product.position, as: { between: ['no. ', ''], of: integer } } }",
      ),
      entry(
        "as: list",
        "A list, by its separator.",
        "columns: { Key: product.key, Photos: { field: product.pictures.file, as: { list: ', ' } } }",
      ),
      entry(
        "as: list: escape",
        "The character before a separator that belongs to an entry.",
        "columns: { Key: product.key, Photos: { field: product.pictures.file, as: { list: +, escape: \\ } } }",
      ),
      entry(
        "as: list: blanks",
        "Whether entries may be blank.",
        "columns: { Key: product.key, Photos: { field: product.pictures.file, as: { list: '|', blanks: true } } }",
      ),
      entry(
        "as: path",
        "A path of categories, by the text between its levels.",
        "columns: { Key: product.key, Shelf: { field: product.categories, as: { path: ' / ', by: name }, missing: create } }",
      ),
      entry(
        "as: path: root",
        "The word at the beginning of every path.",
        "columns: { Key: product.key, Shelf: { field: product.categories, as: { path: '>', by: name, root: Shop }, missing: create } }",
      ),
      entry(
        "as: by",
        "How a record is named: `key`, `code`, `id` or `name@en`. `code or key` tries several.",
        "columns: { Key: product.key, Goes with: { field: product.relations(goes-with).to, as: { by: key } } }",
      ),
      entry(
        "as: parts",
        "An entry in parts, by the text between them.",
        "columns: { Key: product.key, Tier: { field: product.prices(price), as: { parts: ':', holds: [quantityFrom, amount] } } }",
      ),
      entry(
        "as: parts: holds",
        "The field of each part.",
        "columns: { Key: product.key, Tier: { field: product.prices(price), as: { parts: ':', holds: [quantityFrom, { field: amount, as: { decimal: ',' } }] } } }",
      ),
      entry(
        "as: quantity",
        "How many of what: `2 x smoker`.",
        "columns: { Key: product.key, Set: { field: product.components, as: { list: '; ', of: { quantity: ' x ', holds: [quantity, { field: product, as: { by: key } }] } } } }",
      ),
      entry(
        "as: quantity: side",
        "Whether the quantity is `before` or `behind`.",
        "columns: { Key: product.key, Set: { field: product.components, as: { list: '; ', of: { quantity: ' x ', side: behind, holds: [quantity, { field: product, as: { by: key } }] } } } }",
      ),
    ],
  },
];
