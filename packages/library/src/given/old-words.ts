/**
 * Words of layouts, targets and projects that have been renamed. A file that still uses one gets a finding with the new word: an old
 * word is never read as something else.
 */

import { finding, type Finding } from "../findings/finding.js";
import type { Location } from "../location.js";

type Path = readonly (string | number)[];
type At = (...path: Path) => Location;

/** Names of settings, where the schema does not know them (any more). */
const settings: Readonly<Record<string, string>> = {
  mend: "fix",
  words: "code words",
  repairs: "bulk changes",
  stops: "manual steps",
  tie: "dependency",
  slots: "imports",
  advised: "recommended",
  "characters advised": "characters recommended",
  "axes advised": "axes recommended",
};

const fields: Readonly<Record<string, string>> = { nature: "sort", rental: "hire", words: "text" };

const roles: Readonly<Record<string, string>> = { regular: "price", sale: "offer", "struck-through": "was" };
const values: Readonly<Record<string, string>> = { ...roles, physical: "goods", downloadable: "file", rental: "hire" };

/** @returns the finding for a setting that was renamed; undefined for one that never was. */
export function renamedSetting(word: string, at: Location): Finding | undefined {
  return Object.hasOwn(settings, word) ? finding("given/old-word", { word, now: settings[word]! }, at) : undefined;
}

/** The new name of a field, for messages about a field that a kind does not have. */
export const renamedField = (name: string): string | undefined =>
  Object.hasOwn(fields, name) ? fields[name] : undefined;

/** Price roles and sorts of product, wherever a file names them: in fields, in the constants of lanes, in code words. */
export function renamedValues(given: unknown, at: At, path: Path = []): Finding[] {
  if (typeof given === "string") {
    const word = /\bprices\((regular|sale|struck-through)\b/.exec(given)?.[1] ?? constantAt(given, path);
    return word === undefined ? [] : [finding("given/old-word", { word, now: values[word]! }, at(...path))];
  }
  if (typeof given !== "object" || given === null) return [];
  return Object.entries(given).flatMap(([name, inner]) =>
    renamedValues(inner, at, [...path, Array.isArray(given) ? Number(name) : name]),
  );
}

function constantAt(given: string, path: Path): string | undefined {
  if (path.at(-1) === "role" && Object.hasOwn(roles, given)) return given;
  const isCodeWord = path.at(-2) === "code words" && path.at(-3) !== "language";
  return isCodeWord && Object.hasOwn(values, given) ? given : undefined;
}
