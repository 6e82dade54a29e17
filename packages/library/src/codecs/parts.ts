/**
 * Positional parts (C4), `club:5:3.90`, and quantities (C6), `2x BC-FR`: several values in one cell, or in one entry of its list.
 *
 * A value is a list with a place for each part, `""` where the part is absent.
 */

import { firstOf, present } from "../checked.js";
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
import { holdsSeparator, splitEscaped } from "./lists.js";
import { phrase } from "../phrases/phrase.js";
import { pushAll } from "../lists.js";

export interface PartsOptions {
  readonly separator: string;
  readonly escape: string | undefined;
  readonly parts: readonly (Codec | EndingPart)[];
}

/** A part that is what the text of the part before it ends with: `10%` is 10, and a share. */
export interface EndingPart {
  /** By ending: the value. Of a value with several endings, the first is written. */
  readonly endings: Readonly<Record<string, string>>;
}

/** C4: parts in their order; those at the end may be left out, others may be blank. */
export function partsCodec({ separator, escape, parts: given }: PartsOptions): Codec {
  const parts = joined(given);
  const takes = phrase('{0} parts separated by "{1}"', parts.length, separator);
  const parse = (text: string): CellValue | Problem => {
    const texts = escape === undefined ? text.split(separator) : splitEscaped(text, separator, escape);
    if (texts.length > parts.length) return problem("too-many-parts", text, takes);
    const values: CellValue[] = [];
    for (const [at, part] of parts.entries()) {
      const read = part.parse(texts[at] ?? "");
      if (isProblem(read)) return read;
      pushAll(values, read);
    }
    return values.every((value) => value === "") ? problem("empty-entry", text, takes) : values;
  };
  const format = (value: CellValue): string | Unwritable => {
    const texts: string[] = [];
    let at = 0;
    for (const { format: write, places } of parts) {
      const own = Array.from({ length: places }, (_, place) => value[at + place] ?? "");
      at += places;
      const text = write(own);
      if (typeof text !== "string") return text;
      if (escape === undefined && holdsSeparator(text, separator))
        return unwritable(text, phrase('no "{0}"', separator));
      if (own.some((part) => part.length > 0) && text.trim() === "") return unwritable(text, takes);
      texts.push(text);
    }
    while (texts[texts.length - 1] === "") texts.pop();
    return texts.length === 0 ? unwritable("", takes) : texts.join(separator);
  };
  const textOfFirst = (number: string): string | undefined => {
    const { codec } = firstOf(parts);
    const text = codec && textOfNumber(codec, number);
    return text !== undefined && escape === undefined && holdsSeparator(text, separator) ? undefined : text;
  };
  return { takes, parse, format, textOfNumber: textOfFirst };
}

/** One text between two separators. */
interface JoinedPart {
  /** How many parts it is. */
  readonly places: number;
  readonly parse: (text: string) => readonly CellValue[] | Problem;
  readonly format: (values: readonly CellValue[]) => string | Unwritable;
  /** Of a part that stands alone. */
  readonly codec: Codec | undefined;
}

/** Parts with those that are their endings. */
function joined(parts: readonly (Codec | EndingPart)[]): JoinedPart[] {
  return parts.flatMap((part, at): JoinedPart[] => {
    if ("endings" in part) return [];
    const next = parts[at + 1];
    return [next && "endings" in next ? withEnding(part, next.endings) : alone(part)];
  });
}

const alone = (codec: Codec): JoinedPart => ({
  places: 1,
  codec,
  parse(text) {
    const value = text.trim() === "" ? "" : codec.parse(text);
    return isProblem(value) ? value : [value];
  },
  format: ([value = ""]) => (value.length === 0 ? "" : codec.format(value)),
});

function withEnding(of: Codec, endings: Readonly<Record<string, string>>): JoinedPart {
  // The longest first: with "kg" and "g", 5kg ends with "kg".
  const longest = Object.keys(endings).sort((a, b) => b.length - a.length);
  const takes = phrase("{0}, then one of {1}", of.takes, longest.map((ending) => `"${ending}"`).join(", "));
  const endingOf = (text: string): string | undefined => longest.find((ending) => text.endsWith(ending));
  return {
    places: 2,
    codec: undefined,
    parse(text) {
      if (text.trim() === "") return ["", ""];
      const ending = endingOf(text);
      if (ending === undefined) return problem("not-a-word", text, takes);
      const own = text.slice(0, text.length - ending.length);
      const value = own.trim() === "" ? "" : of.parse(own);
      return isProblem(value) ? value : [value, present(endings[ending])];
    },
    format([value = "", told = ""]) {
      const own = value.length === 0 ? "" : of.format(value);
      if (typeof own !== "string" || (own === "" && told === "")) return own;
      const ending = Object.keys(endings).find((one) => endings[one] === told);
      if (ending === undefined) return unwritable(String(told), takes);
      const text = `${own}${ending}`;
      return text !== "" && endingOf(text) === ending ? text : unwritable(text, takes);
    },
  };
}

export interface QuantityOptions {
  /** What stands between the number and the thing: `x`. */
  readonly mark: string;
  /** Whether the number stands before the thing. */
  readonly first: boolean;
  /** Which of the two texts of the value is the number. */
  readonly numberAt: 0 | 1;
  readonly of: Codec;
}

/** C6: how many of what; the thing alone is one. The value is the number and the thing, in the order of the layout. */
export function quantityCodec({ mark, first, numberAt, of }: QuantityOptions): Codec {
  const takes = phrase('{0} and a quantity, separated by "{1}"', of.takes, mark);
  const sign = mark.trim().replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
  const before = new RegExp(`^(\\d{1,9})\\s*${sign}\\s*(\\S[^]*)$`);
  const cut = (text: string): readonly [string, string] => {
    if (first) {
      const match = before.exec(text);
      return match ? [present(match[1]), present(match[2])] : ["1", text];
    }
    const count = /\d{1,9}$/.exec(text)?.[0] ?? "";
    const rest = text.slice(0, text.length - count.length).trimEnd();
    const end = mark.trimEnd();
    return count !== "" && rest.endsWith(end) && rest.length > end.length
      ? [count, rest.slice(0, rest.length - end.length).trimEnd()]
      : ["1", text];
  };
  return {
    takes,
    parse: (text) => {
      const [count, thing] = cut(text);
      const value = of.parse(thing);
      const number = String(Number(count));
      if (isProblem(value)) return value;
      return numberAt === 0 ? [number, value] : [value, number];
    },
    format: (value) => {
      const thing = of.format(present(value[1 - numberAt]));
      const count = (value[numberAt] as string | undefined) || "1";
      if (typeof thing !== "string") return thing;
      if (thing.trim() !== thing || thing === "") return unwritable(thing, takes);
      if (!/^\d{1,9}$/.test(count)) return unwritable(count, phrase("a whole number"));
      return first ? `${count}${mark}${thing}` : `${thing}${mark}${count}`;
    },
  };
}
