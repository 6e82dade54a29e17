/**
 * What one cell of a Pennywort file may hold (description, sections 3 and 4).
 *
 * In: the text of a cell. Out: its value, or the word of the reason why not.
 */

import { Refusal } from "../common/refusal.js";

const characters = (text: string): number => [...text].length;

export function plainText(text: string, most: number): string {
  if (characters(text) > most) throw new Refusal("too-long");
  return text;
}

export function itemKey(text: string): string {
  if (text === "" || characters(text) > 40 || text !== text.trim()) throw new Refusal("item-word");
  return text;
}

export function codeText(text: string): string {
  if (!/^[A-Za-z0-9._-]{1,32}$/.test(text)) throw new Refusal("code-word");
  return text;
}

/** Money in cents. */
export function money(text: string): number {
  const match = /^([0-9]{1,9})(?:,([0-9]{1,2}))?$/.exec(text);
  if (!match) throw new Refusal("bad-money");
  return Number(match[1]) * 100 + Number((match[2] ?? "").padEnd(2, "0"));
}

/** A decimal in thousandths. */
export function thousandths(text: string): number {
  const match = /^([0-9]{1,9})(?:,([0-9]{1,3}))?$/.exec(text);
  if (!match) throw new Refusal("bad-number");
  return Number(match[1]) * 1000 + Number((match[2] ?? "").padEnd(3, "0"));
}

export function wholeNumber(text: string, least: number): number {
  if (!/^[0-9]{1,6}$/.test(text) || Number(text) < least) throw new Refusal("bad-number");
  return Number(text);
}

export function flag(text: string): boolean {
  if (text !== "on" && text !== "off") throw new Refusal("bad-flag");
  return text === "on";
}

/** GS1 General Specifications, check digit: from the right, weights 3 and 1 in turn. */
export function barcode(text: string): string {
  if (!/^([0-9]{8}|[0-9]{12,14})$/.test(text)) throw new Refusal("bad-barcode");
  const digits = [...text].map(Number).reverse();
  const check = digits.slice(1).reduce((sum, digit, place) => sum + digit * (place % 2 === 0 ? 3 : 1), 0);
  if ((check + digits[0]!) % 10 !== 0) throw new Refusal("bad-barcode");
  return text;
}

/** Entries between `+`, each cut at `/` where `nodes` asks for it. */
function entries(text: string, { nodes = false, blanks = false } = {}): string[][] {
  const list: string[][] = [[""]];
  for (let at = 0; at < text.length; at++) {
    const path = list[list.length - 1]!;
    let char = text[at]!;
    if (char === "+") {
      list.push([""]);
      continue;
    }
    if (char === "/" && nodes) {
      path.push("");
      continue;
    }
    if (char === "\\") {
      char = text[++at] ?? "";
      if (char === "" || !"+/\\".includes(char)) throw new Refusal("bad-list");
    }
    path[path.length - 1] += char;
  }
  if (!blanks && list.some((path) => path.some((node) => node === ""))) throw new Refusal("bad-list");
  return list;
}

/** A list of words, doubles left out, in the order given; `[]` for a blank cell. */
export function list(text: string): string[] {
  return text === "" ? [] : [...new Set(entries(text).map((entry) => entry[0]!))];
}

/** A word for each trait from a cell of at most so many characters, doubles kept; a blank entry is null, where there may be one. */
export function namesInList(text: string, most: number, { blanks }: { readonly blanks: boolean }): (string | null)[] {
  if (text === "") return [];
  return entries(plainText(text, most), { blanks }).map(([word = ""]) => word || null);
}

/** A list of paths as given, doubles kept; `[]` for a blank cell. */
export function paths(text: string): string[][] {
  const all = text === "" ? [] : entries(text, { nodes: true });
  if (all.some((path) => path.length > 6)) throw new Refusal("bad-list");
  return all;
}
