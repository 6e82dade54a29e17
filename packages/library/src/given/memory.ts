/** What files that people write were parsed to: the same text by the same schema is the same again. */

import type { z } from "zod";

/** So many characters of texts are remembered. */
const mostChars = 1_000_000;

export class GivenMemory {
  readonly #known = new WeakMap<z.ZodType, Map<string, object>>();
  readonly #order: { readonly of: Map<string, unknown>; readonly key: string; readonly chars: number }[] = [];
  #chars = 0;

  get(schema: z.ZodType, file: string, text: string): object | undefined {
    return this.#known.get(schema)?.get(keyOf(file, text));
  }

  /** @param given may not be changed any more: not even by mistake. */
  add(schema: z.ZodType, file: string, text: string, given: object): void {
    const chars = text.length;
    if (chars > mostChars) return;
    let of = this.#known.get(schema);
    if (!of) this.#known.set(schema, (of = new Map()));
    const key = keyOf(file, text);
    of.set(key, frozen(given));
    this.#order.push({ of, key, chars });
    this.#chars += chars;
    while (this.#chars > mostChars) this.#forgetOldest();
  }

  #forgetOldest(): void {
    const oldest = this.#order.shift();
    if (!oldest) return;
    oldest.of.delete(oldest.key);
    this.#chars -= oldest.chars;
  }
}

const keyOf = (file: string, text: string): string => `${file}\u0000${text}`;

function frozen<T>(value: T): T {
  if (typeof value !== "object" || value === null || Object.isFrozen(value)) return value;
  Object.freeze(value);
  for (const inner of Object.values(value)) frozen(inner);
  return value;
}
