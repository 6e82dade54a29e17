/** What is sent of a platform: its records, field by field, as they are on it and as they were intended. Keys may be any text: pairs. */

/** A text, or a list of values. */
export type Value = string | readonly Value[];
export type Fields = ReadonlyMap<string, Value>;
/** By kind, by key. */
export type PlatformData = ReadonlyMap<string, ReadonlyMap<string, Fields>>;

type Pairs = readonly (readonly [string, readonly (readonly [string, readonly (readonly [string, Value])[]])[]])[];

export interface ShopfrontData {
  readonly name: string;
  /** ISO 4217; null where the project names none. */
  readonly currency: string | null;
  readonly onPlatform: Pairs;
  readonly intended: Pairs;
}

export function platformDataOf(pairs: Pairs): PlatformData {
  return new Map(
    pairs.map(([kind, records]) => [kind, new Map(records.map(([key, fields]) => [key, new Map(fields)]))]),
  );
}

export const isList = (value: Value | undefined): value is readonly Value[] => Array.isArray(value);
export const textOf = (value: Value | undefined): string | undefined => (typeof value === "string" ? value : undefined);
export const listOf = (value: Value | undefined): readonly Value[] => (isList(value) ? value : []);
export const textsOf = (value: Value | undefined): string[] =>
  listOf(value).flatMap((one) => (typeof one === "string" ? [one] : []));
