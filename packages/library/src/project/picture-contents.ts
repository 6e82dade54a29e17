/** Pictures that show the same, byte by byte, whatever they are called. */

import type { FilesPort } from "../ports.js";

/** Returns the name that stands for a picture and all that show the same. Files of a size of their own are not read. */
export async function picturesAlike(folder: string, files: FilesPort): Promise<(file: string) => string> {
  const bySize = new Map<number, string[]>();
  for (const { name, bytes } of await files.list(folder)) bySize.set(bytes, [...(bySize.get(bytes) ?? []), name]);
  const standsFor = new Map<string, string>();
  for (const names of bySize.values()) {
    if (names.length < 2) continue;
    const seen: { readonly name: string; readonly bytes: Uint8Array }[] = [];
    for (const name of names) {
      const bytes = await bytesOf(`${folder}/${name}`, files);
      const same = bytes && seen.find((one) => one.bytes.every((byte, at) => byte === bytes[at]));
      if (same) standsFor.set(name, same.name);
      else if (bytes) seen.push({ name, bytes });
    }
  }
  return (file) => standsFor.get(file) ?? file;
}

async function bytesOf(path: string, files: FilesPort): Promise<Uint8Array | undefined> {
  const opened = await files.read(path);
  if (!opened.ok) return undefined;
  const parts: Uint8Array[] = [];
  for await (const chunk of opened.bytes) parts.push(chunk);
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}
