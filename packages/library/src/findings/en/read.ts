/** Findings from reading files: what is there, what the layout expects, how rows belong together. */

import { error, note, warning } from "../definition.js";
import { aKind, didYouMean, kindName, listed, nearestOf, quoted, some, type Text } from "../wording.js";

export const read = {
  "read/missing-file": error(
    (_: object) => "the file does not exist",
    "Correct the file name in the project, or put the file there.",
  ),
  "read/unreadable": error(
    (f: { reason: Text }) => `the file cannot be read: ${f.reason}`,
    "Check the file and your permission to read it.",
  ),
  "read/folder": error((_: object) => "this is a folder, not a file", "Name a file inside the folder."),
  "read/empty-file": error((_: object) => "the file is empty", "Get the file again, or remove the source."),
  "read/header-only": error(
    (_: object) => "the file has a header but no rows",
    "Get the file again, or remove the source.",
  ),
  "read/wrong-encoding": error(
    (f: { encoding: string; byte: number }) => `the file is not ${f.encoding}: byte ${f.byte} is not valid`,
    "Set the encoding in the layout (format: csv: encoding). Most old exports use windows-1252.",
  ),
  "read/open-quote": error(
    (_: object) => "a quote is never closed, or stands in the middle of a cell. The line was read without quotes",
    "Close the quote, or double it.",
  ),
  "read/gave-up": error(
    (_: object) => "there are too many broken quotes. Nothing below this line was read",
    "Check the quote character in the layout.",
  ),
  "read/too-many-columns": error(
    (f: { columns: number; most: number }) => `the file has ${f.columns} columns. At most ${f.most} are read`,
    'Check the delimiter in the layout. If the file is right, raise "columns" under "caps" in the project.',
  ),
  "read/header-too-long": error(
    (f: { chars: number; most: number }) => `a header has ${f.chars} characters. At most ${f.most} are read`,
    'Check the delimiter, and the line of the header. If the file is right, raise "header characters" under "caps" in the project.',
  ),
  "read/over-cap": error(
    (f: { cap: string; most: number }) => `the file holds more than is read: the cap "${f.cap}" is ${f.most}`,
    'Check the file. If it is right, raise this word under "caps" in the project.',
  ),
  "read/no-column-known": error(
    (f: { layout: string; found: string }) =>
      `no column of the file is in layout ${f.layout}. The header begins with ${quoted(f.found)}`,
    "Check the file, and the delimiter in the layout.",
  ),
  "read/column-missing": error(
    (f: { header: string; layout: string; nearest: string | undefined }) =>
      `the file has no column "${f.header}", but layout ${f.layout} reads it${didYouMean(f.nearest)}`,
    "Correct the header in the file, or the layout.",
  ),
  "read/column-repeated": error(
    (_: object) => "two columns have this header. Only the first was read",
    "Rename one of the two columns.",
  ),
  "read/not-the-constant": warning(
    (f: { text: string; constant: string }) =>
      `${quoted(f.text)} stands where the layout has the constant ${quoted(f.constant)}`,
    "Check what the text means for the other cells: a unit, a currency, a version. Then correct the file or the layout.",
  ),
  "read/column-unbound": note(
    (f: { layout: string }) => `layout ${f.layout} does not mention this column. It was not read`,
    'Bind the column to a field, or list it under "ignore".',
  ),
  "read/encoding-guessed": note(
    (f: { encoding: string }) => `the file was read as ${f.encoding}, which its bytes suggest`,
    'If letters are wrong, set "encoding" in the layout.',
  ),
  "read/mixed-line-ends": note(
    (_: object) => "the file uses two kinds of line ends. They change at this line",
    "Two files may have been joined here. Check that both parts are complete.",
  ),
  "read/xml-broken": error(
    (f: { problem: Text }) => `the XML is broken here: ${f.problem}`,
    "Correct the file at its source. Nothing after this line was read.",
  ),
  "read/json-broken": error(
    (f: { problem: Text }) => `the JSON is broken here: ${f.problem}`,
    "Correct the file at its source. Nothing after this point was read.",
  ),
  "read/zip-broken": error(
    (f: { problem: Text }) => `the archive could not be unpacked: ${f.problem}`,
    "Get the archive again from its source.",
  ),
  "read/not-in-zip": error(
    (f: { name: string; names: readonly string[] }) =>
      `the archive does not contain ${f.name}. It contains ${listed(f.names)}`,
    'Name one of these files under "within" in the project.',
  ),
  "read/workbook-broken": error(
    (f: { problem: Text }) => `the workbook cannot be read: ${f.problem}`,
    "Open it in a spreadsheet program and save it again.",
  ),
  "read/which-sheet": error(
    (f: { wanted: Text; names: readonly string[] }) => `${f.wanted}. The sheets are ${listed(f.names.map(quoted))}`,
    'Name one of them in the layout ("workbook: sheet").',
  ),
  "read/hidden": note(
    (f: { what: "row" | "column"; count: number; isRead: boolean }) =>
      `${some(f.count, `hidden ${f.what}`)} ${f.count === 1 ? "was" : "were"} ${f.isRead ? "read like the others" : "left out"}`,
    'To change this, set "hidden rows" in the layout.',
  ),
  "read/merged-cells": note(
    (f: { count: number; isRepeated: boolean }) =>
      `${some(f.count, "merged range")}: the value was read ${f.isRepeated ? "in every cell of the range" : "in the first cell only"}`,
    'To change this, set "merged cells" in the layout.',
  ),
  "read/sheets-left": note(
    (f: { names: readonly string[] }) => `these sheets were not read: ${listed(f.names.map(quoted))}`,
    "Add a source for each sheet that you need.",
  ),
  "read/no-element": error(
    (f: { element: string }) => `the document has no element at ${quoted(f.element)}`,
    'Correct the path under "element" in the layout. A prefix belongs in the path only if the document uses one.',
  ),
  "read/nothing-there": note(
    (f: { layout: string }) => `this path of layout ${f.layout} is empty in every element`,
    "No action is needed if that is intended. Otherwise correct the path in the layout.",
  ),
  "read/further-values": warning(
    (f: { values: number }) =>
      `${some(f.values, "further value")} at this path. Of each element only the first was read`,
    'Read them with a lane, or say in brackets which one is wanted. Or list the path under "ignore".',
  ),
  "read/ragged-row": error(
    (f: { cells: number; headers: number }) => `the row has ${some(f.cells, "cell")}, but the header has ${f.headers}`,
    "Too many cells: a cell contains the delimiter without quotes. Too few: the row was cut off.",
  ),
  "read/cell-too-long": error(
    (f: { chars: number; most: number }) => `the cell has ${f.chars} characters. At most ${f.most} are read`,
    'Look for a missing quote above this line. If the cell is right, raise "cell characters" under "caps" in the project.',
  ),
  "read/row-without-group": error(
    (_: object) => "the cell that groups rows is empty, so the row belongs to no record",
    "Fill the cell that groups rows.",
  ),
  "read/row-above-all": error(
    (_: object) => "this row continues the row above it, but there is no row above",
    "Move it below the row of its record.",
  ),
  "read/orphan-row": error(
    (f: { names: string }) => `the row belongs to ${quoted(f.names)}, which is not in this file`,
    "Correct the name, or add the record.",
  ),
  "read/no-key": error((f: { kind: string }) => `the ${kindName(f.kind)} has no key`, "Fill the cell of its key."),
  "read/scattered-group": error(
    (f: { group: string }) => `the rows of "${f.group}" are not next to each other`,
    'Sort the file, or set "groups: scattered" in the layout.',
  ),
  "read/group-too-large": error(
    (f: { group: string; most: number }) => `"${f.group}" has more than ${f.most} rows. The rest was left out`,
    'Check the file, and the column that groups rows. If it is right, raise "group rows" under "caps" in the project.',
  ),
  "read/repeated-key": error(
    (f: { kind: string; key: string }) => `another ${kindName(f.kind)} has the key "${f.key}"`,
    "Give one of the two another key.",
  ),
  "read/cell-not-used": error(
    (f: { feeds: string; rowOf: string }) =>
      `this cell would be lost: it feeds ${f.feeds}, but the row belongs to ${aKind(f.rowOf)}`,
    "Move the value to the row of its record, or fill the cell that it belongs to (a name before its translation).",
  ),
  "read/cells-disagree": error(
    (f: { here: string; first: string }) =>
      `the cell is ${quoted(f.here)}, but the first row of the record has ${quoted(f.first)}`,
    "Keep one of the two values.",
  ),
  "read/stale-translation": warning(
    (f: { here: string; first: string }) =>
      `the translation was made from ${quoted(f.here)}. The text is now ${quoted(f.first)}`,
    "Have the new text translated.",
  ),
  "read/sources-disagree": error(
    (f: { here: string; first: string }) =>
      `the cell is ${quoted(f.here)}, but another source has ${quoted(f.first)}. Neither source has precedence`,
    'Correct one of them, or give one source a higher "precedence" in the project.',
  ),
  "read/source-overruled": warning(
    (f: { stays: string; goes: string }) =>
      `two sources disagree: ${quoted(f.stays)} is kept by precedence, ${quoted(f.goes)} is not used`,
    "No action is needed if the right value is kept.",
  ),
  "read/names-none": warning(
    (f: { kind: string; names: string; text: string; nearest: readonly string[] }) =>
      `no ${kindName(f.kind)} has the ${f.names} ${quoted(f.text)}. The row was left out${nearestOf(f.nearest)}`,
    'Correct the cell, or add the record. If such rows are expected, set "otherwise: ignored" in the layout.',
  ),
  "read/names-several": error(
    (f: { kind: string; names: string; text: string; count: number }) =>
      `${f.count} records have the ${f.names} ${quoted(f.text)}. The row was left out`,
    "Name the record by something that is unique.",
  ),
  "read/rows-ignored": note(
    (f: { rows: number; why: Text }) => `${some(f.rows, "row was", "rows were")} not read: ${f.why}`,
    "No action is needed if that is intended.",
  ),
  "read/unknown-language": error(
    (f: { word: string; known: string }) => `${quoted(f.word)} is not a language of this layout. It has ${f.known}`,
    'Correct the cell, or add the word under "code words" in the layout.',
  ),
  "read/fixed": note(
    (f: { fix: string; count: number; before: string; after: string }) =>
      `${some(f.count, "cell was", "cells were")} fixed (${f.fix}): for example ${quoted(f.before)} became ${quoted(f.after)}`,
    "No action is needed. You can also correct the source.",
  ),
  "read/excluded-unknown": error(
    (f: { combination: string }) =>
      `${quoted(f.combination)} is to be left out, but it is not a combination of the listed values`,
    "Correct the combination.",
  ),
  "read/value-without-axis": error(
    (f: { value: string; axis: number }) => `${quoted(f.value)} is a value, but the product has no axis ${f.axis}`,
    "Name the axis, or empty the cell.",
  ),
  "read/not-parallel": error(
    (f: { beside: string }) =>
      `the cell does not match "${f.beside}": both need the same number of paths, each with the same number of levels`,
    "Give each path in both columns.",
  ),
};
