/** Single values: text, exact decimals, integers, code words, dates (C1), and fixed beginnings and endings (C5). */

import { firstOf } from "../checked.js";
import { canonicalDecimal, decimalPlaces } from "../decimal.js";
import { isProblem, problem, unwritable, type CellValue, type Codec, type Problem, type Unwritable } from "./codec.js";
import { phrase } from "../phrases/phrase.js";

export const textCodec: Codec = {
  takes: phrase("text"),
  parse: (text) => text,
  format: (value) => value as string,
};

export interface DecimalOptions {
  readonly point: "," | ".";
  /** A currency sign that may stand before or behind; it is not written. */
  readonly sign?: string | undefined;
  /** Exactly so many places are written; more in a value is a problem. */
  readonly places?: number | undefined;
  /** What groups the digits before the point, where the layout allows it. Not written. */
  readonly thousands?: string | undefined;
  /** Whether what is not below 0 has a `+` before it. It is read without one, too. */
  readonly plus?: boolean | undefined;
}

/** C1: `"129,50"` ⇄ `"129.5"`. */
export function decimalCodec(options: DecimalOptions): Codec {
  const { point, sign, places, thousands, plus } = options;
  const takes = phrase(point === "," ? "a decimal with a comma" : "a decimal with a point");
  const parse = (given: string): CellValue | Problem => {
    let text = given;
    if (sign !== undefined) {
      if (text.startsWith(sign)) text = text.slice(sign.length).trimStart();
      else if (text.endsWith(sign)) text = text.slice(0, -sign.length).trimEnd();
    }
    if (plus && /^\+\d/.test(text)) text = text.slice(1);
    if (thousands !== undefined) {
      const grouped = /^-?\d{1,3}(?:(\D)\d{3})+(?!\d)/.exec(text);
      if (grouped?.[1] === thousands) text = text.replaceAll(thousands, "");
    }
    return canonicalDecimal(text, point) ?? problem(likelyMistake(text), given, takes);
  };
  const format = (value: CellValue): string | Unwritable => {
    const text = value as string;
    const own = decimalPlaces(text);
    if (places !== undefined && own > places) return unwritable(text, phrase("at most {0} decimals", places));
    const padded =
      places === undefined || own === places ? text : `${own === 0 ? `${text}.` : text}${"0".repeat(places - own)}`;
    const signed = plus && !padded.startsWith("-") ? `+${padded}` : padded;
    return point === "," ? signed.replace(".", ",") : signed;
  };
  const textOfNumber = (number: string): string => (point === "," ? number.replace(".", ",") : number);
  return { takes, holds: "number", parse, format, textOfNumber };
}

function likelyMistake(text: string) {
  if (/^-?\d+([.,]\d+)?[eE][+-]?\d+$/.test(text)) return "scientific";
  if (/[\p{Sc}]|[A-Z]{3}/u.test(text)) return "other-sign";
  if (/^-?\d{1,3}([.,' ]\d{3})+([.,]\d+)?$/.test(text)) return "thousands";
  return "not-a-decimal";
}

/** C1: whole numbers, canonical without leading zeros. */
export const integerCodec: Codec = {
  takes: phrase("a whole number"),
  holds: "number",
  parse: (text) => {
    const value = /^-?\d+$/.test(text) ? canonicalDecimal(text) : undefined;
    return value ?? problem(/[eE]/.test(text) ? "scientific" : "not-an-integer", text, phrase("a whole number"));
  },
  format: (value) => value as string,
  textOfNumber: (number) => number,
};

/** C1: a table of code words, cell to value; the first cell for a value is the one that is written. */
export function codeWordsCodec(table: Readonly<Record<string, string>>): Codec {
  const values = new Map(Object.entries(table));
  const cells = new Map([...values].reverse().map(([cell, value]) => [value, cell]));
  const takes = phrase("one of {0}", [...values.keys()].map((cell) => `"${cell}"`).join(", "));
  const isFlag = [...values].every(([cell, value]) => cell === value && /^(true|false)$/.test(cell));
  return {
    takes,
    holds: isFlag ? "flag" : undefined,
    choices: [...values.keys()],
    parse: (text) => values.get(text) ?? problem("not-a-word", text, takes),
    format: (value) => cells.get(value as string) ?? unwritable(value as string, takes),
  };
}

/** Code words, and any other text for another field. The value of a word is a text, that of another text is a list of that text. */
export function codeOrTextCodec(words: Codec): Codec {
  return {
    takes: phrase("{0}, or any other text", words.takes),
    parse: (text) => {
      const value = words.parse(text);
      return isProblem(value) ? [text] : value;
    },
    format: (value) => {
      if (typeof value === "string") return words.format(value);
      const text = String(value[0] ?? "");
      return isProblem(words.parse(text)) ? text : unwritable(text, phrase("a text that is not a code word"));
    },
  };
}

const dateToken = /YYYY|MM|DD|M|D/g;

/** C1: dates by patterns of `DD`, `MM`, `YYYY` (or `D`, `M`: one digit or two), to ISO 8601; the first pattern is written. */
export function dateCodec(patterns: readonly string[]): Codec {
  const takes = phrase("a date like {0}", patterns.join(" or "));
  // What a spreadsheet keeps as a date comes in the form of ISO 8601.
  const parsers = [...patterns, "YYYY-MM-DD"].map(dateParser);
  return {
    takes,
    holds: "date",
    parse: (text) => {
      for (const parse of parsers) {
        const date = parse(text);
        if (date !== undefined) return date;
      }
      return problem("not-a-date", text, takes);
    },
    format: (value) => {
      const [year, month, day] = (value as string).split("-") as [string, string, string];
      const parts = { YYYY: year, MM: month, DD: day, M: String(Number(month)), D: String(Number(day)) };
      return firstOf(patterns).replace(dateToken, (token) => parts[token as keyof typeof parts]);
    },
  };
}

function dateParser(pattern: string): (text: string) => string | undefined {
  const order = [...pattern.matchAll(dateToken)].map((match) => match[0]);
  const source = pattern
    .replace(/[.*+?^${}()|[\]\\]/g, "\\$&")
    .replace(dateToken, (token) => (token.length === 1 ? "(\\d{1,2})" : `(\\d{${token.length}})`));
  const shape = new RegExp(`^${source}$`);
  return (text) => {
    const match = shape.exec(text);
    if (!match) return undefined;
    const part = (letter: string) => match[order.findIndex((token) => token.startsWith(letter)) + 1]!.padStart(2, "0");
    const iso = `${part("Y")}-${part("M")}-${part("D")}`;
    const time = new Date(`${iso}T00:00:00Z`);
    return !Number.isNaN(time.getTime()) && time.toISOString().startsWith(iso) ? iso : undefined;
  };
}

/** C5: a fixed beginning and ending around what another codec takes. */
export function betweenCodec(before: string, after: string, of: Codec): Codec {
  const takes = phrase('{0} between "{1}" and "{2}"', of.takes, before, after);
  return {
    takes,
    parse: (text) => {
      const fits = text.length > before.length + after.length && text.startsWith(before) && text.endsWith(after);
      return fits
        ? of.parse(text.slice(before.length, text.length - after.length))
        : problem("no-beginning", text, takes);
    },
    format: (value) => {
      const inner = of.format(value);
      return typeof inner === "string" ? `${before}${inner}${after}` : inner;
    },
    // A sign before an amount is how it is shown; kept as a number it has none. Texts that lack their beginning stay a problem.
    textOfNumber: (number) => {
      const inner = of.textOfNumber?.(number);
      return of.textOfNumber ? inner && `${before}${inner}${after}` : number;
    },
  };
}
