/**
 * Patterns: a text made of others, `{key}-{1|first 2|upper}`. For codes of variants, and short forms of derived fields.
 *
 * A name in braces is looked up; filters behind it, cut by `|`, are applied from left to right.
 */

import { present } from "../checked.js";
import { phrase, type Text } from "../phrases/phrase.js";
export interface Pattern {
  /** The names that are looked up. */
  readonly names: readonly string[];
  /** @returns undefined where one of the names has nothing. */
  readonly make: (lookUp: (name: string) => string | undefined) => string | undefined;
}

type Filter = (text: string) => string;

const filters: Readonly<Record<string, Filter>> = {
  upper: (text) => text.toUpperCase(),
  lower: (text) => text.toLowerCase(),
  trim: (text) => text.trim(),
  plain: (text) => text.normalize("NFKD").replace(/[^\x20-\x7e]/g, ""),
  digits: (text) => text.replace(/\D/g, ""),
  letters: (text) => text.replace(/[^\p{L}\p{N}]/gu, ""),
};
export const filterNames: readonly string[] = [...Object.keys(filters), "first N"];

export type ParsedPattern =
  { readonly ok: true; readonly pattern: Pattern } | { readonly ok: false; readonly problem: Text };

/** @returns a problem for a brace that is not closed, or a filter that there is not. */
export function parsePattern(text: string): ParsedPattern {
  const parts: (string | { readonly name: string; readonly apply: Filter })[] = [];
  let at = 0;
  for (const match of text.matchAll(/\{([^{}]*)\}/g)) {
    parts.push(text.slice(at, match.index));
    const [name = "", ...names] = present(match[1])
      .split("|")
      .map((word) => word.trim());
    if (name === "") return { ok: false, problem: phrase("{} contains no name") };
    const chain: Filter[] = [];
    for (const word of names) {
      const filter = filterOf(word);
      if (!filter)
        return {
          ok: false,
          problem: phrase('there is no filter "{0}". The filters are {1}', word, filterNames.join(", ")),
        };
      chain.push(filter);
    }
    parts.push({ name, apply: (value) => chain.reduce((done, filter) => filter(done), value) });
    at = match.index + match[0].length;
  }
  parts.push(text.slice(at));
  if (parts.some((part) => typeof part === "string" && /[{}]/.test(part)))
    return { ok: false, problem: phrase('a brace in "{0}" is not closed', text) };
  const names = parts.flatMap((part) => (typeof part === "string" ? [] : [part.name]));
  const make: Pattern["make"] = (lookUp) => {
    let made = "";
    for (const part of parts) {
      if (typeof part === "string") made += part;
      else {
        const value = lookUp(part.name);
        if (value === undefined) return undefined;
        made += part.apply(value);
      }
    }
    return made;
  };
  return { ok: true, pattern: { names, make } };
}

function filterOf(word: string): Filter | undefined {
  const first = /^first (\d{1,3})$/.exec(word);
  if (first) return (text) => [...text].slice(0, Number(first[1])).join("");
  return Object.hasOwn(filters, word) ? filters[word] : undefined;
}
