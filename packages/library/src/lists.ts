/** Lists of any length: given as the arguments of a call, a long one overflows the stack. */

/** Puts all of the one list at the end of the other. */
export function pushAll<T>(list: T[], more: Iterable<T>): void {
  for (const one of more) list.push(one);
}

/** The greatest of numbers. @param least what it is at least, and of none. */
export function greatest(numbers: Iterable<number>, least = 0): number {
  let most = least;
  for (const one of numbers) if (one > most) most = one;
  return most;
}
