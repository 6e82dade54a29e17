/** Characters that can make a text look like another, or command a terminal: shown by their numbers wherever texts are printed. */

import { present } from "./checked.js";

/** Inside a class of a pattern: controls but tabs and line ends, C1 controls (U+0085 among them), separators and directions as below. */
export const unsafeChars = "\\u0000-\\u0008\\u000b\\u000c\\u000e-\\u001f\\u007f-\\u009f\\u2028-\\u202e\\u2066-\\u2069";
/** Characters of which each is a pair. */
export const unsafePairs = "\\udb40[\\udc00-\\udc7f]";

/**
 * Controls but tabs and line feeds, C1 controls (U+0085 among them), line and paragraph separators, embeddings, overrides and isolates of
 * writing direction, tag characters. Unicode 15: 23.1, 23.2, 23.9.
 */
export const unsafe = new RegExp(`[${unsafeChars}\\r]|${unsafePairs}`, "g");

/** The text with each such character as `[U+001B]`. */
export const visibleText = (text: string): string =>
  text.replace(unsafe, (char) => `[U+${present(char.codePointAt(0)).toString(16).toUpperCase().padStart(4, "0")}]`);

/** JSON with each such character escaped: its values stay what they are. */
export const safeJson = (value: unknown, space?: number): string =>
  JSON.stringify(value, null, space).replace(unsafe, (chars) =>
    [...Array(chars.length).keys()].map((at) => `\\u${chars.charCodeAt(at).toString(16).padStart(4, "0")}`).join(""),
  );

const unsafeInText = new RegExp(`[${unsafeChars}]|${unsafePairs}`);
/** Those of them that a text of a catalogue never needs; a carriage return is a line end. */
export const hasUnsafe = (text: string): boolean => unsafeInText.test(text);
