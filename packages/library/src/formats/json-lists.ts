/** Which lists a JSON document has, whatever stands in them: found in one pass that keeps nothing. */

import { Tokenizer } from "@streamparser/json";
import { depthOf } from "./json-read.js";
import { isOpening, JsonPlace, JsonWalk } from "./json-walk.js";

/**
 * Looks for lists in a JSON document.
 *
 * @param pointers RFC 6901, to the lists that are looked for.
 * @returns those that are there; undefined where the text is not a complete JSON document.
 */
export async function jsonLists(
  text: AsyncIterable<string>,
  pointers: readonly string[],
): Promise<ReadonlySet<string> | undefined> {
  // A whole document is there as soon as it is read.
  const found = new Set<string>(pointers.filter((pointer) => pointer === ""));
  const root = new JsonPlace();
  const wanted = new Map(pointers.map((pointer): [JsonPlace, string] => [root.at(pointer), pointer]));
  const walk = new JsonWalk(root, (place, name) => place.known(name));
  let isBroken = false;
  let depth = 0;
  const tokenizer = new Tokenizer();
  tokenizer.onToken = ({ token, value }) => {
    depth += depthOf(token);
    const pointer = isOpening(token) && walk.place ? wanted.get(walk.place) : undefined;
    if (pointer !== undefined) found.add(pointer);
    walk.see(token, value);
  };
  tokenizer.onError = () => (isBroken = true);
  tokenizer.onEnd = () => undefined;
  for await (const chunk of text) {
    tokenizer.write(chunk);
    if (isBroken) return undefined;
  }
  return depth === 0 ? found : undefined;
}
