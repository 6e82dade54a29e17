/** The words of a project about its sources, and the fields that it adds to them. */

import { capNames, capTable } from "../../caps.js";
import { entry, type ReferenceSection } from "../../layout/reference/entry.js";

export const sourceSections: readonly ReferenceSection[] = [
  {
    title: "The project",
    about: "A project is one file, `project.yaml`. Its paths are relative to it.",
    entries: [
      entry("project", "Its name.", "project: bramblecomb"),
      entry("about", "A note for people.", "about: Our shop for beekeepers."),
      entry(
        "languages",
        "The languages of the shop, the source language first. Missing texts are reported.",
        "languages: [en, de]",
      ),
      entry(
        "currency",
        "The currency of prices whose source names none (ISO 4217). It is shown with prices and not written.",
        "currency: EUR",
      ),
      entry(
        "outside",
        "Folders besides the project's own that its files may lie in. Links are followed first.",
        "outside: [../pictures-of-all-shops]",
      ),
      entry("caps", "How much a source may hold, where it is more than usual.", "caps: { columns: 20000 }"),
      ...capNames.map((name) =>
        entry(
          `caps: ${name}`,
          `The most ${capTable[name].counts}. ${capTable[name].most} if left out.`,
          `caps: { ${name}: ${capTable[name].most * 2} }`,
        ),
      ),
      entry("pictures", "The folder with the picture files.", "pictures: pictures"),
    ],
  },
  {
    title: "Sources",
    about: "Sources are read into one catalogue. Records with the same key become one.",
    entries: [
      entry("sources", "The files and their layouts.", "sources: [{ file: range.csv, layout: range.yaml }]"),
      entry("sources: file", "The file.", "sources: [{ file: lists/march.xlsx, layout: range.yaml }]"),
      entry(
        "sources: within",
        "The file inside a zip archive.",
        "sources: [{ file: march.zip, within: range.csv, layout: range.yaml }]",
      ),
      entry(
        "sources: layout",
        "A layout file, or the name of a layout that comes with Zest Tier.",
        "sources: [{ file: books.json, layout: schema-org }]",
      ),
      entry(
        "sources: language",
        "The language of a translator's file.",
        "sources: [{ file: german.csv, layout: range.yaml, language: de }]",
      ),
      entry(
        "sources: precedence",
        "Where sources disagree, the higher number wins.",
        "sources: [{ file: range.csv, layout: range.yaml, precedence: 2 }]",
      ),
    ],
  },
  {
    title: "Fields and kinds of your own",
    about: "The built-in kinds can have more fields, and there can be more kinds.",
    entries: [
      entry("kinds", "By kind: its further fields.", "kinds: { product: { fields: { hallmark: text } } }"),
      entry(
        "kinds: of",
        "For a kind of your own: the kind that contains it.",
        "kinds: { blend: { fields: { name: text } }, grade: { of: blend, fields: { name: text } } }",
      ),
      entry("kinds: fields", "The fields, each with its type.", "kinds: { product: { fields: { organic: flag } } }"),
      entry(
        "kinds: fields: type",
        "`text`, `code`, `barcode`, `decimal`, `integer`, `flag`, `date` or `file`.",
        "kinds: { product: { fields: { origin: { type: text } } } }",
      ),
      entry(
        "kinds: fields: per language",
        "Whether the text depends on the language.",
        "kinds: { product: { fields: { care: { type: text, per language: true } } } }",
      ),
      entry(
        "kinds: fields: among",
        "The values that are allowed.",
        "kinds: { product: { fields: { season: { among: [spring, autumn] } } } }",
      ),
      entry(
        "kinds: fields: refers to",
        "The kind that a reference leads to.",
        "kinds: { product: { fields: { maker: { refers to: brand } } } }",
      ),
      entry(
        "kinds: fields: dependency",
        "`containing`, `required` (has to exist first) or `linking` (can be set later).",
        "kinds: { product: { fields: { maker: { refers to: brand, dependency: required } } } }",
      ),
      entry(
        "kinds: fields: list",
        "Whether there can be several.",
        "kinds: { product: { fields: { makers: { refers to: brand, list: true } } } }",
      ),
      entry(
        "kinds: fields: missing",
        "A name without a record: `error`, `create` or `hold`.",
        "kinds: { product: { fields: { maker: { refers to: brand, missing: create } } } }",
      ),
    ],
  },
  {
    title: "Derived fields",
    about: "Rules that make fields of other fields. [Deriving fields](../deriving.md) explains them.",
    entries: [
      entry("derive", "The rules, in their order.", 'derive: [{ field: product.shown, constant: "true" }]'),
      entry("derive: field", "The field that the rule makes.", 'derive: [{ field: product.shown, constant: "true" }]'),
      entry(
        "derive: where",
        "A condition, as an [expression](expressions.md).",
        'derive: [{ field: product.shown, constant: "true", where: prices.price > 0 }]',
      ),
      entry(
        "derive: overwrite",
        "Whether the rule replaces a value that exists.",
        'derive: [{ field: product.shown, constant: "true", overwrite: true }]',
      ),
      entry("derive: constant", "The same value for each.", "derive: [{ field: product.tax, constant: standard }]"),
      entry(
        "derive: template",
        "A text with fields in braces and filters behind them.",
        'derive: [{ field: product.code, template: "{key|upper}" }]',
      ),
      entry(
        "derive: expression",
        "An [expression](expressions.md).",
        "derive: [{ field: product.prices(price).amount, expression: prices.cost * 1.9 }]",
      ),
      entry(
        "derive: slug",
        "A web address from a text, each one different.",
        "derive: [{ field: product.slug@en, slug: product.name@en }]",
      ),
      entry(
        "derive: copy",
        "Another field of the record.",
        "derive: [{ field: product.name@de, copy: product.name@en }]",
      ),
      entry(
        "derive: selection",
        "References to all other records that fit, at most 500.",
        "derive: [{ field: product.relations(goes-with).to, selection: 'sort == \"hire\"' }]",
      ),
      entry(
        "derive: mark",
        "With `copy`: a text before it.",
        'derive: [{ field: product.name@de, copy: product.name@en, mark: "[en] " }]',
      ),
      entry(
        "derive: model",
        "The same field of the record with this key.",
        "derive: [{ field: product.description@en, model: orchard-hive }]",
      ),
      entry(
        "derive: tax",
        "An amount with tax added or taken out.",
        'derive: [{ field: product.prices(net).amount, tax: { of: product.prices(price).amount, rate: "19", does: taken out } }]',
      ),
      entry(
        "derive: tax: of",
        "The amount.",
        'derive: [{ field: product.prices(price).amount, tax: { of: product.prices(net).amount, rate: "19", does: added } }]',
      ),
      entry(
        "derive: tax: rate",
        "The rate in percent.",
        'derive: [{ field: product.prices(price).amount, tax: { of: product.prices(net).amount, rate: "7", does: added } }]',
      ),
      entry(
        "derive: tax: does",
        "`added` or `taken out`.",
        'derive: [{ field: product.prices(price).amount, tax: { of: product.prices(net).amount, rate: "7", does: added } }]',
      ),
      entry(
        "derive: look up",
        "A column of a table.",
        'derive: [{ field: product.weight, look up: { in: kilos, by: "{key}", column: Kg } }]\ntables: { kilos: { file: kilos.csv, key: Item } }',
      ),
      entry(
        "derive: look up: in",
        "The name of the table.",
        'derive: [{ field: product.weight, look up: { in: kilos, by: "{key}", column: Kg } }]\ntables: { kilos: { file: kilos.csv, key: Item } }',
      ),
      entry(
        "derive: look up: by",
        "A template for the key of the row.",
        'derive: [{ field: product.weight, look up: { in: kilos, by: "{code|upper}", column: Kg } }]\ntables: { kilos: { file: kilos.csv, key: Item } }',
      ),
      entry(
        "derive: look up: column",
        "The column of the table.",
        'derive: [{ field: product.weight, look up: { in: kilos, by: "{key}", column: Grams } }]\ntables: { kilos: { file: kilos.csv, key: Item } }',
      ),
      entry(
        "derive: places",
        "The number of decimals, rounded half up.",
        "derive: [{ field: product.prices(price).amount, expression: prices.cost * 1.9, places: 2 }]",
      ),
      entry(
        "derive: ending",
        "The next price with this ending.",
        'derive: [{ field: product.prices(price).amount, expression: prices.cost * 1.9, ending: { to: "0.95" } }]',
      ),
      entry(
        "derive: ending: to",
        "The ending, below 1 or 10 or 100.",
        'derive: [{ field: product.prices(price).amount, expression: prices.cost * 1.9, ending: { to: "9.90" } }]',
      ),
      entry(
        "derive: ending: goes",
        "`up`, `down` or to the `nearest`.",
        'derive: [{ field: product.prices(price).amount, expression: prices.cost * 1.9, ending: { to: "0.95", goes: nearest } }]',
      ),
      entry(
        "derive: as",
        "For references: how the text names a record.",
        "derive: [{ field: product.brand, constant: Bramblecomb, as: { by: name@en } }]",
      ),
      entry("tables", "The tables that rules look things up in.", "tables: { kilos: { file: kilos.csv, key: Item } }"),
      entry("tables: file", "A CSV file or a workbook.", "tables: { kilos: { file: kilos.xlsx, key: Item } }"),
      entry("tables: key", "The column by which rows are found.", "tables: { kilos: { file: kilos.csv, key: Item } }"),
      entry(
        "tables: sheet",
        "The sheet of a workbook.",
        "tables: { kilos: { file: kilos.xlsx, key: Item, sheet: Weights } }",
      ),
      entry(
        "tables: delimiter",
        "The delimiter of a CSV file.",
        'tables: { kilos: { file: kilos.csv, key: Item, delimiter: ";" } }',
      ),
      entry(
        "tables: encoding",
        "The encoding of a CSV file.",
        "tables: { kilos: { file: kilos.csv, key: Item, encoding: windows-1252 } }",
      ),
    ],
  },
  {
    title: "Languages",
    about: "Translations that came back, and what happens to missing texts.",
    entries: [
      entry(
        "translations",
        "Translation lists that came back from translators.",
        "languages: [en, de]\ntranslations: [{ file: german.xlf, language: de }]",
      ),
      entry(
        "translations: language",
        "The language of the list.",
        "languages: [en, de]\ntranslations: [{ file: german.xlsx, language: de }]",
      ),
      entry("gaps", "By language: `leave blank` or `hold back`.", "languages: [en, de]\ngaps: { de: hold back }"),
      entry(
        "gaps: copy",
        "A missing text is copied from the source language, with this mark.",
        'languages: [en, de]\ngaps: { de: { copy: "[en] " } }',
      ),
    ],
  },
];
