/** Texts of cells as findings show them. */

/** The first characters of a text that is long, with a mark that there are more. @param most characters, the mark among them. */
export const shorten = (text: string, most = 60): string => (text.length > most ? `${text.slice(0, most - 1)}…` : text);
