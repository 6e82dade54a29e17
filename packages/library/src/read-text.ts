/** A whole file as text: for small files of our own, which are UTF-8. */

import type { Finding } from "./findings/finding.js";
import type { FilesPort } from "./ports.js";

export async function readUtf8(
  files: FilesPort,
  path: string,
): Promise<{ readonly ok: true; readonly text: string } | { readonly ok: false; readonly finding: Finding }> {
  const opened = await files.read(path);
  if (!opened.ok) return opened;
  const decoder = new TextDecoder();
  let text = "";
  for await (const chunk of opened.bytes) text += decoder.decode(chunk, { stream: true });
  return { ok: true, text: text + decoder.decode() };
}
