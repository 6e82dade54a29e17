/** What the library needs of the world around it. The Node versions are in `node/`; tests and browsers bring their own. */

import type { Result } from "./findings/finding.js";

/** The files of a folder. */
export interface FilesPort {
  /** The file's bytes in chunks; fails with `read/missing-file` where there is no such file. Paths are as the project says them. */
  readonly read: (path: string) => Promise<Result<AsyncIterable<Uint8Array>>>;
  /** Names and sizes of the files in a folder, by code units; empty if there is no such folder. */
  readonly list: (folder: string) => Promise<readonly { readonly name: string; readonly bytes: number }[]>;
  /**
   * The same port for this folder and the named ones alone: a path that leads elsewhere, links resolved first, fails with `project/outside`.
   * Left out where no path can. A port that stands before another has one of its own, or none.
   */
  readonly within?: (folders: readonly string[]) => FilesPort;
}

/** A hash that grows with what it is given. */
export interface Hasher {
  readonly update: (bytes: Uint8Array) => void;
  /** Lower-case hexadecimal. */
  readonly digest: () => string;
}
/** Begins a hash. */
export type Sha256 = () => Hasher;
