/** Headers that are the name of a field themselves: `product.weight`, `searchTitle@en`, `quantityLeast`. */

import { fieldOf } from "../kind.js";
import { Kinds } from "../kinds.js";

const kinds = new Kinds();

/** @returns the field as a layout binds it; undefined for every other header, also for words that people use for columns anyway. */
export function ownField(header: string, product: string, sold: string, language: string): string | undefined {
  const match = /^(?:(product|variant|category)\.)?([a-z][A-Za-z]*)(?:@([a-z]{2,3}))?$/.exec(header.trim());
  if (!match) return undefined;
  const [, given, name = "", lang] = match;
  const isPlainWord = given === undefined && lang === undefined && !/[A-Z]/.test(name);
  if (isPlainWord && !["tax", "backorder"].includes(name)) return undefined;
  const kind = [given, product, sold].find((one) => one !== undefined && fieldOf(kinds.get(one), name) !== undefined);
  const field = kind === undefined ? undefined : fieldOf(kinds.get(kind), name);
  if (kind === undefined || !field || field.reference) return undefined;
  if (field.perLanguage) return `${kind}.${name}@${lang ?? language}`;
  return lang === undefined ? `${kind}.${name}` : undefined;
}
