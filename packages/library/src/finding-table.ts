/**
 * Every finding there is: its severity, what it says, what to do. The one place where their text is made.
 *
 * `says` makes one sentence of the facts; places are shown beside it and need no words here. docs/findings.md is made from this.
 */

import type { Severity } from "./finding.js";

interface Entry<F> {
  readonly severity: Severity;
  readonly says: (facts: F) => string;
  readonly remedy: string;
}

const error = <F = object>(says: (facts: F) => string, remedy: string): Entry<F> => ({
  severity: "error",
  says,
  remedy,
});
const warning = <F = object>(says: (facts: F) => string, remedy: string): Entry<F> => ({
  severity: "warning",
  says,
  remedy,
});
const note = <F = object>(says: (facts: F) => string, remedy: string): Entry<F> => ({ severity: "note", says, remedy });

const quoted = (text: string): string => (text === "" ? "nothing" : `"${text}"`);
const didYouMean = (nearest: string | undefined): string =>
  nearest === undefined ? "" : `; did you mean "${nearest}"?`;
const nearestOf = (nearest: readonly string[]): string =>
  nearest.length === 0 ? "" : `; nearest: ${nearest.map(quoted).join(", ")}`;
const insteadIs = (instead: string | undefined): string => (instead === undefined ? "" : `; instead: ${instead}`);
const some = (count: number, one: string, many = `${one}s`): string => `${count} ${count === 1 ? one : many}`;

type CellFacts = { readonly text: string; readonly wanted: string };
type ReferenceFacts = {
  readonly to: string;
  readonly by: string;
  readonly text: string;
  readonly unknown: string;
  readonly nearest: readonly string[];
};
type ColumnFacts = { readonly column: string; readonly target: string };

export const findingTable = {
  "findings/more": note(
    (f: { code: string; more: number }) => `${f.more} more of ${f.code} are not listed`,
    "Repair what is listed and run again.",
  ),

  // Files written by hand.
  "given/not-yaml": error(
    (f: { problem: string }) => `is not YAML: ${f.problem}`,
    "Mend the line; indents are spaces, and texts with : or # go in quotes.",
  ),
  "given/too-large": error((f: { most: number }) => `is longer than ${f.most} characters`, "Is it the right file?"),
  "given/unknown-word": error(
    (f: { word: string; inside: string; nearest: string | undefined }) =>
      `"${f.word}" means nothing in ${f.inside}${didYouMean(f.nearest)}`,
    "Correct or remove the word.",
  ),
  "given/wrong-value": error(
    (f: { inside: string; problem: string }) => `${f.inside}: ${f.problem}`,
    "Give a value of the form that is asked for.",
  ),
  "layout/mistake": error(
    (f: { problem: string; nearest: string | undefined }) => `${f.problem}${didYouMean(f.nearest)}`,
    "Correct the layout.",
  ),
  "target/mistake": error(
    (f: { problem: string; nearest: string | undefined }) => `${f.problem}${didYouMean(f.nearest)}`,
    "Correct the target.",
  ),
  "project/missing": error(
    (_: object) => "there is no project file",
    "Name a project file, or a folder that has a project.yaml. zest-tier demo makes one to look at.",
  ),
  "project/mistake": error(
    (f: { problem: string; nearest: string | undefined }) => `${f.problem}${didYouMean(f.nearest)}`,
    "Correct the project file.",
  ),

  // Reading files.
  "read/missing-file": error((_: object) => "is not there", "Check the name in the project file."),
  "read/unreadable": error(
    (f: { reason: string }) => `cannot be read: ${f.reason}`,
    "Check what it is and whether you may read it.",
  ),
  "read/folder": error((_: object) => "is a folder, not a file", "Name the file in it."),
  "read/empty-file": error((_: object) => "is empty", "Ask for the file again, or leave the source out."),
  "read/header-only": error(
    (_: object) => "has a header and no rows",
    "Ask for the file again, or leave the source out.",
  ),
  "read/wrong-encoding": error(
    (f: { encoding: string; byte: number }) => `is not ${f.encoding}: byte ${f.byte} does not fit`,
    "Say which encoding it is in the layout, under format / csv / encoding: windows-1252 for most old exports.",
  ),
  "read/open-quote": error(
    (_: object) =>
      "has a quote that is never closed or stands in the middle of a cell; the line was read without quotes",
    "Close or double the quote.",
  ),
  "read/gave-up": error(
    (_: object) => "has so many broken quotes that what is below was not read",
    "Is the quote character right in the layout?",
  ),
  "read/too-many-columns": error(
    (f: { columns: number; most: number }) => `has ${f.columns} columns; ${f.most} are read`,
    "Is the delimiter right in the layout?",
  ),
  "read/no-column-known": error(
    (f: { layout: string; found: string }) =>
      `none of its columns is in layout ${f.layout}; its header begins ${quoted(f.found)}`,
    "Is it the right file, and is the delimiter right in the layout?",
  ),
  "read/column-missing": error(
    (f: { header: string; layout: string; nearest: string | undefined }) =>
      `has no column "${f.header}", which layout ${f.layout} reads${didYouMean(f.nearest)}`,
    "Correct the header or the layout.",
  ),
  "read/column-repeated": error(
    (_: object) => "this header comes twice; only the first was read",
    "Rename one of the two.",
  ),
  "read/column-unbound": note(
    (f: { layout: string }) => `is not in layout ${f.layout} and was not read`,
    'Bind it, or list it under "ignore".',
  ),
  "read/encoding-guessed": note(
    (f: { encoding: string }) => `read as ${f.encoding}, as its bytes suggest`,
    'If letters came out wrong, say "encoding" in the layout.',
  ),
  "read/mixed-line-ends": note(
    (_: object) => "lines end in two ways in this file, from here on in the other",
    "It was put together from two files, or edited on two machines; check that both parts are whole.",
  ),
  "read/xml-broken": error(
    (f: { problem: string }) => `is no XML from here on: ${f.problem}`,
    "Correct the file where it was made; nothing behind this line was read.",
  ),
  "read/json-broken": error(
    (f: { problem: string }) => `is no JSON: ${f.problem}`,
    "Correct the file where it was made; nothing behind this was read.",
  ),
  "read/zip-broken": error(
    (f: { problem: string }) => `was not unpacked: ${f.problem}`,
    "Get the archive again from its source.",
  ),
  "read/not-in-zip": error(
    (f: { name: string; names: readonly string[] }) => `${f.name} is not in the archive; in it: ${f.names.join(", ")}`,
    'Name one of them under "within" in the project.',
  ),
  "read/workbook-broken": error(
    (f: { problem: string }) => `is no workbook that can be read: ${f.problem}`,
    "Open it in a spreadsheet and save it again.",
  ),
  "read/which-sheet": error(
    (f: { wanted: string; names: readonly string[] }) =>
      `${f.wanted}; the sheets are ${f.names.map(quoted).join(", ")}`,
    'Name one of them in the layout under "workbook: sheet".',
  ),
  "read/hidden": note(
    (f: { what: string; count: number; isRead: boolean }) =>
      `${some(f.count, `hidden ${f.what}`)} ${f.isRead ? "read like the others" : "left out"}`,
    'Say "hidden rows" in the layout if it should be otherwise.',
  ),
  "read/merged-cells": note(
    (f: { count: number; isRepeated: boolean }) =>
      `${some(f.count, "merged range")}: what they show ${f.isRepeated ? "was read in each of their cells" : "was read in the first of their cells only"}`,
    'Say "merged cells" in the layout if it should be otherwise.',
  ),
  "read/sheets-left": note(
    (f: { names: readonly string[] }) => `not read: ${f.names.map(quoted).join(", ")}`,
    "Add a source for a sheet that is needed.",
  ),
  "cell/formula-error": error(
    (f: { shown: string }) => `the formula of this cell ended in ${f.shown}`,
    "Correct the formula, or put the value in its place.",
  ),
  "cell/formula-without-result": error(
    (_: object) => "the formula of this cell has no result in the file",
    "Open the workbook in a spreadsheet, let it calculate, and save it.",
  ),
  "cell/turned-into-date": error(
    (f: { shown: string; stored: string }) =>
      `a spreadsheet has turned this cell into the date ${f.stored} (shown as ${quoted(f.shown)})`,
    "Type the text again in a column formatted as text.",
  ),
  "cell/number-cut": error(
    (f: { number: string }) => `is stored as the number ${f.number}, which the layout would cut in two`,
    "Format the column as text at its source, or give the list another separator.",
  ),
  "cell/shown-otherwise": warning(
    (f: { shown: string; stored: string; count: number }) =>
      `${some(f.count, "cell")} stored as a number and shown otherwise, such as ${quoted(f.stored)} shown as ${quoted(f.shown)}; read as stored`,
    'If leading zeros belong to it, say "mend: { pad: … }" in the layout; better, format the column as text at its source.',
  ),
  "read/no-element": error(
    (f: { element: string }) => `there is nothing at ${quoted(f.element)}`,
    'Correct the path under "element" in the layout. Names with a prefix need it, names without one must have none.',
  ),
  "read/nothing-there": note(
    (f: { layout: string }) => `no element has anything here; layout ${f.layout} binds it`,
    "Nothing to do if that is meant; else correct the path in the layout.",
  ),
  "read/ragged-row": error(
    (f: { cells: number; headers: number }) => `the row has ${some(f.cells, "cell")}, the header ${f.headers}`,
    "A cell too many holds the delimiter without quotes; too few were cut off.",
  ),
  "read/cell-too-long": error(
    (f: { chars: number; most: number }) => `the cell holds ${f.chars} characters; ${f.most} are read`,
    "Is a quote missing above?",
  ),
  "read/row-without-group": error(
    (_: object) => "the row does not say which record it belongs to",
    "Fill the cell that groups rows.",
  ),
  "read/row-above-all": error(
    (_: object) => "the row continues one above it, and there is none",
    "Move it below its record.",
  ),
  "read/orphan-row": error(
    (f: { names: string }) => `the row belongs to ${quoted(f.names)}, which is not in this file`,
    "Correct the word, or add its record.",
  ),
  "read/no-key": error((f: { kind: string }) => `the ${f.kind} has nothing to know it by`, "Fill its key."),
  "read/scattered-group": error(
    (f: { group: string }) => `the rows of "${f.group}" do not stand together`,
    'Sort the file, or say "groups: scattered" in the layout if it is meant.',
  ),
  "read/group-too-large": error(
    (f: { group: string; most: number }) =>
      `"${f.group}" has more than ${f.most} rows; from here on they were left out`,
    "Is it the right file, and the right column that groups rows?",
  ),
  "read/repeated-key": error(
    (f: { kind: string; key: string }) => `there is a ${f.kind} "${f.key}" already`,
    "One of the two needs another key.",
  ),
  "read/cell-not-used": error(
    (f: { feeds: string; rowOf: string }) =>
      `this cell would be lost: nothing on this row (of a ${f.rowOf.replaceAll("-", " ")}) takes ${f.feeds}`,
    "Move it to the row of its record, or fill the cell that it belongs to (a name before its translation).",
  ),
  "read/cells-disagree": error(
    (f: { here: string; first: string }) =>
      `says ${quoted(f.here)} where the record's first row says ${quoted(f.first)}`,
    "Keep one of the two.",
  ),
  "read/stale-translation": warning(
    (f: { here: string; first: string }) => `was translated from ${quoted(f.here)}; now it is ${quoted(f.first)}`,
    "Have it translated again.",
  ),
  "read/sources-disagree": error(
    (f: { here: string; first: string }) =>
      `says ${quoted(f.here)} where another source says ${quoted(f.first)}, and neither has precedence`,
    'Correct one of them, or give one source the higher "precedence" in the project.',
  ),
  "read/source-overruled": warning(
    (f: { stays: string; goes: string }) =>
      `two sources disagree: ${quoted(f.stays)} stays by precedence, ${quoted(f.goes)} goes`,
    "Nothing to do if the right one stays.",
  ),
  "read/found-none": warning(
    (f: { kind: string; names: string; text: string; nearest: readonly string[] }) =>
      `no ${f.kind} has the ${f.names} ${quoted(f.text)}; the row was left out${nearestOf(f.nearest)}`,
    'Correct the cell, add the record, or say "otherwise: ignored" in the layout if such rows are expected.',
  ),
  "read/found-several": error(
    (f: { kind: string; names: string; text: string; count: number }) =>
      `${f.count} records have the ${f.names} ${quoted(f.text)}; the row was left out`,
    "Name the record by something that only it has.",
  ),
  "read/rows-ignored": note(
    (f: { rows: number; why: string }) => `${some(f.rows, "row")} not read: ${f.why}`,
    "Nothing to do if that is meant.",
  ),
  "read/unknown-language": error(
    (f: { word: string; known: string }) => `${quoted(f.word)} is no language of this layout; there are ${f.known}`,
    "Correct the cell, or add the word in the layout.",
  ),
  "read/mended": note(
    (f: { mend: string; count: number; before: string; after: string }) =>
      `${some(f.count, "cell")} mended (${f.mend}), such as ${quoted(f.before)} to ${quoted(f.after)}`,
    "Nothing to do; the source could be corrected.",
  ),
  "read/excluded-unknown": error(
    (f: { combination: string }) => `${quoted(f.combination)} is left out, but is no combination of the values listed`,
    "Correct the combination.",
  ),
  "cell/not-cut": error((f: CellFacts) => `${quoted(f.text)} is not ${f.wanted}`, "Correct the cell, or the layout."),
  "cell/not-a-measure": error(
    (f: CellFacts) => `${quoted(f.text)} is not ${f.wanted}`,
    "Correct the cell, or add the unit in the layout.",
  ),
  "cell/too-many-parts": error(
    (f: CellFacts) => `${quoted(f.text)} has more than ${f.wanted}`,
    "Correct the cell, or the parts in the layout.",
  ),
  "cell/other-markup": error(
    (f: CellFacts) => `${quoted(f.text)} is not ${f.wanted}`,
    'Correct the markup, or say "other elements: dropped" in the layout.',
  ),
  "read/value-without-axis": error(
    (f: { value: string; axis: number }) => `${quoted(f.value)} is a value, but the product has no axis ${f.axis}`,
    "Name the axis, or empty the cell.",
  ),
  "read/not-parallel": error(
    (f: { beside: string }) => `does not run parallel to "${f.beside}": as many paths, each as deep`,
    "Give each path in both columns.",
  ),

  // Cells that do not hold what they should.
  "cell/not-a-decimal": error(
    (f: CellFacts) => `${quoted(f.text)} is not ${f.wanted}`,
    "Correct the cell, or the decimal sign in the layout.",
  ),
  "cell/thousands": error(
    (f: CellFacts) =>
      `${quoted(f.text)} has a sign between its thousands, or the wrong decimal sign; ${f.wanted} is read`,
    'Correct the cell, or say "thousands" in the layout.',
  ),
  "cell/other-sign": error(
    (f: CellFacts) => `${quoted(f.text)} holds more than ${f.wanted}`,
    'Take the sign out, or say "sign" in the layout.',
  ),
  "cell/scientific": error(
    (f: CellFacts) => `${quoted(f.text)} was written by a spreadsheet; the digits behind are lost`,
    "Get the number again from its source, in a column formatted as text.",
  ),
  "cell/not-an-integer": error((f: CellFacts) => `${quoted(f.text)} is not ${f.wanted}`, "Correct the cell."),
  "cell/not-a-word": error(
    (f: CellFacts) => `${quoted(f.text)} is not ${f.wanted}`,
    'Correct the cell, or add the word in the layout under "words".',
  ),
  "cell/not-a-date": error(
    (f: CellFacts) => `${quoted(f.text)} is not ${f.wanted}`,
    "Correct the cell, or the pattern in the layout.",
  ),
  "cell/empty-entry": error(
    (f: CellFacts) => `${quoted(f.text)} has an empty entry`,
    "Take out the separator that is too many.",
  ),
  "cell/bad-escape": error((f: CellFacts) => `${quoted(f.text)}: ${f.wanted}`, "Correct the cell."),
  "cell/no-beginning": error(
    (f: CellFacts) => `${quoted(f.text)} is not ${f.wanted}`,
    "Correct the cell, or the fixed part in the layout.",
  ),
  // References.
  "resolve/dangling": error(
    (f: ReferenceFacts) =>
      `there is no ${f.to} ${quoted(f.text)}${f.unknown === f.text ? "" : ` (${quoted(f.unknown)} is not known)`}${nearestOf(f.nearest)}`,
    'Correct the word, add the record, or say "missing: create" in the layout.',
  ),
  "resolve/held": warning(
    (f: ReferenceFacts) => `there is no ${f.to} ${quoted(f.text)}; the record is held back${nearestOf(f.nearest)}`,
    "Correct the word, or add the record.",
  ),
  "resolve/ambiguous": error(
    (f: { to: string; by: string; text: string; candidates: readonly string[] }) =>
      `${quoted(f.text)} names more than one ${f.to}: ${f.candidates.map(quoted).join(", ")}`,
    "Name it by its key or its whole path.",
  ),
  "resolve/statements-disagree": error(
    (f: { kind: string; key: string; field: string; here: string; first: string }) =>
      `says that ${f.field} of ${f.kind} "${f.key}" is ${quoted(f.here)}; elsewhere it is ${quoted(f.first)}`,
    "Settle on one of the two.",
  ),
  "resolve/told-otherwise": error(
    (f: { kind: string; key: string }) =>
      `tells ${f.kind.replaceAll("-", " ")} "${f.key}" with other content than another cell; each product would get the content of both`,
    "Give the two names of their own, such as the product's name before them, or make their content the same.",
  ),
  "resolve/created": note(
    (f: { kind: string; count: number; examples: readonly string[] }) =>
      `${some(f.count, `${f.kind} is`, `${f.kind} records are`)} made because rows name them: ${f.examples.join(", ")}${f.count > f.examples.length ? " …" : ""}`,
    "Look whether each is meant.",
  ),

  // The catalogue by itself.
  "check/repeated-code": error(
    (f: { code: string; count: number }) => `code "${f.code}" is on ${some(f.count, "record")}; the last one would win`,
    "Give each its own code.",
  ),
  "check/no-code": error((f: { kind: string }) => `the ${f.kind} has no code`, "Give it one."),
  "check/look-alike-values": warning(
    (f: { axis: string; one: string; other: string }) =>
      `${f.axis} has "${f.one}" and "${f.other}"; shoppers would see both`,
    "Write the value in one way everywhere.",
  ),
  "check/missing-value": error(
    (f: { axis: string }) => `the variant has no value for ${quoted(f.axis)}`,
    "Fill the cell.",
  ),
  "check/repeated-combination": error(
    (f: { values: string }) => `another variant of the product is ${quoted(f.values)} too`,
    "Tell the two apart, or take one out.",
  ),
  "check/missing-combinations": note(
    (f: { present: number; possible: number; examples: readonly string[] }) =>
      `${f.present} of ${f.possible} combinations are there; missing: ${f.examples.join("; ")}${f.possible - f.present > f.examples.length ? " …" : ""}`,
    "Nothing to do if they are not made.",
  ),
  "check/barcode": error(
    (f: { barcode: string; problem: string }) => `${quoted(f.barcode)} is no GTIN: ${f.problem}`,
    "Get the number again from its source, in a column formatted as text.",
  ),
  "check/struck-not-above": error(
    (f: { price: string; struck: string }) => `the struck-through price ${f.struck} is not above the price ${f.price}`,
    "Correct one of the two, or empty the struck-through price.",
  ),
  "check/sale-not-below": error(
    (f: { sale: string; price: string }) => `the sale price ${f.sale} is not below the price ${f.price}`,
    "Correct one of the two, or empty the sale price.",
  ),
  "check/below-cost": warning(
    (f: { role: string; price: string; cost: string }) => `the ${f.role} price ${f.price} is below the cost ${f.cost}`,
    "Correct one of the two; a price in another currency or with another tax basis is a usual cause.",
  ),
  "check/no-cost": warning(
    (f: { price: string }) => `others have a cost, this one has only the price ${f.price}`,
    "Ask for the cost.",
  ),
  "check/short-code": warning(
    (f: { code: string; width: number }) =>
      `code "${f.code}" is shorter than the ${f.width} digits of the others: a spreadsheet has taken its leading zeros`,
    'Get it again from its source, or say "mend: { pad: … }" in the layout.',
  ),
  "check/damaged-text": warning(
    (f: { field: string; text: string; damage: string; right: string | undefined }) =>
      `${f.field} ${quoted(f.text)} holds ${f.damage}${f.right === undefined ? "" : `; it should be ${quoted(f.right)}`}`,
    'Get it again from its source, or say "mend" in the layout where there is one for it.',
  ),
  "check/half-character": error(
    (f: { field: string }) => `${f.field} holds half of a character, which no file can hold`,
    "Type the text again. Programs that cut texts at a length sometimes cut a character in two.",
  ),
  "check/missing-translation": warning(
    (f: { fields: readonly string[]; lang: string }) => `has no ${f.fields.join(", ")} in ${f.lang}`,
    "Have it translated, or derive it from another language with a mark.",
  ),
  "check/repeated-slug": error(
    (f: { slug: string; kind: string }) => `another ${f.kind} has the slug "${f.slug}" too`,
    "Give each its own, or derive them: derived slugs are told apart.",
  ),
  "check/repeated-tier": error(
    (f: { from: string; group: string }) => `there are two prices from ${f.from} for ${f.group}`,
    "Take one out.",
  ),
  "check/picture-missing": error(
    (f: { file: string }) => `picture "${f.file}" is not in the picture folder`,
    "Put the file there, or correct its name.",
  ),
  "check/picture-unused": note(
    (f: { count: number; examples: readonly string[] }) =>
      `${some(f.count, "picture")} in the folder, used by no record: ${f.examples.join(", ")}`,
    "Nothing to do if they are left-overs.",
  ),
  "check/related-to-itself": warning(
    (f: { relation: string }) => `the product is related to itself (${f.relation})`,
    "Take itself out of the list.",
  ),

  "check/unknown-word": error(
    (f: { field: string; word: string; among: readonly string[]; nearest: string | undefined }) =>
      `${f.field} is ${quoted(f.word)}; it takes ${f.among.join(", ")}${didYouMean(f.nearest)}`,
    'Correct the word, or say in the layout under "words" what it stands for.',
  ),
  "check/weight-of-nothing": warning(
    (f: { nature: string }) => `has a weight, and is ${f.nature === "service" ? "a service" : "a download"}`,
    "Take out the weight, or correct the nature.",
  ),
  "check/no-rental-price": error(
    (_: object) => "is rented out, and has no price for a time",
    "Give it a price with a rental period.",
  ),
  "check/rental-price": error(
    (f: { nature: string }) => `has a price for a time, and is ${f.nature}, not rental`,
    "Correct its nature, or take out the rental period.",
  ),
  "check/no-choice": error(
    (f: { choices: number }) =>
      f.choices === 0 ? "the option group has no choice" : "the option group is required and has one choice only",
    "Give it choices, or take it out.",
  ),
  "check/surcharge": error(
    (f: { surcharge: string }) => `a surcharge of ${f.surcharge} percent is beyond 100`,
    "Correct it; an amount has surchargeIs amount.",
  ),
  "check/component-quantity": error(
    (f: { quantity: string }) => `a component comes ${f.quantity} times`,
    "Give a quantity of 1 or more, or take the component out.",
  ),
  "check/bundle-dearer": warning(
    (f: { price: string; sum: string }) => `the bundle costs ${f.price}, its components together ${f.sum}`,
    "Correct the price, or derive it from the sum.",
  ),
  "check/bundle-lighter": warning(
    (f: { weight: string; sum: string }) => `the bundle weighs ${f.weight}, its components together ${f.sum}`,
    "Correct the weight, or derive it from the sum.",
  ),
  "check/members-and-rule": error(
    (_: object) => "the assortment has members and a rule",
    "Take out one of the two: members of a rule are worked out.",
  ),
  "check/nobody-in-it": warning(
    (_: object) => "nothing is in the assortment",
    "Give it members or a rule, or take it out.",
  ),
  "check/property-type": error(
    (f: { property: string; type: string; value: string }) => `${f.property} is a ${f.type}; ${quoted(f.value)} is not`,
    "Correct the value, or the property's type.",
  ),
  "check/least-above-most": error(
    (f: { low: string; high: string; least: string; most: string }) =>
      `${f.low} ${f.least} is above ${f.high} ${f.most}`,
    "Correct one of the two.",
  ),
  "check/ends-before": error(
    (f: { from: string; until: string }) => `the price ends on ${f.until}, before it begins on ${f.from}`,
    "Correct one of the two dates.",
  ),
  "check/prices-overlap": error(
    (f: { role: string; from: string; until: string }) =>
      `another ${f.role} price is valid in the same time (${f.from || "always"} to ${f.until || "always"})`,
    "Let one end before the other begins.",
  ),
  "check/repeated-identifier": warning(
    (f: { type: string; value: string }) => `${f.type} "${f.value}" is on another record too`,
    "Correct one of the two.",
  ),
  "check/picture-twice": warning(
    (f: { file: string }) => `picture "${f.file}" is there twice in the same role`,
    "Take one out.",
  ),
  "check/picture-position": warning(
    (f: { position: string; file: string; other: string }) =>
      `pictures "${f.other}" and "${f.file}" both stand at position ${f.position}`,
    "Number them in the order wanted.",
  ),
  "check/main-hidden": warning(
    (f: { file: string }) => `the main picture "${f.file}" is hidden`,
    "Show it, or make another one the main picture.",
  ),
  "check/no-image-link": warning(
    (f: { link: string }) => `"${f.link}" does not look like the address of an image itself`,
    "Give the address of the image, not of a page that shows it.",
  ),

  // Deriving.
  "derive/made": note(
    (f: { field: string; count: number; way: string }) => `${f.field} made for ${some(f.count, "record")} (${f.way})`,
    "Nothing to do if that is meant.",
  ),
  "derive/failed": error(
    (f: { field: string; problem: string }) => `${f.field} cannot be made: ${f.problem}`,
    "Correct the rule, or what it is made of.",
  ),

  "derive/no-rule": error(
    (f: { rule: string; problem: string }) => `the rule ${quoted(f.rule)} cannot be read: ${f.problem}`,
    'Correct it; a rule is an expression over a product: nature == "rental".',
  ),
  "derive/nobody-fits": warning(
    (f: { rule: string }) => `no product fits the rule ${quoted(f.rule)}`,
    "Correct the rule, or take the assortment out.",
  ),

  // Translators' work lists, and texts that a language lacks.
  "words/no-list": error(
    (f: { lang: string }) => `this is no work list for ${f.lang}`,
    "Give the file that words has written, with its columns as they were; or XLIFF 2.",
  ),
  "words/taken": note(
    (f: { taken: number; stale: number; lang: string }) =>
      `${some(f.taken, "text")} taken in ${f.lang}${f.stale > 0 ? `, ${f.stale} left out because the source has changed` : ""}`,
    "Nothing to do.",
  ),
  "words/copied": note(
    (f: { count: number; lang: string }) => `${some(f.count, "text")} copied into ${f.lang}, with a mark`,
    "Have them translated: words lists them.",
  ),
  "words/needed": error(
    (f: { field: string; lang: string }) =>
      `has no ${f.field} in ${f.lang}, and the project wants it held back until then`,
    'Have it translated, build with --hold-back, or say "copy" or "leave blank" under gaps.',
  ),

  "calibrate/rows-differ": error(
    (f: { read: number; written: number }) => `${f.read} rows were read, ${f.written} written back`,
    "Rows are cut otherwise than the layout says: look at what groups them.",
  ),

  // What the platform is known to hold.
  "ledger/torn-batch": warning(
    (f: { lines: number }) =>
      `the last batch was not finished: ${some(f.lines, "line")} of it ${f.lines === 1 ? "does" : "do"} not count`,
    "Collect again. The platform's reports and exports still tell what the batch would have told.",
  ),
  "ledger/other-count": error(
    (f: { lines: number; there: number }) => `this batch was closed with ${some(f.lines, "line")} and has ${f.there}`,
    "The file was changed by hand. Put back what it was.",
  ),
  "ledger/no-line": error(
    (_: object) => "this is no line of a ledger",
    "The file was changed by hand: put back what it was, or take the line out.",
  ),
  "ledger/id-taken": error(
    (f: { kind: string; key: string; id: string; owner: string }) =>
      `id ${f.id} is said to be ${f.kind} "${f.key}", and is ${f.kind} "${f.owner}" already`,
    "Look on the platform which of the two it is; the ledger keeps the one it had.",
  ),
  "ledger/other-id": error(
    (f: { kind: string; key: string; id: string; known: string }) =>
      `${f.kind} "${f.key}" has the id ${f.known}, and now is said to have ${f.id}`,
    "Was the account emptied, or is this report of another one? Begin a new ledger for another account.",
  ),
  "compare/not-whole": error(
    (f: { target: string }) => `this is no whole export of ${f.target}: it ends before it should, or is no JSON`,
    "Save the export again, and look at its size.",
  ),
  "compare/other-export": error(
    (f: { missing: readonly string[]; target: string }) =>
      `this is no export that ${f.target} writes: it has no ${f.missing.slice(0, 4).join(", ")}`,
    "Name the export of this platform, as its target file describes it.",
  ),
  "compare/other-shop": error(
    (f: { known: number; there: number }) =>
      `none of the ${f.known} products that were delivered is in the export: it is another shop's`,
    "Name the export of the account that this ledger belongs to.",
  ),
  "compare/half-export": error(
    (f: { known: number; there: number }) =>
      `only ${f.there} of the ${f.known} products that were delivered are in the export: it is not the whole of it`,
    "Save the whole export; or, if so much was taken out there, build with --despite compare/half-export.",
  ),
  "compare/old-ledger": warning(
    (f: { differing: number; shared: number }) =>
      `${f.differing} of ${f.shared} products differ from what was last delivered: the ledger may be an older one`,
    "Use the ledger of the last delivery. Otherwise look at what changed there before anything is written over.",
  ),
  "compare/would-overwrite": error(
    (f: { kind: string; ours: string; theirs: string; by: string; value: string }) =>
      `${f.kind} ${f.ours} is meant as new, but the platform has its ${f.by} ${f.value} on ${f.theirs}`,
    "Say in the pairs file that they are the same, or give one of them another.",
  ),
  "compare/both-changed": warning(
    (f: { kind: string; key: string; fields: readonly string[] }) =>
      `${f.kind} ${f.key} was changed both here and there since it was last delivered: ${f.fields.join(", ")}`,
    "Decide field by field: ours is written unless the project's changes say to leave it.",
  ),
  "compare/changed-there": warning(
    (f: { kind: string; key: string; fields: readonly string[] }) =>
      `${f.kind} ${f.key} was changed there by someone else: ${f.fields.join(", ")}`,
    "It is left as it is there, unless the project's changes say to overwrite it. Take it over into a source if it is right.",
  ),
  "compare/gone": warning(
    (f: { count: number; examples: readonly string[] }) =>
      `${f.count} delivered earlier ${f.count === 1 ? "is" : "are"} no longer in the sources: ${f.examples.join(", ")}`,
    "Nothing is deleted by itself. Choose in the project's changes what becomes of them: leave, hide or retire.",
  ),
  "compare/pair-names-nothing": error(
    (f: { kind: string; key: string }) => `there is no ${f.kind} ${f.key} of ours to pair`,
    "Take the line out, or correct the key.",
  ),
  "compare/pair-taken": error(
    (f: { kind: string; key: string; theirs: string }) =>
      `${f.kind} ${f.key} cannot be ${f.theirs}: ours has a record of that key already`,
    "Pair it with another, or take one of the two out of the sources.",
  ),
  "compare/no-pairs": error(
    (f: { columns: readonly string[] }) => `this is no list of pairs: its columns are ${f.columns.join(", ")}`,
    "Use the file that compare writes.",
  ),
  "compare/odd-answer": error(
    (f: { text: string }) => `"${f.text}" is no answer`,
    'Answer "same" or "different", or leave it blank.',
  ),
  "reshape/cannot": error(
    (f: { problem: string }) => `the operation cannot be carried out: ${f.problem}`,
    "Correct the operation in the project, or take it out.",
  ),
  "reshape/fields-differ": warning(
    (f: { field: string; keys: readonly string[]; winner: string }) =>
      `${f.keys.join(", ")} differ in ${f.field}; that of ${f.winner} stays`,
    "Say whose is to count: take: { FIELD: KEY }.",
  ),
  "reshape/unbalanced": error(
    (f: { what: string; count: number; examples: readonly string[] }) =>
      `the operation would lose or invent ${f.what}: ${f.count}, as ${f.examples.join(", ")}`,
    "Nothing is reshaped. Codes are changed by renumber; anything else is a fault of the operation: leave it out, and report it.",
  ),
  "change/would-delete": error(
    (f: { kind: string; key: string; target: string }) => `${f.kind} ${f.key} would be deleted on ${f.target}`,
    "If that is meant of every one that is listed, build with --despite change/would-delete.",
  ),
  "change/no-column": error(
    (f: { field: string; target: string }) => `${f.target} has no column of its own for ${f.field}`,
    "Name a field that one of its files carries, as `kind.field`.",
  ),
  "change/cannot-take-out": warning(
    (f: { count: number; examples: readonly string[]; target: string }) =>
      `${f.target} never takes entries out of lists: ${f.count} ${f.count === 1 ? "list holds" : "lists hold"} more there than ours, as ${f.examples.join(", ")}`,
    "Take them out there by hand, if they are wrong.",
  ),
  "collect/refused": error(
    (f: { reasons: readonly string[] }) => `the platform refused it: ${f.reasons.join("; ")}`,
    "Correct the source; the next build tries it again.",
  ),
  "collect/otherwise": warning(
    (f: { foretold: string; was: string }) => `${f.foretold} was foretold, and it was ${f.was}`,
    "Look whether the platform was empty, or the file was uploaded twice.",
  ),
  "collect/other-upload": error(
    (_: object) => "this upload folder is not what the project would build now",
    "Collect before anything is changed; or put the sources back, collect, and change them then.",
  ),
  "collect/no-answer": error((_: object) => "this is no report of the platform", "Save its answer as it came."),
  "collect/no-report": error(
    (_: object) => "there is no report of this file",
    "Give the report that the platform made of it, or upload it first.",
  ),
  "collect/no-export": error(
    (f: { kind: string }) => `there is no export that tells the ids of each ${f.kind}`,
    "Export it from the platform, and give the file.",
  ),
  "collect/ambiguous": error(
    (f: { kind: string; by: string; word: string; ids: readonly string[] }) =>
      `the export has ${f.ids.length} of it by ${f.by} ${f.word}: ids ${f.ids.join(", ")}`,
    "Tell them apart on the platform, or take the one out that is too many; then export again.",
  ),
  "collect/not-there": error(
    (f: { kind: string; ways: readonly string[] }) =>
      `the export has no such ${f.kind}, looked for by ${f.ways.join(", ")}`,
    "Was the file uploaded, and is this its account? Then export again.",
  ),

  // What the target asks.
  "target/required": error((f: ColumnFacts) => `${f.target} needs something in "${f.column}"`, "Fill the field."),
  "target/half": error(
    (f: ColumnFacts & { partner: string }) =>
      `fills "${f.column}" and not "${f.partner}"; ${f.target} takes both or neither`,
    "Fill both, or empty both.",
  ),
  "target/part-missing": error(
    (f: ColumnFacts & { text: string }) =>
      `${quoted(f.text)} has a part that ${f.target} does not take in "${f.column}", or lacks one`,
    "Fill what it is made of; quantities have a least.",
  ),
  "target/uncarried-kind": warning(
    (f: { kind: string; count: number; instead: string | undefined; target: string }) =>
      `${f.target} knows no ${f.kind}; ${some(f.count, "record")} of it will not be there${insteadIs(f.instead)}`,
    "Keep them elsewhere, or say what they say in another way.",
  ),
  "target/too-long": error(
    (f: ColumnFacts & { chars: number; most: number }) =>
      `has ${f.chars} characters; ${f.target} takes ${f.most} in "${f.column}"`,
    "Shorten the text.",
  ),
  "target/cut": warning(
    (f: ColumnFacts & { chars: number; most: number }) =>
      `has ${f.chars} characters; ${f.target} cuts "${f.column}" after ${f.most}`,
    "Shorten the text.",
  ),
  "target/characters": error(
    (f: ColumnFacts & { text: string; allowed: string }) =>
      `${quoted(f.text)} will not do in "${f.column}": ${f.target} takes ${f.allowed}`,
    "Change the text.",
  ),
  "target/out-of-range": error(
    (f: ColumnFacts & { text: string; range: string }) =>
      `${f.text} will not do in "${f.column}": ${f.target} takes ${f.range}`,
    "Correct the number.",
  ),
  "target/too-many-entries": error(
    (f: ColumnFacts & { count: number; most: number }) =>
      `has ${f.count} entries; ${f.target} takes ${f.most} in "${f.column}"`,
    "Take some out.",
  ),
  "target/too-deep": error(
    (f: ColumnFacts & { depth: number; most: number }) =>
      `is ${f.depth} deep; ${f.target} takes ${f.most} in "${f.column}"`,
    "Place it higher in the tree.",
  ),
  "target/longer-than-advised": warning(
    (f: { column: string; chars: number; advised: number; target: string }) =>
      `${f.column} has ${f.chars} characters; ${f.target} advises at most ${f.advised}`,
    "Shorten it, if it matters where it is shown.",
  ),
  "target/advised": note(
    (f: { column: string; kind: string; count: number; examples: readonly string[]; by: string; target: string }) =>
      `${f.target} would rather have "${f.column}" filled: ${f.count} × ${f.kind} without it, as ${f.examples.join(", ")}`,
    "Fill it, or derive it from other fields, if it matters to you.",
  ),
  "target/overwritten": note(
    (f: { column: string; kind: string; count: number; examples: readonly string[]; by: string; target: string }) =>
      `"${f.column}" is written over by ${f.by}: ${f.count} × ${f.kind} will not stay as uploaded, as ${f.examples.join(", ")}`,
    "Keep it up to date in that system; what is uploaded counts only until it next writes.",
  ),
  "target/more-axes-than-advised": warning(
    (f: { axes: number; advised: number; target: string }) =>
      `the product has ${some(f.axes, "axis", "axes")}; ${f.target} advises at most ${f.advised}`,
    "Leave it, or split the product.",
  ),
  "target/too-many-axes": error(
    (f: { axes: number; most: number; target: string }) =>
      `has ${some(f.axes, "axis", "axes")}; ${f.target} takes ${f.most}`,
    "Split the product, or join two axes.",
  ),
  "target/uncarried": warning(
    (f: { field: string; count: number; examples: readonly string[]; instead: string | undefined; target: string }) =>
      `${f.target} has no place for ${f.field}, which ${some(f.count, "record has", "records have")} (${f.examples.join(", ")}${f.count > f.examples.length ? " …" : ""})${insteadIs(f.instead)}`,
    "It will not be on the platform; keep it elsewhere if it is needed.",
  ),
  "target/formula": warning(
    (f: { column: string; text: string }) =>
      `"${f.column}" begins like a formula (${quoted(f.text)}); a spreadsheet program would carry it out`,
    "Upload the file as it is. If it has to be opened in a spreadsheet program, import the column as text.",
  ),
  "target/variants-only": error(
    (f: { column: string; product: string; variants: number; target: string }) =>
      `names product "${f.product}", which has ${some(f.variants, "variant")}; "${f.column}" of ${f.target} can only name a variant by its code`,
    "Name one of its variants in the source.",
  ),
  "target/empty-category": warning(
    (f: { count: number; examples: readonly string[]; target: string }) =>
      `${some(f.count, "category holds", "categories hold")} no product, and ${f.target} makes only those that a product names: ${f.examples.join(", ")}${f.count > f.examples.length ? " …" : ""}`,
    "Nothing to do if shoppers need not see them yet.",
  ),
  "write/cannot-be-written": error(
    (f: { column: string; text: string; wanted: string }) =>
      `${quoted(f.text)} cannot be written in "${f.column}": ${f.wanted}`,
    "Change the text.",
  ),

  // Order.
  "plan/cycle": error(
    (f: { chain: readonly string[] }) => `each needs the next to exist first: ${f.chain.join(" › ")}`,
    "Take one of the references out.",
  ),
  "plan/no-order": error(
    (f: { kinds: readonly string[]; target: string }) =>
      `${f.target} offers no order in which ${f.kinds.join(", ")} can be imported`,
    "Correct the target's slots.",
  ),
  "plan/nothing-to-upload": warning(
    (_: object) => "no product was read, so there is nothing to upload",
    "Look at what was said of the sources.",
  ),
  "plan/too-large": error(
    (f: { rows: number; most: number; what: string }) => `needs ${f.rows} ${f.what} in one file, which takes ${f.most}`,
    "Split the product.",
  ),

  // Building.
  "build/held-back": warning((f: { because: string }) => `is held back: ${f.because}`, "Repair it and build again."),
  "build/nothing-left": error(
    (f: { held: string }) => `everything is held back (${f.held}), so there is nothing to upload`,
    "Correct what the other findings name, then build again.",
  ),
  "build/link-left-out": warning(
    (f: { relation: string; to: string }) =>
      `its link (${f.relation}) to "${f.to}" is left out, because that is held back`,
    "Repair the other product and build again.",
  ),
  "build/cannot-write": error(
    (f: { reason: string }) => `the upload folder cannot be written: ${f.reason}`,
    "Name a folder that you may write to, with --upload.",
  ),
  "build/folder-there": error(
    (_: object) => "is there already, and Zest Tier has not written it",
    "Name another folder with --upload, or move this one away.",
  ),
  "build/folder-of-other": error(
    (f: { project: string }) => `is the upload folder of another project: ${quoted(f.project)}`,
    "Name another folder with --upload, or move this one away.",
  ),
  "build/folder-has-others": error(
    (f: { names: readonly string[] }) =>
      `holds what Zest Tier has not written: ${f.names.slice(0, 5).map(quoted).join(", ")}${f.names.length > 5 ? ` and ${f.names.length - 5} more` : ""}`,
    "Move these files away. A build replaces its whole folder.",
  ),
  "build/folder-link": error(
    (_: object) => "is a link to another place; a build neither follows nor replaces links",
    "Name the folder itself with --upload, or take the link away.",
  ),

  // Reading and writing.
  "io/cannot-write": error(
    (f: { reason: string }) => `cannot be written: ${f.reason}`,
    "Make room, or write to another place, and run again. Nothing was half-written.",
  ),
  "io/failed": error(
    (f: { reason: string; action: string }) => `cannot be used: ${f.reason}, at ${f.action}`,
    "Check the path, its rights and the disk, and run again.",
  ),
  "io/locked": error(
    (f: { pid: number | undefined; host: string }) =>
      `another run of Zest Tier is using this project, ledger or upload folder${f.pid === undefined ? "" : `: process ${f.pid} on ${f.host}`}`,
    "Wait until it has ended. If there is no such process any more, delete this file.",
  ),
} as const satisfies Record<string, Entry<never>>;
