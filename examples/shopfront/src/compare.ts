/** The reviewer's view: of each record, every field as it was intended and as it is on the platform. */

import type { Fields, PlatformData, Value } from "./platform-data.js";

export interface FieldPair {
  readonly field: string;
  readonly intended: string | undefined;
  readonly onPlatform: string | undefined;
  readonly isSame: boolean;
}

export interface RecordPair {
  readonly kind: string;
  readonly key: string;
  readonly fields: readonly FieldPair[];
  readonly differing: number;
}

const noFields: Fields = new Map();

export function compareRecord(kind: string, key: string, intended: PlatformData, onPlatform: PlatformData): RecordPair {
  const own = intended.get(kind)?.get(key) ?? noFields;
  const other = onPlatform.get(kind)?.get(key) ?? noFields;
  const fields = [...new Set([...own.keys(), ...other.keys()])].map((field): FieldPair => {
    const [a, b] = [textOf(own.get(field)), textOf(other.get(field))];
    return { field, intended: a, onPlatform: b, isSame: a === b };
  });
  return { kind, key, fields, differing: fields.filter(({ isSame }) => !isSame).length };
}

/** How many fields of all records there are, and how many differ. */
export function compareAll(
  intended: PlatformData,
  onPlatform: PlatformData,
): { readonly fields: number; readonly differing: readonly RecordPair[] } {
  let fields = 0;
  const differing: RecordPair[] = [];
  for (const kind of new Set([...intended.keys(), ...onPlatform.keys()]))
    for (const key of new Set([...(intended.get(kind)?.keys() ?? []), ...(onPlatform.get(kind)?.keys() ?? [])])) {
      const pair = compareRecord(kind, key, intended, onPlatform);
      fields += pair.fields.length;
      const isThere = intended.get(kind)?.has(key) === onPlatform.get(kind)?.has(key);
      if (pair.differing > 0 || !isThere) differing.push(pair);
    }
  return { fields, differing };
}

/** Elements separated by ";", the parts of an element by "/". */
function textOf(value: Value | undefined): string | undefined {
  if (value === undefined || typeof value === "string") return value;
  return value.map((one) => (typeof one === "string" ? one : partsOf(one).join(" / "))).join("; ");
}
const partsOf = (value: readonly Value[]): readonly string[] =>
  value.map((part) => textOf(part) ?? "").filter((part) => part !== "");
