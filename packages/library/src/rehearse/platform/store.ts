/**
 * What a simulated platform holds while files are played: records, their entries, and what they are found by. All that is changed can be
 * taken back to a mark, so that what a platform refuses leaves nothing behind.
 */

import { ByPlace, SharedNames } from "./by-place.js";
import {
  heldCell,
  valueOf,
  textIn,
  sameValue,
  sameEntry,
  type HeldValue,
  type HeldCell,
  type HeldEntry,
  type EntryCells,
  type HeldRecord,
} from "./held-record.js";
import { UndoLog, type Change } from "./undo-log.js";

/** Gives a new record its id. @param count of the records made so far. */
export type GiveId = (kind: string, key: string, count: number) => string;

/** What a new record has from the beginning. */
export interface Beginning {
  readonly key?: string | undefined;
  readonly container?: HeldRecord | undefined;
  readonly owner?: HeldRecord | undefined;
}

/** The records of one kind. */
class RecordsOfKind {
  /** In the order in which they were made, those that are not there any more too. */
  all: StoredRecord[] = [];
  /** How many of them are not there. */
  gone = 0;
  /** Whether some were made as named within one record alone. */
  hasOwned = false;
  readonly names = new SharedNames();
  /** By the place of a field; made when it is first asked for: most fields never are. */
  readonly indexes: (TextIndex | undefined)[] = [];

  constructor(readonly kind: string) {}

  index(field: string): TextIndex {
    const at = this.names.of(field);
    let index = this.indexes[at];
    if (!index) {
      this.indexes[at] = index = new Map();
      for (const record of this.all)
        if (record.isThere && !record.owner) reindex(index, record, undefined, record.at(at));
    }
    return index;
  }
}

const noEntries = new ByPlace<readonly HeldEntry[]>(new SharedNames());

/** A record is the list of its own fields: there are many, and each object takes room. */
class StoredRecord extends ByPlace<HeldCell> implements HeldRecord {
  container: StoredRecord | undefined = undefined;
  isThere = false;
  /** Most records have none: they share that until they do. */
  entries = noEntries;
  /** All that it has ever contained, what has come back once more. */
  children: StoredRecord[] | undefined = undefined;
  /** What is named within it alone. */
  owned: StoredRecord[] | undefined = undefined;
  /** A list of it alone, which all share that lead to it. */
  alone: readonly [StoredRecord] | undefined = undefined;
  /** The watch in which it was last changed. */
  changedIn = -1;

  /** @param madeIn the number of the watch in which it is made. */
  constructor(
    readonly of: RecordsOfKind,
    readonly number: number,
    readonly owner: StoredRecord | undefined,
    readonly madeIn: number,
  ) {
    super(of.names);
  }

  get kind(): string {
    return this.of.kind;
  }
  get fields(): this {
    return this;
  }
}

const noRecords: readonly StoredRecord[] = [];

/** The records of a kind by their text in a field, most texts having one. */
type TextIndex = Map<string, StoredRecord | Set<StoredRecord>>;

export class PlatformStore {
  readonly #kinds = new Map<string, RecordsOfKind>();
  readonly #undo = new UndoLog<StoredRecord>();
  readonly #listNames = new SharedNames();
  #watch = 0;
  #count = 0;
  /** The count at the last mark: what was done to records that were made since goes with them. */
  #marked = 0;
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
    this.#marked = this.#count;
    return this.#undo.size;
  }

  /** Takes back all that was done since a mark. */
  back(mark: number): void {
    this.#undo.back(mark, (change, record, what, before) => {
      if (change === "moved") this.#move(record, before as StoredRecord | undefined);
      else if (change === "field") this.#put(record, record.of.names.of(what), before as HeldCell | undefined);
      else if (change === "entries") record.entries.set(what, before as readonly HeldEntry[]);
      else this.#setThere(record, change === "taken out");
    });
  }

  /** From now on all that was done since a mark is taken back together: a record that was made then goes as a whole. */
  close(mark: number): void {
    // Later ones have greater numbers.
    let firstMade = Infinity;
    this.#undo.keepOnly(mark, (change, { number }) => {
      if (change === "brought") firstMade = Math.min(firstMade, number);
      return change === "brought" || change === "taken out" || number < firstMade;
    });
  }

  /** What is not there now does not come back: all that was done before has been taken back, or stays. */
  forget(): void {
    for (const kind of this.#kinds.values()) {
      if (kind.gone > 0) kind.all = kind.all.filter(({ isThere }) => isThere);
      kind.gone = 0;
    }
  }

  /** What has been done so far is not taken back any more. */
  keep(): void {
    this.#undo.clear();
    this.forget();
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
    const of = this.#of(kind);
    const record = new StoredRecord(of, this.#count++, owner as StoredRecord | undefined, this.#watch);
    // What lies in what it is named within is found among what that contains.
    if (record.owner && owner !== container) record.owner.owned = withOne(record.owner.owned, record);
    of.hasOwned ||= owner !== undefined;
    of.all.push(record);
    of.gone++;
    this.#bring(record);
    if (container) this.contain(record, container);
    if (key !== undefined) this.set(record, "key", key);
    if (!owner) this.set(record, "id", this.giveId(kind, key ?? "", this.#count));
    return record;
  }

  #of(kind: string): RecordsOfKind {
    let known = this.#kinds.get(kind);
    if (!known) this.#kinds.set(kind, (known = new RecordsOfKind(kind)));
    return known;
  }

  /** An entry without anything in it. @param kind of the entry. */
  newEntry(kind: string): EntryCells {
    return new ByPlace(this.#of(kind).names);
  }

  #bring(record: StoredRecord): void {
    this.#setThere(record, true);
    this.#undo.push("brought", record);
  }

  #setThere(record: StoredRecord, isThere: boolean): void {
    if (record.isThere !== isThere) record.of.gone += isThere ? -1 : 1;
    record.isThere = isThere;
    if (!isThere || record.owner || record.size === 0) return;
    record.of.indexes.forEach((index, at) => index && reindex(index, record, undefined, record.at(at)));
  }

  /** Takes a record out, with all that it contains and all that is named within it. */
  remove(given: HeldRecord): void {
    const record = given as StoredRecord;
    if (!record.isThere) return;
    for (const inner of [...this.childrenOf(record), ...(record.owned ?? noRecords)]) this.remove(inner);
    this.#setThere(record, false);
    this.#note(record);
    this.#undo.push("taken out", record);
  }

  /** Puts a record into another one. */
  contain(given: HeldRecord, into: HeldRecord): void {
    const record = given as StoredRecord;
    const container = into as StoredRecord;
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
    if (into) into.children = withOne(into.children, record);
    record.container = into;
  }

  /** The records that one contains, in the order in which they were made. */
  childrenOf(record: HeldRecord): HeldRecord[] {
    const found: StoredRecord[] = [];
    let isInOrder = true;
    for (const child of (record as StoredRecord).children ?? noRecords) {
      if (!child.isThere || child.container !== record) continue;
      isInOrder &&= found.length === 0 || found[found.length - 1]!.number < child.number;
      found.push(child);
    }
    return isInOrder ? found : [...new Set(found.sort((a, b) => a.number - b.number))];
  }

  /** Sets a field of a record; undefined clears it. */
  set(given: HeldRecord, field: string, value: HeldValue | undefined, ofPlatform = false): void {
    const record = given as StoredRecord;
    const at = record.of.names.of(field);
    const before = record.at(at);
    const after = value === undefined || value.length === 0 ? undefined : value;
    if (sameValue(before === undefined ? undefined : valueOf(before), after)) return;
    this.#put(record, at, after === undefined ? undefined : heldCell(kept(after), ofPlatform));
    this.#note(record);
    this.#logChange("field", record, field, before);
  }

  /** What was made since the last mark goes as a whole. */
  #logChange(change: Change, record: StoredRecord, what: string, before: unknown): void {
    if (record.number < this.#marked) this.#undo.push(change, record, what, before);
  }

  #put(record: StoredRecord, at: number, cell: HeldCell | undefined): void {
    // What is named within one record alone is found through that.
    const index = record.owner ? undefined : record.of.indexes[at];
    if (index) reindex(index, record, record.at(at), cell);
    record.setAt(at, cell);
  }

  /** Puts other entries in the place of those that a record has in a list. @param entries are kept as they are given. */
  setEntries(given: HeldRecord, list: string, entries: readonly HeldEntry[]): void {
    const record = given as StoredRecord;
    const before = record.entries.get(list) ?? [];
    if (sameEntries(before, entries)) return;
    if (record.entries === noEntries) record.entries = new ByPlace(this.#listNames);
    record.entries.set(list, entries);
    this.#note(record);
    this.#logChange("entries", record, list, before);
  }

  #note(record: StoredRecord): void {
    for (let at: StoredRecord | undefined = record; at; at = at.owner) at.changedIn = this.#watch;
  }

  /** The records of a kind that have a text in a field: an id, a key, a code or a name. What is named within one record alone is not found. */
  find(kind: string, field: string, text: string): HeldRecord[] {
    const found = this.#of(kind).index(field).get(text);
    if (found === undefined) return [];
    return found instanceof Set ? [...found].filter(({ isThere }) => isThere) : found.isThere ? [found] : [];
  }

  /** The first of them that fits. */
  findWhere(kind: string, field: string, text: string, fits: (record: HeldRecord) => boolean): HeldRecord | undefined {
    const found = this.#of(kind).index(field).get(text);
    if (found instanceof Set) {
      for (const one of found) if (one.isThere && fits(one)) return one;
      return undefined;
    }
    return found?.isThere && fits(found) ? found : undefined;
  }

  /** What is named within one record alone. */
  owned(owner: HeldRecord, kind: string, field: string, text: string): HeldRecord | undefined {
    return this.ownedWhere(owner, (record) => record.kind === kind && textIn(record.fields, field) === text);
  }

  /** The first of them that fits. */
  ownedWhere(owner: HeldRecord, fits: (record: HeldRecord) => boolean): HeldRecord | undefined {
    const { owned, children } = owner as StoredRecord;
    for (const record of owned ?? noRecords) if (record.isThere && fits(record)) return record;
    for (const record of children ?? noRecords)
      if (record.owner === owner && record.isThere && fits(record)) return record;
    return undefined;
  }

  /** All records of a kind, in the order in which they were made. */
  records(kind: string): readonly HeldRecord[] {
    const { all, gone } = this.#of(kind);
    return gone === 0 ? all : all.filter(({ isThere }) => isThere);
  }

  /** Whether records of a kind may be named within one record alone. */
  hasOwned(kind: string): boolean {
    return this.#of(kind).hasOwned;
  }

  /** How many there are of each kind. */
  counts(): ReadonlyMap<string, number> {
    const kinds = [...this.#kinds].map(([kind, { all }]): [string, number] => [
      kind,
      all.filter(({ isThere, owner }) => isThere && !owner).length,
    ]);
    return new Map([...kinds.filter(([, count]) => count > 0), ["picture", this.pictures.size]]);
  }
}

/** A list of one record, which all share that need one. */
export function alone(record: HeldRecord): readonly HeldRecord[] {
  const stored = record as StoredRecord;
  return (stored.alone ??= [stored]);
}

/** As it is kept: a list that has grown holds on to more room than it needs. */
function kept(value: HeldValue): HeldValue {
  if (typeof value === "string") return value;
  return value.length === 1 ? alone(value[0]!) : value.slice();
}

/** One more in a list. A short one is made anew: a list that grows takes room for many. */
function withOne(list: StoredRecord[] | undefined, one: StoredRecord): StoredRecord[] {
  if (!list) return [one];
  if (list.length < 8) return list.concat(one);
  list.push(one);
  return list;
}

function reindex(index: TextIndex, record: StoredRecord, old: HeldCell | undefined, cell: HeldCell | undefined): void {
  const before = old === undefined ? undefined : valueOf(old);
  const text = cell === undefined ? undefined : valueOf(cell);
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

const sameEntries = (a: readonly HeldEntry[], b: readonly HeldEntry[]): boolean =>
  a.length === b.length && a.every((one, at) => sameEntry(one, b[at]!));
