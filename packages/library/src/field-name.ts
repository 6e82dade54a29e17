/**
 * The names of fields. There are three ways to write one; all are made and taken apart here.
 *
 * - in files that people write: `product.name@de`, `variant.prices(price).amount`
 * - in the storage: the table `product`, or `product.prices` for entries; its column `weight`, or `name@de`
 * - what an upload adds to records that are there: `product.prices`, `product@de`
 */

import type { Lang } from "./nominal.js";

export const inLanguage = (field: string, lang: Lang | undefined): string =>
  lang === undefined ? field : `${field}@${lang}`;

const nameFields = new Map<Lang | undefined, string>();

/** The field of a name in a language. Each is made once: it is asked for of every record. */
export function nameField(lang: Lang | undefined): string {
  let name = nameFields.get(lang);
  if (name === undefined) nameFields.set(lang, (name = inLanguage("name", lang)));
  return name;
}

/** Of anything with a language behind it: `name@de`, `name`. */
export function splitLanguage(text: string): { readonly name: string; readonly lang: Lang | undefined } {
  const at = text.indexOf("@");
  return at < 0 ? { name: text, lang: undefined } : { name: text.slice(0, at), lang: text.slice(at + 1) };
}

/** The same for a name that a person gave, which may hold the sign itself: `Wood@en`, `AC @ 230 V`. */
export function splitNameLanguage(text: string): { readonly name: string; readonly lang: Lang | undefined } {
  const found = /^([^]+)@([a-z]{2,3}(?:-[a-z0-9]{2,8})*)$/i.exec(text);
  return found ? { name: found[1] ?? "", lang: found[2] } : { name: text, lang: undefined };
}

/** The field of a column: `name` of `name@de`. */
export const fieldOfColumn = (column: string): string => splitLanguage(column).name;

/** The kind of a table, and for entries their name in it: `product` and `prices`. */
export function splitTable(table: string): { readonly kind: string; readonly collection: string | undefined } {
  const at = table.indexOf(".");
  return at < 0
    ? { kind: table, collection: undefined }
    : { kind: table.slice(0, at), collection: table.slice(at + 1) };
}

/** What an upload adds to records of a kind: texts in a language, or a field or entries. */
export function splitAddition(addition: string): {
  readonly kind: string;
  readonly lang: Lang | undefined;
  readonly part: string | undefined;
} {
  const { name, lang } = splitLanguage(addition);
  const { kind, collection } = splitTable(name);
  return { kind, lang, part: collection };
}

/** A field as people write it. */
export interface WrittenField {
  /** `product`, or the name of a lane. */
  readonly kind: string;
  /** The field; or the entries, or the reference, that `inner` is a field of. */
  readonly field: string;
  /** What tells the entry apart, as it is written: `price` of `prices(price)`. */
  readonly constants: string | undefined;
  readonly inner: string | undefined;
  /** Where `inner` is a list of entries: what tells one apart, and its field: `main` and `file` of `pictures(main).file`. */
  readonly entry: { readonly constants: string | undefined; readonly field: string } | undefined;
  readonly lang: Lang | undefined;
}

const written = /^([a-z][\w-]*)\.([\w-]+)(?:\(([^()]+)\))?(?:\.(\w+)(?:(?:\(([^()]+)\))?\.(\w+))?)?(?:@([\w-]+))?$/i;

/** @returns undefined for what is not written like a field. */
export function parseWritten(text: string): WrittenField | undefined {
  const match = written.exec(text);
  if (!match) return undefined;
  const [, kind = "", field = "", constants, inner, apart, ofEntry, lang] = match;
  const entry = ofEntry === undefined ? undefined : { constants: apart, field: ofEntry };
  return { kind, field, constants, inner, entry, lang };
}
