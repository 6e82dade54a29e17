/** Seeded damage: the same seed gives the same bytes. */

/** Numbers from 0 up to 1, by Mulberry32. */
export type Random = () => number;

export function randomOf(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

export const below = (random: Random, most: number): number => Math.floor(random() * most);
export const oneOf = <T>(random: Random, list: readonly T[]): T => list[below(random, list.length)]!;

/** What means something to one of the readers. */
const telling = [
  '"', "'", "<", ">", "&", "{", "}", "[", "]", ",", ";", ":", "|", "\n", "\r", "\t", "\0", "\u00ff", "\ufeff", "\u202e",
  "PK\u0003\u0004", "<![CDATA[", "]]>", "<!DOCTYPE a [", "&#x0;", "\\u", "\\ud800", "1e999", "-0", "99999999999999999999", "NaN",
  "__proto__", "constructor", "&a ", "*a", "<<: ", "!!js ", "- ", "  ", "? ", "null", "true", "~", "{n}", "{kind}", "@de", ".key", "=1+1",
  "matches(", ".all(a, ", "(a+)+$", "%", "/../", "file://",
]; // prettier-ignore

/** One to eight changes: bytes set, cut, doubled, put in, moved; or the tail of another file. */
export function mutated(random: Random, bytes: Uint8Array, other: Uint8Array): Uint8Array {
  let out = Buffer.from(bytes);
  for (let left = 1 + below(random, 8); left > 0; left--) {
    const at = below(random, out.length + 1);
    const length = below(random, Math.min(200, out.length - at + 1));
    const [head, tail] = [out.subarray(0, at), out.subarray(at)];
    const does = below(random, 8);
    if (does === 0 && at < out.length) out[at] = below(random, 256);
    else if (does === 1) out = Buffer.concat([head, tail.subarray(length)]);
    else if (does === 2) out = Buffer.concat([head, tail.subarray(0, length), tail]);
    else if (does === 3) out = Buffer.concat([head, Buffer.from(oneOf(random, telling), "utf8"), tail]);
    else if (does === 4)
      out = Buffer.concat([head, Buffer.from(oneOf(random, telling).repeat(1 + below(random, 50))), tail]);
    else if (does === 5 && random() < 0.2) out = Buffer.from(head);
    else if (does === 6 && random() < 0.2) out = Buffer.concat([head, other.subarray(below(random, other.length + 1))]);
    else out = Buffer.concat([head, Buffer.from(oneOf(random, telling), "latin1"), tail.subarray(length)]);
  }
  return out;
}
