/** The language that texts are written in, found from their letters. */

import { francAll } from "franc-min";
import type { Lang } from "../nominal.js";

/** What texts are told apart from, by the codes of ISO 639-3. */
const languages: Readonly<Record<string, Lang>> = {
  eng: "en",
  deu: "de",
  fra: "fr",
  spa: "es",
  ita: "it",
  nld: "nl",
  pol: "pl",
};

/** A language, and by how much it fits better than the next: from 0 to 1. */
export interface WrittenIn {
  readonly lang: Lang;
  readonly lead: number;
}

const enough = 4_000;

/** @returns undefined for texts that are too short, or in other letters. */
export function writtenIn(cells: readonly string[]): WrittenIn | undefined {
  let text = "";
  for (const cell of new Set(cells)) {
    if (text.length > enough) break;
    if (/\p{L}/u.test(cell)) text += ` ${cell}`;
  }
  if (text.length < 30) return undefined;
  const [first, second] = francAll(text, { only: Object.keys(languages), minLength: 10 });
  const lang = first && languages[first[0]];
  return lang === undefined ? undefined : { lang, lead: first![1] - (second?.[1] ?? 0) };
}
