/** A whole file at once: for small files. */

import { success } from "../findings/result.js";
import type { Result } from "../findings/finding.js";
import { joined } from "./byte-reader.js";
import type { FilesPort } from "../ports.js";

/** The text of a file of our own, which is UTF-8. */
export async function readUtf8(files: FilesPort, path: string): Promise<Result<string>> {
  const read = await readBytes(files, path);
  return read.ok ? success(new TextDecoder().decode(read.value)) : read;
}

export async function readBytes(files: FilesPort, path: string): Promise<Result<Uint8Array>> {
  const opened = await files.read(path);
  if (!opened.ok) return opened;
  const chunks: Uint8Array[] = [];
  for await (const chunk of opened.value) chunks.push(chunk);
  return success(joined(chunks));
}
