/**
 * Fixes: known damage to the text of a cell, undone where a layout declares it, before anything else looks at the cell.
 *
 * A fix changes only what it recognises as damaged; each column that was fixed is reported with a count and an example.
 */

import { present } from "../checked.js";

export type GivenFix = "trim" | "spaces" | "invisible" | "mojibake" | "digits" | "spreadsheet text" | { pad: number };
export type Fix = (text: string) => string;

/** Characters that no shopper sees and no search finds. The joiners that scripts need are not among them. */
const invisible = /[\u00ad\u200b\u200e\u200f\u2060\ufeff]/g;

const fixes: Readonly<Record<Extract<GivenFix, string>, Fix>> = {
  trim: (text) => text.trim(),
  spaces: (text) => text.replace(/[\s\u00a0]+/g, " ").trim(),
  invisible: (text) => text.replace(invisible, ""),
  mojibake: (text) => withoutMojibake(text) ?? text,
  digits: (text) => digitsOf(text) ?? text,
  "spreadsheet text": (text) => /^="(.*)"$/s.exec(text)?.[1] ?? (text.startsWith("'") ? text.slice(1) : text),
};

export function fixOf(given: GivenFix): Fix {
  if (typeof given === "string") return fixes[given];
  const { pad } = given;
  return (text) => (/^\d+$/.test(text) && text.length < pad ? text.padStart(pad, "0") : text);
}

/** What Windows-1252 has at 0x80 to 0x9f; a gap where it has nothing. */
const from0x80 = "€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ";

/** UTF-8 that was read as Windows-1252 ("KÃ¼che"), read right; undefined for text that is not a such thing. */
export function withoutMojibake(text: string): string | undefined {
  if (!/[\u00c2-\u00f4]/.test(text)) return undefined;
  const bytes = new Uint8Array(text.length);
  for (let at = 0; at < text.length; at++) {
    const unit = text.charCodeAt(at);
    const high = unit < 0x100 ? -1 : from0x80.indexOf(text[at]!);
    if (unit >= 0x100 && high < 0) return undefined;
    bytes[at] = high < 0 ? unit : 0x80 + high;
  }
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return undefined;
  }
}

/** `4.012345678901E+12` in digits, where none are lost behind. */
function digitsOf(text: string): string | undefined {
  const match = /^(\d)(?:[.,](\d+))?[eE]\+?(\d{1,2})$/.exec(text);
  const places = match?.[2] ?? "";
  return match && places.length === Number(match[3]) ? present(match[1]) + places : undefined;
}
