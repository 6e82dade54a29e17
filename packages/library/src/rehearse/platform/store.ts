/**
 * What a simulated platform holds while files are played: records, their entries, and what they are found by. All that is changed can be
 * taken back to a mark, so that what a platform refuses leaves nothing behind.
 */

import { ByPlace, SharedNames, type ReadonlyByPlace } from "./by-place.js";

/** A text, or the records that a field leads to. */
export type HeldValue = string | readonly HeldRecord[];

/** What no file said: where a field starts, or an address that the platform made. */
class OfPlatform {
  constructor(readonly value: HeldValue) {}
}

/** What stands in a field. */
export type HeldCell = HeldValue | OfPlatform;

/** @param isOfPlatform whether no file said it. */
export const heldCell = (value: HeldValue, isOfPlatform: boolean): HeldCell =>
  isOfPlatform ? new OfPlatform(value) : value;

/** Whether no file said it. */
export const isOfPlatform = (cell: HeldCell): boolean => cell instanceof OfPlatform;

export const valueOf = (cell: HeldCell): HeldValue => (cell instanceof OfPlatform ? cell.value : cell);

/** Fields with what stands in them. */
export type HeldCells = ReadonlyByPlace<HeldCell>;

/** An entry of a record, by its fields. It is never changed: another one takes its place. */
export type HeldEntry = HeldCells;

/** An entry while it is made. */
export type EntryCells = ByPlace<HeldCell>;

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
  readonly fields: HeldCells;
  readonly entries: ReadonlyByPlace<readonly HeldEntry[]>;
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
  readonly fields: ByPlace<HeldCell>;
  /** Most records have none: they share that until they do. */
  entries: ByPlace<readonly HeldEntry[]>;
  children: Set<StoredRecord> | undefined;
  /** What is named within it alone. */
  owned: Set<StoredRecord> | undefined;
  /** The number of the watch in which it was made, and in which it was last changed. */
  readonly madeIn: number;
  changedIn: number;
}

const noEntries = new ByPlace<readonly HeldEntry[]>(new SharedNames());
const noRecords: ReadonlySet<StoredRecord> = new Set();

/** The records of a kind by their text in a field, most texts having one. */
type TextIndex = Map<string, StoredRecord | Set<StoredRecord>>;

/** What was done to a record. */
type Change = "brought" | "taken out" | "moved" | "field" | "entries";

/** What was done, in order, with what there was before: a rehearsal does millions of things, and takes few back. */
class UndoLog {
  readonly #changes: Change[] = [];
  readonly #records: StoredRecord[] = [];
  readonly #what: string[] = [];
  readonly #before: unknown[] = [];

  get size(): number {
    return this.#changes.length;
  }

  push(change: Change, record: StoredRecord, what = "", before: unknown = undefined): void {
    this.#changes.push(change);
    this.#records.push(record);
    this.#what.push(what);
    this.#before.push(before);
  }

  /** Gives out what came after a mark, the last first. */
  back(mark: number, undo: (change: Change, record: StoredRecord, what: string, before: unknown) => void): void {
    while (this.#changes.length > mark) {
      const [change, record] = [this.#changes.pop(), this.#records.pop()];
      const [what, before] = [this.#what.pop(), this.#before.pop()];
      if (change !== undefined && record !== undefined) undo(change, record, what ?? "", before);
    }
  }

  /** Forgets what came after a mark and is not wanted any more. */
  keepOnly(mark: number, isWanted: (change: Change, record: StoredRecord) => boolean): void {
    let kept = mark;
    for (let at = mark; at < this.#changes.length; at++) {
      if (!isWanted(this.#changes[at]!, this.#records[at]!)) continue;
      this.#changes[kept] = this.#changes[at]!;
      this.#records[kept] = this.#records[at]!;
      this.#what[kept] = this.#what[at]!;
      this.#before[kept] = this.#before[at];
      kept++;
    }
    this.#cut(kept);
  }

  clear(): void {
    this.#cut(0);
  }

  #cut(size: number): void {
    for (const list of [this.#changes, this.#records, this.#what, this.#before]) list.length = size;
  }
}

export class PlatformStore {
  readonly #records = new Map<string, Set<StoredRecord>>();
  readonly #index = new Map<string, Map<string, TextIndex>>();
  readonly #undo = new UndoLog();
  /** Of fields, by kind. */
  readonly #fieldNames = new Map<string, SharedNames>();
  readonly #listNames = new SharedNames();
  #watch = 0;
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
    return this.#undo.size;
  }

  /** Takes back all that was done since a mark. */
  back(mark: number): void {
    this.#undo.back(mark, (change, record, what, before) => {
      if (change === "moved") this.#move(record, before as StoredRecord | undefined);
      else if (change === "field") this.#put(record, what, record.fields.get(what), before as HeldCell | undefined);
      else if (change === "entries") record.entries.set(what, before as readonly HeldEntry[]);
      else this.#setThere(record, change === "taken out");
    });
  }

  /** From now on all that was done since a mark is taken back together: a record that was made then goes as a whole. */
  close(mark: number): void {
    const made = new Set<StoredRecord>();
    this.#undo.keepOnly(mark, (change, record) => {
      if (change === "brought") made.add(record);
      return change === "brought" || change === "taken out" || !made.has(record);
    });
  }

  /** What has been done so far is not taken back any more. */
  keep(): void {
    this.#undo.clear();
  }

  /** Begins to note which records are made and changed. */
  watch(): void {
    this.#watch++;
  }
  isMade(record: HeldRecord): boolean {
    return (record as StoredRecord).madeIn === this.#watch;
  }
  isChanged(record: HeldRecord): boolean {
    return (record as StoredRecord).changedIn === this.#watch;
  }

  create(kind: string, { key, container, owner }: Beginning = {}): HeldRecord {
    const number = this.#count++;
    const record: StoredRecord = {
      kind,
      number,
      owner: owner as StoredRecord | undefined,
      container: undefined,
      isThere: false,
      fields: new ByPlace(this.#namesOf(kind)),
      entries: noEntries,
      children: undefined,
      owned: undefined,
      madeIn: this.#watch,
      changedIn: -1,
    };
    if (record.owner) (record.owner.owned ??= new Set()).add(record);
    this.#bring(record);
    if (container) this.contain(record, container);
    if (key !== undefined) this.set(record, "key", key);
    if (!owner) this.set(record, "id", this.giveId(kind, key ?? "", this.#count), true);
    return record;
  }

  #namesOf(kind: string): SharedNames {
    let names = this.#fieldNames.get(kind);
    if (!names) this.#fieldNames.set(kind, (names = new SharedNames()));
    return names;
  }

  /** An entry without anything in it. @param kind of the entry. */
  newEntry(kind: string): EntryCells {
    return new ByPlace(this.#namesOf(kind));
  }

  #bring(record: StoredRecord): void {
    this.#setThere(record, true);
    this.#undo.push("brought", record);
  }

  #setThere(record: StoredRecord, isThere: boolean): void {
    let all = this.#records.get(record.kind);
    if (!all) this.#records.set(record.kind, (all = new Set()));
    if (isThere) all.add(record);
    else all.delete(record);
    record.isThere = isThere;
    if (!isThere || record.owner) return;
    const indexes = this.#index.get(record.kind);
    if (!indexes || record.fields.size === 0) return;
    for (const [field, index] of indexes) reindex(index, record, undefined, record.fields.get(field));
  }

  /** Takes a record out, with all that it contains and all that is named within it. */
  remove(given: HeldRecord): void {
    const record = given as StoredRecord;
    if (!record.isThere) return;
    for (const inner of [...(record.children ?? noRecords), ...(record.owned ?? noRecords)]) this.remove(inner);
    this.#setThere(record, false);
    this.#note(record);
    this.#undo.push("taken out", record);
  }

  /** Puts a record into another one. */
  contain(given: HeldRecord, into: HeldRecord): void {
    const [record, container] = [given as StoredRecord, into as StoredRecord];
    const before = record.container;
    if (before === container) return;
    this.#move(record, container);
    this.#note(record);
    this.#undo.push("moved", record, "", before);
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
    this.#move(record, undefined);
    this.#note(record);
    this.#undo.push("moved", record, "", before);
  }

  #move(record: StoredRecord, into: StoredRecord | undefined): void {
    record.container?.children?.delete(record);
    if (into) (into.children ??= new Set()).add(record);
    record.container = into;
  }

  /** The records that one contains, in the order in which they were made. */
  childrenOf(record: HeldRecord): HeldRecord[] {
    return [...((record as StoredRecord).children ?? noRecords)]
      .filter((child) => child.isThere && child.container === record)
      .sort((a, b) => a.number - b.number);
  }

  /** Sets a field of a record; undefined clears it. */
  set(given: HeldRecord, field: string, value: HeldValue | undefined, ofPlatform = false): void {
    const record = given as StoredRecord;
    const before = record.fields.get(field);
    const after = value === undefined || value.length === 0 ? undefined : value;
    if (sameValue(before === undefined ? undefined : valueOf(before), after)) return;
    this.#put(record, field, before, after === undefined ? undefined : heldCell(after, ofPlatform));
    this.#note(record);
    this.#undo.push("field", record, field, before);
  }

  #put(record: StoredRecord, field: string, old: HeldCell | undefined, cell: HeldCell | undefined): void {
    // What is named within one record alone is found through that.
    const index = record.owner ? undefined : this.#index.get(record.kind)?.get(field);
    if (index) reindex(index, record, old, cell);
    record.fields.set(field, cell);
  }

  /** Made when it is first asked for: most fields never are. */
  #indexOf(kind: string, field: string): TextIndex {
    let fields = this.#index.get(kind);
    if (!fields) this.#index.set(kind, (fields = new Map()));
    let index = fields.get(field);
    if (!index) {
      fields.set(field, (index = new Map()));
      for (const record of this.#records.get(kind) ?? [])
        if (!record.owner) reindex(index, record, undefined, record.fields.get(field));
    }
    return index;
  }

  /** Puts other entries in the place of those that a record has in a list. */
  setEntries(given: HeldRecord, list: string, entries: readonly HeldEntry[]): void {
    const record = given as StoredRecord;
    const before = record.entries.get(list) ?? [];
    if (sameEntries(before, entries)) return;
    if (record.entries === noEntries) record.entries = new ByPlace(this.#listNames);
    record.entries.set(list, entries);
    this.#note(record);
    this.#undo.push("entries", record, list, before);
  }

  #note(record: StoredRecord): void {
    for (let at: StoredRecord | undefined = record; at; at = at.owner) at.changedIn = this.#watch;
  }

  /** The records of a kind that have a text in a field: an id, a key, a code or a name. What is named within one record alone is not found. */
  find(kind: string, field: string, text: string): HeldRecord[] {
    const found = this.#indexOf(kind, field).get(text);
    if (found === undefined) return [];
    return found instanceof Set ? [...found].filter(({ isThere }) => isThere) : found.isThere ? [found] : [];
  }

  /** What is named within one record alone. */
  owned(owner: HeldRecord, kind: string, field: string, text: string): HeldRecord | undefined {
    return [...((owner as StoredRecord).owned ?? noRecords)].find(
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

function reindex(index: TextIndex, record: StoredRecord, old: HeldCell | undefined, cell: HeldCell | undefined): void {
  const [before, text] = [old === undefined ? undefined : valueOf(old), cell === undefined ? undefined : valueOf(cell)];
  if (typeof before === "string") {
    const known = index.get(before);
    if (known === record) index.delete(before);
    else if (known instanceof Set) known.delete(record);
  }
  if (typeof text !== "string") return;
  const known = index.get(text);
  if (known instanceof Set) known.add(record);
  else index.set(text, known === undefined || known === record ? record : new Set([known, record]));
}

/** What stands in a field; undefined where nothing does. */
export function valueIn(fields: HeldCells, field: string): HeldValue | undefined {
  const cell = fields.get(field);
  return cell === undefined ? undefined : valueOf(cell);
}

/** A field's text; undefined where it has none. */
export function textIn(fields: HeldCells, field: string): string | undefined {
  const value = valueIn(fields, field);
  return typeof value === "string" ? value : undefined;
}

/** The first of the filled fields that is wanted. */
export function firstField(fields: HeldCells, isWanted: (field: string) => boolean): string | undefined {
  let first: string | undefined;
  fields.some((field) => isWanted(field) && ((first = field), true));
  return first;
}

/** The records that a field leads to. */
export function recordsIn(fields: HeldCells, field: string): readonly HeldRecord[] {
  const value = valueIn(fields, field);
  return value === undefined || typeof value === "string" ? [] : value.filter((record) => record.isThere);
}

export function sameValue(a: HeldValue | undefined, b: HeldValue | undefined): boolean {
  if (typeof a !== "object" || typeof b !== "object") return a === b;
  return a.length === b.length && a.every((one, at) => one === b[at]);
}

export function sameEntry(a: HeldEntry, b: HeldEntry): boolean {
  return a.size === b.size && !a.some((field, cell) => !sameValue(valueOf(cell), valueIn(b, field)));
}

const sameEntries = (a: readonly HeldEntry[], b: readonly HeldEntry[]): boolean =>
  a.length === b.length && a.every((one, at) => sameEntry(one, b[at]!));
