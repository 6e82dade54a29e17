/** Text in Markdown that we write: what a catalogue holds is shown as text, and is never markup. */

import { visibleText } from "./safe-text.js";

/** A text of one line; code in backticks stays code. Characters that could make it look like another are shown by their numbers. */
export const inMarkdown = (text: string): string =>
  visibleText(text)
    .replace(/[\n\r]+/g, " ")
    .split(/(`[^`]*`)/)
    .map((part, at) => (at % 2 === 1 ? part : part.replaceAll("<", "&lt;").replace(/(?=[[\]])/g, "\\")))
    .join("");

/** The same in a cell of a table; a blank one keeps its place. */
export const inMarkdownCell = (text: string): string => inMarkdown(text).replaceAll("|", "\\|") || " ";
