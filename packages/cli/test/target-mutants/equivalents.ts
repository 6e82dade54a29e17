/** Changes of a target that nothing can tell from the target as it is, with the reason. */

import type { Mutant } from "./mutants.js";
import type { PlatformName } from "./recorded.js";

interface Equivalent {
  /** Of all targets, if left out. */
  readonly of?: PlatformName;
  readonly path: RegExp;
  readonly what?: RegExp;
  readonly reason: string;
}

export const equivalents: readonly Equivalent[] = [
  { path: /(^|\.)(about|version|why|title)$/, reason: "It is for people." },
  { path: /^endpoints|\.endpoint$/, reason: "It says where files are sent. Nothing is sent in a rehearsal." },
];

export const reasonFor = (name: PlatformName, { path, what }: Mutant): string | undefined =>
  equivalents.find(
    ({ of = name, path: where, what: how }) => of === name && where.test(path) && (how?.test(what) ?? true),
  )?.reason;
