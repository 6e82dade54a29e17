/** A work list as rows of a sheet: what is wanted, the text to translate, and a column for the words. */

import type { SheetToWrite } from "../formats/workbook-write.js";
import type { WorkItem } from "./work-list.js";

const columns = ["Of", "Which", "Field", "State"] as const;

export function workSheet(items: readonly WorkItem[], source: string, lang: string): SheetToWrite {
  return {
    name: `${source} to ${lang}`,
    rows: [
      [...columns, source, lang],
      ...items.map(({ kind, key, field, state, source: from, words }) => [kind, key, field, state, from, words ?? ""]),
    ],
    widths: [16, 28, 14, 18, 60, 60],
    frozenRows: 1,
  };
}

/** @returns the items of a sheet's rows with their lines; undefined where the header is not a work list's. */
export function itemsOfSheet(
  rows: readonly (readonly string[])[],
  lines: readonly number[],
  lang: string,
): { readonly item: Omit<WorkItem, "state">; readonly line: number }[] | undefined {
  const [header, ...rest] = rows;
  const at = (name: string): number => header?.indexOf(name) ?? -1;
  const [kind, key, field, words] = [at("Of"), at("Which"), at("Field"), at(lang)];
  // The text to translate stands before the words.
  const source = words - 1;
  if ([kind, key, field].some((one) => one < 0) || words < 1) return undefined;
  return rest.map((cells, index) => ({
    item: {
      kind: cells[kind] ?? "",
      key: cells[key] ?? "",
      field: cells[field] ?? "",
      source: cells[source] ?? "",
      words: cells[words] || undefined,
    },
    line: lines[index + 1]!,
  }));
}
