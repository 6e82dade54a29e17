/** What one cell of a Tollgate sheet may hold (description, sections 3 and 4). In: its text. Out: its value, or the reason why not. */

import { characters, isBarcode, plainNumber } from "../common/barcode.js";
import { Refusal } from "../common/refusal.js";

export const upTo =
  (most: number) =>
  (text: string): string => {
    if (characters(text) > most) throw new Refusal("cell");
    return text;
  };

const matching =
  (pattern: RegExp) =>
  (text: string): string => {
    if (!pattern.test(text)) throw new Refusal("cell");
    return text;
  };

export const oneOf = (...words: string[]) => matching(new RegExp(`^(${words.join("|")})$`));
export const code = matching(/^[A-Z0-9-]{1,30}$/);
export const money = (text: string): string => plainNumber(matching(/^\d{1,9}\.\d{2}$/)(text));
export const weight = (text: string): string => plainNumber(matching(/^\d{1,9}(\.\d{1,3})?$/)(text));
const charge = (text: string): string => plainNumber(matching(/^[+-]\d{1,9}(\.\d{1,9})?$/)(text).replace(/^\+/, ""));
export const whole =
  (least: number) =>
  (text: string): string => {
    const value = plainNumber(matching(/^\d{1,9}$/)(text));
    if (Number(value) < least) throw new Refusal("cell");
    return value;
  };

export function barcode(text: string): string {
  if (!isBarcode(text)) throw new Refusal("barcode");
  return text;
}

/** Cuts at one separator; a backslash before any of `special`, or before itself, is taken for what follows it where `open` says so. */
function cut(text: string, separator: string): string[] {
  const parts = [""];
  for (let at = 0; at < text.length; at++) {
    if (text[at] === "\\") {
      parts[parts.length - 1] += text.slice(at, at + 2);
      at++;
    } else if (text.startsWith(separator, at)) {
      parts.push("");
      at += separator.length - 1;
    } else parts[parts.length - 1] += text[at]!;
  }
  return parts;
}

/** Takes the backslashes off, once nothing is cut any more. */
function plain(text: string, special: string): string {
  let out = "";
  for (let at = 0; at < text.length; at++) {
    if (text[at] !== "\\") out += text[at]!;
    else {
      const next = text[++at];
      if (next === undefined || !`${special}\\`.includes(next)) throw new Refusal("cell");
      out += next;
    }
  }
  return out;
}

const filled = (text: string): string => {
  if (text === "") throw new Refusal("cell");
  return text;
};

export const list = (text: string): string[] => cut(text, ";").map((one) => filled(plain(one, ";")));
export const texts = (text: string): (string | null)[] => cut(text, ";").map((one) => plain(one, ";") || null);
export const sections = (text: string): string[][] =>
  cut(text, ";").map((path) => cut(path, ">").map((node) => filled(plain(node, ";>"))));

function parts(text: string, separator: string, least: number, most = least): string[] {
  const all = cut(text, separator);
  if (all.length < least || all.length > most) throw new Refusal("cell");
  return all;
}

export interface OptionCell {
  readonly name: string;
  readonly must: boolean;
  readonly choices: readonly { readonly name: string; readonly charge: string; readonly share: boolean }[];
}

export function options(text: string): OptionCell[] {
  const read = (one: string): string => filled(plain(one, ";:,="));
  const groups = cut(text, ";").map((group) => {
    const [name, must, choices] = parts(group, ":", 3) as [string, string, string];
    const own = cut(choices, ",").map((choice) => {
      const [called, amount] = parts(choice, "=", 2) as [string, string];
      const share = amount.endsWith("%");
      return { name: read(called), charge: charge(share ? amount.slice(0, -1) : amount), share };
    });
    once(own.map((choice) => choice.name));
    return { name: read(name), must: oneOf("must", "may")(must) === "must", choices: own };
  });
  once(groups.map((group) => group.name));
  return groups;
}

export interface PriceStep {
  readonly from: string;
  readonly price: string;
  readonly group: string | null;
}

export function steps(text: string): PriceStep[] {
  const all = cut(text, ";").map((step) => {
    const [from, price, group] = parts(step, "=", 2, 3) as [string, string, string | undefined];
    return {
      from: whole(2)(from),
      price: money(price),
      group: group === undefined ? null : filled(plain(group, ";=")),
    };
  });
  once(all.map(({ from, group }) => `${from}=${group}`));
  return all;
}

export function supplies(text: string): { supplier: string; code: string }[] {
  return cut(text, ";").map((one) => {
    const [supplier, code] = parts(one, "=", 2) as [string, string];
    return { supplier: filled(plain(supplier, ";=")), code: filled(plain(code, ";=")) };
  });
}

export function components(text: string): { count: string; code: string }[] {
  return text.split(" + ").map((one) => {
    const match = /^(\d{1,9})\*(.+)$/.exec(one);
    if (!match) throw new Refusal("cell");
    return { count: whole(1)(match[1]!), code: code(match[2]!) };
  });
}

export function once(words: readonly string[]): void {
  if (new Set(words).size < words.length) throw new Refusal("twice");
}
