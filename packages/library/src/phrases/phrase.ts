/**
 * Phrases: parts of texts that are made in the stages, such as what is wrong with a layout. A phrase keeps its template and its
 * values, so that it can be shown in any language. The templates are the keys of the German table: none can lack a translation.
 */

import { phrasesDe } from "./de.js";

export type Template = keyof typeof phrasesDe;
export type PhraseValue = string | number | Phrase;

export class Phrase {
  constructor(
    readonly template: Template,
    readonly values: readonly PhraseValue[],
  ) {}

  /** In English. */
  toString(): string {
    return filled(this.template, this.values.map(String));
  }

  toJSON(): string {
    return this.toString();
  }

  toGerman(): string {
    return filled(phrasesDe[this.template], this.values.map(inGerman));
  }
}

/** @param template `{0}`, `{1}` … stand for the values. */
export const phrase = (template: Template, ...values: readonly PhraseValue[]): Phrase => new Phrase(template, values);

/** What is no phrase stays as it is. */
export const inGerman = (text: PhraseValue): string => (text instanceof Phrase ? text.toGerman() : String(text));

const filled = (template: string, values: readonly string[]): string =>
  template.replace(/\{(\d+)\}/g, (whole, at: string) => values[Number(at)] ?? whole);
