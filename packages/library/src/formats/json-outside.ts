/** Values that stand around the repeated elements of a JSON document: a currency, a shop's name. They are told as they come by. */

import { TokenType } from "@streamparser/json";

interface Open {
  readonly isArray: boolean;
  /** The name of the value that comes now. */
  key: string;
  isKeyNext: boolean;
}

/** Follows the tokens of a document. */
export class OutsideValues {
  readonly #open: Open[] = [];

  /** @param pointer of the elements. @param tell receives the steps to a value that stands beside them. */
  constructor(
    readonly pointer: string,
    readonly tell: (steps: readonly string[]) => void,
  ) {}

  see(type: TokenType, value: unknown): void {
    const top = this.#open[this.#open.length - 1];
    if (type === TokenType.LEFT_BRACE || type === TokenType.LEFT_BRACKET) {
      this.#open.push({ isArray: type === TokenType.LEFT_BRACKET, key: "", isKeyNext: true });
      return;
    }
    if (type === TokenType.RIGHT_BRACE || type === TokenType.RIGHT_BRACKET) {
      this.#open.pop();
      return;
    }
    if (type === TokenType.COMMA) {
      if (top) top.isKeyNext = true;
      return;
    }
    if (type === TokenType.COLON) {
      if (top) top.isKeyNext = false;
      return;
    }
    if (top && !top.isArray && top.isKeyNext) top.key = String(value);
    else if (type !== TokenType.SEPARATOR && type !== TokenType.NULL) this.#value();
  }

  #value(): void {
    const steps = this.#open.flatMap(({ isArray, key }) => (isArray ? [] : [key]));
    const path = steps.map((step) => `/${step}`).join("");
    if (path !== this.pointer && !path.startsWith(`${this.pointer}/`)) this.tell(steps);
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
