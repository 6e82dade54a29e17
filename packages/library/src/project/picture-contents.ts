/** Pictures that show the same, byte by byte, whatever they are called. */

import type { FilesPort } from "../ports.js";
import { readBytes } from "../formats/read-whole.js";
import { added } from "../lists.js";

/** Returns the name that stands for a picture and all that show the same. Files of a size of their own are not read. */
export async function picturesAlike(folder: string, files: FilesPort): Promise<(file: string) => string> {
  const bySize = new Map<number, string[]>();
  for (const { name, bytes } of await files.list(folder)) bySize.set(bytes, added(bySize.get(bytes), name));
  const standsFor = new Map<string, string>();
  for (const names of bySize.values()) {
    if (names.length < 2) continue;
    const seen: { readonly name: string; readonly bytes: Uint8Array }[] = [];
    for (const name of names) {
      const read = await readBytes(files, `${folder}/${name}`);
      const bytes = read.ok ? read.value : undefined;
      const same = bytes && seen.find((one) => one.bytes.every((byte, at) => byte === bytes[at]));
      if (same) standsFor.set(name, same.name);
      else if (bytes) seen.push({ name, bytes });
    }
  }
  return (file) => standsFor.get(file) ?? file;
}
