/** Lists of any length: given as the arguments of a call, a long one overflows the stack. */

/** Puts all of the one list at the end of the other. */
export function pushAll<T>(list: T[], more: Iterable<T>): void {
  for (const one of more) list.push(one);
}

/** A list with one more, made where there is none. Most get no more than one: a list that begins with nothing has room for many. */
export function added<T>(list: T[] | undefined, one: T): T[] {
  if (!list) return [one];
  list.push(one);
  return list;
}

/** Each once, in the order in which they came. Most lists are short and have nothing twice: they are given back as they are. */
export function eachOnce<T>(list: readonly T[]): readonly T[] {
  const isShort = list.length <= 16;
  if (isShort && list.every((one, at) => list.indexOf(one) === at)) return list;
  return [...new Set(list)];
}

/** The numbers from 0 on, so many, that fit. */
export function numbersWhere(count: number, fits: (number: number) => boolean): number[] {
  const numbers: number[] = [];
  for (let number = 0; number < count; number++) if (fits(number)) numbers.push(number);
  return numbers;
}

/** The greatest of numbers. @param least what it is at least, and of none. */
export function greatest(numbers: Iterable<number>, least = 0): number {
  let most = least;
  for (const one of numbers) if (one > most) most = one;
  return most;
}
