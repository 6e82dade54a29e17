/** What a simulated platform of records holds while a rehearsal plays, and how that becomes a snapshot. */

import type { CellValue } from "../../codecs/codec.js";
import { setField, sortEntries, type Snapshot, type SnapshotRecord } from "../snapshot.js";

export interface HeldRecord {
  readonly kind: string;
  readonly key: string;
  readonly id: string;
  /** As columns name them; references by the keys of what they lead to. */
  fields: Map<string, CellValue>;
  /** By collection, by what tells the entries apart. */
  entries: Map<string, Map<string, readonly CellValue[]>>;
}

/** Gives a new record its id. */
export type GiveId = (kind: string, key: string, count: number) => string;

/** Fields by which records are looked for. */
const indexed: ReadonlySet<string> = new Set(["code", "product"]);

/** A simulated platform whose files are of records by themselves: a list for each kind. */
export class Registers {
  readonly #kinds = new Map<string, Map<string, HeldRecord>>();
  readonly #ids = new Map<string, HeldRecord>();
  readonly pictures = new Set<string>();
  readonly lists = new Map<string, Set<string>>();
  readonly #noted = new Map<string, Set<HeldRecord>>();
  #count = 0;

  constructor(readonly giveId: GiveId = (_kind, _key, count) => String(count)) {}

  setUp(list: string, entries: readonly string[]): void {
    this.lists.set(list, new Set([...(this.lists.get(list) ?? []), ...entries]));
  }

  find(kind: string, key: string): HeldRecord | undefined {
    return this.#kinds.get(kind)?.get(key);
  }
  byId(id: string): HeldRecord | undefined {
    return this.#ids.get(id);
  }
  records(kind: string): IterableIterator<HeldRecord> {
    return (this.#kinds.get(kind) ?? new Map<string, HeldRecord>()).values();
  }

  /** How many there are of each kind. */
  counts(): ReadonlyMap<string, number> {
    return new Map([
      ...[...this.#kinds].map(([kind, own]): [string, number] => [kind, own.size]),
      ["picture", this.pictures.size],
    ]);
  }

  create(kind: string, key: string): HeldRecord {
    const id = this.giveId(kind, key, ++this.#count);
    const record: HeldRecord = { kind, key, id, fields: new Map(), entries: new Map() };
    this.put(record);
    return record;
  }

  put(record: HeldRecord): void {
    let own = this.#kinds.get(record.kind);
    if (!own) this.#kinds.set(record.kind, (own = new Map()));
    own.set(record.key, record);
    this.#ids.set(record.id, record);
  }

  /** Keeps by what value of a field a record may be found; whether it still has it is looked at then. */
  note(record: HeldRecord, field: string): void {
    if (!indexed.has(field)) return;
    const key = `${field}\u0000${String(record.fields.get(field))}`;
    const known = this.#noted.get(key);
    if (known) known.add(record);
    else this.#noted.set(key, new Set([record]));
  }

  /** The records that have a value in a field that is noted. */
  having(field: string, value: string): HeldRecord[] {
    return [...(this.#noted.get(`${field}\u0000${value}`) ?? [])].filter(
      (record) => record.fields.get(field) === value && this.find(record.kind, record.key) === record,
    );
  }

  /** Takes a record out again that a refused row had made. */
  remove({ kind, key, id }: HeldRecord): void {
    this.#kinds.get(kind)?.delete(key);
    this.#ids.delete(id);
  }

  snapshot(): Snapshot {
    const kinds: Record<string, ReadonlyMap<string, SnapshotRecord>> = {};
    for (const [kind, records] of this.#kinds)
      kinds[kind] = new Map([...records].map(([key, record]) => [key, snapshotRecord(record)]));
    const none = new Map<string, SnapshotRecord>();
    return { product: none, variant: none, category: none, ...kinds };
  }
}

function snapshotRecord({ fields, entries }: HeldRecord): Map<string, CellValue> {
  const record = new Map<string, CellValue>();
  for (const [field, value] of fields) setField(record, field, value);
  for (const [collection, own] of entries) setField(record, collection, sortEntries([...own.values()]));
  return record;
}

/** A copy to go back to. */
export function copyOf({ fields, entries, ...rest }: HeldRecord): HeldRecord {
  return {
    ...rest,
    fields: new Map(fields),
    entries: new Map([...entries].map(([name, own]) => [name, new Map(own)])),
  };
}

/** Whether two states of a record are the same; what a record never had is as good as nothing. */
export function sameRecord(a: HeldRecord, b: HeldRecord): boolean {
  return JSON.stringify(shown(a)) === JSON.stringify(shown(b));
}

const shown = (record: HeldRecord): unknown =>
  [...snapshotRecord(record)].sort(([one], [other]) => (one < other ? -1 : Number(one > other)));
