/**
 * The fast path: plain rows of a text file are taken by where their cells stand, and read column by column. It makes what reading row by
 * row makes, to the byte. It can be switched off, to compare both.
 */

let isOn = true;

/** Whether the fast path is taken. It is, until somebody says otherwise. */
export const isFastPathOn = (): boolean => isOn;

/** Switches the fast path on or off, for everything that is read from now on: to show that both ways of reading make the same. */
export function useFastPath(isWanted: boolean): void {
  isOn = isWanted;
}
