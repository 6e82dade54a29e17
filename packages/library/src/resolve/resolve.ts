/**
 * Resolving: which record each reference means. Each different reference is looked up once, however many rows hold it.
 *
 * In: the catalogue as read. Out: a branch of it with targets, the records that were created because a layout said so, findings.
 *
 * A reference within another (the node of a path, a value of an axis) is looked up below the other's target. Records that have
 * to be made are made last, so that what is merely given later is found first.
 */

import { firstOf, present } from "../checked.js";
import { inLanguage } from "../field-name.js";
import {
  locationIn,
  type Catalogue,
  type ResolvedBranch,
  type ResolvedCatalogue,
  type StatedEntry,
} from "../catalogue/catalogue.js";
import { entryLookup } from "../catalogue/entry-lookup.js";
import { formsOf, noReference, type By, type Met, type ReferenceSpec } from "../catalogue/reference-pool.js";
import type { Table } from "../catalogue/table.js";
import { finding, type Findings } from "../findings/finding.js";
import { fieldNamed, referenceOf } from "../kind.js";
import type { RecordName } from "../location.js";
import { keyWithin } from "../catalogue/made-key.js";
import { CodeIndex } from "../catalogue/code-index.js";
import { anywhere, NameIndex } from "./name-index.js";
import { reportDangling, reportDescriptions } from "./report.js";
import { pushAll } from "../lists.js";

/** A catalogue whose references have been looked up. */
export interface Resolution {
  readonly catalogue: ResolvedCatalogue;
  /** Records that no sheet gives, but a reference names: axes, values, brands, category paths. */
  readonly created: readonly RecordName[];
  /** Who has which code. */
  readonly codes: CodeIndex;
}

const maxPasses = 100;

/**
 * Looks up every reference, and makes the records that layouts allow to be made.
 *
 * @returns a branch of the catalogue, resolved. What names nothing, or too much, is in `findings` at each cell that holds it.
 */
export function resolveReferences(given: Catalogue, findings: Findings): Resolution {
  const catalogue = given.branch();
  const resolver = new Resolver(catalogue);
  resolver.resolveByIdentity();
  for (let pass = 0; pass < maxPasses && resolver.resolveByName(); pass++);
  resolver.resolveElse();
  const created = resolver.create();
  divertReferences(catalogue, resolver);
  applyStatements(catalogue, findings);
  const result = catalogue as ResolvedBranch;
  reportDangling(result, resolver, findings);
  reportDescriptions(result, findings);
  reportCreated(created, findings);
  return { catalogue: result, created, codes: resolver.codes };
}

const isNamed = (spec: ReferenceSpec): boolean => formsOf(spec).includes("name");

export class Resolver {
  readonly ambiguous = new Map<number, readonly number[]>();
  readonly #indexes = new Map<string, NameIndex>();
  readonly #ids = new Map<string, Map<string, number>>();
  #codes: CodeIndex | undefined;

  constructor(readonly catalogue: Catalogue) {}

  get codes(): CodeIndex {
    return (this.#codes ??= new CodeIndex(this.catalogue));
  }

  /** The index that a reference by name is looked up in. */
  names(spec: ReferenceSpec, isWithin: boolean): NameIndex {
    const by = spec.inTree ? "tree" : spec.within !== undefined ? "owner" : isWithin ? "parent" : "anywhere";
    const key = `${spec.to} ${spec.lang} ${by}`;
    let index = this.#indexes.get(key);
    if (!index) this.#indexes.set(key, (index = new NameIndex(this.catalogue, spec.to, present(spec.lang), by)));
    return index;
  }

  resolveByIdentity(): void {
    const { pool } = this.catalogue;
    for (let number = 0; number < pool.size; number++) {
      const spec = pool.spec(number);
      // Forms behind the name wait until names have been looked up.
      const forms = formsOf(spec);
      const named = forms.indexOf("name");
      this.#findAs(number, named < 0 ? forms : forms.slice(0, named));
    }
  }

  /** By what stands behind a name, what no name was found for: "name, else the outside id". */
  resolveElse(): void {
    const { pool } = this.catalogue;
    for (let number = 0; number < pool.size; number++) {
      const forms = formsOf(pool.spec(number));
      const named = forms.indexOf("name");
      if (named >= 0 && !this.ambiguous.has(number)) this.#findAs(number, forms.slice(named + 1));
    }
  }

  #findAs(number: number, forms: readonly By[]): void {
    const { pool } = this.catalogue;
    for (const form of forms) {
      if (pool.target.get(number) !== noReference) return;
      if (form !== "name" && form !== "row")
        pool.target.set(number, this.find(pool.spec(number).to, form, pool.text(number)));
    }
  }

  /** A record by its key, code or platform id; -1 for none. */
  find(to: string, by: By, text: string): number {
    const records = this.catalogue.table(to);
    if (by === "key") return records.find(text) ?? records.formerly(text) ?? noReference;
    if (by === "id") return this.#byId(to, text);
    return by === "code" ? this.#byCode(to, text) : noReference;
  }

  #byId(to: string, id: string): number {
    let rows = this.#ids.get(to);
    if (!rows) {
      this.#ids.set(to, (rows = new Map()));
      const table = this.catalogue.table(to);
      for (let row = 0; row < table.size; row++) {
        const own = table.text("id", row);
        if (typeof own === "string" && !rows.has(own)) rows.set(own, row);
      }
    }
    return rows.get(id) ?? noReference;
  }

  /** A code of a variant names the variant's product, where a product is wanted. */
  #byCode(to: string, code: string): number {
    const found = this.codes.find(code);
    if (!found) return noReference;
    if (found.table.kind.name === to) return found.row;
    return found.table.kind.of === to ? found.table.parent(found.row) : noReference;
  }

  /** One pass over the names that are still open. @returns whether any was found: then parents may be known that were not before. */
  resolveByName(): boolean {
    const { pool } = this.catalogue;
    this.#indexes.clear();
    let found = false;
    for (let number = 0; number < pool.size; number++) {
      if (!isNamed(pool.spec(number)) || pool.target.get(number) !== noReference) continue;
      found = this.#lookUp(number) || found;
    }
    const { tables } = this.catalogue;
    return (
      found && tables.some(({ kind, references }) => references.has("parent") || references.has(kind.within ?? ""))
    );
  }

  #container(number: number): number | undefined {
    const { pool } = this.catalogue;
    const within = pool.within(number);
    if (within === noReference) return pool.spec(number).inTree ? noReference : anywhere;
    const target = pool.target.get(within);
    return target === noReference ? undefined : target;
  }

  #lookUp(number: number): boolean {
    const { pool } = this.catalogue;
    const container = this.#container(number);
    if (container === undefined) return false;
    const rows = this.names(pool.spec(number), pool.within(number) !== noReference).find(container, pool.text(number));
    if (rows.length > 1) this.ambiguous.set(number, rows);
    if (rows.length !== 1) return false;
    pool.target.set(number, firstOf(rows));
    return true;
  }

  /** Makes the records that are missing and may be made, outer ones first. */
  create(): RecordName[] {
    const { pool } = this.catalogue;
    const created: RecordName[] = [];
    this.#indexes.clear();
    const before = pool.size;
    for (let number = 0; number < before; number++) {
      const spec = pool.spec(number);
      const isOpen = pool.target.get(number) === noReference && !this.ambiguous.has(number);
      if (spec.missing !== "create" || !isOpen || this.#container(number) === undefined) continue;
      if (!isNamed(spec)) {
        if (spec.by === "key") pushAll(created, this.#makeByKey(number, spec));
      } else if (!this.#lookUp(number)) created.push(this.#make(number, spec));
    }
    return created;
  }

  /** What lives in another record is only made within one. */
  #makeByKey(number: number, { to }: ReferenceSpec): RecordName[] {
    const { pool } = this.catalogue;
    const table = this.catalogue.table(to);
    const container = present(this.#container(number));
    if (table.kind.of !== undefined && container < 0) return [];
    const known = table.find(pool.text(number));
    if (known !== undefined) {
      pool.target.set(number, known);
      return [];
    }
    const { sheet, line } = pool.met(number);
    const row = table.append(sheet, line, table.kind.of === undefined ? -1 : container);
    const { key } = table.nameRecord(row, pool.text(number));
    pool.target.set(number, row);
    return [{ kind: to, key }];
  }

  #make(number: number, spec: ReferenceSpec): RecordName {
    const { catalogue } = this;
    const { pool } = catalogue;
    const table = catalogue.table(spec.to);
    const container = present(this.#container(number));
    const met = pool.met(number);
    const contained = container >= 0;
    const row = table.append(met.sheet, met.line, contained && table.kind.of !== undefined ? container : -1);
    const outer = contained ? catalogue.table(table.kind.of ?? spec.within ?? spec.to).key(container) : undefined;
    const mayLieWithin = contained || spec.inTree || table.kind.within !== undefined;
    const { key } = table.nameRecord(row, mayLieWithin ? keyWithin(outer, pool.text(number)) : pool.text(number));
    table.setText(inLanguage("name", spec.lang), row, pool.text(number));
    if (spec.inTree && contained) table.referenceColumn("parent").set(row, [pool.toRow(spec.to, container, met)]);
    if (spec.within !== undefined)
      table.referenceColumn(present(table.kind.within)).set(row, [pool.toRow(spec.within, container, met)]);
    pool.target.set(number, row);
    this.names(spec, pool.within(number) !== noReference).add(row);
    return { kind: spec.to, key };
  }
}

/** What names no record of the kind it was intended for, and one of the kind that takes what is left, goes there. */
function divertReferences(catalogue: Catalogue, resolver: Resolver): void {
  const { pool } = catalogue;
  for (const table of catalogue.tables)
    for (const { name, reference } of table.kind.fields) {
      const otherwise = reference?.otherwise;
      if (otherwise === undefined || !table.references.has(name)) continue;
      const column = table.referenceColumn(name);
      const { to } = referenceOf(fieldNamed(table.kind, otherwise));
      for (let row = 0; row < table.size; row++) {
        const number = column.first(row);
        if (number < 0 || pool.target.get(number) !== noReference) continue;
        const found = resolver.find(to, pool.spec(number).by, pool.text(number));
        if (found < 0) continue;
        table.referenceColumn(otherwise).set(row, [pool.toRow(to, found, pool.met(number))]);
        column.unset(row);
      }
    }
}

/** Gives records what rows state for them that only refer to them: names in further languages, pictures of categories. */
function applyStatements(catalogue: Catalogue, findings: Findings): void {
  const { pool } = catalogue;
  for (const { reference, field, value, met, entry } of catalogue.statements) {
    const of = pool.target.get(reference);
    if (of === noReference) continue;
    const records = catalogue.table(pool.spec(reference).to);
    const table = entry ? catalogue.table(`${records.name}.${entry.entries}`) : records;
    const row = entry ? entryOf(table, of, entry, met) : of;
    const own = table.text(field, row);
    if (own === undefined) {
      table.setText(field, row, value);
      table.setFieldOrigin(field, row, met);
    } else if (own !== value) {
      const record = { kind: records.kind.name, key: records.key(of) };
      const facts = { ...record, field, here: value, first: own ?? "" };
      const location = { ...locationIn(catalogue.sheets[met.sheet]!, met.line), record };
      findings.add(finding("resolve/statements-disagree", facts, location, [catalogue.location(table, row, field)]));
    }
  }
}

/** The entry that is stated of a record; made, where it has none. */
function entryOf(table: Table, owner: number, { constants, parallel }: StatedEntry, { sheet, line }: Met): number {
  const known = entryLookup(table, constants, parallel).first(owner);
  if (known >= 0) return known;
  const made = table.append(sheet, line, owner);
  for (const [field, value] of Object.entries(constants)) table.setText(field, made, value);
  return made;
}

function reportCreated(created: readonly RecordName[], findings: Findings): void {
  for (const kind of new Set(created.map((one) => one.kind))) {
    const keys = created.filter((one) => one.kind === kind).map((one) => one.key);
    findings.add(finding("resolve/created", { kind, count: keys.length, examples: keys }));
  }
}
