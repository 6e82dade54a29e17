/** What a platform of records tells of itself, as a snapshot: kinds, fields and lists, each by its pointer. */

import type { CellValue } from "../codecs/codec.js";
import type { GivenPointer, RecordReadback, ToldRecord } from "../target/adapter/played.js";
import { at, listAt, textOf } from "./readback.js";
import { setField, sortEntries, type Snapshot } from "./snapshot.js";

type Records = Map<string, Map<string, CellValue>>;

export function readRecordsBack(json: unknown, { records }: RecordReadback): Snapshot {
  const kinds: Record<string, Records> = {};
  const of = (kind: string): Records => (kinds[kind] ??= new Map<string, Map<string, CellValue>>());
  const read = (from: unknown, { fields }: ToldRecord): Map<string, CellValue> => {
    const record = new Map<string, CellValue>();
    for (const [field, pointer] of Object.entries(fields)) setField(record, field, valueAt(from, pointer));
    return record;
  };
  // A kind of which there are none is told of all the same.
  for (const [kind, { within }] of Object.entries(records))
    for (const one of [kind, ...Object.keys(within ?? {})]) of(one);
  for (const [kind, told] of Object.entries(records))
    for (const one of listAt(json, told.each)) {
      const key = textOf(at(one, told.key));
      of(kind).set(key, read(one, told));
      for (const [inner, own] of Object.entries(told.within ?? {}))
        for (const child of listAt(one, own.each)) {
          const record = read(child, own);
          record.set(own.parent, key);
          of(inner).set(textOf(at(child, own.key)), record);
        }
    }
  return { product: of("product"), variant: of("variant"), category: of("category"), ...kinds };
}

/** What is not there, or holds nothing, is undefined. */
function valueAt(from: unknown, pointer: GivenPointer): CellValue | undefined {
  if (typeof pointer === "string") return plain(pointer === "." ? from : at(from, pointer));
  if ("words" in pointer) {
    const word = textOf(at(from, pointer.at));
    return word === "" ? undefined : (pointer.words[word] ?? word);
  }
  const { each, of, sorted = false } = pointer;
  const list = listAt(from, each).map((one): CellValue =>
    Array.isArray(of)
      ? of.map((part) => valueAt(one, part as GivenPointer) ?? "")
      : (valueAt(one, of as GivenPointer) ?? ""),
  );
  // A list of nothing but gaps says nothing.
  if (list.every((one) => one === "")) return undefined;
  return sorted ? sortEntries(list) : list;
}

function plain(value: unknown): CellValue | undefined {
  if (value === null || value === undefined) return undefined;
  return Array.isArray(value) ? value.map((one) => plain(one) ?? "") : textOf(value);
}
