/**
 * Lists (C2) and paths (C3): entries between separators.
 *
 * With an escape character, separators inside an entry are escaped; without, an entry that holds a separator is a problem when
 * writing. Nested codecs escape what their outer ones would cut at: the innermost `separators` tells them.
 */

import {
  isProblem,
  problem,
  textOfNumber,
  unwritable,
  type CellValue,
  type Codec,
  type Problem,
  type Unwritable,
} from "./codec.js";
import { phrase, type Text } from "../phrases/phrase.js";

export interface ListOptions {
  readonly separator: string;
  readonly escape?: string | undefined;
  readonly of: Codec;
  /** A fixed first entry: the root word of a path. */
  readonly root?: string | undefined;
  /** Whether an entry may be blank: a place in a list that runs parallel to another. */
  readonly blanks?: boolean | undefined;
}

export function listCodec(options: ListOptions, takes: Text): Codec {
  const { separator, escape, of, root, blanks } = options;

  const parse = (text: string): CellValue | Problem => {
    const parts = escape === undefined ? text.split(separator) : splitEscaped(text, separator, escape);
    const values: CellValue[] = [];
    for (const part of parts) {
      if (part.trim() === "") {
        if (!blanks) return problem("empty-entry", text, takes);
        values.push("");
        continue;
      }
      const value = of.parse(part);
      if (isProblem(value)) return value;
      values.push(value);
    }
    if (root === undefined) return values;
    // The root word alone is a path of nothing.
    return values[0] === root ? values.slice(1) : problem("no-beginning", text, takes);
  };

  const format = (value: CellValue): string | Unwritable => {
    const parts: string[] = root === undefined ? [] : [root];
    for (const entry of value as readonly CellValue[]) {
      const text = blanks && entry === "" ? "" : of.format(entry);
      if (typeof text !== "string") return text;
      if (text.trim() === "" && !(blanks && text === "")) return unwritable(text, takes);
      // With an escape, the texts inside have been escaped by `escaped`; without, what would be cut cannot be written.
      if (escape === undefined && holdsSeparator(text, separator))
        return unwritable(text, phrase('no "{0}"', separator));
      parts.push(text);
    }
    return parts.join(separator);
  };
  const textOfOne = (number: string): string | undefined => {
    const text = textOfNumber(of, number);
    const isCut = text !== undefined && escape === undefined && holdsSeparator(text, separator);
    return isCut ? undefined : text;
  };
  return {
    takes,
    parse,
    format,
    textOfNumber: textOfOne,
  };
}

/** An entry that ends or begins with a part of the separator would be cut wrongly too: `a ` before ` / `. */
export function holdsSeparator(text: string, separator: string): boolean {
  return `${text}${separator}`.indexOf(separator) !== text.length;
}

/** Cuts at separators that no escape stands before; the escapes stay, for the codec inside. */
export function splitEscaped(text: string, separator: string, escape: string): string[] {
  const parts: string[] = [];
  let start = 0;
  let at = 0;
  while (at < text.length) {
    if (text.startsWith(escape, at)) at += escape.length + 1;
    else if (text.startsWith(separator, at)) {
      parts.push(text.slice(start, at));
      at += separator.length;
      start = at;
    } else at += 1;
  }
  parts.push(text.slice(start));
  return parts;
}

/** What stands at the bottom of lists with an escape character: escapes what any of them would cut at. */
export function escaped(escape: string, separators: readonly string[], of: Codec): Codec {
  const special = [...new Set([escape, ...separators.map((one) => one.trim() || one)])];
  const parse = (text: string): CellValue | Problem => {
    if (!text.includes(escape)) return of.parse(text);
    let value = "";
    for (let at = 0; at < text.length; at++) {
      if (!text.startsWith(escape, at)) {
        value += text[at]!;
        continue;
      }
      at += escape.length;
      const found = special.find((one) => text.startsWith(one, at));
      if (found === undefined)
        return problem("bad-escape", text, phrase('"{0}" only before {1}', escape, special.join(" ")));
      value += found;
      at += found.length - 1;
    }
    return of.parse(value);
  };
  const format = (value: CellValue): string | Unwritable => {
    const plain = of.format(value);
    if (typeof plain !== "string" || !special.some((one) => plain.includes(one))) return plain;
    let text = "";
    for (let at = 0; at < plain.length; at++) {
      const found = special.find((one) => plain.startsWith(one, at));
      if (found === undefined) text += plain[at]!;
      else {
        text += escape + found;
        at += found.length - 1;
      }
    }
    return text;
  };
  const escapedNumber = (number: string): string | undefined => {
    const plain = textOfNumber(of, number);
    if (plain === undefined) return undefined;
    return special.reduce((text, one) => text.replaceAll(one, escape + one), plain);
  };
  return { takes: of.takes, parse, format, textOfNumber: escapedNumber };
}
