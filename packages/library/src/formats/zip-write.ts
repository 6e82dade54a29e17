/** Files to a zip, by fflate. Stored, not packed: pictures are packed already. The same files give the same bytes. */

import { entryOf } from "../checked.js";
import { zipSync, type Zippable } from "fflate";
import { compareText } from "../location.js";

// Zip counts from 1980, in local time without a zone: noon stays the same day everywhere and nothing depends on the clock.
const fixedTime = new Date(1980, 0, 2, 12);

/** An archive as bytes; the same files give the same bytes. */
export function writeZip(files: ReadonlyMap<string, Uint8Array>): Uint8Array {
  const entries: Zippable = {};
  for (const name of [...files.keys()].sort(compareText))
    entries[name] = [entryOf(files, name), { level: 0, mtime: fixedTime }];
  return zipSync(entries);
}
