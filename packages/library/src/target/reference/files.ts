/** The words of a target about its files, and about the importer that takes them. */

import { entry, type ReferenceSection } from "../../layout/reference/entry.js";

const ofGoods = (importer: string): string => `files: { goods: { importer: { ${importer} } } }`;
const goods = "files: { goods: { ";

export const fileSections: readonly ReferenceSection[] = [
  {
    title: "Files",
    about: "The files that the platform takes, by name.",
    entries: [
      entry("files", "By name.", `${goods}limits: { products: 100 } } }`),
      entry("files: layout", "A [layout](layout-words.md).", `${goods}layout: { language: en } } }`),
      entry(
        "files: columns",
        "What a column takes, by its header: see below.",
        `${goods}columns: { Title: { required: true } } }}`,
      ),
      entry("files: limits", "The limits of one file.", `${goods}limits: { products: 100, bytes: 4000000 } } }`),
      entry("files: limits: products", "The most products.", `${goods}limits: { products: 100 } } }`),
      entry("files: limits: bytes", "The most bytes.", `${goods}limits: { bytes: 4000000 } } }`),
      entry(
        "files: limits: axes recommended",
        "A recommended number of axes.",
        `${goods}limits: { axes recommended: 2 } } }`,
      ),
      entry("files: importer", "What differs from the importer of all files.", ofGoods("missing pictures: left out")),
      entry("files: endpoint", "Where it goes.", `${goods}endpoint: /in/goods } }`),
      entry("files: must have", "Columns without which the file is refused.", `${goods}must have: [Item, Code] } }`),
      entry(
        "files: entry key",
        "For files with an entry per row: the columns that identify an entry of a record.",
        "files: { stocks: { entry key: [Place], layout: { layout: stocks, rows: { each: product, found by: { column: Of, names: id } }, lanes: { stocks: { entries: product.stock } }, columns: { Place: stocks.location, Count: stocks.quantity } } } }",
      ),
      entry(
        "files: each",
        "The kinds that `{kind}` in the layout stands for.",
        "files: { labels: { each: [brand, axis], layout: { layout: 'labels-{kind}', rows: { each: '{kind}', found by: { column: Id, names: id } }, columns: { Title: '{kind}.name@en' } } } }",
      ),
      entry(
        "files: more",
        "Layouts of the same columns for rows of other kinds.",
        "files: { labels: { layout: { layout: labels, rows: { each: brand, found by: { column: Id, names: id } }, columns: { Title: brand.name@en } }, more: [{ layout: { layout: more-labels, rows: { each: axis, found by: { column: Id, names: id } }, columns: { Title: axis.name@en } } }] } }",
      ),
      entry(
        "files: languages",
        "A file for each language. `{lang}` in the layout stands for it.",
        "files: { texts: { languages: [de, fr], layout: { layout: 'texts-{lang}', rows: { each: product, found by: { column: Id, names: id } }, columns: { Title: 'product.name@{lang}' } } } }",
      ),
      entry("files: ids", "How the platform's ids are learned.", `${goods}ids: { told: report } } }`),
      entry(
        "files: ids: told",
        "In the `report` of an upload, or in an `export`.",
        `${goods}ids: { told: report } } }`,
      ),
      entry(
        "files: ids: export",
        "Where the export is.",
        `${goods}ids: { told: export, export: /exports/goods, layout: { layout: ids, rows: { each: product }, columns: { No: product.id, Item: product.key } } } } }`,
      ),
      entry(
        "files: ids: layout",
        "How the export, or the report, is read: a record that it tells with an id was taken. A report without a layout is JSON: `rows` with `line`, `outcome` and `id`.",
        `${goods}ids: { told: report, layout: { layout: ids, rows: { each: product }, columns: { No: product.id, Item: product.key } } } } }`,
      ),
      entry(
        "files: ids: matched by",
        "How a record of the export or the report is matched: `key`, `code`, `name`, `path`, in this order.",
        `${goods}ids: { told: export, export: /exports/goods, matched by: [key, name], layout: { layout: ids, rows: { each: product }, columns: { No: product.id, Item: product.key } } } } }`,
      ),
    ],
  },
  {
    title: "The importer",
    about:
      "How the importer processes files: for all files under `importer`, for one under `files: NAME: importer`. The first value is used if the word is left out. Values that the rehearsal cannot play yet are refused at their line.",
    entries: [
      entry("importer", "For all files.", "importer: { at an error: go on }"),
      entry(
        "importer: refusal costs",
        "What is refused together with a wrong row: the `row`, the `record` with all its rows, the `file`.",
        ofGoods("refusal costs: record"),
      ),
      entry("importer: at an error", "`go on` with the next row, or `stop`.", ofGoods("at an error: go on")),
      entry(
        "importer: header",
        "Columns are in `any order` and may be left out, or all of them are there `as it is` in the layout.",
        ofGoods("header: any order"),
      ),
      entry(
        "importer: identified by",
        "How it identifies the record of a row: by kind, the ways in order.",
        ofGoods("identified by: { product: [key], variant: [code] }"),
      ),
      entry(
        "importer: known record",
        "A record that is there already: `update`, `refuse`, `skip`.",
        ofGoods("known record: update"),
      ),
      entry(
        "importer: unknown id",
        "A row with an id that is not there: `refuse`, `create`.",
        ofGoods("unknown id: refuse"),
      ),
      entry(
        "importer: lists",
        "A list in a cell `replace`s the list that is there, or `add`s to it.",
        ofGoods("lists: replace"),
      ),
      entry(
        "importer: children not named",
        "Variants of a known product that the file does not name: `kept`, `deleted`.",
        ofGoods("children not named: kept"),
      ),
      entry(
        "importer: child of another parent",
        "A row with a code of another product: `refuse`, or it `moves`.",
        ofGoods("child of another parent: moves"),
      ),
      entry(
        "importer: parent without children",
        "A product whose last variant has moved away: `kept`, `deleted`, `refuse`.",
        ofGoods("parent without children: deleted"),
      ),
      entry(
        "importer: axes of a known parent",
        "The axes of a known product: they `must match`, or the file may `replace` them.",
        ofGoods("axes of a known parent: replace"),
      ),
      entry(
        "importer: shared cells below the first row",
        "A product's cell filled below its first row: `refuse`, `ignore`.",
        ofGoods("shared cells below the first row: ignore"),
      ),
      entry(
        "importer: missing pictures",
        "A picture that was not uploaded: `refuse` the row, `left out`, or `awaited`. Where all files await them, the plan uploads pictures after the files.",
        ofGoods("missing pictures: left out"),
      ),
      entry(
        "importer: looked up",
        "When names of other records are looked up: `as rows arrive`, `at the end of the file`, `before the file`, `after the import`. The plan puts first what has to be there.",
        ofGoods("looked up: at the end of the file"),
      ),
      entry(
        "importer: unknown names",
        "A name that no record has: `refuse` the row, `leave out` the name, `create` the record.",
        ofGoods("unknown names: leave out"),
      ),
    ],
  },
];
