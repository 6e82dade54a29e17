/** Where the tokens of a JSON document stand: the names that lead there, through whatever arrays. */

import { TokenType } from "@streamparser/json";

/** A place in a document. The values of an array all stand in the same one. */
export class JsonPlace {
  /** Most places have none. */
  #below: Map<string, JsonPlace> | undefined;

  /** @param steps the names that lead to it from the root. */
  constructor(readonly steps: readonly string[] = []) {}

  /** The place that a name leads to, made when it is first asked for. */
  below(name: string): JsonPlace {
    this.#below ??= new Map();
    let place = this.#below.get(name);
    if (!place) this.#below.set(name, (place = new JsonPlace([...this.steps, name])));
    return place;
  }

  /** The same, if it has been made. */
  known(name: string): JsonPlace | undefined {
    return this.#below?.get(name);
  }

  /** @param pointer RFC 6901. */
  at(pointer: string): JsonPlace {
    return pointer
      .split("/")
      .slice(1)
      .reduce((place: JsonPlace, name) => place.below(name), this);
  }
}

interface Open {
  readonly isArray: boolean;
  readonly place: JsonPlace | undefined;
  /** Of an object: where the value stands that comes now. */
  value: JsonPlace | undefined;
  isNameNext: boolean;
}

export const isOpening = (type: TokenType): boolean => type === TokenType.LEFT_BRACE || type === TokenType.LEFT_BRACKET;
export const isClosing = (type: TokenType): boolean =>
  type === TokenType.RIGHT_BRACE || type === TokenType.RIGHT_BRACKET;

/** Follows the tokens of a document. */
export class JsonWalk {
  readonly #open: Open[] = [];

  /** @param below the place that a name leads to; undefined where it is of no interest, nor what is below it. */
  constructor(
    readonly root: JsonPlace,
    readonly below: (place: JsonPlace, name: string) => JsonPlace | undefined = (place, name) => place.below(name),
  ) {}

  /** Where the value stands that comes now; undefined where that is of no interest. */
  get place(): JsonPlace | undefined {
    const top = this.#open[this.#open.length - 1];
    if (!top) return this.root;
    return top.isArray ? top.place : top.value;
  }

  /** Takes a token. @returns whether it is a value by itself, `null` left out. */
  see(type: TokenType, value: unknown): boolean {
    if (isOpening(type)) {
      const { place } = this;
      this.#open.push({ isArray: type === TokenType.LEFT_BRACKET, place, value: undefined, isNameNext: true });
      return false;
    }
    if (isClosing(type)) {
      this.#open.pop();
      return false;
    }
    const top = this.#open[this.#open.length - 1];
    if (type === TokenType.COMMA || type === TokenType.COLON) {
      if (top) top.isNameNext = type === TokenType.COMMA;
      return false;
    }
    if (top && !top.isArray && top.isNameNext) {
      top.value = top.place && this.below(top.place, String(value));
      return false;
    }
    return type !== TokenType.SEPARATOR && type !== TokenType.NULL;
  }
}
