/** @returns the value of a key that is there, as the caller has put it there. @throws Error where it is not: a bug of the caller. */
export function entryOf<K, V>(map: ReadonlyMap<K, V>, key: K): V {
  const value = map.get(key);
  if (value === undefined) throw new Error(`nothing is known of ${String(key)}`);
  return value;
}
