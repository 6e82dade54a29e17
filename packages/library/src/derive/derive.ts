/**
 * Deriving: fields made of others by the project's rules, one rule after the other over all records of its kind.
 *
 * Before references are resolved: codes and references. After: everything else; it sees the resolved catalogue, and writes no
 * references. What a rule makes comes from the rule's own line in the project file.
 */

import { firstOf, entryOf, present } from "../checked.js";
import { splitLanguage } from "../field-name.js";
import { entryKeyOf, referenceOf } from "../kind.js";
import type { Catalogue, ResolvedCatalogue } from "../catalogue/catalogue.js";
import { noReference, type ReferenceSpec } from "../catalogue/reference-pool.js";
import type { Table } from "../catalogue/table.js";
import { isProblem, type CellValue } from "../codecs/codec.js";
import { finding, type Findings } from "../findings/finding.js";
import { entryLookup } from "../catalogue/entry-lookup.js";
import { toEnding, toPlaces, withTax } from "./amounts.js";
import type { FieldName, DeriveRule } from "./compile.js";
import { factText, FactReader } from "./facts.js";
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

/** Runs the rules that make keys, codes and references, in the order in which the project has them. @returns a branch with what they make. */
export function deriveBefore(given: Catalogue, input: DeriveInput): Catalogue {
  const rules = input.rules.filter((rule) => rule.isBefore);
  if (rules.length === 0) return given;
  const catalogue = given.branch();
  runRules(rules, input, catalogue, undefined);
  return catalogue;
}

/** Runs all other rules, in the order in which the project has them. @returns a branch with what they make. */
export function deriveAfter(given: ResolvedCatalogue, input: DeriveInput): ResolvedCatalogue {
  const rules = input.rules.filter((rule) => !rule.isBefore);
  if (rules.length === 0) return given;
  const catalogue = given.branch();
  runRules(rules, input, catalogue, catalogue);
  return catalogue;
}

function runRules(
  rules: readonly DeriveRule[],
  input: DeriveInput,
  catalogue: Catalogue,
  resolved: ResolvedCatalogue | undefined,
): void {
  const sheets = new Map<string, number>();
  for (const rule of rules) {
    const { file } = rule.at;
    let sheet = sheets.get(file);
    if (sheet === undefined)
      sheets.set(file, (sheet = catalogue.sheets.push({ file, headers: new Map(), precedence: 0 }) - 1));
    new RuleRun(input, catalogue, resolved, rule, sheet).run();
  }
}

type Made = string | { readonly problem: Text } | undefined;

class RuleRun {
  readonly #table: Table;
  readonly #read: (row: number) => string | undefined;
  readonly #slugs: SlugPool | undefined;
  readonly #facts: FactReader;
  readonly #make: (row: number) => Made;
  #count = 0;

  constructor(
    readonly input: DeriveInput,
    readonly catalogue: Catalogue,
    resolved: ResolvedCatalogue | undefined,
    readonly rule: DeriveRule,
    readonly sheet: number,
  ) {
    const { field: target, where, expression, pattern } = rule;
    this.#table = catalogue.table(target.kind.name);
    this.#read = reader(catalogue, target);
    const names = [
      ...(where?.names ?? []),
      ...(expression?.names ?? []),
      ...(pattern?.names ?? []).flatMap((name) => name.split(".")),
    ];
    this.#facts = new FactReader(catalogue, target.kind, new Set(names), resolved);
    if (rule.way === "slug") this.#slugs = this.#takenSlugs();
    this.#make = this.#maker();
  }

  run(): void {
    const { given, where, at, field: target } = this.rule;
    if (target.entry && target.entry.constant === undefined) return this.#eachEntry(target.entry.entries);
    const set = this.#setter();
    for (let row = 0; row < this.#table.size; row++) {
      if (!given.overwrite && this.#read(row) !== undefined) continue;
      if (where) {
        const holds = where.evaluate(this.#facts.read(row));
        if (holds.is === "failed") this.#say(row, holds.problem);
        if (holds.is !== "flag" || !holds.flag) continue;
      }
      const made = this.#make(row);
      if (made === undefined) continue;
      const value = typeof made === "string" ? this.#finish(made) : made;
      if (typeof value === "string") {
        set(row, value);
        this.#count++;
      } else this.#say(row, value.problem);
    }
    const facts = { field: given.field, count: this.#count, method: this.rule.way };
    this.input.findings.add(finding("derive/made", facts, at));
  }

  /** Sets a field of every entry that lacks it; what it is made of is the record that holds the entry. */
  #eachEntry(name: string): void {
    const { given, where, at, field: target, way } = this.rule;
    const entries = this.catalogue.table(`${this.#table.name}.${name}`);
    const origin = { sheet: this.sheet, line: at.line ?? 1 };
    for (let entry = 0; entry < entries.size; entry++) {
      if (!given.overwrite && entries.text(target.name, entry) !== undefined) continue;
      const row = entries.parent(entry);
      const holds = where?.evaluate(this.#facts.read(row));
      if (holds?.is === "failed") this.#say(row, holds.problem);
      if (holds && (holds.is !== "flag" || !holds.flag)) continue;
      const made = this.#make(row);
      if (made === undefined) continue;
      const value = typeof made === "string" ? this.#finish(made) : made;
      if (typeof value !== "string") this.#say(row, value.problem);
      else {
        entries.setText(target.name, entry, value);
        entries.setFieldOrigin(target.name, entry, origin);
        this.#count++;
      }
    }
    this.input.findings.add(finding("derive/made", { field: given.field, count: this.#count, method: way }, at));
  }

  #say(row: number, problem: Text): void {
    const record = { kind: this.#table.kind.name, key: this.#table.key(row) };
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
    if (target.field.type === "integer" && value.includes("."))
      return { problem: phrase("{0} is not a whole number", value) };
    if (target.field.type === "flag" && value !== "true" && value !== "false")
      return { problem: phrase('"{0}" is neither true nor false', value) };
    return given.mark === undefined ? value : `${given.mark}${value}`;
  }

  #maker(): (row: number) => Made {
    const { given, way, expression, pattern, from } = this.rule;
    const { catalogue } = this;
    const { tables } = this.input;
    switch (way) {
      case "constant":
        return () => given.constant;
      case "template":
        return (row) => this.#fromPattern(row, present(pattern));
      case "expression":
        return (row) => {
          const result = present(expression).evaluate(this.#facts.read(row));
          if (result.is === "failed") return { problem: result.problem };
          return result.is === "absent" ? undefined : result.is === "flag" ? String(result.flag) : result.text;
        };
      case "copy":
        return reader(catalogue, present(from));
      case "slug": {
        const read = reader(catalogue, present(from));
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
        const read = reader(catalogue, present(from));
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
    const facts = this.#facts.read(row);
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

  #setter(): (row: number, value: string) => void {
    const { field: target, reference, at } = this.rule;
    const { catalogue } = this;
    const table = this.#table;
    const origin = { sheet: this.sheet, line: at.line ?? 1 };
    if (target.field.reference) return this.#referenceSetter(target, present(reference), origin);
    if (!target.entry) {
      return (row, value) => {
        table.setText(target.name, row, value);
        table.setFieldOrigin(target.name, row, origin);
      };
    }
    const { entries: name, embedded, constant = "" } = target.entry;
    const entries = catalogue.table(`${table.name}.${name}`);
    const fits = entryLookup(entries, { [firstOf(entryKeyOf(embedded))]: constant }).has;
    const before = entries.childrenNow();
    return (row, value) => {
      let entry = before(row).find((one) => fits(one));
      if (entry === undefined) {
        entry = entries.append(this.sheet, origin.line, row);
        entries.setText(firstOf(entryKeyOf(embedded)), entry, constant);
      } else entries.setFieldOrigin(target.name, entry, origin);
      entries.setText(target.name, entry, value);
    };
  }

  #referenceSetter(
    { field, name }: FieldName,
    { codec, list, path, by }: NonNullable<DeriveRule["reference"]>,
    origin: { readonly sheet: number; readonly line: number },
  ): (row: number, value: string) => void {
    const { pool } = this.catalogue;
    const reference = referenceOf(field);
    const { name: how, lang } = splitLanguage(by ?? "name");
    const spec: ReferenceSpec = {
      to: reference.to,
      by: how as "name" | "key" | "code",
      lang: how === "name" ? (lang ?? "en") : undefined,
      missing: reference.missing,
      inTree: path,
    };
    const number = pool.specNumber(spec);
    const column = this.#table.referenceColumn(name);
    const intern = (one: CellValue): number =>
      path
        ? (one as readonly string[]).reduce((within, node) => pool.intern(number, within, node, origin), noReference)
        : pool.intern(number, noReference, one as string, origin);
    return (row, value) => {
      const parsed = codec.parse(value);
      if (isProblem(parsed)) {
        this.#say(row, `"${parsed.text}" is not ${parsed.wanted}`);
        return;
      }
      column.set(row, (list ? (parsed as readonly CellValue[]) : [parsed]).map(intern));
      this.#table.setFieldOrigin(name, row, origin);
    };
  }
}

/** How a field of a record is read; undefined where it is absent. */
function reader(catalogue: Catalogue, { kind, field, name, entry }: FieldName): (row: number) => string | undefined {
  const table = catalogue.table(kind.name);
  if (field.reference) {
    const column = table.referenceColumn(name);
    return (row) => (column.isSet(row) ? "set" : undefined);
  }
  if (!entry) return (row) => table.text(name, row) ?? undefined;
  const entries = catalogue.table(`${kind.name}.${entry.entries}`);
  const { constant } = entry;
  const fits = entryLookup(
    entries,
    constant === undefined ? {} : { [firstOf(entryKeyOf(entry.embedded))]: constant },
  ).has;
  const before = entries.childrenNow();
  return (row) => {
    const found = before(row).find((one) => fits(one));
    return found === undefined ? undefined : (entries.text(name, found) ?? undefined);
  };
}
