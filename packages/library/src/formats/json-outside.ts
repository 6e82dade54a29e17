/** Values that stand around the repeated elements of a JSON document: a currency, a shop's name. They are told as they come by. */

import { TokenType } from "@streamparser/json";

interface Open {
  readonly isArray: boolean;
  /** The name of the value that comes now. */
  key: string;
  isKeyNext: boolean;
}

/** Follows the tokens of a document. Within the elements it only counts what is open. */
export class OutsideValues {
  readonly #open: Open[] = [];
  /** How many objects and arrays are open from that of the elements on. */
  #inside = 0;

  /** @param pointer of the elements. @param begins is called where they begin. @param tell receives the steps to a value that stands beside them. */
  constructor(
    readonly pointer: string,
    readonly tell: (steps: readonly string[]) => void,
    readonly begins: () => void = () => undefined,
  ) {}

  see(type: TokenType, value: unknown): void {
    if (type === TokenType.LEFT_BRACE || type === TokenType.LEFT_BRACKET) this.#begin(type === TokenType.LEFT_BRACKET);
    else if (type === TokenType.RIGHT_BRACE || type === TokenType.RIGHT_BRACKET) this.#end();
    else if (this.#inside === 0) this.#between(type, value);
  }

  #begin(isArray: boolean): void {
    const isElements = this.#inside === 0 && `/${this.#steps().join("/")}` === this.pointer;
    if (isElements) this.begins();
    if (this.#inside > 0 || isElements) this.#inside += 1;
    else this.#open.push({ isArray, key: "", isKeyNext: true });
  }

  #end(): void {
    if (this.#inside > 0) this.#inside -= 1;
    else this.#open.pop();
  }

  #between(type: TokenType, value: unknown): void {
    const top = this.#open[this.#open.length - 1];
    if (type === TokenType.COMMA || type === TokenType.COLON) {
      if (top) top.isKeyNext = type === TokenType.COMMA;
    } else if (top && !top.isArray && top.isKeyNext) top.key = String(value);
    else if (type !== TokenType.SEPARATOR && type !== TokenType.NULL) this.tell(this.#steps());
  }

  #steps(): string[] {
    return this.#open.flatMap(({ isArray, key }) => (isArray ? [] : [key]));
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
