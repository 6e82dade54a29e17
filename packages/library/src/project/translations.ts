/** Translation lists that came back from translators, read into the catalogue: workbooks, CSV, XLIFF. And what a project wants of gaps. */

import type { Lang } from "../nominal.js";
import { inLanguage } from "../field-name.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { finding, type Findings } from "../findings/finding.js";
import { ByteReader } from "../formats/byte-reader.js";
import { readCsv } from "../formats/csv-read.js";
import { decodeText } from "../formats/decode.js";
import { chooseSheet, isWorkbook, openWorkbook, readSheet } from "../formats/workbook-read.js";
import type { FilesPort } from "../ports.js";
import { itemsOfSheet } from "../translations/sheet.js";
import { takeTranslations, type PlacedTranslation } from "../translations/translation-list.js";
import { itemsOfXliff } from "../translations/xliff.js";
import { pushAll } from "../lists.js";

const maxBytes = 100_000_000;

export interface TranslationFile {
  readonly file: string;
  readonly language: Lang;
}

/** The catalogue with the translations of all lists. */
export async function readTranslations(
  before: ResolvedCatalogue,
  given: readonly TranslationFile[],
  source: Lang,
  files: FilesPort,
  findings: Findings,
): Promise<ReadTranslations> {
  let catalogue = before;
  const later: LaterTranslations[] = [];
  for (const { file, language } of given) {
    const bytes = findings.took(await files.read(file));
    if (!bytes) continue;
    const items = await itemsOf(file, language, new ByteReader(bytes), findings);
    if (!items) {
      findings.add(finding("translations/no-list", { lang: language }, { file }));
      continue;
    }
    const placed = items.map(({ item, line }) => ({
      item,
      at: { file, line, record: { kind: item.kind, key: item.key } },
    }));
    const waiting: PlacedTranslation[] = [];
    const result = takeTranslations(catalogue, placed, source, language, findings, waiting);
    if (waiting.length > 0) later.push({ file, language, items: waiting });
    const { taken, stale } = result;
    catalogue = result.catalogue;
    findings.add(finding("translations/taken", { taken, stale, lang: language }, { file }));
  }
  return { catalogue, later };
}

/** Texts for records that are there only under a key that an operation gives them. */
export interface LaterTranslations {
  readonly file: string;
  readonly language: Lang;
  readonly items: readonly PlacedTranslation[];
}

export interface ReadTranslations {
  readonly catalogue: ResolvedCatalogue;
  readonly later: readonly LaterTranslations[];
}

/** Takes what named no record before the operations; what names none behind them is reported. */
export function takeLater(
  before: ResolvedCatalogue,
  later: readonly LaterTranslations[],
  source: Lang,
  findings: Findings,
): ResolvedCatalogue {
  let catalogue = before;
  for (const { file, language, items } of later) {
    const result = takeTranslations(catalogue, items, source, language, findings);
    const { taken, stale } = result;
    catalogue = result.catalogue;
    if (taken + stale > 0) findings.add(finding("translations/taken", { taken, stale, lang: language }, { file }));
  }
  return catalogue;
}

async function itemsOf(file: string, lang: Lang, bytes: ByteReader, findings: Findings) {
  const head = await bytes.peek(8);
  if (isWorkbook(head)) {
    const book = findings.took(await openWorkbook((await bytes.all(maxBytes)) ?? new Uint8Array(), file));
    const name = book && chooseSheet(book, book.names[0], file, findings);
    if (!book || name === undefined) return undefined;
    const rows: (readonly string[])[] = [];
    const lines: number[] = [];
    const how = { sheet: undefined, headerLine: 1, skipsHidden: false, repeatsMerged: false };
    for (const batch of readSheet(book, name, how, { file, sheet: name }, findings)) {
      pushAll(rows, batch.rows);
      pushAll(lines, batch.lines);
    }
    return itemsOfSheet(rows, lines, lang);
  }
  const text = decodeText(bytes, file, undefined, findings);
  if (/^[^\x20-\x7e]*</.test(new TextDecoder("latin1").decode(head))) return itemsOfXliff(text, file, findings);
  const rows: (readonly string[])[] = [];
  const lines: number[] = [];
  for await (const batch of readCsv(text, file, {}, findings)) {
    pushAll(rows, batch.rows);
    pushAll(lines, batch.lines);
  }
  return itemsOfSheet(rows, lines, lang);
}

/** What becomes of a text that a language lacks. */
export type GapPolicy =
  { readonly is: "leave blank" } | { readonly is: "hold back" } | { readonly is: "copy"; readonly mark: string };

/** Copies the source text with a mark, or says that the record waits for its translation. */
export function fillGaps(
  given: ResolvedCatalogue,
  policies: ReadonlyMap<string, GapPolicy>,
  source: Lang,
  findings: Findings,
): ResolvedCatalogue {
  const catalogue = given.branch();
  for (const [lang, policy] of policies) {
    if (policy.is === "leave blank") continue;
    let copied = 0;
    for (const table of catalogue.tables)
      for (const { name, perLanguage } of table.kind.fields) {
        const from = perLanguage && name !== "slug" ? table.texts.get(inLanguage(name, source)) : undefined;
        if (!from) continue;
        for (let row = 0; row < table.size; row++) {
          const text = from.get(row);
          if (typeof text !== "string" || table.text(inLanguage(name, lang), row) !== undefined) continue;
          if (policy.is === "copy") {
            table.setText(inLanguage(name, lang), row, `${policy.mark}${text}`);
            copied++;
          } else
            findings.add(
              finding(
                "translations/needed",
                { field: name, lang },
                catalogue.location(table, row, inLanguage(name, source)),
              ),
            );
        }
      }
    if (copied > 0) findings.add(finding("translations/copied", { count: copied, lang }));
  }
  return catalogue;
}
