/**
 * What expressions and templates know of a record: its own fields, those of what contains it, its axis values, its ancestors.
 *
 * In expressions `name.en`, `prices.cost`, `values.Wood`, `product.name.en`, `bundle.sum`, `path` (a list); in templates the same
 * with dots.
 */

import { firstOf, present } from "../checked.js";
import { splitLanguage } from "../field-name.js";
import Big from "big.js";
import { BundleReader } from "../catalogue/bundles.js";
import { referenceFields, targetsOf, type ReadonlyCatalogue, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { entryLookup } from "../catalogue/entry-lookup.js";
import { entryKeyOf, fieldOf, type KindSpec } from "../kind.js";
import type { Kinds } from "../kinds.js";
import { Decimal } from "./decimal-value.js";
import type { Facts } from "./expression.js";

const maxNumberChars = 40;

/** The words that expressions about records of a kind may begin with. */
export function rootsOf(kind: KindSpec, kinds: Kinds): readonly string[] {
  const own = (one: KindSpec) => ["key", ...one.fields.map((field) => field.name), ...Object.keys(one.entries ?? {})];
  const above = kind.of === undefined ? [] : [wordOf(kind.of), ...own(kinds.get(kind.of))];
  return [...new Set([...own(kind), ...above, "values", "path", "bundle"])];
}

/** A kind as a name in an expression. */
const wordOf = (kind: string): string => kind.replaceAll("-", "_");

export class FactReader {
  readonly #table: ReadonlyTable;
  readonly #above: ReadonlyTable | undefined;

  /** @param wanted words that matter; others are not looked up. @param resolved the same catalogue, once its references are resolved. */
  constructor(
    readonly catalogue: ReadonlyCatalogue,
    readonly kind: KindSpec,
    readonly wanted: ReadonlySet<string>,
    readonly resolved: ResolvedCatalogue | undefined,
  ) {
    this.#table = catalogue.table(kind.name);
    this.#above = kind.of === undefined ? undefined : catalogue.table(kind.of);
  }

  #bundles: BundleReader | undefined;

  read(row: number): Facts {
    const facts = this.#own(this.#table, row);
    if (this.#above) {
      const parent = this.#table.parent(row);
      const above = this.#own(this.#above, parent);
      // What a child does not say itself is its parent's.
      for (const [name, value] of Object.entries(above))
        if (name !== "key" && !Object.hasOwn(facts, name)) facts[name] = value;
      const word = wordOf(this.#above.name);
      if (this.wanted.has(word)) facts[word] = above;
    }
    if (this.wanted.has("values")) facts["values"] = this.#values(row);
    if (this.wanted.has("path")) facts["path"] = this.#path(row);
    if (this.wanted.has("bundle")) facts["bundle"] = this.#bundle(row);
    return facts;
  }

  /** What a bundle's components add up to: `bundle.sum`, `bundle.weight`, `bundle.available`. */
  #bundle(row: number): Facts {
    const found: Record<string, unknown> = Object.create(null) as Record<string, unknown>;
    if (!this.resolved || !this.kind.entries?.["components"]) return found;
    this.#bundles ??= new BundleReader(this.resolved);
    const product = this.#above ? this.#table.parent(row) : row;
    const sums = this.#bundles.sumsOf({ table: this.#table, row, product });
    for (const [name, sum] of Object.entries(sums ?? {}))
      if (sum !== undefined) found[name] = typedFact("decimal", sum);
    return found;
  }

  /** An entry by its fields, and which of its record's it is, from 1: `entry.role`, `entry.nth`. */
  entry(entries: ReadonlyTable, row: number, nth: number): Facts {
    return { ...this.#own(entries, row), nth: typedFact("integer", String(nth)) };
  }

  #own(table: ReadonlyTable, row: number): Record<string, unknown> {
    const facts: Record<string, unknown> = Object.create(null) as Record<string, unknown>;
    if (row < 0) return facts;
    facts["key"] = table.key(row);
    for (const [field, column] of table.texts) {
      const { name, lang } = splitLanguage(field);
      if (!this.wanted.has(name)) continue;
      const cell = column.get(row);
      if (typeof cell !== "string") continue;
      const value = typedFact(fieldOf(table.kind, name)?.type, cell);
      if (lang === undefined) facts[name] = value;
      else ((facts[name] ??= Object.create(null)) as Record<string, unknown>)[lang] = value;
    }
    // The records that it names, in the words of its source: `brand`, `categories` (a list).
    for (const { name, list } of referenceFields(table.kind)) {
      const references = this.wanted.has(name) ? table.references.get(name)?.get(row) : undefined;
      if (!references?.length) continue;
      const names = references.map((reference) => this.#wordOf(reference));
      facts[name] = list ? names : firstOf(names);
    }
    for (const [name, kind] of Object.entries(table.kind.entries ?? {}))
      if (this.wanted.has(name)) facts[name] = this.#entries(this.catalogue.table(`${table.name}.${name}`), kind, row);
    return facts;
  }

  /** By the first word of their key, what the first field of an entry besides it holds: `prices.cost`, `stock.Shed`. */
  #entries(entries: ReadonlyTable, _kind: string, owner: number): Facts {
    const found: Record<string, unknown> = Object.create(null) as Record<string, unknown>;
    const keys = entryKeyOf(entries.kind);
    const [first] = keys;
    if (fieldOf(entries.kind, present(first))?.reference) return this.#byNames(entries, keys, owner);
    const isPlain = entryLookup(entries, {}, [present(first)]).has;
    const value = entries.kind.fields.find((field) => !entryKeyOf(entries.kind).includes(field.name) && field.type);
    if (!value) return found;
    for (const row of entries.childrenWhere(owner, isPlain)) {
      const word = entries.text(present(first), row);
      const cell = entries.text(value.name, row);
      if (typeof word === "string" && typeof cell === "string") found[word] ??= typedFact(value.type, cell);
    }
    return found;
  }

  /** Entries that are told apart by what they name, in the words of the source: `components.P1`. */
  #byNames(entries: ReadonlyTable, keys: readonly string[], owner: number): Facts {
    const found: Record<string, unknown> = Object.create(null) as Record<string, unknown>;
    const value = entries.kind.fields.find((field) => !keys.includes(field.name) && field.type);
    for (const row of entries.childrenOf(owner)) {
      const [reference] = keys.flatMap((key) => [...(entries.references.get(key)?.get(row) ?? [])]);
      const cell = value && entries.text(value.name, row);
      if (reference !== undefined && typeof cell === "string")
        found[this.#wordOf(reference)] ??= typedFact(value?.type, cell);
    }
    return found;
  }

  /** Values by the names of their axes; by the words of the sheet while references are not resolved. */
  #values(row: number): Facts {
    const found: Record<string, unknown> = Object.create(null) as Record<string, unknown>;
    const { pool } = this.catalogue;
    for (const reference of this.#table.references.get("values")?.get(row) ?? []) {
      const axis = pool.within(reference);
      if (axis >= 0) found[pool.text(axis)] = pool.text(reference);
      else if (pool.spec(reference).by === "row") {
        const value = pool.target.get(reference);
        found[this.#nameOf("axis", this.catalogue.table("value").parent(value))] = this.#nameOf("value", value);
      }
    }
    return found;
  }

  /** How the source names a record; one that an operation has put there goes by its name. */
  #wordOf(reference: number): string {
    const { pool } = this.catalogue;
    const { by, to } = pool.spec(reference);
    return by === "row" ? this.#nameOf(to, pool.target.get(reference)) : pool.text(reference);
  }

  #nameOf(kind: string, row: number): string {
    const table = this.catalogue.table(kind);
    const field = [...table.texts.keys()].find((name) => name.startsWith("name@"));
    return (field === undefined ? undefined : table.text(field, row)) ?? table.key(row);
  }

  /** The names on the way to the first category, from the root. */
  #path(row: number): readonly string[] {
    const { resolved } = this;
    if (!resolved) return [];
    const categories = this.catalogue.table("category");
    const names: string[] = [];
    const seen = new Set<number>();
    const owner =
      this.#above && this.kind.name === "variant"
        ? { table: this.#above, row: this.#table.parent(row) }
        : { table: this.#table, row };
    let at = owner.table.name === "category" ? owner.row : targetsOf(resolved, owner.table, "categories", owner.row)[0];
    for (; at !== undefined && !seen.has(at); at = targetsOf(resolved, categories, "parent", at)[0]) {
      seen.add(at);
      names.unshift(this.#nameOf("category", at));
    }
    return names;
  }
}

/** A text as expressions know it: a number is an exact decimal, a flag is true or false. */
export function typedFact(type: string | undefined, cell: string): unknown {
  if (type === "flag") return cell === "true";
  if ((type === "decimal" || type === "integer") && cell.length <= maxNumberChars) return new Decimal(new Big(cell));
  return cell;
}

/** The text that a dotted name of a template stands for. */
export function factText(facts: Facts, name: string): string | undefined {
  let value: unknown = facts;
  for (const step of name.split(".")) {
    if (typeof value !== "object" || value === null || !Object.hasOwn(value, step)) return undefined;
    value = (value as Record<string, unknown>)[step];
  }
  if (value instanceof Decimal) return value.value.toFixed();
  return typeof value === "string" ? value : typeof value === "boolean" ? String(value) : undefined;
}
