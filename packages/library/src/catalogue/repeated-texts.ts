/**
 * Which of many texts come more than once. Most catalogues repeat no code and no key: so the texts are compared as numbers first, and a
 * map of them is needed only for those that may be the same.
 */

/**
 * @param most how many texts there are at most.
 * @param each shows them, one after the other.
 * @returns whether a text may come more than once: true of each that does. Undefined where none does.
 */
export function repeatedTexts(
  most: number,
  each: (see: (text: string) => void) => void,
): ((text: string) => boolean) | undefined {
  const numbers = new Float64Array(most);
  let size = 0;
  each((text) => (numbers[size++] = numberOf(text)));
  const sorted = numbers.subarray(0, size).sort();
  const again = new Set<number>();
  for (let at = 1; at < size; at++) if (sorted[at] === sorted[at - 1]) again.add(sorted[at]!);
  return again.size === 0 ? undefined : (text) => again.has(numberOf(text));
}

/** The same of the same text, and nearly never of others: 53 bits. */
function numberOf(text: string): number {
  let [high, low] = [0x1b873593, 0x2c1b3c6d];
  for (let at = 0; at < text.length; at++) {
    const unit = text.charCodeAt(at);
    high = Math.imul(high ^ unit, 0x85ebca6b);
    high ^= high >>> 15;
    low = Math.imul(low ^ unit, 0xc2b2ae35);
    low ^= low >>> 13;
  }
  return (high >>> 0) * 2 ** 21 + (low >>> 11);
}
