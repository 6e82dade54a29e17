/** When two names are likely one and the same. */

import { isOneSlip } from "../spelling.js";

/** Beyond so many names, slips are not looked for: each would be compared with each. */
const maxCompared = 2_000;
/** So long has a word to be that a letter more or less is a slip, and not another word. */
const longEnough = 6;

/** A name that differs in one letter; undefined if there is none. */
export function nearlySame(folded: string, seen: ReadonlyMap<string, number>): number | undefined {
  if (folded.length < longEnough || /\d/.test(folded) || seen.size > maxCompared) return undefined;
  for (const [other, value] of seen)
    if (Math.abs(other.length - folded.length) <= 1 && !/\d/.test(other) && isOneSlip(folded, other)) return value;
  return undefined;
}

/** Without case, accents and spaces too many. */
export function foldedName(name: string): string {
  // Most keys are of letters that have no accents.
  const plain = /^[ -~]*$/.test(name) ? name : name.normalize("NFKD").replace(/\p{M}/gu, "");
  return plain.toLowerCase().replace(/\s+/g, " ").trim();
}
