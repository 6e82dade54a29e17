/** Paths: the names from the root of a tree down to a record. */

import { inLanguage } from "../field-name.js";
import type { Lang } from "../nominal.js";
import { targetsOf, type ResolvedCatalogue } from "./catalogue.js";
import type { ReadonlyTable } from "./readonly-table.js";

/** The names from the root of the tree down to a record; a cycle is cut where it closes. */
export function pathOf(
  catalogue: ResolvedCatalogue,
  table: ReadonlyTable,
  row: number,
  lang: Lang | undefined,
): string[] {
  return rowsAbove(catalogue, table, row).map((at) => table.text(inLanguage("name", lang), at) ?? "");
}

/** The rows from the root of the tree down to a record; a cycle is cut where it closes. */
export function rowsAbove(catalogue: ResolvedCatalogue, table: ReadonlyTable, row: number): number[] {
  const rows = new Set<number>();
  for (
    let at: number | undefined = row;
    at !== undefined && !rows.has(at);
    at = targetsOf(catalogue, table, "parent", at)[0]
  )
    rows.add(at);
  return [...rows].reverse();
}
