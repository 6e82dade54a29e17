/**
 * Which record of one catalogue is which of another: yours and the platform's, the goal and what a rehearsal leaves.
 *
 * In: two resolved catalogues, and by what records are known. Out: for each record one, none, or that it is not clear. Nothing is renamed.
 */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { withinOf, type KindSpec } from "../kind.js";
import type { Key } from "../nominal.js";
import { identityKind, type Identity } from "./identities.js";
import { RowsByText, type Candidates } from "./rows-by-text.js";

export const none = -1;

/** What a person has said of two records of a kind. */
export interface Answer {
  readonly kind: string;
  readonly own: Key;
  readonly other: Key;
  readonly reply: "same" | "different";
}

/** Two catalogues, and what tells which record of one is which of the other. */
export interface MatchInput {
  readonly own: ResolvedCatalogue;
  readonly other: ResolvedCatalogue;
  /** By what records of a kind are known, the surest first. The first that finds a record counts. */
  readonly identitiesOf: (kind: string) => readonly Identity[];
  /** The other catalogue's id of a record, as a ledger knows it; asked before all identities. */
  readonly idOf?: ((kind: string, key: Key) => string | undefined) | undefined;
  readonly answers?: readonly Answer[] | undefined;
  /** Kinds of which several records that are known by one text are one record there. */
  readonly merged?: ReadonlySet<string> | undefined;
}

/** What matched a record: an identity, the ledger, a person. */
export type MatchedBy = Identity | "ledger" | "answer";

/** Records that may each be several of the others, or several that may be the same one. */
export interface Unclear {
  readonly kind: string;
  readonly own: readonly number[];
  readonly others: readonly number[];
  readonly by: MatchedBy;
}

/** Which record is which, both ways. Records are known by their kind and row. */
export interface Correspondence {
  readonly own: ResolvedCatalogue;
  readonly other: ResolvedCatalogue;
  /** What is left open, by kind. */
  readonly unclear: readonly Unclear[];
  /** The other catalogue's record; -1 for none. */
  otherOf(kind: string, row: number): number;
  /** The own record of one of the other catalogue, the first where several are one there; -1 for none. */
  ownOf(kind: string, row: number): number;
  /** What matched an own record; undefined for none. */
  matchedBy(kind: string, row: number): MatchedBy | undefined;
  /** Whether a record may be several of the other catalogue, or is one with others of its own. */
  isUnclear(kind: string, row: number): boolean;
}

class RecordPairs implements Correspondence {
  readonly #others = new Map<string, Int32Array>();
  readonly #owns = new Map<string, Int32Array>();
  readonly #matchedBy = new Map<string, (MatchedBy | undefined)[]>();
  readonly unclear: Unclear[] = [];
  readonly #unclear = new Set<string>();

  constructor(
    readonly own: ResolvedCatalogue,
    readonly other: ResolvedCatalogue,
  ) {
    for (const { name } of own.kinds.roots) {
      this.#others.set(name, new Int32Array(own.table(name).size).fill(none));
      this.#owns.set(name, new Int32Array(other.table(name).size).fill(none));
      this.#matchedBy.set(name, []);
    }
  }

  otherOf(kind: string, row: number): number {
    return this.#others.get(kind)?.[row] ?? none;
  }

  ownOf(kind: string, row: number): number {
    return this.#owns.get(kind)?.[row] ?? none;
  }

  matchedBy(kind: string, row: number): MatchedBy | undefined {
    return this.#matchedBy.get(kind)?.[row];
  }

  isUnclear(kind: string, row: number): boolean {
    return this.#unclear.size > 0 && this.#unclear.has(`${kind} ${row}`);
  }

  join(kind: string, row: number, other: number, by: MatchedBy): void {
    this.#others.get(kind)![row] = other;
    this.#matchedBy.get(kind)![row] = by;
    const owns = this.#owns.get(kind)!;
    if (owns[other] === none) owns[other] = row;
  }

  leaveOpen(unclear: Unclear): void {
    this.unclear.push(unclear);
    for (const row of unclear.own) this.#unclear.add(`${unclear.kind} ${row}`);
  }
}

/** Works out which record is which; what contains others comes before them. */
export function matchRecords(input: MatchInput): Correspondence {
  const found = new RecordPairs(input.own, input.other);
  for (const kind of containersFirst(input.own.kinds.roots)) new KindMatch(input, found, kind).run();
  return found;
}

/** Kinds after those that contain them, or that they may belong to. */
export function containersFirst(kinds: readonly KindSpec[]): KindSpec[] {
  const sorted = new Set<KindSpec>();
  const add = (kind: KindSpec): void => {
    for (const outer of [kind.of, withinOf(kind)])
      for (const one of kinds) if (one.name === outer && !sorted.has(one)) add(one);
    sorted.add(kind);
  };
  for (const kind of kinds) if (!sorted.has(kind)) add(kind);
  return [...sorted];
}

class KindMatch {
  readonly #own: ReadonlyTable;
  readonly #other: ReadonlyTable;
  readonly #isMerged: boolean;
  /** By row: those that a person has said it is not. */
  readonly #not = new Map<number, Set<number>>();

  constructor(
    readonly input: MatchInput,
    readonly found: RecordPairs,
    readonly kind: KindSpec,
  ) {
    this.#own = input.own.table(kind.name);
    this.#other = input.other.table(kind.name);
    this.#isMerged = input.merged?.has(kind.name) ?? false;
  }

  run(): void {
    if (this.#own.size === 0 || this.#other.size === 0) return;
    this.#answered();
    for (const identity of this.input.identitiesOf(this.kind.name)) {
      if (!this.#isAnyOpen()) return;
      this.#byTexts(identity);
    }
  }

  /** Whether a record is neither joined nor left open: most catalogues need one identity. */
  #isAnyOpen(): boolean {
    for (let row = 0; row < this.#own.size; row++) if (this.#isToJoin(row)) return true;
    return false;
  }

  #isToJoin(row: number): boolean {
    const { name } = this.kind;
    return this.found.otherOf(name, row) === none && !this.found.isUnclear(name, row);
  }

  /** What the ledger knows, then what a person has said. */
  #answered(): void {
    const { idOf, answers = [] } = this.input;
    const { name } = this.kind;
    if (idOf && this.#other.texts.has("id")) {
      const ids = this.#index((row) => [this.#other.text("id", row) ?? ""]);
      this.#claim("ledger", (row) => ids.of(idOf(name, this.#own.key(row)) ?? "") ?? noRows);
    }
    const same = new Map<number, number[]>();
    for (const { kind, own, other, reply } of answers) {
      const [row, there] = [this.#own.find(own), this.#other.find(other)];
      if (kind !== name || row === undefined || there === undefined) continue;
      if (reply === "different") this.#not.set(row, (this.#not.get(row) ?? new Set()).add(there));
      else if (this.#isOpen(there)) addTo(same, row, there);
    }
    if (same.size > 0) this.#claim("answer", (row) => same.get(row) ?? noRows);
  }

  #byTexts(identity: Identity): void {
    const { isWithin, texts } = identityKind(identity);
    const { own, other } = this.input;
    const { lang, langs = [] } = identity;
    const ownTexts = texts(own, this.#own, lang, langs);
    const otherTexts = texts(other, this.#other, lang, langs);
    const containerOf = isWithin ? this.#containers() : undefined;
    const placed = (text: string, container: number | undefined) => (containerOf ? `${container} ${text}` : text);
    const index = this.#index(
      containerOf
        ? (row) => otherTexts(row).map((text) => placed(text, containerOf.other(row)))
        : (row) => otherTexts(row),
    );
    this.#claim(identity, (row) => {
      const within = containerOf?.own(row);
      if (within === undefined && containerOf) return noRows;
      const texts = ownTexts(row);
      if (texts.length === 1) return index.of(placed(texts[0]!, within)) ?? noRows;
      const [first = noRows, ...more] = texts.flatMap((text): Candidates[] => {
        const rows = index.of(placed(text, within));
        return rows === undefined ? [] : [rows];
      });
      if (more.length === 0) return first;
      return [...new Set([first, ...more].flat())];
    });
  }

  /** The records of the other catalogue that may still be one of these, by their texts. */
  #index(textsOf: (row: number) => readonly string[]): RowsByText {
    const index = new RowsByText();
    for (let row = 0; row < this.#other.size; row++) {
      if (!this.#isOpen(row)) continue;
      const texts = textsOf(row);
      for (const text of texts.length < 2 ? texts : new Set(texts)) if (text !== "") index.add(text, row);
    }
    return index;
  }

  /** What contains a record, or what it belongs to, as rows of the other catalogue; undefined where that has none there. */
  #containers(): { readonly own: (row: number) => number | undefined; readonly other: (row: number) => number } {
    const { of } = this.kind;
    const outer = of ?? withinOf(this.kind);
    if (outer === undefined) return { own: () => none, other: () => none };
    const holder = (catalogue: ResolvedCatalogue, table: ReadonlyTable) => (row: number) => {
      if (of !== undefined) return table.parent(row);
      const reference = table.referencesOf(this.kind.within ?? "").first(row);
      return reference < 0 ? none : catalogue.pool.target.get(reference);
    };
    const [own, other] = [holder(this.input.own, this.#own), holder(this.input.other, this.#other)];
    return {
      own: (row) => {
        const at = own(row);
        if (at < 0) return none;
        const there = this.found.otherOf(outer, at);
        return there < 0 ? undefined : there;
      },
      other,
    };
  }

  /**
   * Joins what one identity finds, each record for itself; what is not clear is left to no further one.
   *
   * @param candidatesOf records that may each be the same ones give the same array: many of one name are one open question.
   */
  #claim(by: MatchedBy, candidatesOf: (row: number) => Candidates): void {
    const { name } = this.kind;
    // By record of the other catalogue the first that claims it; further ones are few.
    const first = new Int32Array(this.#other.size).fill(none);
    const further = new Map<number, number[]>();
    const claimed = new Int32Array(this.#own.size).fill(none);
    const open = new Map<readonly number[], number[]>();
    const take = (row: number, other: number): void => {
      claimed[row] = other;
      if (first[other] === none) first[other] = row;
      else addTo(further, other, row);
    };
    for (let row = 0; row < this.#own.size; row++) {
      if (!this.#isToJoin(row)) continue;
      const not = this.#not.get(row);
      const all = candidatesOf(row);
      if (typeof all === "number") {
        if (!not?.has(all)) take(row, all);
        continue;
      }
      const others = not ? all.filter((other) => !not.has(other)) : all;
      if (others.length > 1) addTo(open, others, row);
      else if (others.length === 1) take(row, others[0]!);
    }
    for (const [others, own] of open) this.found.leaveOpen({ kind: name, own, others, by });
    for (let row = 0; row < claimed.length; row++) {
      const other = claimed[row]!;
      if (other === none || first[other] !== row) continue;
      const more = further.get(other);
      if (more && !this.#isMerged) this.found.leaveOpen({ kind: name, own: [row, ...more], others: [other], by });
      else for (const one of more ? [row, ...more] : [row]) this.found.join(name, one, other, by);
    }
  }

  /** Whether a record of the other catalogue may still be one of these. */
  #isOpen(other: number): boolean {
    return this.#isMerged || this.found.ownOf(this.kind.name, other) === none;
  }
}

const noRows: Candidates = [];

function addTo<K>(lists: Map<K, number[]>, key: K, row: number): void {
  const known = lists.get(key);
  if (known) known.push(row);
  else lists.set(key, [row]);
}
