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

/** What counts without the word. */
const usual: Readonly<Record<string, unknown>> = {
  "line end": "crlf",
  "shared cells": "first row",
  "refusal costs": "row",
  "at an error": "go on",
  header: "any order",
  "known record": "update",
  "unknown id": "refuse",
  lists: "replace",
  "children not named": "kept",
  "child of another parent": "refuse",
  "parent without children": "kept",
  "axes of a known parent": "must match",
  "shared cells below the first row": "refuse",
  "missing pictures": "refuse",
  "looked up": "as rows arrive",
  "unknown names": "refuse",
  blank: "clear",
  over: "refuse",
  mode: "create",
  language: "en",
};

const equivalents: readonly Equivalent[] = [
  { path: /(^|\.)(about|version|why|title)$/, reason: "It is for people." },
  { path: /^endpoints|\.endpoint$/, reason: "It says where files are sent. Nothing is sent in a rehearsal." },
  { path: /^settings\./, reason: "Another account would have it. What is recorded is of the account as it is set up." },
];

/** Why nothing tells a mutant from the target; undefined where no reason is known. */
export function reasonFor(name: PlatformName, { path, what, was }: Mutant): string | undefined {
  const word = path.slice(path.lastIndexOf(".") + 1);
  if (what === "left out" && Object.hasOwn(usual, word) && usual[word] === was) return "It is what counts without it.";
  return equivalents.find(
    ({ of = name, path: where, what: how }) => of === name && where.test(path) && (how?.test(what) ?? true),
  )?.reason;
}
