/** Values that stand around the repeated elements of a JSON document: a currency, a shop's name. They are told as they come by. */

import type { TokenType } from "@streamparser/json";
import { isClosing, isOpening, JsonPlace, JsonWalk } from "./json-walk.js";

/** Follows the tokens of a document. Within the elements it only counts what is open. */
export class OutsideValues {
  readonly #walk = new JsonWalk(new JsonPlace());
  readonly #elements: JsonPlace;
  /** How many objects and arrays are open from that of the elements on. */
  #inside = 0;

  /** @param pointer of the elements. @param tell receives the steps to a value that stands beside them: always the same array of those to one place. */
  constructor(
    pointer: string,
    readonly tell: (steps: readonly string[]) => void,
  ) {
    this.#elements = this.#walk.root.at(pointer);
  }

  see(type: TokenType, value: unknown): void {
    if (isOpening(type) && (this.#inside > 0 || this.#walk.place === this.#elements)) this.#inside += 1;
    else if (this.#inside === 0) {
      const isValue = this.#walk.see(type, value);
      if (isValue && this.#walk.place) this.tell(this.#walk.place.steps);
    } else if (isClosing(type)) this.#inside -= 1;
  }
}

/** A value as seen from the elements: `../currency` beside their array, `../../shop` further out. */
export function outsidePath(pointer: string, steps: readonly string[]): string {
  const own = pointer.split("/").slice(1);
  let shared = 0;
  while (shared < own.length && own[shared] === steps[shared]) shared++;
  return [...own.slice(shared).map(() => ".."), ...steps.slice(shared)].join("/");
}

export const isOutsidePath = (path: string): boolean => /^(\.\.\/)+[^/]+(\/[^/]*)*$/.test(path);
