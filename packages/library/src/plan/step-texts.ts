/** What a step places, in words. */

import { splitAddition } from "../field-name.js";
import { kindPhrase, known, phrase, type Text } from "../phrases/phrase.js";
import type { TargetFile } from "../target/target.js";
import type { NamedPlacement } from "./placements.js";

/** "categories of level 2". */
export function placementText({ kind, name }: NamedPlacement): Text {
  const level = /, level (\d+)/.exec(name)?.[1];
  const many = kindPhrase(kind, 2);
  return level === undefined ? many : phrase("{0} of level {1}", many, level);
}

/** "products with their variants, and the axes, brands that they name"; "categories of level 2". */
export function createdText(created: readonly NamedPlacement[]): Text {
  const kinds = [...new Set(created.map((one) => one.kind))];
  if (!kinds.includes("product")) return phrase("{0}", created.map(placementText));
  const named = kinds.filter((kind) => kind !== "product" && kind !== "variant").map((kind) => kindPhrase(kind, 2));
  const sold = kinds.includes("variant") ? phrase("products with their variants") : kindPhrase("product", 2);
  return named.length > 0 ? phrase("{0}, and the {1} that they name", sold, named) : sold;
}

export function updateText(update: string): Text {
  const { kind, lang, part = "" } = splitAddition(update);
  if (lang !== undefined && (part === "axes" || part === "values"))
    return phrase("the names of {0} in {1}", kindPhrase(part === "axes" ? "axis" : "value", 2), lang);
  if (lang !== undefined) return phrase("the texts of {0} in {1}", kindPhrase(kind, 2), lang);
  const what = known(part.replace(/([A-Z])/g, (letter) => ` ${letter.toLowerCase()}`));
  return phrase("{0} of {1}", what, kindPhrase(kind, 2));
}

export function limitsText({ limits }: TargetFile): Text {
  return phrase("{0}", [
    ...(limits.products === undefined ? [] : [phrase("at most {0} products", limits.products)]),
    ...(limits.bytes === undefined ? [] : [phrase("at most {0} bytes", limits.bytes)]),
  ]);
}
