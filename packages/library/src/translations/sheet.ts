/** A translation list as rows of a sheet: the record, the field, the text to translate, and a column for its translation. */

import type { Lang } from "../nominal.js";
import type { SheetToWrite } from "../formats/workbook-write.js";
import type { TranslationItem } from "./translation-list.js";

const columns = ["Kind", "Key", "Field", "State"] as const;

/** A list for translators as a sheet: a row for each text. `itemsOfSheet` reads it back. */
export function translationSheet(items: readonly TranslationItem[], source: Lang, lang: Lang): SheetToWrite {
  return {
    name: `${source} to ${lang}`,
    rows: [
      [...columns, source, lang],
      ...items.map(({ kind, key, field, state, source: from, translation }) => [
        kind,
        key,
        field,
        state,
        from,
        translation ?? "",
      ]),
    ],
    widths: [16, 28, 14, 18, 60, 60],
    frozenRows: 1,
  };
}

/**
 * The items of a translation list from the rows of a sheet.
 *
 * @returns the items of a sheet's rows with their lines; undefined where the header is not a translation list's.
 */
export function itemsOfSheet(
  rows: readonly (readonly string[])[],
  lines: readonly number[],
  lang: Lang,
): { readonly item: Omit<TranslationItem, "state">; readonly line: number }[] | undefined {
  const [header, ...rest] = rows;
  const at = (name: string): number => header?.indexOf(name) ?? -1;
  const [kind, key, field, translation] = [at("Kind"), at("Key"), at("Field"), at(lang)];
  // The text to translate stands before its translation.
  const source = translation - 1;
  if ([kind, key, field].some((one) => one < 0) || translation < 1) return undefined;
  return rest.map((cells, index) => ({
    item: {
      kind: cells[kind] ?? "",
      key: cells[key] ?? "",
      field: cells[field] ?? "",
      source: cells[source] ?? "",
      translation: cells[translation] || undefined,
    },
    line: lines[index + 1]!,
  }));
}
