/**
 * Lists (C2) and paths (C3): entries between separators.
 *
 * With an escape character, separators inside an entry are escaped; without, an entry that holds a separator is a problem when
 * writing. Nested codecs escape what their outer ones would cut at: the innermost `separators` tells them.
 */

import { isProblem, problem, unwritable, type CellValue, type Codec, type Problem, type Unwritable } from "./codec.js";

export interface ListOptions {
  readonly separator: string;
  readonly escape?: string | undefined;
  /** Separators of the codecs around this one, and of this one: an escape may stand before any of them. */
  readonly separators: readonly string[];
  readonly of: Codec;
  /** A fixed first entry: the root word of a path. */
  readonly root?: string | undefined;
}

export function listCodec(options: ListOptions, takes: string): Codec {
  const { separator, escape, of, root } = options;
  const marks = [...new Set(options.separators.map((one) => one.trim() || one))];

  const parse = (text: string): CellValue | Problem => {
    const parts = escape === undefined ? text.split(separator) : splitEscaped(text, separator, escape);
    const values: CellValue[] = [];
    for (const part of parts) {
      if (part.trim() === "") return problem("empty-entry", text, takes);
      const value = of.parse(part);
      if (isProblem(value)) return value;
      values.push(value);
    }
    if (root === undefined) return values;
    return values[0] === root && values.length > 1 ? values.slice(1) : problem("no-beginning", text, takes);
  };

  const format = (value: CellValue): string | Unwritable => {
    const parts: string[] = root === undefined ? [] : [root];
    for (const entry of value as readonly CellValue[]) {
      const text = of.format(entry);
      if (typeof text !== "string") return text;
      if (text.trim() === "") return unwritable(text, takes);
      // With an escape, the texts inside have been escaped by `escapedText`; without, what would be cut cannot be written.
      if (escape === undefined && holdsSeparator(text, separator)) return unwritable(text, `no "${separator}"`);
      parts.push(text);
    }
    return parts.join(separator);
  };
  return { takes: `${takes}${marks.length > 0 ? `, "${separator}" between` : ""}`, parse, format };
}

/** An entry that ends or begins with a part of the separator would be cut wrongly too: `a ` before ` / `. */
function holdsSeparator(text: string, separator: string): boolean {
  return `${text}${separator}`.indexOf(separator) !== text.length;
}

/** Cuts at separators that no escape stands before; the escapes stay, for the codec inside. */
function splitEscaped(text: string, separator: string, escape: string): string[] {
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

/** The text at the bottom of lists with an escape character: escapes what any of them would cut at. */
export function escapedText(escape: string, separators: readonly string[]): Codec {
  const special = [...new Set([escape, ...separators.map((one) => one.trim() || one)])];
  return {
    takes: "text",
    parse: (text) => {
      if (!text.includes(escape)) return text;
      let value = "";
      for (let at = 0; at < text.length; at++) {
        if (!text.startsWith(escape, at)) {
          value += text[at]!;
          continue;
        }
        at += escape.length;
        const escaped = special.find((one) => text.startsWith(one, at));
        if (escaped === undefined) return problem("bad-escape", text, `"${escape}" only before ${special.join(" ")}`);
        value += escaped;
        at += escaped.length - 1;
      }
      return value;
    },
    format: (value) => {
      const plain = value as string;
      if (!special.some((one) => plain.includes(one))) return plain;
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
    },
  };
}
