/** Words that are spelt alike: for suggestions in findings. */

import { distance } from "fastest-levenshtein";
import { added } from "./lists.js";
import { compareText } from "./location.js";

const maxCandidates = 20_000;

/** The candidate that is spelt most alike, if any is near. */
export function nearestSpelling(word: string, candidates: Iterable<string>): string | undefined {
  let best: string | undefined;
  let least = Math.max(2, Math.ceil(word.length / 3)) + 1;
  const folded = word.toLowerCase();
  for (const candidate of candidates) {
    if (Math.abs(candidate.length - word.length) >= least) continue;
    const apart = distance(folded, candidate.toLowerCase());
    if (apart < least) {
      least = apart;
      best = candidate;
    }
  }
  return best;
}

interface Candidate {
  readonly text: string;
  readonly folded: string;
  readonly letters: number;
}

/** Words that many others are held against, such as the codes of a catalogue: folded once. */
export class Spellings {
  readonly #ofLength = new Map<number, Candidate[]>();

  constructor(candidates: Iterable<string>) {
    let seen = 0;
    for (const text of candidates) {
      if (++seen > maxCandidates) break;
      const folded = fold(text);
      const one = { text, folded, letters: lettersOf(folded) };
      this.#ofLength.set(text.length, added(this.#ofLength.get(text.length), one));
    }
  }

  /** At most three, nearest first; the same but for case and spaces counts as nearest of all. */
  nearest(text: string): string[] {
    const wanted = fold(text);
    const letters = lettersOf(wanted);
    const most = Math.max(2, Math.ceil(text.length / 3));
    const near: { readonly text: string; readonly apart: number }[] = [];
    for (let length = text.length - most; length <= text.length + most; length++)
      for (const one of this.#ofLength.get(length) ?? []) {
        if (isFurther(letters, one.letters, most)) continue;
        const apart = distance(wanted, one.folded);
        if (apart <= most) near.push({ text: one.text, apart });
      }
    return near
      .sort((a, b) => a.apart - b.apart || compareText(a.text, b.text))
      .slice(0, 3)
      .map((one) => one.text);
  }
}

const fold = (one: string): string => one.toLowerCase().replace(/\s+/g, " ").trim();

/** Which letters a word has, as bits: some letters share one. */
function lettersOf(word: string): number {
  let letters = 0;
  for (let at = 0; at < word.length; at++) letters |= 1 << (word.charCodeAt(at) & 31);
  return letters;
}

/** Whether words are certainly more than so many slips apart: each slip brings or takes one letter of each word at most. */
const isFurther = (one: number, other: number, most: number): boolean =>
  countOf(one & ~other) > most || countOf(other & ~one) > most;

/** How many bits are set. */
function countOf(bits: number): number {
  let count = 0;
  for (let left = bits; left !== 0; left &= left - 1) count++;
  return count;
}

/** Whether one letter more, less or other makes two words the same. */
export const isOneSlip = (one: string, other: string): boolean => distance(one, other) === 1;
