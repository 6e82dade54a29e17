/** What a target file says once and means several times: a layout for each kind, a file and an upload for each language. */

import type { GivenLayout } from "../layout/schema.js";
import type { NamedImport } from "./slots.js";
import type { GivenFile, GivenImport } from "./schema.js";

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

/** Each upload, with the language that its file says the words of. */
export interface ExpandedImport {
  readonly given: NamedImport;
  readonly lang: string | undefined;
}

export function eachImport(given: GivenImport, files: Readonly<Record<string, GivenFile>>): ExpandedImport[] {
  const { languages } = files[given.file] ?? {};
  const { name = given.file } = given;
  if (!languages) return [{ given: { ...given, name }, lang: undefined }];
  return languages.map((lang) => ({
    given: { ...filled(given, "lang", lang), name: `${name}-${lang}`, file: `${given.file}-${lang}` },
    lang,
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
