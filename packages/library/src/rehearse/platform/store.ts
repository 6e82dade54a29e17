/**
 * What a simulated platform holds while files are played: records, their entries, and what they are found by. All that is changed can be
 * taken back to a mark, so that what a platform refuses leaves nothing behind.
 */

/** A text, or the records that a field leads to. */
export type HeldValue = string | readonly HeldRecord[];

/** @property isOfPlatform whether no file said it: where a field starts, or an address that the platform made. */
export interface HeldCell {
  readonly value: HeldValue;
  readonly isOfPlatform: boolean;
}

/** An entry of a record, by its fields. It is never changed: another one takes its place. */
export type HeldEntry = ReadonlyMap<string, HeldCell>;

/** A record on the platform. It is changed through the store alone. */
export interface HeldRecord {
  readonly kind: string;
  /** In the order in which records were made. */
  readonly number: number;
  /** Of what is named within one record alone, such as the axes that rows name: that record. */
  readonly owner: HeldRecord | undefined;
  /** The record that it is contained in. */
  readonly container: HeldRecord | undefined;
  readonly isThere: boolean;
  readonly fields: ReadonlyMap<string, HeldCell>;
  readonly entries: ReadonlyMap<string, readonly HeldEntry[]>;
}

/** Gives a new record its id. @param count of the records made so far. */
export type GiveId = (kind: string, key: string, count: number) => string;

/** What a new record has from the beginning. */
export interface Beginning {
  readonly key?: string | undefined;
  readonly container?: HeldRecord | undefined;
  readonly owner?: HeldRecord | undefined;
}

interface StoredRecord {
  readonly kind: string;
  readonly number: number;
  readonly owner: StoredRecord | undefined;
  container: StoredRecord | undefined;
  isThere: boolean;
  readonly fields: Map<string, HeldCell>;
  readonly entries: Map<string, readonly HeldEntry[]>;
  readonly children: Set<StoredRecord>;
  /** What is named within it alone. */
  readonly owned: Set<StoredRecord>;
}

const isLookedUp = (field: string): boolean => ["id", "key", "code"].includes(field) || field.startsWith("name@");
const indexKey = (kind: string, field: string, text: string): string => `${kind}\u0000${field}\u0000${text}`;

export class PlatformStore {
  readonly #records = new Map<string, Set<StoredRecord>>();
  readonly #index = new Map<string, Set<StoredRecord>>();
  #undo: (() => void)[] = [];
  #changed = new Set<HeldRecord>();
  #made = new Set<HeldRecord>();
  #count = 0;
  readonly pictures = new Set<string>();
  readonly #lists = new Map<string, Set<string>>();
  readonly #withoutAxes = new Set<HeldRecord>();

  constructor(readonly giveId: GiveId = (_kind, _key, count) => String(count)) {}

  /** Puts names into a list of the platform. */
  setUp(list: string, names: readonly string[]): void {
    const known = this.#lists.get(list) ?? new Set();
    for (const name of names) known.add(name);
    this.#lists.set(list, known);
  }

  isListed(list: string, name: string): boolean {
    return this.#lists.get(list)?.has(name) ?? false;
  }

  /** The number that the next record gets: those made before have smaller ones. */
  get next(): number {
    return this.#count;
  }

  /** A place in time to go back to. */
  mark(): number {
    return this.#undo.length;
  }

  /** Takes back all that was done since a mark. */
  back(mark: number): void {
    while (this.#undo.length > mark) this.#undo.pop()?.();
  }

  /** What has been done so far is not taken back any more. */
  keep(): void {
    this.#undo = [];
  }

  /** Begins to note which records are made and changed. */
  watch(): void {
    this.#changed = new Set();
    this.#made = new Set();
  }
  isMade(record: HeldRecord): boolean {
    return this.#made.has(record);
  }
  isChanged(record: HeldRecord): boolean {
    return this.#changed.has(record);
  }

  create(kind: string, { key, container, owner }: Beginning = {}): HeldRecord {
    const number = this.#count++;
    const record: StoredRecord = {
      kind,
      number,
      owner: owner as StoredRecord | undefined,
      container: undefined,
      isThere: false,
      fields: new Map(),
      entries: new Map(),
      children: new Set(),
      owned: new Set(),
    };
    record.owner?.owned.add(record);
    this.#made.add(record);
    this.#bring(record);
    if (container) this.contain(record, container);
    if (key !== undefined) this.set(record, "key", key);
    if (!owner) this.set(record, "id", this.giveId(kind, key ?? "", this.#count), true);
    return record;
  }

  #bring(record: StoredRecord): void {
    let all = this.#records.get(record.kind);
    if (!all) this.#records.set(record.kind, (all = new Set()));
    all.add(record);
    record.isThere = true;
    this.#undo.push(() => {
      all.delete(record);
      record.isThere = false;
    });
  }

  /** Takes a record out, with all that it contains and all that is named within it. */
  remove(given: HeldRecord): void {
    const record = given as StoredRecord;
    if (!record.isThere) return;
    for (const inner of [...record.children, ...record.owned]) this.remove(inner);
    const all = this.#records.get(record.kind);
    all?.delete(record);
    record.isThere = false;
    this.#note(record);
    this.#undo.push(() => {
      all?.add(record);
      record.isThere = true;
    });
  }

  /** Puts a record into another one. */
  contain(given: HeldRecord, into: HeldRecord): void {
    const [record, container] = [given as StoredRecord, into as StoredRecord];
    const before = record.container;
    if (before === container) return;
    before?.children.delete(record);
    container.children.add(record);
    record.container = container;
    this.#note(record);
    this.#undo.push(() => {
      container.children.delete(record);
      before?.children.add(record);
      record.container = before;
    });
  }

  /** A record has no axes any more, and its children no values, until rows name them. */
  takeOffAxes(record: HeldRecord): void {
    this.set(record, "axes", undefined);
    for (const child of this.childrenOf(record)) this.set(child, "values", undefined);
    this.#withoutAxes.add(record);
  }

  /** Whether the axes of a record were taken off. */
  isWithoutAxes(record: HeldRecord): boolean {
    return this.#withoutAxes.has(record);
  }

  /** A record is contained in none any more. */
  release(given: HeldRecord): void {
    const record = given as StoredRecord;
    const before = record.container;
    if (!before) return;
    before.children.delete(record);
    record.container = undefined;
    this.#note(record);
    this.#undo.push(() => {
      before.children.add(record);
      record.container = before;
    });
  }

  /** The records that one contains, in the order in which they were made. */
  childrenOf(record: HeldRecord): HeldRecord[] {
    return [...(record as StoredRecord).children]
      .filter((child) => child.isThere && child.container === record)
      .sort((a, b) => a.number - b.number);
  }

  /** Sets a field of a record; undefined clears it. */
  set(given: HeldRecord, field: string, value: HeldValue | undefined, isOfPlatform = false): void {
    const record = given as StoredRecord;
    const before = record.fields.get(field);
    const after = value === undefined || value.length === 0 ? undefined : { value, isOfPlatform };
    if (sameValue(before?.value, after?.value)) return;
    const put = (cell: HeldCell | undefined, old: HeldCell | undefined): void => {
      if (isLookedUp(field)) this.#reindex(record, field, old, cell);
      if (cell) record.fields.set(field, cell);
      else record.fields.delete(field);
    };
    put(after, before);
    this.#note(record);
    this.#undo.push(() => put(before, after));
  }

  #reindex(record: StoredRecord, field: string, old: HeldCell | undefined, cell: HeldCell | undefined): void {
    if (typeof old?.value === "string") this.#index.get(indexKey(record.kind, field, old.value))?.delete(record);
    if (typeof cell?.value !== "string") return;
    const key = indexKey(record.kind, field, cell.value);
    const known = this.#index.get(key);
    if (known) known.add(record);
    else this.#index.set(key, new Set([record]));
  }

  /** Puts other entries in the place of those that a record has in a list. */
  setEntries(given: HeldRecord, list: string, entries: readonly HeldEntry[]): void {
    const record = given as StoredRecord;
    const before = record.entries.get(list) ?? [];
    if (sameEntries(before, entries)) return;
    record.entries.set(list, entries);
    this.#note(record);
    this.#undo.push(() => record.entries.set(list, before));
  }

  #note(record: StoredRecord): void {
    for (let at: StoredRecord | undefined = record; at; at = at.owner) this.#changed.add(at);
  }

  /** The records of a kind that have a text in a field: an id, a key, a code or a name. What is named within one record alone is not found. */
  find(kind: string, field: string, text: string): HeldRecord[] {
    const found = this.#index.get(indexKey(kind, field, text));
    return found ? [...found].filter((record) => record.isThere && !record.owner) : [];
  }

  /** What is named within one record alone. */
  owned(owner: HeldRecord, kind: string, field: string, text: string): HeldRecord | undefined {
    return [...(owner as StoredRecord).owned].find(
      (record) => record.isThere && record.kind === kind && textIn(record.fields, field) === text,
    );
  }

  /** All records of a kind, in the order in which they were made. */
  records(kind: string): HeldRecord[] {
    return [...(this.#records.get(kind) ?? [])].sort((a, b) => a.number - b.number);
  }

  /** How many there are of each kind. */
  counts(): ReadonlyMap<string, number> {
    const kinds = [...this.#records].map(([kind, records]): [string, number] => [
      kind,
      [...records].filter(({ owner }) => !owner).length,
    ]);
    return new Map([...kinds.filter(([, count]) => count > 0), ["picture", this.pictures.size]]);
  }
}

/** A field's text; undefined where it has none. */
export function textIn(fields: ReadonlyMap<string, HeldCell>, field: string): string | undefined {
  const value = fields.get(field)?.value;
  return typeof value === "string" ? value : undefined;
}

/** The records that a field leads to. */
export function recordsIn(fields: ReadonlyMap<string, HeldCell>, field: string): readonly HeldRecord[] {
  const value = fields.get(field)?.value;
  return value === undefined || typeof value === "string" ? [] : value.filter((record) => record.isThere);
}

export function sameValue(a: HeldValue | undefined, b: HeldValue | undefined): boolean {
  if (typeof a !== "object" || typeof b !== "object") return a === b;
  return a.length === b.length && a.every((one, at) => one === b[at]);
}

export function sameEntry(a: HeldEntry, b: HeldEntry): boolean {
  return a.size === b.size && [...a].every(([field, { value }]) => sameValue(value, b.get(field)?.value));
}

const sameEntries = (a: readonly HeldEntry[], b: readonly HeldEntry[]): boolean =>
  a.length === b.length && a.every((one, at) => sameEntry(one, b[at]!));
