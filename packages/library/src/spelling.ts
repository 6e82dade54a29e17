/** Words that are spelt alike: for suggestions in findings. */

import { distance } from "fastest-levenshtein";
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

/** At most three, nearest first; the same but for case and spaces counts as nearest of all. */
export function nearestSpellings(text: string, candidates: Iterable<string>): string[] {
  const fold = (one: string) => one.toLowerCase().replace(/\s+/g, " ").trim();
  const wanted = fold(text);
  const most = Math.max(2, Math.ceil(text.length / 3));
  const near: { candidate: string; apart: number }[] = [];
  let seen = 0;
  for (const candidate of candidates) {
    if (++seen > maxCandidates) break;
    if (Math.abs(candidate.length - text.length) > most) continue;
    const apart = distance(wanted, fold(candidate));
    if (apart <= most) near.push({ candidate, apart });
  }
  return near
    .sort((a, b) => a.apart - b.apart || compareText(a.candidate, b.candidate))
    .slice(0, 3)
    .map((one) => one.candidate);
}

/** Whether one letter more, less or other makes two words the same. */
export const isOneSlip = (one: string, other: string): boolean => distance(one, other) === 1;
