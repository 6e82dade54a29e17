/** Keys that are made of names and the key of what the record lies in: a choice of its group, a node below another, a variant of its values. */

import type { Key } from "../nominal.js";

/** No slash of a name, and no space at its beginning, is taken for what stands between names. */
const escaped = (name: string): string => name.replace(/[/\\]|^ /g, "\\$&");

/**
 * The key of a record within another. Whatever the texts hold, different ones make different keys.
 *
 * @param outer the key of what the record lies in; left out for the root of a tree, and for what belongs to no record.
 * @param names one, or several that count together: the values of a variant.
 */
export function keyWithin(outer: Key | undefined, ...names: readonly string[]): Key {
  const own = names.map(escaped).join(" / ");
  // Backslashes at the end of the outer key would make a part of the name of the slash between both.
  return outer === undefined ? own : `${outer.replace(/\\+$/, "$&$&")}/${own}`;
}
