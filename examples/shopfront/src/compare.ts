/** The reviewer's view: of each record, every field as it was meant and as it is held. */

import type { Fields, PlatformData, Value } from "./platform-data.js";

export interface FieldPair {
  readonly field: string;
  readonly meant: string | undefined;
  readonly held: string | undefined;
  readonly isSame: boolean;
}

export interface RecordPair {
  readonly kind: string;
  readonly key: string;
  readonly fields: readonly FieldPair[];
  readonly differing: number;
}

const noFields: Fields = new Map();

export function compareRecord(kind: string, key: string, meant: PlatformData, held: PlatformData): RecordPair {
  const own = meant.get(kind)?.get(key) ?? noFields;
  const other = held.get(kind)?.get(key) ?? noFields;
  const fields = [...new Set([...own.keys(), ...other.keys()])].map((field): FieldPair => {
    const [a, b] = [valueText(own.get(field)), valueText(other.get(field))];
    return { field, meant: a, held: b, isSame: a === b };
  });
  return { kind, key, fields, differing: fields.filter(({ isSame }) => !isSame).length };
}

/** How many fields of all records there are, and how many differ. */
export function compareAll(
  meant: PlatformData,
  held: PlatformData,
): { readonly fields: number; readonly differing: readonly RecordPair[] } {
  let fields = 0;
  const differing: RecordPair[] = [];
  for (const kind of new Set([...meant.keys(), ...held.keys()]))
    for (const key of new Set([...(meant.get(kind)?.keys() ?? []), ...(held.get(kind)?.keys() ?? [])])) {
      const pair = compareRecord(kind, key, meant, held);
      fields += pair.fields.length;
      const isThere = meant.get(kind)?.has(key) === held.get(kind)?.has(key);
      if (pair.differing > 0 || !isThere) differing.push(pair);
    }
  return { fields, differing };
}

function valueText(value: Value | undefined): string | undefined {
  if (value === undefined || typeof value === "string") return value;
  return value.map((one) => (typeof one === "string" ? one : `[${valueText(one)}]`)).join(", ");
}
