/** What differs between records that both sides have, field by field, and who has changed it since it was last delivered. */

import { targetsOf } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { compareText } from "../location.js";
import { none } from "../match/correspondence.js";
import { Places } from "../target/places.js";
import type { Target } from "../target/target.js";
import { addingLists } from "./adding-lists.js";
import { hasByItself } from "./by-itself.js";
import { compareCatalogues } from "./catalogues.js";
import type { CatalogueDifference, Unmatched } from "./differences.js";
import type { Coverage } from "./coverage.js";
import type { ChangedBy, ChangedOrKept, ChangedSince } from "./delivered-fields.js";
import { FieldTexts, textsThere, type EntryKey } from "./field-texts.js";
import { movedEntries } from "./order.js";
import { deliveredName, type Sides } from "./sides.js";
import { unnamedEntries } from "./unnamed-entries.js";

/** A field that differs: your value, the platform's, and who changed it. */
export interface FieldChange {
  /** `name@en`, `brand`, `prices(tier, 10, trade).amount`. */
  readonly field: string;
  /** References as keys, separated by commas. */
  readonly intended: string | undefined;
  readonly onPlatform: string | undefined;
  readonly by: ChangedBy;
}

/** A field as the ledger calls it, with the texts of both sides. */
interface FieldOnBoth {
  readonly name: string;
  readonly intended: string | undefined;
  readonly onPlatform: string | undefined;
  /** Of an entry that one side lacks and that has a key alone: what it is shown as. */
  readonly key: EntryKey | undefined;
  /** Whether yours tells nothing of it. */
  readonly isUnsaid?: boolean;
}

/** A record whose fields differ, by its rows on both sides. */
export interface ChangedRecord {
  readonly kind: string;
  readonly own: number;
  readonly there: number;
  readonly fields: (FieldOnBoth & { readonly by: ChangedBy })[];
}

/** Changes as people read them: entries that are no more than their keys stand together, `relations(goes-with).to`. */
export function shownChanges(fields: ChangedRecord["fields"]): FieldChange[] {
  const shown = new Map<string, { field: string; by: ChangedBy; intended: string[]; onPlatform: string[] }>();
  for (const { name, intended, onPlatform, key, by } of fields) {
    const field = key?.field ?? name;
    const at = JSON.stringify([field, by]);
    const known = shown.get(at) ?? { field, by, intended: [], onPlatform: [] };
    shown.set(at, known);
    if (intended !== undefined) known.intended.push(key?.value ?? intended);
    if (onPlatform !== undefined) known.onPlatform.push(key?.value ?? onPlatform);
  }
  const joined = (texts: readonly string[]) => (texts.length === 0 ? undefined : texts.join(", "));
  return [...shown.values()]
    .map(({ field, by, intended, onPlatform }) => ({
      field,
      intended: joined(intended),
      onPlatform: joined(onPlatform),
      by,
    }))
    .sort((a, b) => compareText(a.field, b.field));
}

/** What is compared, and with what was delivered. */
export interface ChangedFieldsInput {
  readonly sides: Sides;
  readonly target: Target;
  /** What the exports tell of what the target's files carry. */
  readonly coverage: Coverage;
  readonly since: ChangedSince;
}

/** Finds what differs. */
export class ChangedFields {
  readonly #places: Places;
  readonly #placesThere: Places;
  readonly #own: FieldTexts;
  readonly #there: FieldTexts;
  readonly #isByItself: ReturnType<typeof hasByItself>;
  readonly #adding: ReadonlySet<string>;
  readonly #fateOf: ReturnType<typeof unnamedEntries>;
  readonly #changes = new Map<string, ChangedRecord>();
  /** Fields that the platform has as it made them of what was sent. */
  readonly #asReadBack = new Set<string>();
  readonly #stays = new Set<string>();

  constructor(readonly input: ChangedFieldsInput) {
    const { sides, target } = input;
    this.#places = new Places(sides.own, target);
    this.#placesThere = new Places(sides.there, target);
    this.#own = new FieldTexts(sides.own);
    this.#there = textsThere(sides.matched);
    this.#isByItself = hasByItself(target, sides.own.kinds);
    this.#adding = addingLists(target, sides.own.kinds);
    this.#fateOf = unnamedEntries(target);
  }

  /** By kind and row of the intended record. */
  get changes(): ReadonlyMap<string, ChangedRecord> {
    return this.#changes;
  }

  /** Lists with more entries on the platform, where it cannot remove entries: `product p1: prices`. */
  get stays(): readonly string[] {
    return [...this.#stays];
  }

  /** Compares all that both have. @returns the records that only one of them has; of yours, those that the target makes. */
  compare(): { readonly onlyOwn: readonly Unmatched[]; readonly onlyThere: readonly Unmatched[] } {
    const { sides, coverage, target } = this.input;
    const { matched } = sides;
    const { differences, onlyOwn, onlyOther } = compareCatalogues({ matched, coverage });
    for (const one of [...differences, ...movedEntries(matched, target)])
      if (this.#isCompared(one)) for (const change of this.#changesOf(one)) this.#note(one, change);
    return {
      onlyOwn: onlyOwn.filter(
        ({ kind, row }) => this.#places.makes(kind) && this.#places.isTaken(matched.own.table(kind), row),
      ),
      onlyThere: onlyOther.filter(({ kind }) => coverage.records(kind) === "all"),
    };
  }

  /** Who has changed a field, by what the ledger calls it; of an entry whoever changed one of its fields. */
  changedBy(): (kind: string, row: number, field: string) => ChangedOrKept {
    const by = new Map<string, ChangedBy>();
    for (const [record, { fields }] of this.#changes)
      for (const { name, by: who } of fields)
        for (const one of new Set([name, entryOfField(name)])) {
          const known = by.get(`${record} ${one}`);
          by.set(`${record} ${one}`, known === undefined || known === who ? who : "both");
        }
    return (kind, row, field) => {
      const name = `${kind} ${row} ${field}`;
      return by.get(name) ?? (this.#asReadBack.has(name) ? "as read back" : "not known");
    };
  }

  /** Not what the target's files have no place for, and not entries of which the export tells some only. */
  #isCompared({ kind, entries, own, ownEntry, otherEntry, field }: CatalogueDifference): boolean {
    const { matched } = this.input.sides;
    if (entries === undefined) {
      const table = matched.own.table(kind);
      return field === table.kind.of || !(this.#places.withoutField(table, field ?? "")?.(own) ?? false);
    }
    const name = `${kind}.${entries}`;
    if (this.input.coverage.entries(name) === "none") return false;
    if (ownEntry === none) return this.#placesThere.hasEntry(matched.other.table(name), otherEntry);
    const table = matched.own.table(name);
    if (field !== undefined && (this.#places.withoutField(table, field)?.(ownEntry) ?? false)) return false;
    return this.#places.hasEntry(table, ownEntry);
  }

  #note({ kind, own, other }: CatalogueDifference, change: FieldOnBoth): void {
    const record = `${kind} ${own}`;
    const known = this.#changes.get(record) ?? { kind, own, there: other, fields: [] };
    const { name, intended, onPlatform } = change;
    const { sides, since } = this.input;
    const by = since.by(kind, deliveredName(sides, "own", kind, own), name, intended, onPlatform);
    // What yours does not tell, and never told, stays as it is.
    if (change.isUnsaid && by === "not known") return;
    if (by === "as read back") this.#asReadBack.add(`${record} ${name}`);
    else {
      this.#changes.set(record, known);
      known.fields.push({ ...change, by });
    }
  }

  /** What differs, field by field: none for what the platform has by itself, several for an entry that one side lacks. */
  *#changesOf(one: CatalogueDifference): Generator<FieldOnBoth> {
    const { kind, own, other, entries, ownEntry, otherEntry, field, value, there } = one;
    const { matched } = this.input.sides;
    if (entries === undefined) {
      const [table, tableThere] = [matched.own.table(kind), matched.other.table(kind)];
      if (this.#adding.has(`${kind}.${field}`) && this.#hasAll(table, field!, own, other)) {
        this.#stays.add(`${kind} ${table.key(own)}: ${field}`);
        return;
      }
      const isUnsaid = field !== table.kind.of && this.#isUnsaid(table, own, field!);
      if (isUnsaid && this.#isByItself(kind, field!, nothing, there)) return;
      const intended = this.#own.field(table, own, field!);
      const onPlatform = this.#there.field(tableThere, other, field!);
      yield { name: field!, intended, onPlatform, key: undefined, isUnsaid };
      return;
    }
    const list = `${kind}.${entries}`;
    const [table, tableThere] = [matched.own.table(list), matched.other.table(list)];
    if (ownEntry !== none && otherEntry !== none) {
      const textOf = textsOf(tableThere, otherEntry);
      const isUnsaid = this.#isUnsaid(table, ownEntry, field!);
      if (isUnsaid && this.#isByItself(list, field!, textOf, there)) return;
      yield {
        name: `${this.#own.entryName(table, ownEntry)}.${field}`,
        intended: value,
        onPlatform: there,
        key: undefined,
        isUnsaid,
      };
    } else if (value !== undefined && there !== undefined) {
      const intended = this.#own.order(table, table.childrenOf(own));
      yield {
        name: entries,
        intended,
        onPlatform: this.#there.order(tableThere, tableThere.childrenOf(other)),
        key: undefined,
      };
    } else if (ownEntry !== none) {
      for (const [field, name, text] of this.#own.ofEntry(table, ownEntry))
        yield {
          name,
          intended: text,
          onPlatform: undefined,
          key: field === "" ? this.#own.entryKey(table, ownEntry) : undefined,
        };
    } else yield* this.#onlyThereOf(one, tableThere, otherEntry);
  }

  /** An entry that only the platform has. */
  *#onlyThereOf(
    { kind, own, entries = "" }: CatalogueDifference,
    table: ReadonlyTable,
    entry: number,
  ): Generator<FieldOnBoth> {
    const textOf = textsOf(table, entry);
    const fields = [...this.#there.ofEntry(table, entry)];
    const isByItself = fields.every(
      ([field, , text]) => field !== "" && this.#isByItself(table.name, field, textOf, text),
    );
    if (isByItself) return;
    if (this.#fateOf(table.name, textOf) === "stays") {
      if (entries !== "redirects") this.#stays.add(`${kind} ${this.input.sides.own.table(kind).key(own)}: ${entries}`);
      return;
    }
    for (const [field, name, text] of fields)
      yield {
        name,
        intended: undefined,
        onPlatform: text,
        key: field === "" ? this.#there.entryKey(table, entry) : undefined,
      };
  }

  /** Whether the platform's list has all that yours has: what it has besides, it never takes out. */
  #hasAll(table: ReadonlyTable, field: string, own: number, other: number): boolean {
    const { matched } = this.input.sides;
    const to = table.kind.fields.find(({ name }) => name === field)?.reference?.to ?? "";
    const there = targetsOf(matched.other, matched.other.table(table.name), field, other);
    return targetsOf(matched.own, table, field, own).every((row) => there.includes(matched.otherOf(to, row)));
  }

  #isUnsaid(table: ReadonlyTable, row: number, field: string): boolean {
    return table.references.has(field) ? !table.referencesOf(field).isSet(row) : table.text(field, row) === undefined;
  }
}

/** The entry that a field is of: `prices(price)` of `prices(price).amount`. */
const entryOfField = (name: string): string => name.replace(/\)\.\w+(@[\w-]+)?$/, ")");
const nothing = (): undefined => undefined;
const textsOf = (table: ReadonlyTable, entry: number) => (field: string) => table.text(field, entry) ?? undefined;
