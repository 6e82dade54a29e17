/** How texts of findings are put together, in English: quotes, counts, lists that say how much they leave out, kinds by name. */

import type { Text } from "../phrases/phrase.js";

export { money } from "../money.js";
export type { Text };

export const quoted = (text: Text): string => (String(text) === "" ? "an empty cell" : `"${text}"`);
export const didYouMean = (nearest: Text | undefined): string =>
  nearest === undefined ? "" : `. Did you mean "${nearest}"?`;
export const nearestOf = (nearest: readonly string[]): string =>
  nearest.length === 0 ? "" : `. Nearest: ${nearest.map(quoted).join(", ")}`;
export const some = (count: number, one: string, many = `${one}s`): string => `${count} ${count === 1 ? one : many}`;
/** The examples, and how many more there are. */
export const listed = (examples: readonly string[], count = examples.length): string =>
  `${examples.join(", ")}${count > examples.length ? ` and ${count - examples.length} more` : ""}`;
/** `option-group` as people say it. */
export const kindName = (kind: string): string => kind.replaceAll("-", " ");
export const aKind = (kind: string): string => `${/^[aeio]/.test(kind) ? "an" : "a"} ${kindName(kind)}`;
