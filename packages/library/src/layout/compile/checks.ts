/** What the parts of a layout have to be to each other. */

import type { Header } from "../../nominal.js";
import { present } from "../../checked.js";
import { driverOf } from "../../formats/drivers/drivers.js";
import type { Format } from "../../formats/format.js";
import { phrase, type Text } from "../../phrases/phrase.js";
import { nearestSpelling } from "../../spelling.js";
import { madeHeaders, type CellStep } from "../cells.js";
import { ownerColumn, type Column, type Lane, type Shape } from "../layout.js";
import type { GivenLayout } from "../schema.js";
import type { TellingColumn } from "../shapes/shape-kind.js";

/** Reports a mistake at its place in the layout. */
export type Report = (problem: Text, nearest: string | undefined, ...path: (string | number)[]) => void;

/** Columns that tell rows apart, and those of lanes, are among the layout's. */
export function checkHeaders(
  given: GivenLayout,
  tells: readonly TellingColumn[],
  lanes: readonly Lane[],
  headers: ReadonlySet<string>,
  mistake: Report,
): void {
  const check = (header: Header, ...path: string[]) => {
    if (!headers.has(header) && !given.ignore.includes(header))
      mistake(phrase('"{0}" is not a column of this layout', header), nearestSpelling(header, headers), ...path);
  };
  for (const { header, listedFor } of tells) if (listedFor !== undefined) check(header, "rows", listedFor);
  for (const lane of lanes)
    for (const column of lane.blankColumns) check(column, "lanes", lane.name, "continued when blank");
}

/** Rows of one group that do not stand together are known for one by all that tells it apart. */
export function checkGroups(shape: Shape, columns: readonly Column[], mistake: Report): void {
  if (shape.is !== "grouped" || !shape.scattered || shape.everyRow) return;
  const owner = ownerColumn(columns, shape.parent);
  if (owner)
    mistake(
      phrase('"{0}" tells groups apart. Scattered rows need it on every row ("shared cells: every row")', owner.header),
      undefined,
      "rows",
      "groups",
    );
}

/** Words that mean nothing beside the others of the layout. */
export function checkUnused(
  given: GivenLayout,
  isDocument: boolean,
  lanes: readonly Lane[],
  columns: readonly Column[],
  tells: readonly TellingColumn[],
  mistake: Report,
): void {
  const telling = new Set(tells.map(({ header }) => header));
  for (const { name } of lanes) {
    const own = columns.filter(({ scope }) => scope.is === "lane" && scope.lane === name);
    const words = present(given.lanes[name]);
    if (own.length === 0) mistake(phrase("the lane has no column"), undefined, "lanes", name);
    for (const { header } of own)
      if (telling.has(header))
        mistake(phrase("a column that tells rows apart cannot be a column of a lane"), undefined, "columns", header);
    const others = isDocument ? (["continued when blank", "runs"] as const) : (["element"] as const);
    for (const word of others)
      if (word === "runs" ? words.runs === "on rows of its own" : words[word] !== undefined)
        mistake(phrase('"{0}" is not for these rows', word), undefined, "lanes", name, word);
  }
  const { line, notes = [] } = given.header === "none" ? {} : given.header;
  if (line !== undefined && notes.length >= line && notes.length > 0)
    mistake(phrase("there are more notes than lines above the header"), undefined, "header", "notes");
  const written = Object.keys(given.columns);
  const isUsed = (word: string) => written.some((header) => header.includes(`{${word}}`));
  if (given.numbered > 1 && !isUsed("n")) mistake(phrase("no header contains {0}", "{n}"), undefined, "numbered");
  for (const word of Object.keys(given.listed))
    if (!isUsed(word)) mistake(phrase("no header contains {0}", `{${word}}`), undefined, "listed", word);
}

/** What is reported of rows and cells of a sheet means nothing in a document. */
export function checkSheetSettings(given: GivenLayout, mistake: Report): void {
  const documentOnly = [
    [Object.keys(given.cells).length > 0, ["cells"]],
    [given["model row"] !== undefined, ["model row"]],
    [given["filled down"] !== undefined, ["filled down"]],
  ] as const;
  for (const [isThere, path] of documentOnly)
    if (isThere) mistake(phrase('"{0}" is for sheets, not for documents', path[path.length - 1]), undefined, ...path);
}

/** Only what all rows of a record share is filled down: what is blank there says nothing else. */
export function checkFilledDown(
  given: GivenLayout,
  shape: Shape,
  lanes: readonly Lane[],
  columns: readonly Column[],
  headers: ReadonlySet<Header>,
  mistake: Report,
): void {
  const filled = given["filled down"] ?? [];
  if (filled.length === 0) return;
  if (given.rows.language !== undefined || given["model row"] !== undefined || shape.is === "own-row")
    mistake(phrase('"{0}" is not for these rows', "filled down"), undefined, "filled down");
  const madeOf = (header: Header): readonly Header[] => {
    const cells = Object.hasOwn(given.cells, header) ? given.cells[header] : undefined;
    const joined = Object.entries(given.cells).filter(([, one]) => "join" in one && one.join.includes(header));
    const cut = cells === undefined || "join" in cells ? [] : "split" in cells ? cells.into : Object.values(cells.json);
    return [...cut, ...joined.map(([made]) => made)];
  };
  const made = new Set(Object.keys(given.cells).flatMap((header) => madeOf(header)));
  const isOfLane = (header: Header) => lanes.some(({ blankColumns }) => blankColumns.includes(header));
  for (const [at, header] of filled.entries()) {
    const own = [header, ...madeOf(header)];
    const isThere = !made.has(header) && (headers.has(header) || own.length > 1);
    const isShared = columns.every(({ header: one, scope }) => !own.includes(one) || scope.is === "parent");
    if (!isThere)
      mistake(
        phrase('"{0}" is not a column of this layout', header),
        nearestSpelling(header, headers),
        "filled down",
        at,
      );
    else if (!isShared || isOfLane(header))
      mistake(
        phrase('"{0}" cannot be filled down: it is not the same on all rows of a record', header),
        undefined,
        "filled down",
        at,
      );
  }
}

/** The paths of a document are paths of its format. */
export function checkPaths(
  format: Format,
  shape: Shape,
  lanes: readonly Lane[],
  columns: readonly Column[],
  ignored: readonly Header[],
  mistake: Report,
): void {
  const { elements } = driverOf(format);
  if (!elements) return;
  const { isPath, isOutside } = elements.access(format);
  const check = (path: string | undefined, ...at: (string | number)[]) => {
    if (path !== undefined && !isPath(path))
      mistake(phrase('"{0}" is not a valid {1}', path, elements.pathForm), undefined, ...at);
  };
  if (shape.is !== "nested") return;
  check(shape.element, "rows", "element");
  check(shape.childElement, "rows", "child element");
  for (const lane of lanes) check(lane.element, "lanes", lane.name, "element");
  for (const { header } of columns) check(header, "columns", header);
  for (const [at, path] of ignored.entries()) if (!isOutside(path)) check(path, "ignore", at);
}

/** Cells that are made of others feed columns of the layout. */
export function checkCells(
  given: GivenLayout,
  steps: readonly CellStep[],
  headers: ReadonlySet<string>,
  mistake: Report,
): void {
  for (const step of steps) {
    const unbound = madeHeaders(step).find((header) => !headers.has(header) && !given.ignore.includes(header));
    if (unbound !== undefined)
      mistake(
        phrase('"{0}" is not a column of this layout', unbound),
        nearestSpelling(unbound, headers),
        "cells",
        step.header,
      );
    const pointers = step.is === "json" ? step.pointers.map(([pointer]) => pointer) : [];
    const inner = pointers.find((one) => pointers.some((other) => one.startsWith(`${other}/`)));
    if (inner !== undefined)
      mistake(phrase('"{0}" lies within another pointer', inner), undefined, "cells", step.header, "json");
  }
}
