/**
 * A codec that works each different text out once: prices, paths and lists of a catalogue repeat from row to row. Where they do not, it
 * stops remembering.
 */

import type { CellValue, Codec, Problem, Unwritable } from "./codec.js";

/** So many texts are remembered at a time. */
const most = 4_096;

export function remembered(codec: Codec): Codec {
  return { ...codec, parse: remembering<string, CellValue | Problem>(codec.parse), format: formatOf(codec) };
}

/** Values that are texts are remembered; lists are worked out each time. */
function formatOf({ format }: Codec): Codec["format"] {
  const known = remembering<string, string | Unwritable>(format);
  return (value) => (typeof value === "string" ? known(value) : format(value));
}

/** The same work, done once for each key while that is worth it. @param work always makes the same of a key, and never undefined. */
export function remembering<K, V>(work: (key: K) => V): (key: K) => V {
  const known = new Map<K, V>();
  let hits = 0;
  let misses = 0;
  let isWorth = true;
  return (key) => {
    if (!isWorth) return work(key);
    const found = known.get(key);
    if (found !== undefined) {
      hits++;
      return found;
    }
    const made = work(key);
    if (++misses % most === 0) {
      known.clear();
      // Less than every second text had come before.
      isWorth = hits > misses;
    }
    known.set(key, made);
    return made;
  };
}
