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
  const names: string[] = [];
  const seen = new Set<number>();
  for (
    let at: number | undefined = row;
    at !== undefined && !seen.has(at);
    at = targetsOf(catalogue, table, "parent", at)[0]
  ) {
    seen.add(at);
    names.push(table.text(inLanguage("name", lang), at) ?? "");
  }
  return names.reverse();
}
