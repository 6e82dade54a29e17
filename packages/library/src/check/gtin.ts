/** GS1 General Specifications: GTIN-8, -12, -13, -14 and their check digit: from the right, weights 3 and 1 in turn. */
import { phrase, type Text } from "../phrases/phrase.js";

/** Checks a GTIN: its digits, its length, its check digit. @returns what is wrong with a GTIN, undefined if nothing is. */
export function barcodeProblem(text: string): Text | undefined {
  if (!/^\d+$/.test(text))
    return /^\d+([.,]\d+)?[eE]\+?\d+$/.test(text)
      ? phrase("it is in the scientific notation of a spreadsheet program, and its last digits are lost")
      : phrase("it contains more than digits");
  if (hasRightLength(text)) return checkDigitFits(text) ? undefined : phrase("its check digit is wrong");
  for (const length of [8, 12, 13, 14]) {
    if (length > text.length && checkDigitFits(text.padStart(length, "0")))
      return phrase(
        "it has {0} digits. With leading zeros up to {1} digits it is valid, so a spreadsheet program may have removed them",
        text.length,
        length,
      );
  }
  return phrase("it has {0} digits, not 8, 12, 13 or 14", text.length);
}

const hasRightLength = (text: string): boolean => [8, 12, 13, 14].includes(text.length);

function checkDigitFits(text: string): boolean {
  const last = text.length - 1;
  let sum = 0;
  for (let at = 0; at < last; at++) sum += digitAt(text, last - 1 - at) * (at % 2 === 0 ? 3 : 1);
  return (10 - (sum % 10)) % 10 === digitAt(text, last);
}

const digitAt = (text: string, at: number): number => text.charCodeAt(at) - 48;
