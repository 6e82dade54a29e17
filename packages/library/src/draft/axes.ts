/** The columns that say what the versions of a product differ in. */

import type { Lang } from "../nominal.js";
import type { Looked } from "./looked.js";
import type { ShapeGuess } from "./shape.js";
import { added } from "../lists.js";

/** `Feature 1`, `Feature 1 is`: columns in pairs, told apart by a number. */
export interface NumberedAxis {
  readonly number: number;
  readonly name: Looked;
  readonly value: Looked;
}

export function numberedAxes(looked: readonly Looked[], { shape, isMore }: ShapeGuess): NumberedAxis[] {
  const patterns = new Map<string, Looked[]>();
  for (const one of looked) {
    const match = /^(.*?)([1-9])(\D*)$/.exec(one.column.header);
    // A column that is known to be something else is none of a pair.
    const isOther = one.meaning !== undefined && one.meaning.concept !== "axis";
    if (!match || isOther || one.profile.isPicture || one.profile.filled === 0) continue;
    const pattern = `${match[1]}{n}${match[3]}`;
    patterns.set(pattern, added(patterns.get(pattern), one));
  }
  const isChildRow = (row: number) => shape.is !== "marked" || shape.marker.column.cells[row] === shape.child;
  for (const [pattern, names] of patterns)
    for (const [other, values] of patterns) {
      if (pattern === other || names.length !== values.length) continue;
      if (![names, values].every(isCounted)) continue;
      const isPair = names.every((name, at) => isNamed(name, values[at]!, (row) => isMore(row) || !isChildRow(row)));
      if (isPair) return names.map((name, at) => ({ number: at + 1, name, value: values[at]! }));
    }
  return [];
}

/** Whether columns are counted from 1. */
const isCounted = (columns: readonly Looked[]): boolean => columns.every(({ number }, at) => number === at + 1);

/** Whether one column names what the other has the values of. @param isApart whether a row is of no version. */
function isNamed(name: Looked, value: Looked, isApart: (row: number) => boolean): boolean {
  const [own, beside] = [name.profile, value.profile];
  const isFewer = own.distinct.length < beside.distinct.length || own.filled < beside.filled;
  const isText = own.distinct.every((word) => !/^[\d.,]+$/.test(word)) && own.longest <= 40;
  const isFilled = name.column.cells.every(
    (cell, row) => cell === "" || value.column.cells[row] !== "" || isApart(row),
  );
  const isRepeated = beside.distinct.length <= Math.max(12, 0.6 * beside.filled);
  return isFewer && isText && isFilled && isRepeated && own.distinct.length * 4 <= Math.max(8, own.filled);
}

/** Whether a column can say what the versions of a product differ in. @param ofVersions whether it stands with the versions of a document. */
export function isAxisLike(one: Looked, { shape }: ShapeGuess): boolean {
  const { column, profile, meaning } = one;
  const isWord = meaning?.concept === "axis";
  if (profile.longest > 40 || profile.decimal?.sign !== undefined || profile.flag || profile.isDate) return false;
  if (profile.isBarcode || profile.isPicture || profile.hasDecimals) return false;
  if (profile.decimal && !isWord) return false;
  if (column.scope === "child") return profile.filled > 1 && (isWord || profile.distinct.length > 1);
  if (shape.is === "own row") {
    const parents = shape.parent.column.cells;
    const isOfVersions = column.cells.every((cell, row) => cell === "" || parents[row] !== "");
    return isOfVersions && profile.distinct.length > 1;
  }
  if (shape.is === "marked") return !isWord ? false : true;
  if (shape.is !== "grouped") return false;
  // Cells with an inner form are something else: prices by quantity, codes with parts.
  if (profile.distinct.some((word) => /[:|;=]/.test(word)) || profile.share < 0.4 || profile.distinct.length < 2)
    return false;
  if (shape.shared.has(one) || !tellsRowsApart(one, shape.by, shape.isFilledDown)) return false;
  // Of few rows each value comes but twice.
  return isWord || profile.distinct.length * (profile.filled < 20 ? 2 : 3) <= profile.filled;
}

/** Whether a column differs on the rows of a good part of the products that have several. */
function tellsRowsApart({ column }: Looked, by: Looked, isFilledDown: boolean): boolean {
  const groups = new Map<string, Set<string>>();
  const counts = new Map<string, number>();
  let group = "";
  for (const [row, cell] of column.cells.entries()) {
    const word = by.column.cells[row]!;
    if (word !== "" || !isFilledDown) group = word;
    if (group === "") continue;
    groups.set(group, (groups.get(group) ?? new Set()).add(cell));
    counts.set(group, (counts.get(group) ?? 0) + 1);
  }
  const several = [...groups].filter(([word]) => counts.get(word)! > 1);
  return several.filter(([, words]) => words.size > 1).length >= 0.3 * several.length;
}

/** What an axis is called after its column: `Colour`. @param isList whether the header names several: `Colours`. */
export function axisName({ column }: Looked, isSheet: boolean, isList: boolean): string {
  const word = isSheet ? column.header.trim() : (column.parts.trim().split(" ").pop() ?? "");
  const whole = word.charAt(0).toUpperCase() + word.slice(1);
  return isList ? whole.replace(/s$/, "") : whole;
}

/** As a layout binds the value of a named axis, or the list of its values. */
export function axisBinding(
  axis: string,
  lang: Lang,
  separator: string | undefined,
): Readonly<Record<string, unknown>> {
  return separator === undefined
    ? { axis, holds: `value@${lang}` }
    : { axis, holds: `values@${lang}`, as: { list: separator } };
}
