/**
 * The balance of every field: each value that a record had is in what became of it, unless the operation decides the field; and no value
 * is new. What is sold keeps its values by its code, also where it becomes a variant, or a product of its own.
 */

import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { sellables, sellableText, type Sellable } from "../catalogue/sellables.js";
import { fieldOfColumn } from "../field-name.js";
import { referenceOf, type KindSpec } from "../kind.js";
import { phrase } from "../phrases/phrase.js";
import type { BalanceLine } from "./balance.js";
import { sellableParts, soldReferences, soldTexts } from "./sellable-parts.js";
import { pushAll } from "../lists.js";

/** What has a line of its own in the balance of codes, prices and so on. */
const elsewhere: ReadonlySet<string> = new Set(["code", "prices", "stock", "components", "pictures", "relations"]);

/** The records and fields that an operation changes on purpose. */
export interface ExplainedFields {
  /** Codes that are called otherwise: old to new. */
  readonly codes: ReadonlyMap<string, string>;
  /** By kind, records that are others now: old key to new keys, none for what is left out. */
  readonly records: ReadonlyMap<string, ReadonlyMap<string, readonly string[]>>;
  /** By kind, the keys of records that it made. */
  readonly made: ReadonlyMap<string, ReadonlySet<string>>;
  /** By kind and key, as they are now: fields whose values the operation decides. */
  readonly set: ReadonlyMap<string, ReadonlyMap<string, ReadonlySet<string>>>;
}

interface Sides {
  readonly before: ResolvedCatalogue;
  readonly after: ResolvedCatalogue;
  readonly explained: ExplainedFields;
}

/** One line for each field that is not as it was in all records. */
export function fieldBalance(
  before: ResolvedCatalogue,
  after: ResolvedCatalogue,
  explained: ExplainedFields,
): BalanceLine[] {
  const sides: Sides = { before, after, explained };
  const lines = soldLines(sides);
  for (const kind of before.kinds.all) if (!kind.entryKey) pushAll(lines, recordLines(sides, kind));
  return lines.filter((line) => line.unexplained.length > 0 || line.because !== undefined);
}

/** The fields of what is sold, by its code. */
function soldLines({ before, after, explained }: Sides): BalanceLine[] {
  const now = new Map<string, Sellable>();
  for (const one of sellables(after)) {
    const code = one.table.text("code", one.row);
    if (typeof code === "string" && !now.has(code)) now.set(code, one);
  }
  // Of a code that is there twice, which is an error of the sources, the first is looked at.
  const pairs = new Map<string, { readonly then: Sellable; readonly now: Sellable }>();
  for (const then of sellables(before)) {
    const code = then.table.text("code", then.row);
    const codeNow = typeof code === "string" ? (explained.codes.get(code) ?? code) : "";
    const found = now.get(codeNow);
    if (found && !pairs.has(codeNow)) pairs.set(codeNow, { then, now: found });
  }
  return soldValues(before, after).map(({ field, had, has }) => {
    const line = counter();
    for (const [code, { then, now }] of pairs)
      line.add(had(then), has(now), isSetIn(explained, now.table, now.row, field), code);
    return line.as(field);
  });
}

/** How to read each field and each list of what is sold, on both sides. */
function soldValues(before: ResolvedCatalogue, after: ResolvedCatalogue) {
  const { kinds } = before;
  const tables = [before, after].flatMap((one) => [one.table("product"), one.table("variant")]);
  const texts = new Map(tables.flatMap((table) => soldTexts(kinds, table)).map((one) => [one.field, one.isOwn]));
  const references = new Set(tables.flatMap((table) => soldReferences(kinds, table)));
  const lists = sellableParts(kinds).entries.filter(
    (name) => !elsewhere.has(name) && (hasEntries(before, name) || hasEntries(after, name)),
  );
  const both = (field: string, read: (catalogue: ResolvedCatalogue, one: Sellable) => string) => ({
    field,
    had: (one: Sellable) => read(before, one),
    has: (one: Sellable) => read(after, one),
  });
  return [
    ...[...texts]
      .filter(([field]) => !elsewhere.has(field))
      .map(([field, isOwn]) =>
        both(field, (catalogue, one) =>
          isOwn ? (one.table.text(field, one.row) ?? "") : (sellableText(catalogue, one, field) ?? ""),
        ),
      ),
    ...[...references].map((field) => both(field, (catalogue, one) => referredOf(catalogue, one, field))),
    ...lists.map((name) => both(name, (catalogue, one) => entriesOf(catalogue, one, name))),
  ];
}

/** What a sellable refers to, by itself or else by its product. */
function referredOf(catalogue: ResolvedCatalogue, { table, row, product }: Sellable, field: string): string {
  const products = catalogue.table("product");
  const isOwn = table.references.get(field)?.isSet(row) ?? false;
  const rows = isOwn ? targetsIn(catalogue, table, field, row) : targetsIn(catalogue, products, field, product);
  const { to } = referenceOf(products.kind.fields.find(({ name }) => name === field) ?? { name: field });
  return rows.map((one) => catalogue.table(to).key(one)).join();
}

const hasEntries = (catalogue: ResolvedCatalogue, name: string): boolean =>
  catalogue.table(`product.${name}`).size + catalogue.table(`variant.${name}`).size > 0;

/** The entries of what is sold, its own or else its product's, as one text. */
function entriesOf(catalogue: ResolvedCatalogue, { table, row, product }: Sellable, name: string): string {
  const own = contents(catalogue, catalogue.table(`${table.name}.${name}`), row);
  const all =
    own.length > 0 || table.name === "product" ? own : contents(catalogue, catalogue.table(`product.${name}`), product);
  return all.join("\n");
}

/** The fields of the records of a kind, what contains them, and their entries. */
function recordLines(sides: Sides, kind: KindSpec): BalanceLine[] {
  const { before, after, explained } = sides;
  const [then, now] = [before.table(kind.name), after.table(kind.name)];
  if (then.size === 0 && now.size === 0) return [];
  const sold = kind.name === "product" || kind.name === "variant" ? new Set(sellableParts(before.kinds).fields) : none;
  const sources = sourcesOf(sides, kind.name);
  const lines: BalanceLine[] = [];
  lines.push(recordsLine(sides, kind.name, sources));
  const collect = (name: string, had: ValuesOf, has: ValuesOf, isOneOf = false) => {
    const line = counter();
    sources.forEach((from, row) => {
      if (from.length === 0) return;
      const isSet = isSetIn(explained, now, row, name);
      line.compare(from.flatMap(had), has(row), isSet, now.key(row), isOneOf);
    });
    lines.push(line.as(`${kind.name}.${name}`));
  };
  for (const field of new Set([...then.texts.keys(), ...now.texts.keys()])) {
    if (sold.has(fieldOfColumn(field)) || (kind.name === "product" && (field === "id" || field === "position")))
      continue;
    const text =
      (table: ReadonlyTable): ValuesOf =>
      (row) => {
        const value = table.texts.get(field)?.get(row) ?? "";
        return value === "" ? nothing : [value];
      };
    collect(field, text(then), text(now));
  }
  for (const field of new Set([...then.references.keys(), ...now.references.keys()])) {
    if (sold.has(field)) continue;
    const { to, list } = referenceOf(kind.fields.find(({ name }) => name === field) ?? { name: field });
    collect(
      field,
      (row) => targetsIn(before, then, field, row).flatMap((one) => keysNow(explained, to, before.table(to).key(one))),
      (row) => targetsIn(after, now, field, row).map((one) => after.table(to).key(one)),
      !list,
    );
  }
  if (kind.of !== undefined) {
    const owners = kind.of;
    collect(
      owners,
      (row) =>
        then.parent(row) < 0 ? nothing : keysNow(explained, owners, before.table(owners).key(then.parent(row))),
      (row) => (now.parent(row) < 0 ? nothing : [after.table(owners).key(now.parent(row))]),
      true,
    );
  }
  const parts: ReadonlySet<string> = sold === none ? none : new Set(sellableParts(before.kinds).entries);
  for (const name of Object.keys(kind.entries ?? {})) {
    if (elsewhere.has(name) || parts.has(name) || name === "redirects") continue;
    const [thenTable, nowTable] = [before.table(`${kind.name}.${name}`), after.table(`${kind.name}.${name}`)];
    if (thenTable.size === 0 && nowTable.size === 0) continue;
    collect(
      name,
      (row) => contents(before, thenTable, row, explained),
      (row) => contents(after, nowTable, row),
    );
  }
  return lines;
}

/** The records themselves: none is lost, and none is there that the operation did not make. */
function recordsLine(
  { before, after, explained }: Sides,
  kind: string,
  sources: readonly (readonly number[])[],
): BalanceLine {
  const [then, now] = [before.table(kind), after.table(kind)];
  const unexplained = [...then.keys()].filter((key) => {
    const keys = keysNow(explained, kind, key);
    return keys.length > 0 && !keys.some((one) => now.find(one) !== undefined);
  });
  sources.forEach((from, row) => {
    if (from.length === 0 && !explained.made.get(kind)?.has(now.key(row))) unexplained.push(now.key(row));
  });
  const because = then.size === now.size ? undefined : phrase("made or joined by the operation");
  return { what: kind, before: then.size, after: now.size, because, unexplained };
}

type ValuesOf = (row: number) => readonly string[];
const none: ReadonlySet<string> = new Set();
const nothing: readonly string[] = [];

/** By row as it is now: the rows that it came of. */
function sourcesOf({ before, after, explained }: Sides, kind: string): readonly (readonly number[])[] {
  const [then, now] = [before.table(kind), after.table(kind)];
  const sources: number[][] = Array.from({ length: now.size }, () => []);
  for (let row = 0; row < then.size; row++)
    for (const key of keysNow(explained, kind, then.key(row))) {
      const found = now.find(key);
      if (found !== undefined) sources[found]!.push(row);
    }
  return sources;
}

function keysNow({ records }: ExplainedFields, kind: string, key: string): readonly string[] {
  return records.get(kind)?.get(key) ?? [key];
}

/** Whether the operation decides a field, or the entries of a name: `properties` where it decides `properties(Wood)`. */
function isSetIn({ set }: ExplainedFields, table: ReadonlyTable, row: number, field: string): boolean {
  const fields = set.get(table.name)?.get(table.key(row));
  return fields !== undefined && [...fields].some((one) => one === field || one.startsWith(`${field}(`));
}

const targetsIn = (catalogue: ResolvedCatalogue, table: ReadonlyTable, field: string, row: number) =>
  table.references.get(field)?.isSet(row) ? targetsOf(catalogue, table, field, row) : [];

/** The entries of a record, each as one text, sorted. @param explained what became of the records that they refer to. */
function contents(
  catalogue: ResolvedCatalogue,
  entries: ReadonlyTable,
  owner: number,
  explained?: ExplainedFields,
): string[] {
  const texts = [...entries.texts.keys()].sort();
  const references = [...entries.references.keys()].sort();
  const made = [...entries.childrenOf(owner)].map((entry) =>
    JSON.stringify([
      ...texts.map((field) => [field, entries.text(field, entry) ?? ""]).filter(([, value]) => value !== ""),
      ...references.map((field) => {
        const { to } = referenceOf(entries.kind.fields.find(({ name }) => name === field) ?? { name: field });
        const keys = targetsIn(catalogue, entries, field, entry).map((row) => catalogue.table(to).key(row));
        return [field, explained ? keys.flatMap((key) => keysNow(explained, to, key)) : keys];
      }),
    ]),
  );
  return made.sort();
}

interface Counter {
  /** One value in a record then and now; blank where it has none. */
  add(had: string, has: string, isSet: boolean, record: string): void;
  /** All values in the records that one came of, and in the one. @param isOneOf the one has room for one of them. */
  compare(had: readonly string[], has: readonly string[], isSet: boolean, record: string, isOneOf: boolean): void;
  as(what: string): BalanceLine;
}

function counter(): Counter {
  let [before, after, set] = [0, 0, 0];
  const unexplained: string[] = [];
  const tell = (isSet: boolean, record: string) => {
    if (isSet) set++;
    else unexplained.push(record);
  };
  return {
    add(had, has, isSet, record) {
      if (had !== "") before++;
      if (has !== "") after++;
      if (had !== has) tell(isSet, record);
    },
    compare(had, has, isSet, record, isOneOf) {
      before += had.length;
      after += has.length;
      const [one] = has;
      if (isOneOf && one !== undefined ? had.includes(one) : isSame(had, has)) return;
      tell(isSet, record);
    },
    as: (what) => ({
      what,
      before,
      after,
      because: set > 0 ? phrase("set by the operation ({0})", set) : undefined,
      unexplained,
    }),
  };
}

function isSame(had: readonly string[], has: readonly string[]): boolean {
  if (had.length === 0 && has.length === 0) return true;
  const [then, now] = [new Set(had), new Set(has)];
  return then.size === now.size && [...then].every((one) => now.has(one));
}
