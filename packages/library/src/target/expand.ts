/** What a target file says once and means several times: a layout for each kind, a file and a slot for each language. */

import type { GivenLayout } from "../layout/schema.js";
import type { GivenFile, Slot } from "./schema.js";

export interface ExpandedFile {
  readonly name: string;
  /** As it is called in the target file. */
  readonly written: string;
  readonly given: GivenFile;
}

/** `words` in German is `words-de`. */
export function eachFile(written: string, given: GivenFile): ExpandedFile[] {
  if (!given.languages) return [{ name: written, written, given }];
  return given.languages.map((lang) => ({ name: `${written}-${lang}`, written, given: filled(given, "lang", lang) }));
}

export function eachLayout({ layout, each, more }: GivenFile): GivenLayout[] {
  return [{ layout, each }, ...more].flatMap((one) =>
    one.each ? one.each.map((kind) => filled(one.layout, "kind", kind)) : [one.layout],
  );
}

export function eachSlot(slot: Slot, files: Readonly<Record<string, GivenFile>>): Slot[] {
  const { languages } = files[slot.file] ?? {};
  if (!languages) return [slot];
  return languages.map((lang) => ({
    ...filled(slot, "lang", lang),
    name: `${slot.name}-${lang}`,
    file: `${slot.file}-${lang}`,
  }));
}

/** The same with a word in braces replaced, in every text and every name. */
function filled<T>(value: T, word: string, by: string): T {
  const fill = (one: unknown): unknown => {
    if (typeof one === "string") return one.replaceAll(`{${word}}`, by);
    if (Array.isArray(one)) return one.map(fill);
    if (typeof one !== "object" || one === null) return one;
    return Object.fromEntries(Object.entries(one).map(([name, inner]) => [fill(name) as string, fill(inner)]));
  };
  return fill(value) as T;
}
