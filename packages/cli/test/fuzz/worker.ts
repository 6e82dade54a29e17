/** Tries the inputs whose seeds it gets, one after the other, and names each before it begins. */

import { randomOf } from "./mutate.js";
import { families } from "./families.js";

const names = Object.keys(families);

/** Which family an input of a seed is of. */
const familyOf = (seed: number): string => names[seed % names.length]!;

async function tryOne(seed: number): Promise<void> {
  const name = familyOf(seed);
  process.send?.({ begins: seed, name });
  try {
    await families[name]!(randomOf(seed));
  } catch (error) {
    process.send?.({ crashed: seed, name, stack: String((error as Error).stack).slice(0, 1_500) });
  }
}

process.on("message", ({ from, to }: { readonly from: number; readonly to: number }) => {
  void (async () => {
    for (let seed = from; seed < to; seed++) await tryOne(seed);
    process.send?.({ done: to });
  })();
});
