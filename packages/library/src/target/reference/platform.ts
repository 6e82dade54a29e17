/** The words of a target about the platform: where it takes files, what can be uploaded, what shoppers see. */

import { entry, type ReferenceSection } from "../../layout/reference/entry.js";

export const platformSections: readonly ReferenceSection[] = [
  {
    title: "The platform",
    about: "A target is one file. It describes a platform as its importer behaves.",
    entries: [
      entry("target", "Its name.", "target: harbour"),
      entry("version", "The version of the description.", "version: 2"),
      entry("about", "A note for people.", "about: The shop of the harbour office."),
      entry("languages", "The platform's languages, the main one first.", "languages: [en, de]"),
      entry(
        "endpoints",
        "Where files go, and where the platform shows what it has.",
        "endpoints: { pictures: /pictures, upload: '/imports/{name}', catalogue: /catalogue }",
      ),
      entry(
        "endpoints: pictures",
        "Where the zip archive of pictures goes.",
        "endpoints: { pictures: /media, upload: /in, catalogue: /all }",
      ),
      entry(
        "endpoints: upload",
        "Where a file goes. `{name}` stands for its name.",
        "endpoints: { pictures: /media, upload: '/in/{name}', catalogue: /all }",
      ),
      entry(
        "endpoints: catalogue",
        "Where the platform shows its records.",
        "endpoints: { pictures: /media, upload: /in, catalogue: /all }",
      ),
      entry(
        "endpoints: lists",
        "Where a reference list is set up. `{list}` stands for its name.",
        "endpoints: { pictures: /media, upload: /in, catalogue: /all, lists: '/lists/{list}' }",
      ),
      entry(
        "endpoints: test",
        "Where a file can be tested without saving it.",
        "endpoints: { pictures: /media, upload: /in, catalogue: /all, test: '/tests/{name}' }",
      ),
      entry(
        "before",
        "Manual steps before the first upload.",
        "before: [{ title: Switch the shop to maintenance, why: Shoppers would see half of the range. }]",
      ),
      entry(
        "after",
        "Manual steps after the last upload.",
        "after: [{ title: Build the search index, why: New products are found only afterwards. }]",
      ),
      entry("before: title", "What to do.", "before: [{ title: Make a backup, why: An import cannot be undone. }]"),
      entry("before: why", "Why.", "before: [{ title: Make a backup, why: An import cannot be undone. }]"),
    ],
  },
  {
    title: "Settings of the account",
    about: "The project chooses their values. Columns and their rules follow from them.",
    entries: [
      entry("settings", "By name.", "settings: { stock: { choices: [kept, not kept], preset: kept } }"),
      entry("settings: choices", "The values.", "settings: { stock: { choices: [kept, not kept], preset: kept } }"),
      entry(
        "settings: preset",
        "The value where a project gives none.",
        "settings: { stock: { choices: [kept, not kept], preset: not kept } }",
      ),
      entry(
        "settings: languages",
        "The languages of the account by value, the main one first. `{main}` stands for it in all texts and names, `{other}` for each further one: a column whose name holds it comes once for each.",
        "languages: [en, de]\nsettings: { shop: { choices: [both, German], preset: both, languages: { both: [en, de], German: [de] } } }",
      ),
      entry(
        "settings: drops",
        "The columns that a value removes.",
        "settings: { struck prices: { choices: [on, off], preset: on, drops: { off: [Was] } } }",
      ),
      entry(
        "settings: renames",
        "The columns that a value renames.",
        "settings: { labels: { choices: [old, new], preset: old, renames: { new: { Was: Before } } } }",
      ),
    ],
  },
  {
    title: "Imports",
    about:
      "What can be uploaded. What an import creates, updates and needs first follows from the columns of its file.",
    entries: [
      entry("imports", "In the order in which they are preferred.", "imports: [{ file: goods }]"),
      entry("imports: file", "The file.", "imports: [{ file: goods }]"),
      entry("imports: name", "Its name, if it is not the file's.", "imports: [{ name: everything, file: goods }]"),
      entry(
        "imports: for",
        "Which records: an expression in CEL over their fields. Each record goes into the first import that it fits; one that fits none is an error. What a record does not have fits nothing. Only for `mode: create` of files of records, one import a file.",
        "files:\n  makers:\n    layout: { layout: makers, rows: { each: brand }, columns: { Key: brand.key, Name: brand.name@en } }\nimports: [{ file: makers, for: size(name.en) > 3 }]",
      ),
      entry(
        "imports: mode",
        "`create` creates records and updates known ones, `update` only updates, `mirror` removes records that the file does not name. `delete` removes those that it names: where a project has `gone: delete`, and to set back an upload that created them. Its columns are those that tell which record a row is about.",
        "imports: [{ file: goods }, { name: links, file: goods, mode: update, columns: [Item, Goes with] }]",
      ),
      entry(
        "imports: columns",
        "The columns that are written. All, if left out.",
        "imports: [{ file: goods }, { name: links, file: goods, mode: update, columns: [Item, Goes with] }]",
      ),
      entry(
        "imports: endpoint",
        "Where it goes, if not where the other files go.",
        "imports: [{ file: goods, endpoint: /in/goods }]",
      ),
      entry(
        "imports: why",
        "The reason, for the run sheet.",
        "imports: [{ file: goods }, { name: links, file: goods, mode: update, columns: [Item, Goes with], why: Links need both products. }]",
      ),
    ],
  },
  {
    title: "Exports",
    about: "Files in which the platform tells what it has. Its import files are read as exports without further words.",
    entries: [
      entry(
        "exports",
        "By name.",
        "exports: { stock list: { layouts: [{ layout: stock, format: { csv: {} }, rows: { each: product }, columns: { No: product.key, Name: product.name@en } }] } }",
      ),
      entry(
        "exports: layouts",
        "The layouts. One file may have several: for its sheets, or for the lists of a document.",
        "exports: { all: { layouts: [{ layout: told, format: { json: {} }, rows: { each: product, element: /goods }, columns: { /no: product.key, /name: product.name@en } }] } }",
      ),
    ],
  },
  {
    title: "What a shopper sees",
    about: "A product is visible if all of these are true.",
    entries: [
      entry("visible", "The conditions.", "visible: [{ field: shown, is: 'true', otherwise: it is not shown }]"),
      entry(
        "visible: field",
        "A field of the product.",
        "visible: [{ field: brand, filled: true, otherwise: it has no brand }]",
      ),
      entry(
        "visible: is",
        "The value of the field.",
        "visible: [{ field: sort, is: goods, otherwise: it is not for sale }]",
      ),
      entry(
        "visible: filled",
        "The field has a value.",
        "visible: [{ field: categories, filled: true, otherwise: it is in no category }]",
      ),
      entry(
        "visible: otherwise",
        "The reason for a person.",
        "visible: [{ field: shown, is: 'true', otherwise: it is not shown }]",
      ),
      entry(
        "visible: variant field",
        "A field of its variants.",
        "visible: [{ variant field: prices(price).amount, above: '0', otherwise: it has no price }]",
      ),
      entry(
        "visible: above",
        "The variant's number is above this.",
        "visible: [{ variant field: prices(price).amount, above: '0', otherwise: it has no price }]",
      ),
      entry(
        "visible: in",
        "A tree that the product stands in.",
        "visible: [{ in: categories, all: shown, otherwise: its categories are hidden }]",
      ),
      entry(
        "visible: all",
        "A flag of the category and of all above it.",
        "visible: [{ in: categories, all: shown, otherwise: its categories are hidden }]",
      ),
      entry(
        "visible: entry",
        "An entry of the product or of a variant. It begins with the values of `is` and ends with an amount above 0.",
        "visible: [{ entry: prices, is: [price, '', '', '', '', ''], otherwise: it has no price }]",
      ),
      entry(
        "visible: for a time at",
        "The position of the hire period in the entry, from 0. It may be filled where the product is for hire.",
        "visible: [{ entry: prices, is: [price, '', '', '', '', ''], for a time at: 5, otherwise: it has no price }]",
      ),
      entry(
        "visible: variant",
        "A field of a variant or single.",
        "visible: [{ variant: status, is: selling, above 0: [prices(price).amount], rented above 0: [prices(price).amount], otherwise: no code is for sale }]",
      ),
      entry(
        "visible: above 0",
        "One of these fields is above 0.",
        "visible: [{ variant: status, is: selling, above 0: [prices(price).amount], rented above 0: [prices(price).amount], otherwise: no code is for sale }]",
      ),
      entry(
        "visible: rented above 0",
        "The same for products that are for hire.",
        "visible: [{ variant: status, is: selling, above 0: [prices(price).amount], rented above 0: [prices(price).amount], otherwise: no code is for sale }]",
      ),
    ],
  },
];
