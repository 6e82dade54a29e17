/** The words of a target about the columns of its files. */

import { entry, type ReferenceSection } from "../../layout/reference/entry.js";

const rule = (columns: string): string => `files: { goods: { columns: { ${columns} } } }`;

/** For rules that cannot be rehearsed yet where rows are grouped. */
const ofShelves = (columns: string): string =>
  `files: { shelves: { layout: { layout: shelves, rows: { each: category }, columns: { Shelf: category.key, Title: category.name@en, Address: category.slug@en } }, columns: { ${columns} } } }`;

export const ruleSections: readonly ReferenceSection[] = [
  {
    title: "Columns: blanks",
    about: "What a column takes, under `files: NAME: columns`, by its header.",
    entries: [
      entry("required", "A new record needs it.", rule("Title: { required: true }")),
      entry("recommended", "Better filled. Missing ones are counted.", rule("Title: { recommended: true }")),
      entry(
        "blank",
        "What a blank cell does to the stored value: `clear`, `leave`, `refuse`, `generate`, `inherit`.",
        rule("Title: { blank: leave }"),
      ),
      entry(
        "generated from",
        "For `blank: generate`: the column that an address is generated from.",
        ofShelves("Address: { blank: generate, generated from: Title }"),
      ),
      entry(
        "inherits",
        "For `blank: inherit`: the setting of the account.",
        `settings: { tax: { choices: [full, low], preset: full } }\n${ofShelves("Title: { blank: inherit, inherits: tax }")}`,
      ),
      entry(
        "starts as",
        "The value of a new record with a blank cell. Where blank clears, a known record goes back to it. A start that the column itself refuses stays unsaid in changes, and cannot be with `blank: refuse`.",
        rule("Price: { starts as: '0' }"),
      ),
      entry("fixed", "Set only at creation.", ofShelves("Title: { fixed: true }")),
      entry(
        "overwritten by",
        "A connected system that overwrites the value.",
        rule("Price: { overwritten by: the tills }"),
      ),
    ],
  },
  {
    title: "Columns: values",
    about:
      "Rules of a value. `NAME/PART` is a rule of a part of the cell: `Steps/amount: { from: '0' }`. Parts take `required`, `from`, `to`, `places at most`, `characters at most` and `only`.",
    entries: [
      entry("characters at most", "The length in Unicode code points.", rule("Title: { characters at most: 80 }")),
      entry("characters recommended", "A recommended length.", rule("Title: { characters recommended: 60 }")),
      entry(
        "over",
        "What a longer text does: `refuse`, or it is `cut`.",
        rule("Title: { characters at most: 80, over: cut }"),
      ),
      entry("only", "The allowed characters: single ones and ranges.", rule("Code: { only: A-Z0-9- }")),
      entry("trimmed", "No space at either end.", rule("Code: { trimmed: true }")),
      entry("from", "The smallest number.", rule("Price: { from: '0' }")),
      entry("to", "The largest number.", rule("Price: { to: '9999.99' }")),
      entry("places at most", "The most decimals.", rule("Price: { places at most: 2 }")),
      entry("gtin", "A barcode with its check digit.", rule("Barcode: { gtin: true }")),
      entry("picture", "The file name of an uploaded picture.", rule("Pictures: { picture: true }")),
      entry("entries at most", "The most entries of a list.", rule("Goes with: { entries at most: 20 }")),
      entry("once", "No entry of a list twice.", rule("Goes with: { once: true }")),
      entry("deep at most", "The most levels of a path.", rule("Place: { deep at most: 6 }")),
    ],
  },
  {
    title: "Columns: together",
    about: "Rules that look at other cells.",
    entries: [
      entry("above", "Above the number in another column.", rule("Was: { above: Price }")),
      entry("not below", "Not below the number in another column.", rule("Was: { not below: Price }")),
      entry("together with", "Another column that has to be filled too.", rule("Was: { together with: Price }")),
      entry(
        "as many as",
        "As many entries as the list in another column.",
        rule("Picture texts: { as many as: Pictures }"),
      ),
      entry(
        "only if",
        "Only for products whose field has a value.",
        rule("Was: { only if: { field: sort, is: hire } }"),
      ),
      entry(
        "needed if",
        "Needed for products whose field has a value.",
        rule("Was: { needed if: { field: sort, is: hire } }"),
      ),
      entry(
        "needed if: or",
        "Other columns, of which one is enough.",
        rule("Was: { needed if: { field: sort, is: hire, or: [Price] } }"),
      ),
      entry(
        "condition",
        "Anything else, as a condition of the row.",
        rule(
          "Was: { condition: { holds: '!has(prices.was) || prices.was > prices.price * 1.05', otherwise: a discount has to be 5 % at least } }",
        ),
      ),
      entry(
        "condition: holds",
        "A [CEL expression](expressions.md) over the fields of the row's cells. Blank cells are left out; a condition on them is not checked.",
        rule("Price: { condition: { holds: 'prices.price < 1000', otherwise: this shop sells nothing above 1000 } }"),
      ),
      entry(
        "condition: otherwise",
        "The sentence where it is not true.",
        rule("Title: { condition: { holds: 'name.en != code', otherwise: a title is not a code } }"),
      ),
    ],
  },
  {
    title: "Columns: names",
    about: "Rules of columns that name records.",
    entries: [
      entry(
        "in list",
        "The name has to be in a reference list of the platform. The plan sets the list up first.",
        ofShelves("Title: { in list: shelf names }"),
      ),
      entry(
        "in list: joined by",
        "What stands between the names of a path in that list.",
        ofShelves("Title: { in list: { name: shelf names, joined by: '>' } }"),
      ),
      entry(
        "looked up",
        "When its names are looked up, if not as the importer says.",
        rule("Goes with: { looked up: at the end of the file }"),
      ),
      entry(
        "unknown",
        "What an unknown name does, if not as the importer says: `refuse`, `leave out`, `create`.",
        rule("Brand: { unknown: create }"),
      ),
    ],
  },
];
