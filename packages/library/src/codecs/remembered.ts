/**
 * A codec that works each different text out once: prices, paths and lists of a catalogue repeat from row to row. Where they do not, it
 * stops remembering.
 */

import type { Codec } from "./codec.js";

/** So many texts are remembered at a time, of those that are not longer than this. */
const most = 4_096;
const longest = 200;

export function remembered(codec: Codec): Codec {
  return { ...codec, parse: remembering(codec.parse), format: formatOf(codec) };
}

/** Values that are texts are remembered; lists are worked out each time. */
function formatOf({ format }: Codec): Codec["format"] {
  const known = remembering(format);
  return (value) => (typeof value === "string" ? known(value) : format(value));
}

/** The same work, done once for each text while that is worth it. @param work always makes the same of a text, and never undefined. */
export function remembering<V>(work: (text: string) => V): (text: string) => V {
  const known = new Map<string, V>();
  let hits = 0;
  let misses = 0;
  let isWorth = true;
  return (text) => {
    if (!isWorth || text.length > longest) return work(text);
    const found = known.get(text);
    if (found !== undefined) {
      hits++;
      return found;
    }
    if (++misses % most === 0) {
      known.clear();
      // Less than every second text had come before.
      isWorth = hits > misses;
    }
    const own = copied(text);
    const made = work(own);
    known.set(own, made);
    return made;
  };
}

/** A text that does not keep the file in memory which it was cut out of. */
const copied = (text: string): string => ` ${text}`.slice(1);
