/**
 * Phrases: texts that are made in the stages, such as what is wrong with a layout, or why a step stands where it does. A phrase keeps
 * its template and its values, so that it can be shown in any language. The templates are the keys of the German table: a phrase
 * without a translation does not compile.
 */

import { phrasesDe } from "./de.js";

/** The languages in which texts for people are made: BCP 47. */
export const languages = ["en", "de"] as const;
/** A language that texts can be said in. */
export type Language = (typeof languages)[number];

export type Template = keyof typeof phrasesDe;
/** Lists are shown with commas; what is not there as nothing. */
export type PhraseValue = string | number | Phrase | readonly Text[] | undefined;
/** A text that a person reads: as it is, or as a phrase that can be translated. */
export type Text = string | Phrase;

/** A sentence that can be said in every language: a template, and what stands in its places. */
export class Phrase {
  constructor(
    readonly template: Template,
    readonly values: readonly PhraseValue[],
  ) {}

  /** In English. */
  toString(): string {
    return this.say("en");
  }

  toJSON(): string {
    return this.say("en");
  }

  say(language: Language): string {
    const template: string = language === "de" ? phrasesDe[this.template] : this.template;
    return template.replace(/\{(\d+)\}/g, (_, at: string) => said(this.values[Number(at)], language));
  }
}

/** A sentence with values, which says itself in each language. @param template `{0}`, `{1}` … stand for the values. */
export const phrase = (template: Template, ...values: readonly PhraseValue[]): Phrase => new Phrase(template, values);

/** A text in a language. Any other text stays as it is. */
export const say = (text: Text, language: Language): string => (text instanceof Phrase ? text.say(language) : text);

function said(value: PhraseValue, language: Language): string {
  if (value === undefined) return "";
  if (typeof value === "number") return String(value);
  if (typeof value === "string" || value instanceof Phrase) return say(value, language);
  return value.map((one) => say(one, language)).join(", ");
}

/** A text that has a translation if it is a known word; as it is otherwise. */
export const known = (text: string): Text => (Object.hasOwn(phrasesDe, text) ? phrase(text as Template) : text);

const plurals: Readonly<Record<string, string>> = {
  category: "categories",
  axis: "axes",
  property: "properties",
  stock: "stock",
  supply: "supplies",
};

/** Several records of a kind, in English: "option groups". */
export const pluralOf = (kind: string): string => plurals[kind] ?? `${kind.replaceAll("-", " ")}s`;

/** A kind as people call it: "option group", "option groups". Kinds of a project's own have no translation. */
export const kindPhrase = (kind: string, count = 1): Text =>
  known(count === 1 ? kind.replaceAll("-", " ") : pluralOf(kind));
