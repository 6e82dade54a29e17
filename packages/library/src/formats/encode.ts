/** Text to bytes: UTF-8, UTF-16 and the code pages of one byte a character, by a package that follows the WHATWG Encoding Standard. */

import { normalizeEncoding } from "@exodus/bytes/encoding-lite.js";
import { createSinglebyteEncoder } from "@exodus/bytes/single-byte.js";
import { utf16fromString } from "@exodus/bytes/utf16.js";

/** How texts become bytes in one encoding. */
export interface Encoder {
  /** Its name in the WHATWG Encoding Standard. */
  readonly name: string;
  /** @throws Error for a text that it cannot hold. */
  readonly encode: (text: string) => Uint8Array;
  /** How many bytes a text takes. */
  readonly byteLength: (text: string) => number;
  /** Whether it has all characters of a text. */
  readonly holds: (text: string) => boolean;
  /** Whether a byte order mark may stand at the beginning of a file. */
  readonly hasMark: boolean;
}

const utf8: Encoder = {
  name: "utf-8",
  encode: (text) => new TextEncoder().encode(text),
  byteLength: utf8Length,
  holds: () => true,
  hasMark: true,
};

const utf16 = (name: string, form: "uint8-le" | "uint8-be"): Encoder => ({
  name,
  encode: (text) => (form === "uint8-le" ? utf16fromString(text, form) : utf16fromString(text, "uint8-be")),
  byteLength: (text) => 2 * text.length,
  // The package refuses half of a surrogate pair.
  holds: (text) => !/\p{Surrogate}/u.test(text),
  hasMark: true,
});

/** @param label of the encoding; UTF-8, if left out. @returns undefined for an encoding that is read, but not written. */
export function encoderOf(label: string | undefined): Encoder | undefined {
  const name = label === undefined ? "utf-8" : normalizeEncoding(label);
  if (name === "utf-8") return utf8;
  if (name === "utf-16le") return utf16(name, "uint8-le");
  if (name === "utf-16be") return utf16(name, "uint8-be");
  if (name === null) return undefined;
  try {
    return singleByte(name, createSinglebyteEncoder(name));
  } catch {
    // The package has encoders of this kind for encodings of one byte a character alone.
    return undefined;
  }
}

function singleByte(name: string, encode: (text: string) => Uint8Array): Encoder {
  return {
    name,
    encode,
    byteLength: (text) => text.length,
    holds(text) {
      // ASCII is the same in each of them.
      if (/^[\x00-\x7f]*$/.test(text)) return true;
      try {
        encode(text);
        return true;
      } catch {
        return false;
      }
    },
    hasMark: false,
  };
}

function utf8Length(text: string): number {
  let length = text.length;
  for (let at = 0; at < text.length; at++) {
    const unit = text.charCodeAt(at);
    // A surrogate pair is four bytes, two for each of its units.
    if (unit > 0x7f) length += unit > 0x7ff && (unit < 0xd800 || unit > 0xdfff) ? 2 : 1;
  }
  return length;
}

const chunkChars = 65_536;

/** Texts as UTF-8, in chunks that are worth writing. */
export function* utf8Chunks(texts: Iterable<string>): Generator<Uint8Array> {
  const encoder = new TextEncoder();
  let waiting = "";
  for (const text of texts) {
    waiting += text;
    if (waiting.length < chunkChars) continue;
    yield encoder.encode(waiting);
    waiting = "";
  }
  if (waiting !== "") yield encoder.encode(waiting);
}
