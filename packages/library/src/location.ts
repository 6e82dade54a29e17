/** Places in the files that we were given, and their order. */

import type { Header, Key } from "./nominal.js";

/** Where something stands in what we were given. Lines count from 1; a line is a physical line of the file. */
export interface Location {
  readonly file: string;
  /** The sheet of a workbook. */
  readonly sheet?: string;
  /** In documents: the pointer to the element or value, `/products/12`. */
  readonly pointer?: string;
  readonly line?: number;
  /** Column of characters on the line, from 1: for files people write by hand (layouts, targets, projects). */
  readonly char?: number;
  /** The header of the column, for cells. */
  readonly column?: Header;
  readonly record?: RecordName;
}

/** A record by its kind and key. */
export interface RecordName {
  readonly kind: string;
  readonly key: Key;
}

/** `file:line:char [column]`, as short as what is known; `file#sheet:line` in a workbook, `file#/pointer` in a document. */
export function formatLocation(location: Location): string {
  const within = location.pointer ?? location.sheet;
  const file = within === undefined ? location.file : `${location.file}#${within}`;
  const spot = [file, location.line, location.char].filter((part) => part !== undefined).join(":");
  return location.column === undefined ? spot : `${spot} [${location.column}]`;
}

/** Source order: by file, line, column, code unit by code unit. */
export function compareLocations(a: Location | undefined, b: Location | undefined): number {
  return (
    compareText(a?.file ?? "", b?.file ?? "") ||
    compareText(a?.sheet ?? "", b?.sheet ?? "") ||
    pointerNumber(a) - pointerNumber(b) ||
    compareText(a?.pointer ?? "", b?.pointer ?? "") ||
    (a?.line ?? 0) - (b?.line ?? 0) ||
    (a?.char ?? 0) - (b?.char ?? 0) ||
    compareText(a?.column ?? "", b?.column ?? "")
  );
}

/** By code units, the same on every machine. */
export function compareText(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}

/** The last number in a pointer: the position of a repeated element. */
function pointerNumber(location: Location | undefined): number {
  return location?.pointer === undefined ? 0 : Number(/(\d+)(?:\/[^\d/]*)?$/.exec(location.pointer)?.[1] ?? 0);
}
