/**
 * Texts that spreadsheet programs take for formulas when they open a CSV file. An apostrophe before such a text makes it text for them;
 * whoever reads the file by the same layout takes the apostrophe off.
 */

/** What is done with them in a file. */
export type FormulaCells = "as they are" | "neutralise" | "refuse";

/** What spreadsheets take for a formula: not signed numbers and percentages, which they read as such. */
export function isFormula(text: string): boolean {
  const first = text.charCodeAt(0);
  // = + - @, tab, carriage return.
  if (first !== 61 && first !== 43 && first !== 45 && first !== 64 && first !== 9 && first !== 13) return false;
  return !/^[+-]\s?\d[\d.,]*\s?%?$/.test(text);
}

/** A formula behind apostrophes: one of them was put there. */
const isNeutral = (text: string): boolean => text.charCodeAt(0) === 39 && /^'+[=+\-@\t\r]/.test(text);

/** With an apostrophe before what would be a formula. What looks so already gets one too: taking it off gives the text again. */
export const neutralised = (text: string): string => (isFormula(text) || isNeutral(text) ? `'${text}` : text);

/** Without the apostrophe that `neutralised` puts before a text. */
export const asGiven = (text: string): string => (isNeutral(text) ? text.slice(1) : text);
