/**
 * All records of a kind, or all entries of one name: columns, keys, parents and origins.
 *
 * A record is its row number. Columns are known by their field: `weight`, or `name@de` for a field with languages.
 */

import type { ChildrenThen, FieldOrigin, ReadonlyTable } from "./readonly-table.js";
import type { KindSpec } from "../kind.js";
import type { Key } from "../nominal.js";
import { ChildIndex } from "./child-index.js";
import { FieldOrigins } from "./field-origins.js";
import { IntList } from "./int-list.js";
import { ReferenceColumn, type ReadonlyReferenceColumn } from "./reference-column.js";
import { Seal } from "./seal.js";
import { TextColumn, type ReadonlyTextColumn } from "./text-column.js";
import type { Cell } from "./cell.js";

const none: readonly number[] = [];
const noTexts: ReadonlyTextColumn = new TextColumn();
const noReferences: ReadonlyReferenceColumn = new ReferenceColumn();

/** All records of a kind, or all entries of one name, to be written to. */
export class Table implements ReadonlyTable {
  #texts = new Map<string, TextColumn>();
  #references = new Map<string, ReferenceColumn>();
  /** In a branch: the columns that are no longer those of the table that it was made of. */
  #own: Set<TextColumn | ReferenceColumn> | undefined;
  #keys = new Map<string, number>();
  /** For keys that came more than once, the last number given: so that the next is found at once. */
  #repeats = new Map<string, number>();
  /** Keys by which records were known before a rule gave them others. */
  #former: ReadonlyMap<string, number> = new Map();
  #areKeysShared = false;
  #key = new TextColumn();
  #parent = new IntList();
  #sheet = new IntList();
  #line = new IntList();
  /** Made when somebody asks; a branch that has one already shares it until something is put elsewhere. */
  #children: ChildIndex | undefined;
  #areChildrenShared = false;
  /** Called with the row of each record or entry that is about to change. */
  #watch: ((row: number) => void) | undefined;
  /** Where a field comes from that another sheet than the record's own has set; few do. */
  #origins = new Map<string, FieldOrigins>();
  #areOriginsShared = false;
  readonly #seal = new Seal();

  constructor(
    readonly kind: KindSpec,
    readonly name: string,
  ) {}

  /** The same records, to be changed; this table is sealed. A column is copied when it is first written to. */
  branch(): Table {
    this.#seal.close();
    const made = new Table(this.kind, this.name);
    for (const column of [...this.#texts.values(), ...this.#references.values()]) column.seal.close();
    made.#texts = new Map(this.#texts);
    made.#references = new Map(this.#references);
    made.#own = new Set();
    made.#keys = this.#keys;
    made.#repeats = this.#repeats;
    made.#former = this.#former;
    made.#areKeysShared = true;
    made.#key = this.#key.branch();
    made.#parent = this.#parent.branch();
    made.#sheet = this.#sheet.branch();
    made.#line = this.#line.branch();
    made.#children = this.#children;
    made.#areChildrenShared = true;
    made.#origins = this.#origins;
    made.#areOriginsShared = true;
    return made;
  }

  get size(): number {
    return this.#line.length;
  }
  get texts(): ReadonlyMap<string, ReadonlyTextColumn> {
    return this.#texts;
  }
  get references(): ReadonlyMap<string, ReadonlyReferenceColumn> {
    return this.#references;
  }
  textsOf(field: string): ReadonlyTextColumn {
    return this.#texts.get(field) ?? noTexts;
  }
  referencesOf(field: string): ReadonlyReferenceColumn {
    return this.#references.get(field) ?? noReferences;
  }

  #ownKeys(): void {
    this.#seal.check();
    if (!this.#areKeysShared) return;
    this.#keys = new Map(this.#keys);
    this.#repeats = new Map(this.#repeats);
    this.#areKeysShared = false;
  }

  /** Adds a record or an entry. @param parent the row of what contains it, -1 for none. */
  append(sheet: number, line: number, parent = -1): number {
    this.#seal.check();
    const row = this.size;
    this.#sheet.push(sheet);
    this.#line.push(line);
    this.#parent.push(parent);
    this.#ownChildren()?.add(parent, row);
    this.#watch?.(row);
    return row;
  }

  /** Gives a new record its key; if that is taken, the key with a number behind it, so that both can be told apart. */
  nameRecord(row: number, key: Key): { readonly key: Key; readonly taken: number | undefined } {
    this.#ownKeys();
    const taken = this.#keys.get(key);
    const own = taken === undefined ? key : this.#numbered(key);
    this.#keys.set(own, row);
    this.#key.set(row, own);
    return { key: own, taken };
  }

  /** A key that is taken, with the next number behind it that is not. */
  #numbered(key: Key): Key {
    let own = key;
    let n = this.#repeats.get(key) ?? 1;
    while (this.#keys.has(own)) own = `${key} (${++n})`;
    this.#repeats.set(key, n);
    return own;
  }

  /** Puts a record, or an entry, below another parent; -1 for none. */
  reparent(row: number, parent: number): void {
    this.#seal.check();
    this.#watch?.(row);
    const children = this.#ownChildren();
    children?.remove(this.parent(row), row);
    children?.add(parent, row);
    this.#parent.set(row, parent);
    this.#watch?.(row);
  }

  /**
   * Calls `see` with the row of each record or entry that changes: before one is put elsewhere and behind it.
   *
   * @param see nothing any more, if left out.
   */
  watch(see?: (row: number) => void): void {
    this.#watch = see;
    for (const column of [...this.#texts.values(), ...this.#references.values()]) column.watch = see;
  }

  /** Takes its key from a record, so that another can have it. The row stays. */
  release(row: number): void {
    this.#ownKeys();
    this.#watch?.(row);
    if (this.#keys.get(this.key(row)) === row) this.#keys.delete(this.key(row));
  }

  *fieldOrigins(): Generator<readonly [field: string, row: number, origin: FieldOrigin]> {
    for (const [field, rows] of this.#origins) for (const [row, origin] of rows) yield [field, row, origin];
  }

  /** Gives a record another key, which no other may have. */
  rename(row: number, key: Key): void {
    if (this.#keys.has(key)) throw new Error(`${this.name} ${key} is there already`);
    this.#ownKeys();
    this.#watch?.(row);
    this.#keys.delete(this.key(row));
    this.#keys.set(key, row);
    this.#key.set(row, key);
  }

  /** Gives records other keys, all at once; they are still found by those that they had. No two may have one key then. */
  renameAll(keys: ReadonlyMap<number, Key>): void {
    this.#ownKeys();
    this.#former = new Map([...this.#former, ...[...keys.keys()].map((row) => [this.key(row), row] as const)]);
    for (const row of keys.keys()) this.#keys.delete(this.key(row));
    for (const [row, key] of keys) {
      if (this.#keys.has(key)) throw new Error(`${this.name} ${key} is there already`);
      this.#keys.set(key, row);
      this.#key.set(row, key);
    }
  }

  /** The record that had a key before a rule gave it another. */
  formerly(key: Key): number | undefined {
    return this.#former.get(key);
  }

  find(key: Key): number | undefined {
    return this.#keys.get(key);
  }
  keys(): IterableIterator<Key> {
    return this.#keys.keys();
  }
  key(row: number): Key {
    return this.#key.get(row) ?? "";
  }
  parent(row: number): number {
    return this.#parent.get(row);
  }
  sheet(row: number): number {
    return this.#sheet.get(row);
  }
  line(row: number): number {
    return this.#line.get(row);
  }

  setFieldOrigin(field: string, row: number, origin: FieldOrigin): void {
    this.#seal.check();
    if (this.#areOriginsShared)
      this.#origins = new Map([...this.#origins].map(([name, rows]) => [name, rows.branch()]));
    this.#areOriginsShared = false;
    let origins = this.#origins.get(field);
    if (!origins) this.#origins.set(field, (origins = new FieldOrigins()));
    origins.set(row, origin);
  }

  fieldOrigin(field: string, row: number): FieldOrigin | undefined {
    return this.#origins.size === 0 ? undefined : this.#origins.get(field)?.get(row);
  }

  text(field: string, row: number): Cell {
    return this.#texts.get(field)?.get(row);
  }

  setText(field: string, row: number, cell: Cell): void {
    this.textColumn(field).set(row, cell);
  }

  /** A column to be written to. */
  textColumn(field: string): TextColumn {
    return this.#ownColumn(this.#texts, field, () => new TextColumn());
  }

  /** A column to be written to. */
  referenceColumn(field: string): ReferenceColumn {
    return this.#ownColumn(this.#references, field, () => new ReferenceColumn());
  }

  #ownColumn<C extends TextColumn | ReferenceColumn>(columns: Map<string, C>, field: string, create: () => C): C {
    const known = columns.get(field);
    if (known && (!this.#own || this.#own.has(known))) return known;
    this.#seal.check();
    const made = known ? (known.branch() as C) : create();
    this.#own?.add(made);
    made.watch = this.#watch;
    columns.set(field, made);
    return made;
  }

  childrenOf(parent: number): Int32Array {
    return this.#childIndex().of(parent);
  }

  findChild(parent: number, fits: (row: number) => boolean): number {
    return this.#childIndex().find(parent, fits);
  }

  countChildren(parent: number): number {
    return this.#childIndex().count(parent);
  }

  childrenWhere(parent: number, fits: (row: number) => boolean): readonly number[] {
    return this.#childIndex().where(parent, fits) ?? none;
  }

  childrenNow(): ChildrenThen {
    if (this.#children?.isChanged) this.#children = undefined;
    const children = this.#childIndex();
    return {
      of: (parent) => children.asMade(parent),
      count: (parent) => children.countAsMade(parent),
      find: (parent, fits) => children.findAsMade(parent, fits),
    };
  }

  #childIndex(): ChildIndex {
    if (this.#children) return this.#children;
    this.#areChildrenShared = false;
    return (this.#children = new ChildIndex(this.#parent.toArray()));
  }

  /** The index, to be changed; none, where it is to be made again when somebody asks. */
  #ownChildren(): ChildIndex | undefined {
    if (this.#areChildrenShared || this.#children?.isOutworn) this.#children = undefined;
    return this.#children;
  }
}
