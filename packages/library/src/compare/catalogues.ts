/**
 * Comparing two catalogues, field by field: what is intended and what a platform has, the goal and what a rehearsal leaves.
 *
 * In: both, which record is which, and what the other one tells. Out: what differs, and which records only one of them has. Columns are
 * compared one after the other; nothing is kept of what is the same. References are compared by the records that they lead to.
 */

import { referenceFields, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { TargetsRead } from "../catalogue/targets-read.js";
import type { Cell } from "../catalogue/cell.js";
import { entryKeyOf, type KindSpec } from "../kind.js";
import { none, type Correspondence } from "../match/correspondence.js";
import { counted, isInherited, type Comparing } from "./comparing.js";
import { all, type CatalogueDifference, type Matters, type MattersInRow, type Unmatched } from "./differences.js";
import { areAlike, describedEntry, entryTexts, pairEntries } from "./entries.js";
import { everything, type Coverage } from "./coverage.js";
import { isMoved, RowPairs, type PairedRows } from "./row-pairs.js";

/** What is compared, and how. */
export interface CompareCatalogues {
  readonly matched: Correspondence;
  readonly coverage?: Coverage | undefined;
  /** How a field is compared; exactly, if left out. @param table a kind, or `kind.entries`. */
  readonly comparing?: ((table: string, field: string) => Comparing) | undefined;
  /** Whether an emptied field is another than an absent one. A platform knows no difference. */
  readonly keepsEmptied?: boolean | undefined;
  /** Whether the order of entries counts. */
  readonly inOrder?: boolean | undefined;
  /** Whether a record without a value has that of what contains it: a variant that of its product. */
  readonly inherits?: boolean | undefined;
  /** Which differences matter; all, if left out. That entries stand in another order always matters where `inOrder` says so. */
  readonly matters?: Matters | undefined;
}

/** What differs between two catalogues. */
export interface ComparedCatalogues {
  readonly differences: readonly CatalogueDifference[];
  readonly onlyOwn: readonly Unmatched[];
  readonly onlyOther: readonly Unmatched[];
  /** Records that are the same in all that the other one tells. */
  readonly equal: number;
}

/** Compares all that the other catalogue tells. */
export function compareCatalogues(input: CompareCatalogues): ComparedCatalogues {
  const comparison = new CatalogueComparison(input);
  for (const kind of input.matched.own.kinds.roots) comparison.kind(kind);
  return comparison.result();
}

class CatalogueComparison {
  readonly #matched: Correspondence;
  readonly #coverage: Coverage;
  readonly #differences: CatalogueDifference[] = [];
  readonly #onlyOwn: Unmatched[] = [];
  readonly #onlyOther: Unmatched[] = [];
  #equal = 0;

  constructor(readonly input: CompareCatalogues) {
    this.#matched = input.matched;
    this.#coverage = input.coverage ?? everything;
  }

  result(): ComparedCatalogues {
    const [differences, onlyOwn, onlyOther] = [this.#differences, this.#onlyOwn, this.#onlyOther];
    return { differences, onlyOwn, onlyOther, equal: this.#equal };
  }

  kind(kind: KindSpec): void {
    const told = this.#coverage.records(kind.name);
    if (told === "none") return;
    const [own, other] = [this.#matched.own.table(kind.name), this.#matched.other.table(kind.name)];
    const pairs = new RowPairs();
    for (let row = 0; row < own.size; row++) {
      const there = this.#matched.otherOf(kind.name, row);
      if (there !== none) pairs.push(row, there);
      else if (told === "all" && !this.#matched.isUnclear(kind.name, row)) this.#onlyOwn.push({ kind: kind.name, row });
    }
    const unclear = new Set(this.#matched.unclear.flatMap((one) => (one.kind === kind.name ? one.others : [])));
    for (let row = 0; row < other.size; row++)
      if (this.#matched.ownOf(kind.name, row) === none && !unclear.has(row))
        this.#onlyOther.push({ kind: kind.name, row });
    const before = this.#differences.length;
    this.#containers(own, other, pairs);
    this.#fields(own, other, pairs);
    for (const entries of Object.keys(kind.entries ?? {})) this.#entries(kind, entries, pairs);
    const different = new Set(this.#differences.slice(before).map((one) => one.own));
    this.#equal += pairs.size - different.size;
  }

  /** What contains a record is a field of it: a variant may lie in another product there. */
  #containers(own: ReadonlyTable, other: ReadonlyTable, pairs: RowPairs): void {
    const { name, of } = own.kind;
    if (of === undefined || !this.#coverage.tells(name, of) || this.#comparing(name, of) === "not at all") return;
    const matters = this.#matters(name, of);
    for (let at = 0; at < pairs.size; at++) {
      const row = own.parent(pairs.own.get(at));
      const there = other.parent(pairs.other.get(at));
      if (this.#matched.otherOf(of, row) === there) continue;
      if (!matters(pairs.own.get(at), pairs.other.get(at), row >= 0, there >= 0)) continue;
      const keyOf = (catalogue: ResolvedCatalogue, one: number) => (one < 0 ? undefined : catalogue.table(of).key(one));
      this.#note(own, of, pairs.at(at), {
        value: keyOf(this.#matched.own, row),
        there: keyOf(this.#matched.other, there),
      });
    }
  }

  #note(
    { kind }: ReadonlyTable,
    field: string,
    pair: PairedRows,
    values: Pick<CatalogueDifference, "value" | "there">,
  ): void {
    this.#differences.push({ ...noEntry, kind: kind.name, ...pair, field, ...values });
  }

  #fields(own: ReadonlyTable, other: ReadonlyTable, pairs: RowPairs): void {
    const { kind } = own;
    for (const field of this.#textsOf(own, other)) {
      const comparing = this.#comparing(own.name, field);
      if (comparing === "not at all") continue;
      const [read, readOther] = [
        this.#reader(this.#matched.own, own, field),
        this.#reader(this.#matched.other, other, field),
      ];
      const matters = this.#matters(own.name, field);
      for (let at = 0; at < pairs.size; at++) {
        const [row, rowThere] = [pairs.own.get(at), pairs.other.get(at)];
        const value = read(row);
        const there = readOther(rowThere);
        if (value === there || this.#same(value, there, comparing)) continue;
        if (matters(row, rowThere, isText(value), isText(there)))
          this.#note(own, field, pairs.at(at), { value: shown(value), there: shown(there) });
      }
    }
    for (const { name, to } of referenceFields(kind)) {
      if (!this.#coverage.tells(own.name, name) || this.#comparing(own.name, name) === "not at all") continue;
      if (!own.references.has(name) && !other.references.has(name)) continue;
      const [targets, others] = [
        new TargetsRead(this.#matched.own, own, name),
        new TargetsRead(this.#matched.other, other, name),
      ];
      const matters = this.#matters(own.name, name);
      for (let at = 0; at < pairs.size; at++) {
        const [row, there] = [pairs.own.get(at), pairs.other.get(at)];
        const isAsMany = targets.read(row) === others.read(there);
        if (isAsMany && this.#leadAlike(to, targets, others)) continue;
        if (!matters(row, there, targets.count > 0, others.count > 0)) continue;
        this.#note(own, name, pairs.at(at), {
          value: targets.keysIn(this.#matched.own.table(to)),
          there: others.keysIn(this.#matched.other.table(to)),
        });
      }
    }
  }

  /** The fields of texts that either has, and that are told. */
  #textsOf(own: ReadonlyTable, other: ReadonlyTable): string[] {
    return [...new Set([...own.texts.keys(), ...other.texts.keys()])].filter((field) =>
      this.#coverage.tells(own.name, field),
    );
  }

  #matters(table: string, field: string | undefined): MattersInRow {
    return this.input.matters?.(table, field) ?? all;
  }

  #comparing(table: string, field: string): Comparing {
    return this.input.comparing?.(table, field) ?? "exactly";
  }

  /** A field of a record; where it has none, that of what contains it. */
  #reader(catalogue: ResolvedCatalogue, table: ReadonlyTable, field: string): (row: number) => Cell {
    const column = table.textsOf(field);
    const { of } = table.kind;
    const above = of === undefined || !this.input.inherits ? undefined : catalogue.table(of);
    const inherited = above && isInherited(above.kind, table.kind, field) ? above.textsOf(field) : undefined;
    if (!inherited) return (row) => column.get(row);
    return (row) => {
      const cell = column.get(row);
      return cell === undefined ? inherited.get(table.parent(row)) : cell;
    };
  }

  #same(value: Cell, there: Cell, comparing: Comparing): boolean {
    if (value === there) return true;
    if (this.input.keepsEmptied && (typeof value !== "string" || typeof there !== "string")) return false;
    return counted(value ?? "", comparing) === counted(there ?? "", comparing);
  }

  /** Whether as many references lead to the same records. */
  #leadAlike(to: string, own: TargetsRead, other: TargetsRead): boolean {
    for (let at = 0; at < own.count; at++)
      if (this.#matched.otherOf(to, own.targets[at]!) !== other.targets[at]) return false;
    return true;
  }

  #entries(kind: KindSpec, name: string, pairs: RowPairs): void {
    const table = `${kind.name}.${name}`;
    const told = this.#coverage.entries(table);
    const [own, other] = [this.#matched.own.table(table), this.#matched.other.table(table)];
    if (told === "none" || (own.size === 0 && other.size === 0)) return;
    const comparingOf = (field: string) => this.#comparing(table, field);
    const texts = entryTexts(this.#matched, own, "own", comparingOf);
    const textsOfOther = entryTexts(this.#matched, other, "other", comparingOf);
    const matters = this.#matters(table, undefined);
    const matched = new RowPairs();
    const records = new RowPairs();
    for (let at = 0; at < pairs.size; at++) {
      const [row, there] = [pairs.own.get(at), pairs.other.get(at)];
      if (own.countChildren(row) === 0 && other.countChildren(there) === 0) continue;
      const [entries, others] = [own.childrenOf(row), other.childrenOf(there)];
      if (areAlike(entries, others, texts, textsOfOther)) {
        for (let nth = 0; nth < entries.length; nth++) {
          matched.push(entries[nth]!, others[nth]!);
          records.push(row, there);
        }
        continue;
      }
      const record = pairs.at(at);
      const paired = pairEntries(entries, others, texts.whole, textsOfOther.whole);
      for (const pair of paired.pairs) {
        matched.push(pair.own, pair.other);
        records.push(record.own, record.other);
      }
      for (const entry of paired.onlyOwn)
        if (
          matters(entry, none, true, false) &&
          this.#coverage.tellsEntry(table, (field) => own.text(field, entry) ?? undefined)
        )
          this.#entryAlone(kind, name, record, entry, none);
      if (this.input.inOrder && isMoved(paired.pairs)) this.#entriesMoved(kind, name, record);
      for (const entry of paired.onlyOther)
        if (matters(none, entry, false, true)) this.#entryAlone(kind, name, record, none, entry);
    }
    this.#entryFields(kind, name, own, other, { matched, records });
  }

  #entryAlone(kind: KindSpec, entries: string, record: PairedRows, ownEntry: number, otherEntry: number): void {
    const isOwn = ownEntry !== none;
    const catalogue = isOwn ? this.#matched.own : this.#matched.other;
    const table = catalogue.table(`${kind.name}.${entries}`);
    const text = describedEntry(catalogue, table, isOwn ? ownEntry : otherEntry);
    const values = isOwn ? { value: text, there: undefined } : { value: undefined, there: text };
    const place = { kind: kind.name, ...record, entries, ownEntry, otherEntry, field: undefined };
    this.#differences.push({ ...place, ...values });
  }

  /** The same entries in another order. */
  #entriesMoved(kind: KindSpec, entries: string, record: PairedRows): void {
    const listed = (catalogue: ResolvedCatalogue, row: number) => {
      const table = catalogue.table(`${kind.name}.${entries}`);
      return [...table.childrenOf(row)].map((entry) => describedEntry(catalogue, table, entry)).join("; ");
    };
    const { own, other } = this.#matched;
    const values = { value: listed(own, record.own), there: listed(other, record.other) };
    this.#differences.push({ ...noEntry, kind: kind.name, ...record, entries, field: undefined, ...values });
  }

  #entryFields(
    kind: KindSpec,
    entries: string,
    own: ReadonlyTable,
    other: ReadonlyTable,
    { matched, records }: { readonly matched: RowPairs; readonly records: RowPairs },
  ): void {
    const key = entryKeyOf(own.kind);
    for (const field of this.#textsOf(own, other)) {
      const comparing = this.#comparing(own.name, field);
      if (key.includes(field) || comparing === "not at all") continue;
      const [column, otherColumn] = [own.textsOf(field), other.textsOf(field)];
      const matters = this.#matters(own.name, field);
      for (let at = 0; at < matched.size; at++) {
        const [ownEntry, otherEntry] = [matched.own.get(at), matched.other.get(at)];
        const value = column.get(ownEntry);
        const there = otherColumn.get(otherEntry);
        if (value === there || this.#same(value, there, comparing)) continue;
        if (!matters(ownEntry, otherEntry, isText(value), isText(there))) continue;
        const place = { kind: kind.name, ...records.at(at), entries, ownEntry, otherEntry, field };
        this.#differences.push({ ...place, value: shown(value), there: shown(there) });
      }
    }
  }
}

/** A difference of the record itself. */
const noEntry = { entries: undefined, ownEntry: none, otherEntry: none } as const;

const shown = (cell: Cell): string | undefined => cell ?? undefined;
const isText = (cell: Cell): boolean => typeof cell === "string";
