/** Tries the inputs whose seeds it gets, one after the other, and names each before it begins. */

import { randomOf } from "./mutate.js";
import { families } from "./families.js";
import type { Input } from "./input.js";

const encoded = (bytes: Uint8Array): string => Buffer.from(bytes).toString("base64");
const names = Object.keys(families);

/** Which family an input of a seed is of. */
const familyOf = (seed: number): string => names[seed % names.length]!;

async function tryOne(seed: number): Promise<void> {
  const name = familyOf(seed);
  process.send?.({ begins: seed, name });
  let input: Input | undefined;
  try {
    const { make, attempt } = families[name]!;
    input = make(randomOf(seed));
    if (await attempt(input)) process.send?.({ wholeWay: name });
  } catch (error) {
    const stack = String((error as Error).stack).slice(0, 1_500);
    process.send?.({ crashed: seed, name, stack, input: input && { ...input, bytes: encoded(input.bytes) } });
  }
}

process.on("message", ({ from, to }: { readonly from: number; readonly to: number }) => {
  void (async () => {
    for (let seed = from; seed < to; seed++) await tryOne(seed);
    process.send?.({ done: to });
  })();
});
