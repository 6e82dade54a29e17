/** A, B … Z, AA: how spreadsheets call their columns. */
export function columnLetters(at: number): string {
  let letters = "";
  for (let rest = at; rest >= 0; rest = Math.floor(rest / 26) - 1)
    letters = String.fromCharCode(65 + (rest % 26)) + letters;
  return letters;
}

/** The position of a column by its letters, from 0; -1 for what are no letters. */
export function columnAt(letters: string): number {
  if (!/^[A-Z]{1,3}$/.test(letters)) return -1;
  let at = 0;
  for (const letter of letters) at = at * 26 + letter.charCodeAt(0) - 64;
  return at - 1;
}
