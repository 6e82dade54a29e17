/** Every small change of a target: a word left out, a value otherwise, two columns or two code words swapped. */

import { enumerated } from "./enumerated.js";

export type Json = null | boolean | number | string | readonly Json[] | { readonly [word: string]: Json };

export interface Mutant {
  /** Where: `files.items.columns.Stock.blank`. */
  readonly path: string;
  readonly what: string;
  /** What stood there. */
  readonly was: Json;
  readonly target: Json;
}

/** What separates parts of a cell. */
const signs = new Set(["list", "path", "parts", "quantity", "delimiter", "escape", "sign", "joined by", "root"]);

export function mutantsOf(target: Json): Mutant[] {
  const found: Mutant[] = [];
  const add = (path: readonly string[], what: string, was: Json, changed: (value: Json) => Json | undefined) =>
    found.push({ path: path.join("."), what, was, target: changedAt(target, path, changed) });
  visit(target, []);
  return found;

  function visit(value: Json, path: readonly string[]): void {
    const word = path.at(-1) ?? "";
    if (path.length > 0) add(path, "left out", value, () => undefined);
    if (Array.isArray(value)) {
      if (value.length > 1)
        add(path, "the first two are swapped", value, () => [value[1]!, value[0]!, ...value.slice(2)]);
      value.forEach((one: Json, at) => visit(one, [...path, String(at)]));
    } else if (typeof value === "object" && value !== null) {
      const entries = Object.entries(value);
      if (path.at(-2) === "layout" && word === "columns")
        for (const [at, [header, binding]] of entries.slice(0, -1).entries()) {
          const [next, other] = entries[at + 1]!;
          add(path, `${header} and ${next} are swapped`, value, () => ({ ...value, [header]: other, [next]: binding }));
        }
      if (word === "code words" && entries.length > 1) {
        const [[first, one], [second, two]] = entries as [[string, Json], [string, Json]];
        add(path, `${first} and ${second} are swapped`, value, () => ({ ...value, [first]: two, [second]: one }));
      }
      for (const [inner, one] of entries) visit(one, [...path, inner]);
    } else
      for (const other of othersThan(word, value))
        add(path, `${String(value)} is ${String(other)}`, value, () => other);
  }
}

function othersThan(word: string, value: Json): readonly Json[] {
  if (typeof value === "boolean") return [!value];
  if (typeof value === "number") return [value === 1 ? 2 : 1];
  if (typeof value !== "string") return [];
  const few = enumerated.get(word);
  if (few?.includes(value)) return few.filter((one) => one !== value);
  if (word === "from") return ["1000000"];
  if (word === "to") return ["-1"];
  if (signs.has(word)) return ["¤"];
  if (word === "only") return ["~"];
  if (/^-?\d+(\.\d+)?$/.test(value)) return [String(Number(value) + 1)];
  return [];
}

/** @param changed undefined leaves the value out. */
function changedAt(value: Json, [word, ...rest]: readonly string[], changed: (value: Json) => Json | undefined): Json {
  if (word === undefined || typeof value !== "object" || value === null) return value;
  if (Array.isArray(value))
    return value.flatMap((one: Json, at): Json[] => {
      if (String(at) !== word) return [one];
      const made = rest.length === 0 ? changed(one) : changedAt(one, rest, changed);
      return made === undefined ? [] : [made];
    });
  return Object.fromEntries(
    Object.entries(value as Readonly<Record<string, Json>>).flatMap(([own, one]) => {
      if (own !== word) return [[own, one]];
      const made = rest.length === 0 ? changed(one) : changedAt(one, rest, changed);
      return made === undefined ? [] : [[own, made]];
    }),
  );
}
