/** Generated records for generated layouts: what their cells hold is up to the features that are laid down. */

import fc from "fast-check";

/** What features make texts and numbers of, always by the same place. */
export interface Stuff {
  readonly words: readonly string[];
  readonly numbers: readonly number[];
}

export interface Version extends Stuff {
  /** Which value on the first axis, and on the second. */
  readonly values: readonly [number, number];
}

export interface Thing extends Stuff {
  readonly axes: number;
  readonly versions: readonly Version[];
}

export interface Things {
  readonly things: readonly Thing[];
  /** Names that all have in common: of axes, values, brands. */
  readonly words: readonly string[];
  readonly isGerman: boolean;
}

const plain = ["a", "B", "c", "ß", "蜂", "ع", "0", "7"];
const awkward = [" ", ";", ",", "|", "!", ":", "'", '"', "&", "<", ">", "]", "/", "=", "-", "x", "\n", "\\", "{", "@"];
const char = fc.oneof(
  { weight: 12, arbitrary: fc.constantFrom(...plain) },
  { weight: 1, arbitrary: fc.constantFrom(...awkward) },
);
/** Begins and ends with what no cell loses. */
const word = fc.array(char, { minLength: 1, maxLength: 5 }).map((chars) => `n${chars.join("")}.`);
const someNames = fc.array(word, { minLength: 8, maxLength: 8 });
const numbers = fc.array(fc.nat(9_999), { minLength: 12, maxLength: 12 });

const version: fc.Arbitrary<Version> = fc.record({
  words: someNames,
  numbers,
  values: fc.tuple(fc.nat(2), fc.nat(2)),
});
const thing: fc.Arbitrary<Thing> = fc
  .record({ words: someNames, numbers, axes: fc.nat(2), versions: fc.array(version, { minLength: 1, maxLength: 4 }) })
  .map((one) => ({ ...one, versions: apart(one) }));

/** Versions that differ on the axes there are; one, where there are none. */
function apart({ axes, versions }: Thing): readonly Version[] {
  const seen = new Set<string>();
  return versions.filter(({ values }) => {
    const told = values.slice(0, axes).join();
    return !seen.has(told) && seen.add(told);
  });
}

export const things: fc.Arbitrary<Things> = fc.record({
  things: fc.array(thing, { minLength: 1, maxLength: 4 }),
  words: fc.array(word, { minLength: 8, maxLength: 8 }),
  isGerman: fc.boolean(),
});

/** The value of a number below a bound: undefined for some of them. */
export const some = (number: number | undefined, bound: number): number | undefined =>
  number === undefined || number % 4 === 3 ? undefined : number % bound;
