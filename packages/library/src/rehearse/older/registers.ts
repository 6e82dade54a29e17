/** What a simulated platform of records holds while a rehearsal plays, and how that becomes a snapshot. */

import type { CellValue } from "../../codecs/codec.js";
import type { GiveId } from "../platform/store.js";
import { setField, sortEntries, type Snapshot, type SnapshotRecord } from "../snapshot.js";

export interface RegisterRecord {
  readonly kind: string;
  readonly key: string;
  readonly id: string;
  /** As columns name them; references by the keys of what they lead to. */
  fields: Map<string, CellValue>;
  /** By collection, by what tells the entries apart. */
  entries: Map<string, Map<string, readonly CellValue[]>>;
}

/** Fields by which records are looked for. */
const indexed: ReadonlySet<string> = new Set(["code", "product"]);

/** A simulated platform whose files are of records by themselves: a list for each kind. */
export class Registers {
  readonly #kinds = new Map<string, Map<string, RegisterRecord>>();
  readonly #ids = new Map<string, RegisterRecord>();
  readonly pictures = new Set<string>();
  readonly lists = new Map<string, Set<string>>();
  readonly #noted = new Map<string, Set<RegisterRecord>>();
  #count = 0;

  constructor(readonly giveId: GiveId = (_kind, _key, count) => String(count)) {}

  setUp(list: string, entries: readonly string[]): void {
    this.lists.set(list, new Set([...(this.lists.get(list) ?? []), ...entries]));
  }

  find(kind: string, key: string): RegisterRecord | undefined {
    return this.#kinds.get(kind)?.get(key);
  }
  byId(id: string): RegisterRecord | undefined {
    return this.#ids.get(id);
  }
  records(kind: string): IterableIterator<RegisterRecord> {
    return (this.#kinds.get(kind) ?? new Map<string, RegisterRecord>()).values();
  }

  /** How many there are of each kind. */
  counts(): ReadonlyMap<string, number> {
    return new Map([
      ...[...this.#kinds].map(([kind, own]): [string, number] => [kind, own.size]),
      ["picture", this.pictures.size],
    ]);
  }

  create(kind: string, key: string): RegisterRecord {
    const id = this.giveId(kind, key, ++this.#count);
    const record: RegisterRecord = { kind, key, id, fields: new Map(), entries: new Map() };
    this.put(record);
    return record;
  }

  put(record: RegisterRecord): void {
    let own = this.#kinds.get(record.kind);
    if (!own) this.#kinds.set(record.kind, (own = new Map()));
    own.set(record.key, record);
    this.#ids.set(record.id, record);
  }

  /** Keeps by what value of a field a record may be found; whether it still has it is looked at then. */
  note(record: RegisterRecord, field: string): void {
    if (!indexed.has(field)) return;
    const key = `${field}\u0000${String(record.fields.get(field))}`;
    const known = this.#noted.get(key);
    if (known) known.add(record);
    else this.#noted.set(key, new Set([record]));
  }

  /** The records that have a value in a field that is noted. */
  having(field: string, value: string): RegisterRecord[] {
    return [...(this.#noted.get(`${field}\u0000${value}`) ?? [])].filter(
      (record) => record.fields.get(field) === value && this.find(record.kind, record.key) === record,
    );
  }

  /** Takes a record out again that a refused row had made. */
  remove({ kind, key, id }: RegisterRecord): void {
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

function snapshotRecord({ fields, entries }: RegisterRecord): Map<string, CellValue> {
  const record = new Map<string, CellValue>();
  for (const [field, value] of fields) setField(record, field, value);
  for (const [collection, own] of entries) setField(record, collection, sortEntries([...own.values()]));
  return record;
}

/** A copy to go back to. */
export function copyOf({ fields, entries, ...rest }: RegisterRecord): RegisterRecord {
  return {
    ...rest,
    fields: new Map(fields),
    entries: new Map([...entries].map(([name, own]) => [name, new Map(own)])),
  };
}

/** Whether two states of a record are the same; what a record never had is as good as nothing. */
export function sameRecord(a: RegisterRecord, b: RegisterRecord): boolean {
  return JSON.stringify(shown(a)) === JSON.stringify(shown(b));
}

const shown = (record: RegisterRecord): unknown =>
  [...snapshotRecord(record)].sort(([one], [other]) => (one < other ? -1 : Number(one > other)));
