/** What a header says by its words: what the column is about, in which language, in which unit. */

import { firstOf } from "../checked.js";
import type { Header, Lang } from "../nominal.js";
import { vocabulary, type Concept } from "./vocabulary.js";

export interface Known {
  readonly concept: Concept;
  /** The languages that the phrase is one of. */
  readonly langs: readonly string[];
}

/** By phrase: a phrase that is one of two concepts in different languages has both. */
const known: ReadonlyMap<string, readonly Known[]> = (() => {
  const map = new Map<string, Known[]>();
  for (const [concept, byLang] of Object.entries(vocabulary))
    for (const [lang, list] of Object.entries(byLang))
      for (const phrase of list.split("|")) {
        const all = map.get(phrase) ?? [];
        const before = all.find((one) => one.concept === concept);
        if (before) all[all.indexOf(before)] = { ...before, langs: [...before.langs, lang] };
        else all.push({ concept: concept as Concept, langs: [lang] });
        map.set(phrase, all);
      }
  return map;
})();

const languages: Readonly<Record<string, string>> = {
  en: "en",
  eng: "en",
  english: "en",
  englisch: "en",
  anglais: "en",
  de: "de",
  german: "de",
  deutsch: "de",
  allemand: "de",
  ger: "de",
  fr: "fr",
  french: "fr",
  franzoesisch: "fr",
  francais: "fr",
  es: "es",
  spanish: "es",
  espanol: "es",
  it: "it",
  italian: "it",
  italiano: "it",
  nl: "nl",
  dutch: "nl",
  nederlands: "nl",
  pl: "pl",
  polish: "pl",
  polski: "pl",
  ja: "ja",
  japanese: "ja",
  ar: "ar",
  arabic: "ar",
};
const units: Readonly<Record<string, string>> = {
  kg: "kg",
  g: "g",
  gr: "g",
  gramm: "g",
  grams: "g",
  gram: "g",
  lb: "lb",
  oz: "oz",
  cm: "cm",
  mm: "mm",
  m: "m",
  ml: "ml",
};
const besides = new Set(
  "eur euro gbp usd chf pln brutto netto gross net incl excl vat mwst btw iva ht ttc inkl zzgl in the per der des de la le en con".split(
    " ",
  ),
);

export interface HeaderName {
  readonly parts: readonly string[];
  readonly lang: Lang | undefined;
  readonly unit: string | undefined;
  /** A number that tells several columns of one sort apart. */
  readonly number: number | undefined;
}

/** A text in small letters, without accents, as phrases are folded. */
const folded = (text: string): string =>
  text
    .replace(/([\p{Ll}])(\p{Lu})/gu, "$1 $2")
    .toLowerCase()
    .replaceAll("ä", "ae")
    .replaceAll("ö", "oe")
    .replaceAll("ü", "ue")
    .replaceAll("ß", "ss")
    .replaceAll("ł", "l")
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .replace(/(\p{L})(\d+)(?!\p{L})/gu, "$1 $2");

/** The words of a header, folded, with what stands beside them taken out: language, unit, number. */
export function headerNameOf(header: Header): HeaderName {
  const all = folded(header)
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== "");
  let lang: Lang | undefined;
  let unit: string | undefined;
  let number: number | undefined;
  const parts = all.filter((word, at) => {
    const isEdge = at === all.length - 1 || at === 0;
    if (/^\d{1,2}$/.test(word)) number = Number(word);
    else if (all.length > 1 && isEdge && Object.hasOwn(languages, word) && !isWordIn(all, at)) lang = languages[word];
    else if (all.length > 1 && at > 0 && Object.hasOwn(units, word)) unit = units[word];
    else return true;
    return false;
  });
  return { parts, lang: lang ?? (all.length === 1 ? languages[firstOf(all)] : undefined), unit, number };
}

/** Whether a word that is also the mark of a language is one of the phrase: `en` in "en stock", `it` in "in it". */
function isWordIn(all: readonly string[], at: number): boolean {
  const words = all.filter((word) => !/^\d+$/.test(word));
  if (all[at] === "it" && !known.has(words.filter((word) => word !== "it").join(" "))) return true;
  return at === 0 && known.has(words.join(" "));
}

export interface HeaderMatch extends Known {
  readonly how: "exact" | "without" | "within" | "near";
  readonly phrase: string;
}

/**
 * What a header may mean by its words: the phrase itself; without words like gross or EUR; a phrase within it; one letter off.
 *
 * @returns what the best match means: one meaning, or one for each of several languages.
 */
export function meaningsOf(
  { parts, number }: HeaderName,
  isOneSlip: (a: string, b: string) => boolean,
): readonly HeaderMatch[] {
  const as = (found: readonly Known[] | undefined, how: HeaderMatch["how"], phrase: string) =>
    found?.map((one): HeaderMatch => ({ ...one, how, phrase }));
  const phrase = parts.join(" ");
  const kept = parts.filter((word) => !besides.has(word));
  const short = kept.join(" ");
  // `Description 1` is the first line of a name.
  const numbered = `${phrase} ${number}`;
  const exact =
    as(number === undefined ? undefined : known.get(numbered), "exact", numbered) ??
    as(known.get(phrase), "exact", phrase) ??
    as(known.get(short), "without", short);
  if (exact) return exact;
  const near = nearly(phrase, isOneSlip) ?? (short === phrase ? undefined : nearly(short, isOneSlip));
  for (let length = kept.length - 1; length > 0; length--)
    for (const part of [kept.slice(-length), kept.slice(0, length)]) {
      const within = part.join(" ");
      // A letter alone says too little.
      if (within.length < 2) continue;
      const found = as(known.get(within), "within", within);
      if (found && (length > 1 || near === undefined)) return found;
    }
  return near ?? [];
}

function nearly(phrase: string, isOneSlip: (a: string, b: string) => boolean): HeaderMatch[] | undefined {
  const singular = phrase.endsWith("s") ? known.get(phrase.slice(0, -1)) : undefined;
  if (singular) return singular.map((one) => ({ ...one, how: "near", phrase: phrase.slice(0, -1) }));
  if (phrase.length < 5) return undefined;
  const found: HeaderMatch[] = [];
  for (const [candidate, meanings] of known)
    if (candidate.length >= 5 && (isOneSlip(phrase, candidate) || isSwapped(phrase, candidate)))
      for (const one of meanings) found.push({ ...one, how: "near", phrase: candidate });
  // Words that are near two concepts say neither.
  const concepts = new Set(found.map(({ concept }) => concept));
  return found.length > 0 && concepts.size === 1 ? [found[0]!] : undefined;
}

/** Whether two letters beside each other changed places. */
function isSwapped(one: string, other: string): boolean {
  if (one.length !== other.length) return false;
  const at = [...one].findIndex((letter, place) => letter !== other[place]);
  return at >= 0 && one[at] === other[at + 1] && one[at + 1] === other[at] && one.slice(at + 2) === other.slice(at + 2);
}

export const languageNamed = (word: string): string | undefined =>
  Object.hasOwn(languages, word.toLowerCase()) ? languages[word.toLowerCase()] : undefined;

/** The language that a file's name tells: `texts-de.csv`. */
export function languageOfFile(file: string): Lang | undefined {
  const words = folded(file.replace(/^.*\//, "").replace(/\.\w+$/, "")).split(/[^\p{L}]+/u);
  const last = words[words.length - 1] ?? "";
  // A short mark by itself is a word as good as any.
  return words.length > 1 || last.length > 2 ? languages[last] : undefined;
}
