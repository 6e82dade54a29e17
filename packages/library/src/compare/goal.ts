/**
 * The goal: what a platform is to have in the end, when what is intended is settled with what it has, by the project's policies.
 *
 * In: which record is which, what the platform tells, the policies. Out: a catalogue of its own. Its first rows are those of the intended
 * one; what only the platform has stands behind them. Nothing is renamed, and neither catalogue is changed.
 */

import {
  referenceFields,
  type ReferringField,
  targetsOf,
  type Catalogue,
  type ResolvedBranch,
  type ResolvedCatalogue,
} from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import type { Cell } from "../catalogue/cell.js";
import { firstOf } from "../checked.js";
import { entryKeyOf, fieldOf, type KindSpec } from "../kind.js";
import { none, type Correspondence } from "../match/correspondence.js";
import type { ChangedOrKept } from "./delivered-fields.js";
import type { HasByItself } from "./by-itself.js";
import type { Coverage } from "./coverage.js";
import { entryTexts, pairEntries } from "./entries.js";
import { FieldTexts, textsThere } from "./field-texts.js";
import { TakenOver } from "./taken-over.js";
import { ToldTexts } from "./told-texts.js";
import { policyOf, type ChangeWishes } from "./policies.js";
import type { FateOfUnnamed } from "./unnamed-entries.js";

/** What is settled, by which policies. */
export interface GoalInput {
  /** Of what is intended with what the platform has. */
  readonly matched: Correspondence;
  readonly coverage: Coverage;
  readonly wishes: ChangeWishes;
  /** Who has changed a field since it was last delivered, as comparisons call it; not known, if left out. @param row of the intended record. */
  readonly changedBy?: ((kind: string, row: number, field: string) => ChangedOrKept) | undefined;
  /** Whether a record of the platform was delivered and is in no source any more; none, if left out. @param there its row there. */
  readonly isGone?: ((kind: string, there: number) => boolean) | undefined;
  /** Whether a record stays as it is there, whatever is intended; none, if left out. @param row of the intended record. */
  readonly keeps?: ((kind: string, row: number) => boolean) | undefined;
  /** Fields that the platform never changes once they are set, as `kind.field`; none, if left out. */
  readonly fixed?: ReadonlySet<string> | undefined;
  /** Lists of records that the platform only adds to, as `kind.field`; none, if left out. */
  readonly adding?: ReadonlySet<string> | undefined;
  /** Whether the platform has a field by itself, where rows do not name it; it has none, if left out. */
  readonly byItself?: HasByItself | undefined;
  /** What becomes of an entry that a list does not name; it stays, if left out. */
  readonly unnamed?: FateOfUnnamed | undefined;
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
  return { catalogue: goal.catalogue as ResolvedBranch, rowOf: goal.taken.rowOf, notMade: goal.notMade };
}

/** Which of two values a field has in the end. */
type Side = "own" | "platform";

class GoalMaker {
  readonly catalogue: Catalogue;
  readonly #own: ResolvedCatalogue;
  readonly #there: ResolvedCatalogue;
  /** By kind: the rows of intended records that are not made. */
  readonly notMade: ReadonlyMap<string, ReadonlySet<number>>;
  readonly taken: TakenOver;

  readonly #told: ToldTexts;
  readonly #texts: FieldTexts;
  readonly #textsThere: FieldTexts;

  constructor(readonly input: GoalInput) {
    this.#own = input.matched.own;
    this.#there = input.matched.other;
    this.#told = new ToldTexts(input.coverage);
    this.#texts = new FieldTexts(this.#own);
    this.#textsThere = textsThere(input.matched);
    this.catalogue = this.#own.branch();
    this.taken = new TakenOver(input.matched, this.catalogue);
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

  /** Records that only the platform has stay as they are, unless they were delivered and are in no source any more. */
  addOnlyThere(): void {
    for (const { kind, there, row } of this.taken.addOnlyThere()) if (this.#isGone(kind, there)) this.#leave(kind, row);
  }

  /** Whether a record was delivered and is in no source any more. What gave all that it contained to others is gone by that. */
  #isGone(kind: KindSpec, there: number): boolean {
    if (!this.input.isGone?.(kind.name, there)) return false;
    const child = this.#there.kinds.childOf(kind.name);
    const children = child === undefined ? [] : [...this.#there.table(child.name).childrenOf(there)];
    return children.length === 0 || !children.every((row) => this.input.matched.ownOf(child!.name, row) !== none);
  }

  /** What becomes of a record that is gone, as the project wishes. */
  #leave(kind: KindSpec, row: number): void {
    const { gone } = this.input.wishes;
    // What is deleted is as it was until then.
    if (gone === "delete") return;
    const [field, value] = gone === "hide" ? ["shown", "false"] : ["status", "ended"];
    if (gone !== "leave" && fieldOf(kind, field)) this.catalogue.table(kind.name).setText(field, row, value);
  }

  /** Settles the records of a kind that both have. */
  settle(kind: KindSpec): void {
    const { matched, coverage } = this.input;
    const table = this.#own.table(kind.name);
    const links = referenceFields(kind).filter(({ name }) => coverage.tells(table.name, name));
    for (let row = 0; row < table.size; row++) {
      const there = matched.otherOf(kind.name, row);
      if (there === none) continue;
      this.#settleContainer(kind, row, there);
      this.#settleTexts(kind, table, row, there);
      for (const link of links) this.#settleReference(kind, link, table, row, there);
    }
    for (const entries of Object.keys(kind.entries ?? {})) this.#settleEntries(kind, entries);
  }

  /** What contains a record is what the sources say, as far as they say it. */
  #settleContainer({ name, of }: KindSpec, row: number, there: number): void {
    const [table, other] = [this.#own.table(name), this.#there.table(name)];
    if (of === undefined || other.parent(there) < 0) return;
    if (table.parent(row) >= 0 && !this.input.keeps?.(name, row)) return;
    this.catalogue.table(name).reparent(row, this.taken.rowOf(of, other.parent(there)));
  }

  #settleTexts(kind: KindSpec, table: ReadonlyTable, row: number, there: number): void {
    const other = this.#there.table(table.name);
    for (const { field, own, platform } of this.#told.of(table, other)) {
      const [cell, has] = [own.get(row), platform.get(there)];
      if (cell === has) continue;
      const textOf = (name: string) => other.text(name, there) ?? undefined;
      const isItsOwn = cell === null && isText(has) && this.input.byItself?.(table.name, field, textOf, has) === true;
      if (!isItsOwn && this.#sideOf(kind, row, field, cell === undefined, isText(has)) === "own") continue;
      this.taken.field(other, there, this.catalogue.table(table.name), row, field, has);
    }
  }

  /** @param isUnsaid whether the sources say nothing of it. @param isFilled whether the platform has a value. @param called as comparisons call it. */
  #sideOf(
    kind: KindSpec,
    row: number,
    field: string,
    isUnsaid: boolean,
    isFilled: boolean,
    called: () => string = () => field,
  ): Side {
    const { wishes, changedBy, keeps } = this.input;
    if (keeps?.(kind.name, row)) return "platform";
    if (isFilled && this.input.fixed?.has(`${kind.name}.${field}`)) return "platform";
    if (isUnsaid || wishes.only === "create") return "platform";
    const policy = policyOf(kind.name, field, wishes);
    if (policy === "leave") return "platform";
    const by = changedBy?.(kind.name, row, called());
    // What the platform made of what was sent is as it is to be.
    if (by === "as read back" || (policy === undefined && by === "platform")) return "platform";
    return policy === "fill" && isFilled ? "platform" : "own";
  }

  #settleReference(
    kind: KindSpec,
    { name, list }: ReferringField,
    table: ReadonlyTable,
    row: number,
    there: number,
  ): void {
    const other = this.#there.table(table.name);
    const column = table.referencesOf(name);
    const has = targetsOf(this.#there, other, name, there).length > 0;
    if (!column.isSet(row) && !has) return;
    const into = this.catalogue.table(table.name).referenceColumn(name);
    const isToNew = column.isSet(row) && this.#leadsToNotMade(table, name, row);
    if (isToNew || this.#sideOf(kind, row, name, !column.isSet(row), has) === "platform")
      return into.set(row, this.taken.references(other, there, name));
    if (!list || !(this.input.adding?.has(`${kind.name}.${name}`) || this.#isAdded(kind, name))) return;
    const kept = this.taken.references(other, there, name);
    const { target } = this.catalogue.pool;
    const leads = new Set(kept.map((number) => target.get(number)));
    into.set(row, [...kept, ...column.get(row).filter((number) => !leads.has(target.get(number)))]);
  }

  #isAdded(kind: KindSpec, field: string): boolean {
    return policyOf(kind.name, field, this.input.wishes) === "add";
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
      entryTexts(matched, own, "own", () => "exactly").whole,
      entryTexts(matched, other, "other", () => "exactly").whole,
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
          if (
            this.#sideOf(kind, row, entryName(own, name, entry), false, false, this.#called(own, entry)) === "platform"
          )
            this.catalogue.table(table).reparent(entry, none);
      for (const entry of onlyOther)
        if (this.#stays(kind, row, other, name, entry, named.length === 0)) this.taken.entry(other, entry, row);
    }
  }

  /** Whether an entry that only the platform has stays. @param isUnsaid whether the sources name no such entries at all. */
  #stays(kind: KindSpec, row: number, other: ReadonlyTable, name: string, entry: number, isUnsaid: boolean): boolean {
    const field = entryName(other, name, entry);
    if (this.#sideOf(kind, row, field, isUnsaid, true, this.#called(other, entry)) === "platform") return true;
    const textOf = textsOf(other, entry);
    const fields = [...this.#textsThere.ofEntry(other, entry)];
    const { byItself } = this.input;
    if (byItself && fields.every(([one, , text]) => one !== "" && byItself(other.name, one, textOf, text))) return true;
    return (
      policyOf(kind.name, field, this.input.wishes) === "add" ||
      this.input.unnamed?.(other.name, textOf) !== "taken out"
    );
  }

  /** What comparisons call an entry, or a field of it. */
  #called(table: ReadonlyTable, entry: number, field?: string): () => string {
    const texts = table === this.#own.table(table.name) ? this.#texts : this.#textsThere;
    return () => `${texts.entryName(table, entry)}${field === undefined ? "" : `.${field}`}`;
  }

  #settleEntry(kind: KindSpec, row: number, name: string, entry: number, there: number): void {
    const table = `${kind.name}.${name}`;
    const [own, other] = [this.#own.table(table), this.#there.table(table)];
    for (const { field, own: intended, platform } of this.#told.of(own, other)) {
      const [cell, has] = [intended.get(entry), platform.get(there)];
      if (cell === has) continue;
      const called = this.#called(own, entry, field);
      const inWishes = `${entryName(own, name, entry)}.${field}`;
      if (this.#sideOf(kind, row, inWishes, cell === undefined, isText(has), called) === "own") continue;
      this.taken.field(other, there, this.catalogue.table(table), entry, field, has);
    }
  }
}

const textsOf = (table: ReadonlyTable, entry: number) => (field: string) => table.text(field, entry) ?? undefined;

const isText = (cell: Cell): cell is string => typeof cell === "string" && cell !== "";

/** As policies call an entry: `stock(Barn)`. */
function entryName(table: ReadonlyTable, name: string, entry: number): string {
  const word = table.text(firstOf(entryKeyOf(table.kind)), entry);
  return typeof word === "string" ? `${name}(${word})` : name;
}
