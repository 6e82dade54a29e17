/**
 * The goal: what a platform is to have in the end, when what is intended is settled with what it has, by the project's policies.
 *
 * In: which record is which, what the platform tells, the policies. Out: a catalogue of its own. Its first rows are those of the intended
 * one; what only the platform has stands behind them. Nothing is renamed, and neither catalogue is changed.
 */

import {
  referenceFields,
  targetsOf,
  type Catalogue,
  type ResolvedBranch,
  type ResolvedCatalogue,
} from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import type { Met } from "../catalogue/reference-pool.js";
import type { Table } from "../catalogue/table.js";
import type { Cell } from "../catalogue/text-column.js";
import { entryOf, firstOf } from "../checked.js";
import { entryKeyOf, fieldOf, type KindSpec } from "../kind.js";
import type { Key } from "../nominal.js";
import { containersFirst, none, type Correspondence } from "../match/correspondence.js";
import type { ChangedBy } from "./compare.js";
import type { Coverage } from "./coverage.js";
import { entryTexts, pairEntries } from "./entries.js";
import { policyOf, type ChangeWishes } from "./policies.js";

/** What is settled, by which policies. */
export interface GoalInput {
  /** Of what is intended with what the platform has. */
  readonly matched: Correspondence;
  readonly coverage: Coverage;
  readonly wishes: ChangeWishes;
  /** Who has changed a field since it was last delivered; not known, if left out. @param row of the intended record. */
  readonly changedBy?: ((kind: string, row: number, field: string) => ChangedBy) | undefined;
  /** Whether a record of the platform is one that was delivered; none, if left out. */
  readonly delivered?: ((kind: string, key: Key) => boolean) | undefined;
  /** Whether a record stays as it is there, whatever is intended; none, if left out. @param row of the intended record. */
  readonly keeps?: ((kind: string, row: number) => boolean) | undefined;
  /** Whether an import takes out an entry that its list does not name. @param table `kind.entries`. @param textOf a field of the entry. */
  readonly replaces?: ((table: string, textOf: (field: string) => string | undefined) => boolean) | undefined;
}

/** What a platform is to have in the end. */
export interface Goal {
  readonly catalogue: ResolvedBranch;
  /** The row of a record of the platform. */
  readonly rowOf: (kind: string, there: number) => number;
  /** Rows of intended records that are not made, by kind: where a project only updates. */
  readonly notMade: ReadonlyMap<string, ReadonlySet<number>>;
}

/** Settles what is intended with what a platform has. */
export function goalOf(input: GoalInput): Goal {
  const goal = new GoalMaker(input);
  goal.addOnlyThere();
  for (const kind of input.matched.own.kinds.roots) goal.settle(kind);
  return { catalogue: goal.catalogue as ResolvedBranch, rowOf: goal.rowOf, notMade: goal.notMade };
}

/** Which of two values a field has in the end. */
type Side = "own" | "platform";

class GoalMaker {
  readonly catalogue: Catalogue;
  readonly #own: ResolvedCatalogue;
  readonly #there: ResolvedCatalogue;
  /** The first of the platform's sheets. */
  readonly #sheets: number;
  /** By kind: the rows of intended records that are not made. */
  readonly notMade: ReadonlyMap<string, ReadonlySet<number>>;
  /** By kind: the rows here of the platform's records. */
  readonly #rows = new Map<string, Int32Array>();

  constructor(readonly input: GoalInput) {
    this.#own = input.matched.own;
    this.#there = input.matched.other;
    this.catalogue = this.#own.branch();
    this.#sheets = this.catalogue.sheets.length;
    this.catalogue.sheets.push(...this.#there.sheets);
    this.notMade = this.#findNotMade();
  }

  #findNotMade(): Map<string, Set<number>> {
    const { matched, coverage, wishes } = this.input;
    const left = new Map<string, Set<number>>();
    if (wishes.only !== "update") return left;
    for (const { name } of this.#own.kinds.roots) {
      if (coverage.records(name) === "none") continue;
      for (let row = 0; row < this.#own.table(name).size; row++)
        if (matched.otherOf(name, row) === none) left.set(name, (left.get(name) ?? new Set()).add(row));
    }
    return left;
  }

  /** Records that only the platform has stay as they are. */
  addOnlyThere(): void {
    const { matched } = this.input;
    const added: (readonly [kind: KindSpec, from: number, to: number])[] = [];
    for (const kind of containersFirst(this.#own.kinds.roots)) {
      const [from, to] = [this.#there.table(kind.name), this.catalogue.table(kind.name)];
      const rows = new Int32Array(from.size).fill(none);
      this.#rows.set(kind.name, rows);
      for (let row = 0; row < from.size; row++) {
        rows[row] = matched.ownOf(kind.name, row);
        if (rows[row] !== none) continue;
        const parent = kind.of === undefined ? none : this.rowOf(kind.of, from.parent(row));
        rows[row] = to.append(this.#sheets + from.sheet(row), from.line(row), parent);
        to.nameRecord(rows[row]!, from.key(row));
        added.push([kind, row, rows[row]!]);
      }
    }
    for (const [kind, from, to] of added) {
      this.#copy(this.#there.table(kind.name), from, this.catalogue.table(kind.name), to);
      if (this.#isGone(kind, from)) this.#leave(kind, to);
      for (const entries of Object.keys(kind.entries ?? {})) {
        const table = this.#there.table(`${kind.name}.${entries}`);
        for (const entry of table.childrenOf(from)) this.#copyEntry(table, entry, to);
      }
    }
  }

  /** Whether a record was delivered and is in no source any more. What gave all that it contained to others is gone by that. */
  #isGone(kind: KindSpec, there: number): boolean {
    const table = this.#there.table(kind.name);
    if (!this.input.delivered?.(kind.name, table.key(there))) return false;
    const child = this.#there.kinds.childOf(kind.name);
    const children = child === undefined ? [] : [...this.#there.table(child.name).childrenOf(there)];
    return children.length === 0 || !children.every((row) => this.input.matched.ownOf(child!.name, row) !== none);
  }

  /** What becomes of a record that is gone, as the project wishes. */
  #leave(kind: KindSpec, row: number): void {
    const { gone } = this.input.wishes;
    const [field, value] = gone === "hide" ? ["shown", "false"] : ["status", "ended"];
    if (gone !== "leave" && fieldOf(kind, field)) this.catalogue.table(kind.name).setText(field, row, value);
  }

  readonly rowOf = (kind: string, there: number): number => (there === none ? none : entryOf(this.#rows, kind)[there]!);

  #copyEntry(from: ReadonlyTable, entry: number, owner: number): void {
    const to = this.catalogue.table(from.name);
    this.#copy(from, entry, to, to.append(this.#sheets + from.sheet(entry), from.line(entry), owner));
  }

  #copy(from: ReadonlyTable, row: number, to: Table, into: number): void {
    for (const [field, column] of from.texts) {
      const cell = column.get(row);
      if (cell !== undefined) this.#take(from, row, to, into, field, cell);
    }
    for (const { name } of referenceFields(from.kind))
      if (from.referencesOf(name).isSet(row)) to.referenceColumn(name).set(into, this.#referencesOf(from, row, name));
  }

  /** A field as the platform has it, with where that comes from. */
  #take(from: ReadonlyTable, row: number, to: Table, into: number, field: string, cell: Cell): void {
    to.setText(field, into, cell);
    const { sheet, line } = from.fieldOrigin(field, row) ?? { sheet: from.sheet(row), line: from.line(row) };
    const origin = { sheet: this.#sheets + sheet, line };
    if (origin.sheet !== to.sheet(into) || line !== to.line(into)) to.setFieldOrigin(field, into, origin);
  }

  /** What a record of the platform refers to, as references to the records here. */
  #referencesOf(from: ReadonlyTable, row: number, field: string): number[] {
    const met: Met = { sheet: this.#sheets + from.sheet(row), line: from.line(row) };
    const to = referenceFields(from.kind).find(({ name }) => name === field)?.to ?? "";
    return targetsOf(this.#there, from, field, row).map((target) =>
      this.catalogue.pool.toRow(to, this.rowOf(to, target), met),
    );
  }

  /** Settles the records of a kind that both have. */
  settle(kind: KindSpec): void {
    const { matched } = this.input;
    const table = this.#own.table(kind.name);
    for (let row = 0; row < table.size; row++) {
      const there = matched.otherOf(kind.name, row);
      if (there === none) continue;
      this.#settleContainer(kind, row, there);
      this.#settleTexts(kind, table, row, there);
      this.#settleReferences(kind, table, row, there);
    }
    for (const entries of Object.keys(kind.entries ?? {})) this.#settleEntries(kind, entries);
  }

  /** What contains a record is what the sources say, as far as they say it. */
  #settleContainer({ name, of }: KindSpec, row: number, there: number): void {
    const [table, other] = [this.#own.table(name), this.#there.table(name)];
    if (of === undefined || other.parent(there) < 0) return;
    if (table.parent(row) >= 0 && !this.input.keeps?.(name, row)) return;
    this.catalogue.table(name).reparent(row, this.rowOf(of, other.parent(there)));
  }

  #settleTexts(kind: KindSpec, table: ReadonlyTable, row: number, there: number): void {
    const other = this.#there.table(table.name);
    for (const field of new Set([...table.texts.keys(), ...other.texts.keys()])) {
      if (!this.input.coverage.tells(table.name, field)) continue;
      const [cell, has] = [table.text(field, row), other.text(field, there)];
      if (cell === has || this.#sideOf(kind, row, field, cell === undefined, isText(has)) === "own") continue;
      this.#take(other, there, this.catalogue.table(table.name), row, field, has);
    }
  }

  /** @param isUnsaid whether the sources say nothing of it. @param isFilled whether the platform has a value. */
  #sideOf(kind: KindSpec, row: number, field: string, isUnsaid: boolean, isFilled: boolean): Side {
    const { wishes, changedBy, keeps } = this.input;
    if (keeps?.(kind.name, row)) return "platform";
    if (isUnsaid || wishes.only === "create") return "platform";
    const policy = policyOf(kind.name, field, wishes);
    if (policy === "leave") return "platform";
    if (policy === undefined && changedBy?.(kind.name, row, field) === "platform") return "platform";
    return policy === "fill" && isFilled ? "platform" : "own";
  }

  #settleReferences(kind: KindSpec, table: ReadonlyTable, row: number, there: number): void {
    const other = this.#there.table(table.name);
    for (const { name, list } of referenceFields(kind)) {
      if (!this.input.coverage.tells(table.name, name)) continue;
      const column = table.referencesOf(name);
      const has = targetsOf(this.#there, other, name, there).length > 0;
      if (!column.isSet(row) && !has) continue;
      const into = this.catalogue.table(table.name).referenceColumn(name);
      const isToNew = column.isSet(row) && this.#leadsToNotMade(table, name, row);
      if (isToNew || this.#sideOf(kind, row, name, !column.isSet(row), has) === "platform")
        into.set(row, this.#referencesOf(other, there, name));
      else if (list && policyOf(kind.name, name, this.input.wishes) === "add") {
        const kept = this.#referencesOf(other, there, name);
        const { target } = this.catalogue.pool;
        const leads = new Set(kept.map((number) => target.get(number)));
        into.set(row, [...kept, ...column.get(row).filter((number) => !leads.has(target.get(number)))]);
      }
    }
  }

  /** Whether a field leads to a record that is not made: then what the platform has stays. */
  #leadsToNotMade(table: ReadonlyTable, field: string, row: number): boolean {
    const to = referenceFields(table.kind).find(({ name }) => name === field)?.to ?? "";
    const left = this.notMade.get(to);
    return left !== undefined && targetsOf(this.#own, table, field, row).some((one) => left.has(one));
  }

  #settleEntries(kind: KindSpec, name: string): void {
    const { matched, coverage } = this.input;
    const table = `${kind.name}.${name}`;
    const [own, other] = [this.#own.table(table), this.#there.table(table)];
    const told = coverage.entries(table);
    if (told === "none" || (own.size === 0 && other.size === 0)) return;
    const [textOf, textOfOther] = [
      entryTexts(matched, own, "own", () => "exactly"),
      entryTexts(matched, other, "other", () => "exactly"),
    ];
    const records = this.#own.table(kind.name);
    for (let row = 0; row < records.size; row++) {
      const there = matched.otherOf(kind.name, row);
      if (there === none) continue;
      const named = own.childrenOf(row);
      const { pairs, onlyOwn, onlyOther } = pairEntries(named, other.childrenOf(there), textOf, textOfOther);
      for (const pair of pairs) this.#settleEntry(kind, row, name, pair.own, pair.other);
      for (const entry of onlyOwn)
        if (coverage.tellsEntry(table, textsOf(own, entry)))
          if (this.#sideOf(kind, row, entryName(own, name, entry), false, false) === "platform")
            this.catalogue.table(table).reparent(entry, none);
      for (const entry of onlyOther)
        if (this.#stays(kind, row, other, name, entry, named.length === 0)) this.#copyEntry(other, entry, row);
    }
  }

  /** Whether an entry that only the platform has stays. @param isUnsaid whether the sources name no such entries at all. */
  #stays(kind: KindSpec, row: number, other: ReadonlyTable, name: string, entry: number, isUnsaid: boolean): boolean {
    const field = entryName(other, name, entry);
    if (this.#sideOf(kind, row, field, isUnsaid, true) === "platform") return true;
    const textOf = textsOf(other, entry);
    return (
      policyOf(kind.name, field, this.input.wishes) === "add" || !(this.input.replaces?.(other.name, textOf) ?? false)
    );
  }

  #settleEntry(kind: KindSpec, row: number, name: string, entry: number, there: number): void {
    const table = `${kind.name}.${name}`;
    const [own, other] = [this.#own.table(table), this.#there.table(table)];
    const prefix = entryName(own, name, entry);
    for (const field of new Set([...own.texts.keys(), ...other.texts.keys()])) {
      if (!this.input.coverage.tells(table, field)) continue;
      const [cell, has] = [own.text(field, entry), other.text(field, there)];
      if (cell === has || this.#sideOf(kind, row, `${prefix}.${field}`, cell === undefined, isText(has)) === "own")
        continue;
      this.#take(other, there, this.catalogue.table(table), entry, field, has);
    }
  }
}

const textsOf = (table: ReadonlyTable, entry: number) => (field: string) => table.text(field, entry) ?? undefined;

const isText = (cell: Cell): boolean => typeof cell === "string" && cell !== "";

/** As policies call an entry: `stock(Barn)`. */
function entryName(table: ReadonlyTable, name: string, entry: number): string {
  const word = table.text(firstOf(entryKeyOf(table.kind)), entry);
  return typeof word === "string" ? `${name}(${word})` : name;
}
