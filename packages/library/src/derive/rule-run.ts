/** One rule, run over the records of its kind. What it makes comes from the rule's own line in the project file. */

import { entryOf, present } from "../checked.js";
import type { Catalogue, ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Table } from "../catalogue/table.js";
import { finding, type Findings } from "../findings/finding.js";
import { toEnding, toPlaces, withTax } from "./amounts.js";
import type { DeriveRule } from "./compile.js";
import { fieldValueProblem } from "../field-value.js";
import { fieldReader, fieldSetter } from "./fields.js";
import type { Facts } from "./expression.js";
import { factText, FactReader } from "./facts.js";
import { selectionReader } from "./selection.js";
import { SlugPool, type ToSlug } from "./slug.js";
import { phrase, type Text } from "../phrases/phrase.js";

/** A sheet to look things up in: by its key, what each column holds. */
export type LookUpTable = ReadonlyMap<string, ReadonlyMap<string, string>>;

export interface DeriveInput {
  readonly rules: readonly DeriveRule[];
  readonly tables: ReadonlyMap<string, LookUpTable>;
  readonly findings: Findings;
  /** Needed where a rule makes slugs. */
  readonly toSlug?: ToSlug | undefined;
}

/** What became of the records that a rule was run over: a value was made, they had one, did not fit, lack what it is made of, or it failed. */
export interface RuleCounts {
  made: number;
  kept: number;
  unfit: number;
  lacking: number;
  failed: number;
}
type Made = string | { readonly problem: Text } | undefined;

/** Sets the field of a rule in records, one after the other; what became of them is counted. */
export class RuleRun {
  readonly #table: Table;
  readonly #read: (row: number) => string | undefined;
  readonly #slugs: SlugPool | undefined;
  readonly #facts: FactReader;
  readonly #make: (row: number) => Made;
  /** Of rules over entries: the one whose field is made. */
  #entry: Facts | undefined;

  constructor(
    readonly input: DeriveInput,
    readonly catalogue: Catalogue,
    resolved: ResolvedCatalogue | undefined,
    readonly rule: DeriveRule,
    readonly sheet: number,
    readonly counts: RuleCounts,
  ) {
    const { field: target, where, expression, pattern } = rule;
    this.#table = catalogue.table(target.kind.name);
    this.#read = fieldReader(catalogue, target);
    const names = [
      ...(where?.names ?? []),
      ...(expression?.names ?? []),
      ...(pattern?.names ?? []).flatMap((name) => name.split(".")),
    ];
    this.#facts = new FactReader(catalogue, target.kind, new Set(names), resolved);
    if (rule.way === "slug") this.#slugs = this.#takenSlugs();
    this.#make = this.#maker();
  }

  /** @param from the first record that it is run over. */
  run(from: number): void {
    const { field: target } = this.rule;
    if (target.entry && target.entry.constant === undefined) this.#eachEntry(target.entry.entries, from);
    else this.#eachRecord(from);
  }

  #eachRecord(from: number): void {
    const { set, end } = fieldSetter(this.catalogue, this.rule, this.sheet, (row, problem) => this.#say(row, problem));
    for (let row = from; row < this.#table.size; row++) {
      const value = this.#valueFor(row, this.#read(row) !== undefined);
      if (value !== undefined) set(row, value);
    }
    this.counts.made -= end();
  }

  /** Sets a field of every entry that lacks it; what it is made of is the record that holds the entry, and the entry. */
  #eachEntry(name: string, from: number): void {
    const { at, field: target } = this.rule;
    const entries = this.catalogue.table(`${this.#table.name}.${name}`);
    const origin = { sheet: this.sheet, line: at.line ?? 1 };
    const seen = new Map<number, number>();
    for (let entry = 0; entry < entries.size; entry++) {
      const row = entries.parent(entry);
      if (row < from) continue;
      const nth = (seen.get(row) ?? 0) + 1;
      seen.set(row, nth);
      this.#entry = this.#facts.entry(entries, entry, nth);
      const value = this.#valueFor(row, entries.text(target.name, entry) !== undefined);
      if (value === undefined) continue;
      entries.setText(target.name, entry, value);
      entries.setFieldOrigin(target.name, entry, origin);
    }
  }

  /** @returns the value for a record, or for the entry that is looked at; undefined where it gets none, which is counted. */
  #valueFor(row: number, isThere: boolean): string | undefined {
    const { given, where } = this.rule;
    if (isThere && !given.overwrite) return void this.counts.kept++;
    const holds = where?.evaluate(this.#factsOf(row));
    if (holds?.is === "failed") return this.#say(row, holds.problem);
    if (holds && (holds.is !== "flag" || !holds.flag)) return void this.counts.unfit++;
    const made = this.#make(row);
    if (made === undefined) return void this.counts.lacking++;
    const value = typeof made === "string" ? this.#finish(made) : made;
    if (typeof value !== "string") return this.#say(row, value.problem);
    this.counts.made++;
    return value;
  }

  #factsOf(row: number): Facts {
    const facts = this.#facts.read(row);
    return this.#entry ? { ...facts, entry: this.#entry } : facts;
  }

  #say(row: number, problem: Text, table: Table = this.#table): undefined {
    const record = { kind: table.kind.name, key: table.key(row) };
    this.counts.failed++;
    this.input.findings.add(
      finding("derive/failed", { field: this.rule.given.field, problem }, { ...this.rule.at, record }),
    );
  }

  /** Rounding, price endings and marks; and whether the value is one of the field's type. */
  #finish(made: string): string | { readonly problem: Text } {
    const { given, field: target } = this.rule;
    let value = made;
    const isNumber = target.field.type === "decimal" || target.field.type === "integer";
    if (isNumber && !/^-?\d+(\.\d+)?$/.test(value))
      return { problem: phrase('"{0}" is not a number', value.slice(0, 40)) };
    if (isNumber && given.places !== undefined) value = toPlaces(value, given.places);
    if (isNumber && given.ending) value = toEnding(value, given.ending);
    const problem = fieldValueProblem(target.field, value);
    if (problem !== undefined) return { problem };
    return given.mark === undefined ? value : `${given.mark}${value}`;
  }

  #maker(): (row: number) => Made {
    const { given, way, expression, pattern, from, field: target } = this.rule;
    const { catalogue } = this;
    const { tables } = this.input;
    switch (way) {
      case "constant":
        return () => given.constant;
      case "template":
        return (row) => this.#fromPattern(row, present(pattern));
      case "expression":
        return (row) => {
          const result = present(expression).evaluate(this.#factsOf(row));
          if (result.is === "failed") return { problem: result.problem };
          return result.is === "absent" ? undefined : result.is === "flag" ? String(result.flag) : result.text;
        };
      case "selection": {
        const { to } = present(target.field.reference);
        const table = catalogue.table(to);
        const read = selectionReader(catalogue, to, present(expression), (at, problem) =>
          this.#say(at, problem, table),
        );
        return (row) => read(this.#table.name === to ? this.#table.key(row) : undefined);
      }
      case "copy":
        return fieldReader(catalogue, present(from));
      case "slug": {
        const read = fieldReader(catalogue, present(from));
        const { toSlug } = this.input;
        if (!toSlug) throw new Error("a rule makes slugs, and no way to make them was given");
        return (row) => {
          const slug = toSlug(read(row) ?? "") || toSlug(this.#codeOf(row));
          return slug === "" ? undefined : present(this.#slugs).give(slug);
        };
      }
      case "model": {
        const model = this.#table.find(present(given.model));
        return (row) => (model === undefined || model === row ? undefined : this.#read(model));
      }
      case "tax": {
        const read = fieldReader(catalogue, present(from));
        const { rate, does } = present(given.tax);
        return (row) => {
          const amount = read(row);
          return amount === undefined ? undefined : withTax(amount, rate, does, given.places ?? 2);
        };
      }
      case "look up": {
        const { in: name, column } = given["look up"]!;
        const table = entryOf(tables, name);
        return (row) => {
          const key = this.#fromPattern(row, present(pattern));
          if (key === undefined) return undefined;
          const found = table.get(key)?.get(column);
          return found === undefined
            ? { problem: phrase('table {0} has no {1} for "{2}"', name, column, key.slice(0, 40)) }
            : found || undefined;
        };
      }
    }
  }

  #fromPattern(row: number, pattern: NonNullable<DeriveRule["pattern"]>): string | undefined {
    const facts = this.#factsOf(row);
    return pattern.make((name) => factText(facts, name));
  }

  /** A record's code; a product's that has none is its first variant's, and at last its key. */
  #codeOf(row: number): string {
    const own = this.#table.text("code", row);
    if (typeof own === "string") return own;
    const child = this.catalogue.kinds.childOf(this.#table.kind.name);
    const first = child && this.catalogue.table(child.name).childrenOf(row)[0];
    const code = first === undefined ? undefined : this.catalogue.table(present(child).name).text("code", first);
    return code ?? this.#table.key(row);
  }

  #takenSlugs(): SlugPool {
    const pool = new SlugPool();
    if (!this.rule.given.overwrite)
      for (let row = 0; row < this.#table.size; row++) {
        const slug = this.#read(row);
        if (slug !== undefined) pool.take(slug);
      }
    return pool;
  }
}
