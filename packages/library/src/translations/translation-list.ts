/**
 * The translators' translation list: each text that is wanted in a language, with the text that it is made of. Out of the catalogue, and back
 * in: what was translated from a text that has changed since is not taken.
 */

import { present } from "../checked.js";
import type { Key, Lang } from "../nominal.js";
import { inLanguage } from "../field-name.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { finding, type Findings } from "../findings/finding.js";
import { Spellings } from "../spelling.js";
import type { Location } from "../location.js";

/** Whether a text is translated. */
export type TranslationState = "missing" | "stale" | "same as the source" | "done";

/** A text in the source language, and its translation where there is one. */
export interface TranslationItem {
  readonly kind: string;
  /** Of a picture's text: the record that shows it, and its file. */
  readonly key: Key;
  readonly field: string;
  readonly source: string;
  readonly translation: string | undefined;
  readonly state: TranslationState;
}

/** Texts of so few letters are often the same in both languages: XL, 14 cm. */
const fewLetters = 3;

/** Fields that are made of others, and are not translated. */
const made: ReadonlySet<string> = new Set(["slug"]);

/**
 * The texts of a catalogue with their translations, and what is missing.
 *
 * @param stale places where a translation was found to be of an older text, as findings tell them.
 */
export function translationList(
  catalogue: ResolvedCatalogue,
  source: Lang,
  lang: Lang,
  stale: readonly Location[] = [],
): TranslationItem[] {
  const isStale = new Set(stale.flatMap(({ record }) => (record ? [`${record.kind} ${record.key}`] : [])));
  return catalogue.tables.flatMap((table) => {
    const fields = table.kind.fields.filter((field) => field.perLanguage && !made.has(field.name));
    return Array.from({ length: table.size }, (_, row) => row).flatMap((row) =>
      fields.flatMap(({ name }): TranslationItem[] => {
        const from = table.text(inLanguage(name, source), row);
        if (typeof from !== "string" || from.trim() === "") return [];
        const translation = table.text(inLanguage(name, lang), row) ?? undefined;
        const key = keyOf(catalogue, table, row);
        const isSame = translation === from && (from.match(/\p{L}/gu)?.length ?? 0) > fewLetters;
        const state: TranslationState =
          translation === undefined
            ? "missing"
            : isStale.has(`${table.name} ${key}`)
              ? "stale"
              : isSame
                ? "same as the source"
                : "done";
        return [{ kind: table.name, key, field: name, source: from, translation, state }];
      }),
    );
  });
}

const between = " · ";

function keyOf(catalogue: ResolvedCatalogue, table: ReadonlyTable, row: number): string {
  if (!table.kind.entryKey) return table.key(row);
  const owner = catalogue.ownerOf(table, row);
  const parts = table.kind.entryKey.map((field) => table.text(field, row) ?? "");
  return [owner.table.key(owner.row), ...parts].join(between);
}

export interface TakenTranslations {
  readonly catalogue: ResolvedCatalogue;
  readonly taken: number;
  readonly stale: number;
}

/** A translation with its place in the translator's file. */
export interface PlacedTranslation {
  readonly item: Omit<TranslationItem, "state">;
  readonly at: Location;
}

/**
 * The catalogue with the texts of a list.
 *
 * @param later takes what names no record by now: operations may give it its key. Without it that is reported.
 */
export function takeTranslations(
  given: ResolvedCatalogue,
  items: readonly PlacedTranslation[],
  source: Lang,
  lang: Lang,
  findings: Findings,
  later?: PlacedTranslation[],
): TakenTranslations {
  const catalogue = given.branch();
  const rows = new Map<string, Map<string, number>>();
  const rowsOf = (table: ReadonlyTable): Map<string, number> => {
    let own = rows.get(table.name);
    if (!own) {
      rows.set(table.name, (own = new Map()));
      for (let row = 0; row < table.size; row++) own.set(keyOf(catalogue, table, row), row);
    }
    return own;
  };
  const spellings = new Map<string, Spellings>();
  const spellingsOf = (table: ReadonlyTable): Spellings => {
    let own = spellings.get(table.name);
    if (!own) spellings.set(table.name, (own = new Spellings(rowsOf(table).keys())));
    return own;
  };
  const tables = new Map(catalogue.tables.map((table) => [table.name, table]));
  const counts = { taken: 0, stale: 0 };
  for (const placed of items) {
    const { item, at } = placed;
    const { kind, key, field, translation } = item;
    if (translation === undefined || translation === "") continue;
    const table = tables.get(kind);
    const row = table && rowsOf(table).get(key);
    if (table && row === undefined && later) {
      later.push(placed);
      continue;
    }
    if (row === undefined || !present(table).kind.fields.some((one) => one.name === field && one.perLanguage)) {
      findings.addOf("read/names-none", () => {
        const nearest = table ? spellingsOf(table).nearest(key) : [];
        return finding("read/names-none", { kind, names: field, text: key, nearest }, at);
      });
      continue;
    }
    const now = present(table).text(inLanguage(field, source), row);
    if (now !== item.source) {
      counts.stale++;
      const location = catalogue.location(present(table), row, inLanguage(field, source));
      findings.add(finding("read/stale-translation", { here: item.source, first: now ?? "" }, at, [location]));
      continue;
    }
    present(table).setText(inLanguage(field, lang), row, translation);
    counts.taken++;
  }
  return { ...counts, catalogue };
}
