/** What the cells of a column look like. */

import { firstOf } from "../checked.js";
import { barcodeProblem } from "../check/gtin.js";
import { greatest } from "../lists.js";

export interface Profile {
  readonly filled: number;
  readonly share: number;
  readonly distinct: readonly string[];
  /** All filled cells are different. */
  readonly isUnique: boolean;
  /** As good as unique: a file may have a row twice. */
  readonly isNearlyUnique: boolean;
  readonly decimal: { readonly point: "," | "."; readonly sign: string | undefined } | undefined;
  /** Whether some of the numbers have decimals. */
  readonly hasDecimals: boolean;
  readonly isWhole: boolean;
  readonly isBarcode: boolean;
  readonly isPicture: boolean;
  readonly isDate: boolean;
  /** Short words without spaces, most of them with digits: numbers of articles, codes. */
  readonly isCodeLike: boolean;
  /** Words, not numbers. */
  readonly isText: boolean;
  /** The two words of a flag, the one for yes first. */
  readonly flag: readonly [string, string] | undefined;
  readonly pathSeparator: string | undefined;
  readonly listSeparator: string | undefined;
  /** Whether some cells have spaces around them. */
  readonly hasStraySpaces: boolean;
  readonly longest: number;
  /** Characters of a filled cell, on average. */
  readonly usualLength: number;
}

const yes = new Set("yes y ja j oui o si sì sí s tak t true 1 on x active aktiv online".split(" "));
const no = new Set("no n nein non nee nie false 0 off - inactive inaktiv offline".split(" "));

export function profileOf(cells: readonly string[]): Profile {
  const filled = cells.map((cell) => cell.trim()).filter((cell) => cell !== "");
  const distinct = [...new Set(filled)];
  const nearly = (test: (cell: string) => boolean, most = 0.95) =>
    filled.length > 0 && filled.filter(test).length >= most * filled.length;
  const isPicture = nearly((cell) => /\.(jpe?g|png|gif|webp|tiff?|svg)\b/i.test(cell));
  const isDate = nearly((cell) => /^(\d{1,2}[./-]\d{1,2}[./-]\d{2,4}|\d{4}-\d{2}-\d{2})/.test(cell));
  const decimal = decimalOf(filled);
  const hasDecimals = decimal !== undefined && filled.some((cell) => /\d[.,]\d/.test(cell));
  return {
    filled: filled.length,
    share: cells.length === 0 ? 0 : filled.length / cells.length,
    distinct,
    isUnique: distinct.length === filled.length && filled.length > 0,
    isNearlyUnique: filled.length > 0 && distinct.length >= 0.97 * filled.length,
    decimal,
    hasDecimals,
    isWhole: nearly((cell) => /^-?\d{1,9}$/.test(cell), 1),
    isBarcode: nearly((cell) => barcodeProblem(cell) === undefined, 0.8),
    isPicture,
    isDate,
    isCodeLike:
      !isPicture &&
      !isDate &&
      !hasDecimals &&
      nearly((cell) => /^[\p{L}\p{N}._/-]{1,24}$/u.test(cell)) &&
      nearly((cell) => /\d/.test(cell), 0.6),
    isText: nearly((cell) => /\p{L}{2}/u.test(cell), 0.8) && decimal === undefined && !isPicture,
    flag: flagOf(distinct),
    pathSeparator: separatorOf(filled, [" > ", " / ", " >> ", ">", " » ", "/", "|"]),
    listSeparator: separatorOf(filled, ["; ", " | ", "|", ";", ", ", ",", "/"]),
    hasStraySpaces: cells.some((cell) => cell !== cell.trim() && cell.trim() !== ""),
    longest: greatest(filled.map((cell) => cell.length)),
    usualLength: filled.reduce((sum, cell) => sum + cell.length, 0) / Math.max(1, filled.length),
  };
}

function decimalOf(filled: readonly string[]): Profile["decimal"] {
  if (filled.length === 0) return undefined;
  const sign = /[\p{Sc}]|\b[A-Z]{3}\b/u.exec(firstOf(filled))?.[0];
  const plain = filled.map((cell) => (sign === undefined ? cell : cell.replace(sign, "")).trim());
  const fits = (point: string) => plain.every((cell) => new RegExp(`^-?\\d+(\\${point}\\d+)?$`).test(cell));
  if (fits(".") && plain.some((cell) => cell.includes("."))) return { point: ".", sign };
  if (fits(",")) return { point: plain.some((cell) => cell.includes(",")) ? "," : ".", sign };
  return undefined;
}

/** The words that go together, for a sheet that has only one of the two. */
const pairs: readonly (readonly [string, string])[] = [
  ["yes", "no"],
  ["Yes", "No"],
  ["YES", "NO"],
  ["Y", "N"],
  ["ja", "nein"],
  ["Ja", "Nein"],
  ["JA", "NEIN"],
  ["oui", "non"],
  ["OUI", "NON"],
  ["sí", "no"],
  ["SÍ", "NO"],
  ["sì", "no"],
  ["SÌ", "NO"],
  ["tak", "nie"],
  ["TAK", "NIE"],
  ["true", "false"],
  ["1", "0"],
];

function flagOf(distinct: readonly string[]): readonly [string, string] | undefined {
  if (distinct.length === 1) return pairs.find((pair) => pair.includes(firstOf(distinct)));
  if (distinct.length !== 2) return undefined;
  const positive = distinct.find((word) => yes.has(word.toLowerCase()));
  const negative = distinct.find((word) => no.has(word.toLowerCase()));
  return positive !== undefined && negative !== undefined ? [positive, negative] : undefined;
}

/** The first separator that stands between texts in a good part of the cells. */
function separatorOf(filled: readonly string[], candidates: readonly string[]): string | undefined {
  return candidates.find((one) => {
    const holding = filled.filter(
      (cell) => cell.split(one).length > 1 && cell.split(one).every((part) => part.trim() !== ""),
    );
    return holding.length > 0 && holding.length >= 0.2 * filled.length;
  });
}
