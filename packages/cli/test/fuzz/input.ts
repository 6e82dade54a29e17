/** What families of inputs have in common. */

import { failure, finding, success, type FilesPort } from "zest-tier";
import type { Random } from "./mutate.js";

export type Files = ReadonlyMap<string, Uint8Array>;

/** What is tried: names of what it is about, and bytes that were damaged. */
export interface Input {
  readonly names: readonly string[];
  readonly bytes: Uint8Array;
}

export interface Family {
  readonly make: (random: Random) => Input;
  /** Of all that it damages, one as it was: it goes all the way. */
  readonly whole: Input;
  /** @returns whether it went all the way. @throws Error where a promise is broken. */
  readonly attempt: (input: Input) => Promise<boolean>;
}

export async function* chunksOf(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length || at === 0; at += 5_000)
    yield await Promise.resolve(bytes.subarray(at, at + 5_000));
}
/** Files that are in memory. */
export const portOf = (files: Files): FilesPort => ({
  read: (path) => {
    const bytes = files.get(path);
    return Promise.resolve(
      bytes ? success(chunksOf(bytes)) : failure(finding("read/missing-file", {}, { file: path })),
    );
  },
  list: () => Promise.resolve([...files].map(([name, { length }]) => ({ name, bytes: length }))),
});
