/** The words of a layout about what stands in a cell. */

import { entry, type ReferenceSection } from "./entry.js";

export const codecSections: readonly ReferenceSection[] = [
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
        "as: decimal: plus",
        "`true`: what is not below 0 is written with a `+`. It is read with or without.",
        "rows: { each: choice }\ncolumns: { Key: choice.key, Adds: { field: choice.surcharge, as: { decimal: ',', plus: true } } }",
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
        "as: parts: holds: ending",
        "What the text of the part before ends with, and the value that each ending stands for. `10%` is a share, `10` an amount.",
        "columns: { Key: product.key, Extras: { field: product.optionGroups, as: { list: ';', of: { parts: ':', holds: [name, { field: choice, as: { list: ',', of: { parts: '=', holds: [name, { field: surcharge, as: { decimal: ., plus: true } }, { field: surchargeIs, ending: { '': amount, '%': percent } }] } } }] } } } }",
      ),
      entry(
        "as: quantity",
        "How many of what: `2 x smoker`. The two fields stand in the order of the text.",
        "columns: { Key: product.key, Set: { field: product.components, as: { list: '; ', of: { quantity: ' x ', holds: [quantity, { field: product, as: { by: key } }] } } } }",
      ),
      entry(
        "as: quantity: side",
        "Whether the quantity is `before` or `behind`, if the order of the fields does not say.",
        "columns: { Key: product.key, Set: { field: product.components, as: { list: '; ', of: { quantity: ' x ', side: behind, holds: [quantity, { field: product, as: { by: key } }] } } } }",
      ),
    ],
  },
];
