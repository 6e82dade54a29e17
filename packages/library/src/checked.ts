/** Look-ups that succeed, as the caller knows and its types cannot say. Where one does not, that is a bug of the caller, and it is thrown. */

/** The value of a key that is there. */
export function entryOf<K, V>(map: ReadonlyMap<K, V>, key: K): V {
  const value = map.get(key);
  if (value === undefined) throw new Error(`nothing is known of ${String(key)}`);
  return value;
}

/** The first of a list that is not empty. */
export function firstOf<T>(list: readonly T[]): Exclude<T, undefined> {
  const [first] = list;
  if (first === undefined) throw new Error("the first of an empty list");
  return first as Exclude<T, undefined>;
}

/** The first of a list that fits; one does. */
export function fitting<T>(list: readonly T[], fits: (one: T) => boolean): T {
  const one = list.find(fits);
  if (one === undefined) throw new Error("none of the list fits");
  return one;
}

/** What is known to be there, as was checked elsewhere. @throws Error where it is not: our own bug. */
export function present<T>(value: T): NonNullable<T> {
  if (value === undefined || value === null) throw new Error("what must be there is not");
  return value;
}
