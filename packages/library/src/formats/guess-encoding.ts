/** Which encoding bytes are in that are no UTF-8: by the zeros of UTF-16, by what letters they would be. */

import { analyse } from "chardet";

/** UTF-16 without a mark: every other byte of western text is zero. */
export function encodingByZeros(bytes: Uint8Array): string | undefined {
  if (bytes.length < 4) return undefined;
  const zeros = [0, 0];
  for (let at = 0; at < bytes.length; at++) if (bytes[at] === 0) zeros[at % 2]!++;
  const half = bytes.length / 2;
  if (zeros[1]! > 0.4 * half && zeros[0]! < 0.05 * half) return "utf-16le";
  if (zeros[0]! > 0.4 * half && zeros[1]! < 0.05 * half) return "utf-16be";
  return undefined;
}

const western = new Set(["windows-1252", "ISO-8859-1", "ISO-8859-2", "ISO-8859-9", "windows-1250", "windows-1254"]);
/** Letters of words that people write in catalogues; anything else between letters is a wrong guess. */
const usual = /[äöüßÄÖÜéèêëàâçîïôûùœæñáíóúãõåøÉÀÇÅØ]/;
const central = /[ąćęłńóśźżĄĆĘŁŃÓŚŹŻčďěňřšťůýžČŘŠŽőűŐŰ]/;

/** @returns a label that this machine decodes; `windows-1252` where nothing tells better. */
export function guessEncoding(bytes: Uint8Array): string {
  for (const { name, confidence } of analyse(bytes)) {
    if (confidence < 30 || name.startsWith("UTF") || name === "ASCII") continue;
    if (western.has(name)) break;
    const label = labelOf(name);
    if (label !== undefined) return label;
  }
  return best(bytes);
}

/** Among the encodings of Latin letters: the one in which the high bytes are the letters of words. */
function best(bytes: Uint8Array): string {
  const scores = ["windows-1252", "macintosh", "windows-1250"].map((label) => {
    const text = new TextDecoder(label).decode(bytes, { stream: true });
    let score = 0;
    for (const [, before = "", letter = "", after = ""] of text.matchAll(/([a-z]?)([^\x00-\x7f])(?=([a-z]?))/gi)) {
      const isInWord = before !== "" || after !== "";
      const isUsual = usual.test(letter) || (label === "windows-1250" && central.test(letter));
      if (isUsual) score += isInWord ? 2 : 1;
      else if (isInWord && !/[’“”„–—…€®™°²³½×\u00a0]/.test(letter)) score -= 2;
    }
    return { label, score };
  });
  return scores.reduce((most, one) => (one.score > most.score ? one : most)).label;
}

function labelOf(name: string): string | undefined {
  try {
    return new TextDecoder(name).encoding;
  } catch {
    return undefined;
  }
}
