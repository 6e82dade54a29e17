/**
 * The caps on what is read: how much a file may hold before it is taken for a mistake or an attack. A project may raise them.
 *
 * A file over a cap is a finding with the cap; what is over it is not read.
 */

interface Cap {
  readonly most: number;
  /** What is counted, for docs/safety.md. */
  readonly counts: string;
}

/** Every cap, with what it counts. */
export const capTable = {
  columns: { most: 16_384, counts: "columns of a sheet" },
  "header characters": { most: 1_024, counts: "characters of a header" },
  "cell characters": { most: 1_000_000, counts: "characters of a cell" },
  "row characters": {
    most: 11_000_000,
    counts: "characters of a row of CSV, before its quote is taken for an open one",
  },
  "group rows": { most: 50_000, counts: "rows of one record" },
  combinations: { most: 10_000, counts: "combinations of the values that a row lists" },
  "workbook bytes": { most: 500_000_000, counts: "bytes of a workbook, packed" },
  "sheet cells": { most: 50_000_000, counts: "cells of a sheet: of each row up to its last one" },
  "element characters": {
    most: 64_000_000,
    counts: "characters of an element of XML, of a value of JSON, or of a line of JSON Lines",
  },
  depth: { most: 200, counts: "elements or values within each other" },
  "unpacked bytes": { most: 2_000_000_000, counts: "bytes of an archive or workbook, unpacked" },
  "archive files": { most: 100_000, counts: "files of an archive" },
} as const satisfies Readonly<Record<string, Cap>>;

/** The name of a cap, as a project writes it. */
export type CapName = keyof typeof capTable;
/** How much is read, by the name of the cap. */
export type Caps = Readonly<Record<CapName, number>>;

/** All names of caps. */
export const capNames = Object.keys(capTable) as readonly CapName[];

/** The caps of a project that raises none. */
export const usualCaps: Caps = Object.fromEntries(capNames.map((name) => [name, capTable[name].most])) as Caps;

/** @param raised the words of a project. */
export const capsWith = (raised: Readonly<Partial<Record<CapName, number | undefined>>>): Caps =>
  Object.fromEntries(capNames.map((name) => [name, raised[name] ?? usualCaps[name]])) as Caps;
