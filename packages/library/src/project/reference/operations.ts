/** The words of a project about operations and targets. */

import { entry, type ReferenceSection } from "../../layout/reference/entry.js";

export const operationSections: readonly ReferenceSection[] = [
  {
    title: "Operations",
    about: "Changes to the catalogue after reading: see [Reshaping](../reshaping.md).",
    entries: [
      entry(
        "operations",
        "The operations, in their order.",
        "operations: [{ rename: square-veil, of: product, to: veil }]",
      ),
      entry(
        "operations: combine",
        "Several products become one, with a new axis.",
        "operations: [{ combine: [a, b], into: ab, axis: Shape, values: { a: Square, b: Round } }]",
      ),
      entry(
        "operations: split",
        "A product becomes several, one for each value of an axis.",
        "operations: [{ split: gloves, along: Material }]",
      ),
      entry(
        "operations: merge",
        "Records of a kind become one.",
        "operations: [{ merge: [red, rot], of: brand, into: red }]",
      ),
      entry(
        "operations: rename",
        "Another key or other names.",
        "operations: [{ rename: veil, of: product, name: { en: Veil, de: Schleier } }]",
      ),
      entry(
        "operations: move",
        "Categories go below another one.",
        "operations: [{ move: [gloves], under: clothing }]",
      ),
      entry(
        "operations: order",
        "The order of values, or of the axes of products.",
        "operations: [{ order: [small, large], of: value }]",
      ),
      entry(
        "operations: use axis",
        "Products change to another axis.",
        "operations: [{ use axis: Colour, instead of: Color, on: { of: product } }]",
      ),
      entry(
        "operations: split category",
        "Some products of a category go into a new one beside it.",
        "operations: [{ split category: gifts, into: candles, name: { en: Candles }, take: { of: product, where: 'prices.price < 5.0' } }]",
      ),
      entry(
        "operations: replace",
        "A value is replaced on the selected records.",
        "operations: [{ replace: brand, on: { of: product }, from: a, by: b }]",
      ),
      entry(
        "operations: add",
        "Entries are added to a list.",
        "operations: [{ add: categories, on: { of: product, keys: [smoker] }, values: [tools] }]",
      ),
      entry(
        "operations: remove",
        "Entries are removed from a list.",
        "operations: [{ remove: categories, on: { of: product, in: gifts }, values: [gifts] }]",
      ),
      entry(
        "operations: renumber",
        "New codes, by a pattern.",
        "operations: [{ renumber: { of: variant }, pattern: 'BC-{number 4}' }]",
      ),
      entry(
        "operations: make variants of",
        "Products without variants get one.",
        "operations: [{ make variants of: [smoker], axis: Size, value: One }]",
      ),
      entry(
        "operations: make single",
        "Products with one variant become that variant.",
        "operations: [{ make single: [smoker] }]",
      ),
    ],
  },
  {
    title: "Targets",
    about: "The platforms, and what is special about your accounts there.",
    entries: [
      entry("targets", "The targets. The first one is the default.", "targets: [{ target: pennywort }]"),
      entry(
        "targets: target",
        "A [target file](../targets.md), or the name of a target that comes with Zest Tier.",
        "targets: [{ target: saltmarsh }]",
      ),
      entry(
        "targets: ledger",
        "The file that records what is on the platform.",
        "targets: [{ target: pennywort, ledger: shop-1.jsonl }]",
      ),
      entry("targets: settings", "Settings of the account.", "targets: [{ target: tollgate, settings: {} }]"),
      entry(
        "targets: derive",
        "Derived fields for this target only.",
        'targets: [{ target: pennywort, derive: [{ field: product.shown, constant: "true" }] }]',
      ),
      entry(
        "targets: has",
        "What stands in lists of the platform. A name that is not there is a finding.",
        "targets: [{ target: tollgate, has: { units: [piece, metre] } }]",
      ),
      entry(
        "targets: has: LIST: table",
        "The table whose keys are the names.",
        "tables: { units: { file: units.csv, key: Unit } }\ntargets: [{ target: tollgate, has: { units: { table: units } } }]",
      ),
      entry(
        "targets: manual steps",
        "Steps that people do before an upload.",
        "targets: [{ target: pennywort, manual steps: [{ before: items, title: Ask the warehouse about the stock }] }]",
      ),
      entry(
        "targets: manual steps: before",
        "The upload before which it is done.",
        "targets: [{ target: pennywort, manual steps: [{ before: items, title: Close the shop }] }]",
      ),
      entry(
        "targets: manual steps: title",
        "What to do.",
        "targets: [{ target: pennywort, manual steps: [{ before: items, title: Close the shop }] }]",
      ),
      entry(
        "targets: bulk changes",
        "By name: one field that `build --bulk-change NAME` sets on every record.",
        'targets: [{ target: pennywort, bulk changes: { show-all: { field: product.shown, constant: "true" } } }]',
      ),
      entry(
        "targets: changes",
        "What is written where the platform has a value: see [Later imports](../changing.md).",
        "targets: [{ target: pennywort, changes: { only: update } }]",
      ),
      entry(
        "targets: changes: only",
        "Only `create` or only `update` records.",
        "targets: [{ target: pennywort, changes: { only: create } }]",
      ),
      entry(
        "targets: changes: fields",
        "By field: `overwrite`, `fill`, `add` or `leave`.",
        "targets: [{ target: pennywort, changes: { fields: { product.description: fill } } }]",
      ),
      entry(
        "targets: changes: gone",
        "Records that are no longer in your sources: `leave`, `hide`, `retire` or `delete`. Only where the target has an import with `mode: delete` can they be deleted. What other records still name, or what contains others, stays.",
        "targets: [{ target: pennywort, changes: { gone: hide } }]",
      ),
    ],
  },
];
