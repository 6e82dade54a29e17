/** How many lines cells take beyond the first. */
export function lineEndsIn(cells: readonly string[]): number {
  let count = 0;
  for (const cell of cells) for (let at = cell.indexOf("\n"); at >= 0; at = cell.indexOf("\n", at + 1)) count++;
  return count;
}
