/** GS1 General Specifications: GTIN-8, -12, -13, -14 and their check digit: from the right, weights 3 and 1 in turn. */

/** @returns what is wrong with a GTIN, undefined if nothing is. */
export function barcodeProblem(text: string): string | undefined {
  if (/^\d+([.,]\d+)?[eE]\+?\d+$/.test(text))
    return "a spreadsheet wrote it in scientific notation; the digits behind are lost";
  if (!/^\d+$/.test(text)) return "it holds more than digits";
  if (hasRightLength(text)) return checkDigitFits(text) ? undefined : "the check digit does not fit; a digit is wrong";
  for (const length of [8, 12, 13, 14]) {
    if (length > text.length && checkDigitFits(text.padStart(length, "0")))
      return `it has ${text.length} digits; with leading zeros to ${length} its check digit fits: a spreadsheet has taken them`;
  }
  return `it has ${text.length} digits, not 8, 12, 13 or 14`;
}

const hasRightLength = (text: string): boolean => [8, 12, 13, 14].includes(text.length);

function checkDigitFits(text: string): boolean {
  let sum = 0;
  for (let at = 0; at < text.length - 1; at++) sum += Number(text[text.length - 2 - at]) * (at % 2 === 0 ? 3 : 1);
  return (10 - (sum % 10)) % 10 === Number(text[text.length - 1]);
}
