/**
 * Cells that make several, and several that make one (C8, C9), in both directions: `Size / Colour` is cut into two cells that
 * columns are bound to, and joined from them when it is written.
 *
 * Runs between the sheet and the columns; what it makes has headers of its own.
 */

import type { Header } from "../nominal.js";
import { firstOf } from "../checked.js";
import { unwritable, type Unwritable } from "../codecs/codec.js";
import { finding, type Findings } from "../findings/finding.js";
import { pointerSteps, setAt, valueAt } from "../formats/json-pointer.js";
import type { Location } from "../location.js";
import type { GivenCells } from "./schema.js";
import { phrase } from "../phrases/phrase.js";
import { shorten } from "../shorten.js";
import { pushAll } from "../lists.js";

export type CellStep =
  | { readonly is: "split"; readonly header: Header; readonly separator: string; readonly into: readonly string[] }
  | { readonly is: "join"; readonly header: Header; readonly separator: string; readonly from: readonly string[] }
  | { readonly is: "json"; readonly header: Header; readonly pointers: readonly (readonly [string, string])[] };

export function cellStepOf(header: Header, given: GivenCells): CellStep {
  if ("split" in given) return { is: "split", header, separator: given.split, into: given.into };
  if ("join" in given) return { is: "join", header, separator: given.with, from: given.join };
  return { is: "json", header, pointers: Object.entries(given.json) };
}

/** The headers that columns are bound to, made by a step. */
export function madeHeaders(step: CellStep): readonly string[] {
  if (step.is === "join") return [step.header];
  return step.is === "split" ? step.into : step.pointers.map(([, header]) => header);
}

/** The headers of the sheet that a step takes. */
export function sheetHeaders(step: CellStep): readonly string[] {
  return step.is === "join" ? step.from : [step.header];
}

/** The column of the sheet that a column's cells are made of: findings tell places as they stand in the file. */
export function columnInSheet(steps: readonly CellStep[], header: Header): string {
  const step = steps.find((one) => madeHeaders(one).includes(header));
  return step ? firstOf(sheetHeaders(step)) : header;
}

/** The columns whose cells a column of the sheet holds: itself, where no step makes it. */
export function columnsIn(steps: readonly CellStep[], header: Header): readonly string[] {
  const step = steps.find((one) => sheetHeaders(one).includes(header));
  return step ? madeHeaders(step) : [header];
}

/** The columns whose cells stand with those of a column in the same cells of the sheet. */
export function madeTogether(steps: readonly CellStep[], header: Header): readonly string[] {
  const made = steps.map(madeHeaders).find((headers) => headers.includes(header));
  return made ?? [];
}

/** Reading: adds the cells that the steps make behind those of the sheet. */
export type AddCells = (cells: readonly string[], line: number) => readonly string[];

/**
 * @param positions of the sheet's headers; those that are made are added to it.
 * @param width how many cells the sheet's rows have.
 * @param uncut is reported of each cell that could not be cut up, and was reported.
 */
export function cellAdder(
  steps: readonly CellStep[],
  positions: Map<string, number>,
  width: number,
  file: string,
  findings: Findings,
  uncut: (line: number, index: number) => void,
): AddCells {
  const made = steps.flatMap(madeHeaders);
  const sources = steps.map((step) => sheetHeaders(step).map((header) => positions.get(header) ?? -1));
  made.forEach((header, at) => positions.set(header, width + at));
  return (cells, line) => {
    const all = cells.slice(0, width);
    while (all.length < width) all.push("");
    steps.forEach((step, at) => pushAll(all, made1(step, sources[at]!, cells, line)));
    return all;
  };

  function made1(step: CellStep, from: readonly number[], cells: readonly string[], line: number): string[] {
    if (step.is === "join")
      return [
        from
          .map((index) => cells[index] ?? "")
          .filter((cell) => cell !== "")
          .join(step.separator),
      ];
    const cell = cells[firstOf(from)] ?? "";
    const blank = madeHeaders(step).map(() => "");
    if (cell === "") return blank;
    const parts = step.is === "split" ? splitCell(cell, step) : jsonCell(cell, step);
    if (typeof parts !== "string") return parts;
    const location: Location = { file, line, column: step.header };
    findings.add(finding("cell/not-cut", { text: shorten(cell, 80), wanted: parts }, location));
    uncut(line, firstOf(from));
    return blank;
  }
}

/** @returns what the cell should have been, if it cannot be cut. */
function splitCell(cell: string, { separator, into }: Extract<CellStep, { is: "split" }>): string[] | string {
  const parts = cell.split(separator);
  if (parts.length > into.length) return `at most ${into.length} parts with "${separator}" between`;
  return into.map((_, at) => parts[at] ?? "");
}

function jsonCell(cell: string, { pointers }: Extract<CellStep, { is: "json" }>): string[] | string {
  let document: unknown;
  try {
    document = JSON.parse(cell);
  } catch {
    return "a JSON document";
  }
  return pointers.map(([pointer]) => {
    const value = valueAt(document, pointer);
    if (value === undefined || value === null) return "";
    return typeof value === "string" ? value : JSON.stringify(value);
  });
}

/** Writing: from the cells of the columns to those of the sheet. */
export interface SheetCells {
  readonly headers: readonly Header[];
  readonly fold: (cells: readonly string[], report: (column: string, why: Unwritable) => void) => readonly string[];
}

/** @param headers of the columns, in their order. A cell of the sheet stands where the first of its parts stood. */
export function sheetCells(steps: readonly CellStep[], headers: readonly Header[]): SheetCells {
  if (steps.length === 0) return { headers, fold: (cells) => cells };
  const stepOf = new Map(steps.flatMap((step) => madeHeaders(step).map((header) => [header, step] as const)));
  const order: (number | CellStep)[] = [];
  headers.forEach((header, at) => {
    const step = stepOf.get(header);
    if (!step) order.push(at);
    else if (!order.includes(step)) order.push(step);
  });
  const positions = new Map(headers.map((header, at) => [header, at]));
  return {
    headers: order.flatMap((one) => (typeof one === "number" ? [headers[one]!] : sheetHeaders(one))),
    fold: (cells, report) => {
      const cellOf = (header: Header) => cells[positions.get(header) ?? -1] ?? "";
      return order.flatMap((one) => {
        if (typeof one === "number") return [cells[one]!];
        const made = foldStep(one, madeHeaders(one).map(cellOf));
        if (!("text" in made)) return made.cells;
        report(one.header, made);
        return sheetHeaders(one).map(() => "");
      });
    },
  };
}

function foldStep(step: CellStep, cells: readonly string[]): { readonly cells: string[] } | Unwritable {
  if (step.is === "join") return unjoin(firstOf(cells), step);
  if (step.is === "split") {
    const wrong = cells.find((cell) => cell.includes(step.separator));
    if (wrong !== undefined) return unwritable(wrong, phrase('no "{0}"', step.separator));
    let end = cells.length;
    while (end > 0 && cells[end - 1] === "") end--;
    const text = cells.slice(0, end).join(step.separator);
    // Parts that only together hold a separator would be cut elsewhere.
    const isRead = splitCell(text, step);
    return typeof isRead !== "string" && isRead.every((part, at) => part === cells[at])
      ? { cells: [text] }
      : unwritable(text, phrase('no "{0}" where the parts are joined', step.separator));
  }
  const document: Record<string, unknown> = {};
  step.pointers.forEach(([pointer], at) => {
    if (cells[at] !== "") setAt(document, pointerSteps(pointer), cells[at]!);
  });
  return { cells: [Object.keys(document).length === 0 ? "" : JSON.stringify(document)] };
}

function unjoin(text: string, step: Extract<CellStep, { is: "join" }>): { readonly cells: string[] } | Unwritable {
  const parts = text.split(step.separator);
  const most = step.from.length;
  const cells =
    parts.length <= most ? parts : [...parts.slice(0, most - 1), parts.slice(most - 1).join(step.separator)];
  while (cells.length < most) cells.push("");
  const again = cells.filter((cell) => cell !== "").join(step.separator);
  return again === text ? { cells } : unwritable(text, phrase('text that can be split at "{0}"', step.separator));
}
