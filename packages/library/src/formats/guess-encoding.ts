/** Which encoding bytes are in that are no UTF-8: by the zeros of UTF-16, by what letters they would be. */

import { present } from "../checked.js";
import { analyse } from "chardet";

/** UTF-16 without a mark: every other byte of western text is zero. */
export function encodingByZeros(bytes: Uint8Array): string | undefined {
  if (bytes.length < 4) return undefined;
  const zeros = [0, 0];
  for (let at = 0; at < bytes.length; at++) if (bytes[at] === 0) zeros[at % 2]!++;
  const half = bytes.length / 2;
  if (present(zeros[1]) > 0.4 * half && present(zeros[0]) < 0.05 * half) return "utf-16le";
  if (present(zeros[0]) > 0.4 * half && present(zeros[1]) < 0.05 * half) return "utf-16be";
  return undefined;
}

/** Letters of words that people write in catalogues; anything else between letters is a wrong guess. */
const usual = /[äöüßÄÖÜéèêëàâçîïôûùœæñáíóúãõåøÉÀÇÅØ]/;
const central = /[ąćęłńóśźżĄĆĘŁŃÓŚŹŻčďěňřšťůýžČŘŠŽőűŐŰ]/;

interface Script {
  readonly label: string;
  readonly letters: RegExp;
  /** How many bytes a letter takes. */
  readonly bytes: number;
}
const scripts: readonly Script[] = [
  ...["windows-1251", "koi8-r", "x-mac-cyrillic"].map((label) => ({
    label,
    letters: /\p{Script=Cyrillic}/u,
    bytes: 1,
  })),
  { label: "windows-1253", letters: /\p{Script=Greek}/u, bytes: 1 },
  { label: "windows-1255", letters: /\p{Script=Hebrew}/u, bytes: 1 },
  { label: "windows-1256", letters: /\p{Script=Arabic}/u, bytes: 1 },
  ...["shift_jis", "euc-jp"].map((label) => ({
    label,
    letters: /[\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Han}ー、。]/u,
    bytes: 2,
  })),
  ...["gb18030", "big5"].map((label) => ({ label, letters: /[\p{Script=Han}，。]/u, bytes: 2 })),
  { label: "euc-kr", letters: /\p{Script=Hangul}/u, bytes: 2 },
];

/** @returns a label that this machine decodes; `windows-1252` where nothing tells better. */
export function guessEncoding(bytes: Uint8Array): string {
  return isLatin(bytes) ? bestLatin(bytes) : bestScript(bytes);
}

/** In words of Latin letters few of the letters above ASCII stand in a row. */
function isLatin(bytes: Uint8Array): boolean {
  let high = 0;
  let inRuns = 0;
  for (let at = 0; at < bytes.length;) {
    let end = at;
    while (end < bytes.length && bytes[end]! >= 0x80) end++;
    high += end - at;
    if (end - at > 2) inRuns += end - at;
    at = end + 1;
  }
  return inRuns < 0.5 * high;
}

/** Among the encodings of Latin letters: the one in which the high bytes are the letters of words. */
function bestLatin(bytes: Uint8Array): string {
  return highest(
    ["windows-1252", "macintosh", "windows-1250"].map((label) => {
      const text = new TextDecoder(label).decode(bytes, { stream: true });
      let score = 0;
      for (const [, before = "", letter = "", after = ""] of text.matchAll(/([a-z]?)([^\p{ASCII}])(?=([a-z]?))/giu)) {
        const isInWord = before !== "" || after !== "";
        const isUsual = usual.test(letter) || (label === "windows-1250" && central.test(letter));
        if (isUsual) score += isInWord ? 2 : 1;
        else if (isInWord && !/[’“”„–—…€®™°²³½×\u00a0]/.test(letter)) score -= 2;
      }
      return { label, score };
    }),
  );
}

/** Among the encodings of other scripts: the one that gives most letters of its script, in words of one case. */
function bestScript(bytes: Uint8Array): string {
  const guesses = new Map(analyse(bytes).map(({ name, confidence }) => [name.toLowerCase(), confidence]));
  return highest(
    scripts.map(({ label, letters, bytes: width }) => {
      const text = new TextDecoder(label).decode(bytes, { stream: true });
      let score = (guesses.get(label) ?? 0) / 100;
      let before = "";
      for (const char of text) {
        if (letters.test(char)) score += width;
        else if (char > "\u007f") score -= width;
        // A capital behind a small letter: the right letters of the wrong encoding.
        if (/\p{Ll}/u.test(before) && /\p{Lu}/u.test(char)) score -= 2;
        before = char;
      }
      return { label, score };
    }),
  );
}

function highest(scored: readonly { readonly label: string; readonly score: number }[]): string {
  return scored.reduce((most, one) => (one.score > most.score ? one : most)).label;
}
