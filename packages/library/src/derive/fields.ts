/** Reading and setting the field that a rule makes: of a record, of one of its entries, or a reference. */

import { firstOf, present } from "../checked.js";
import { splitLanguage } from "../field-name.js";
import { entryKeyOf, referenceOf } from "../kind.js";
import type { Catalogue } from "../catalogue/catalogue.js";
import { noReference, type ReferenceSpec } from "../catalogue/reference-pool.js";
import type { Table } from "../catalogue/table.js";
import { isProblem, type CellValue } from "../codecs/codec.js";
import { entryLookup } from "../catalogue/entry-lookup.js";
import { keyField, type FieldName, type DeriveRule } from "./compile.js";
import { phrase, type Text } from "../phrases/phrase.js";

export interface FieldSetter {
  readonly set: (row: number, value: string) => void;
  /** Once all values are known. @returns how many could not be set. */
  readonly end: () => number;
}

/** How the field of a rule is set. @param sheet of the project file, from which its values come. @param say reports what a value is not. */
export function fieldSetter(
  catalogue: Catalogue,
  rule: DeriveRule,
  sheet: number,
  say: (row: number, problem: Text) => void,
): FieldSetter {
  const table = catalogue.table(rule.field.kind.name);
  if (rule.field.field === keyField) return keySetter(table, say);
  return { set: valueSetter(catalogue, table, rule, sheet, say), end: () => 0 };
}

function valueSetter(
  catalogue: Catalogue,
  table: Table,
  { field: target, reference, at }: DeriveRule,
  sheet: number,
  say: (row: number, problem: Text) => void,
): FieldSetter["set"] {
  const origin = { sheet, line: at.line ?? 1 };
  if (target.field.reference) return referenceSetter(catalogue, table, target, present(reference), origin, say);
  if (!target.entry) {
    return (row, value) => {
      table.setText(target.name, row, value);
      table.setFieldOrigin(target.name, row, origin);
    };
  }
  const { entries: name, embedded, constant = "" } = target.entry;
  const entries = catalogue.table(`${table.name}.${name}`);
  const fits = entryLookup(entries, { [firstOf(entryKeyOf(embedded))]: constant }, [target.name]).has;
  const before = entries.childrenNow();
  return (row, value) => {
    let entry = before.find(row, fits);
    if (entry < 0) {
      entry = entries.append(sheet, origin.line, row);
      entries.setText(firstOf(entryKeyOf(embedded)), entry, constant);
    } else entries.setFieldOrigin(target.name, entry, origin);
    entries.setText(target.name, entry, value);
  };
}

/** Keys change all at once: one may take the key that another gives up. Of two records with one key the first has it. */
function keySetter(table: Table, say: (row: number, problem: Text) => void): FieldSetter {
  const wanted = new Map<number, string>();
  const owners = new Map<string, number>();
  /** What stays what it was called takes that from the one that was to be called so, and so on. */
  const keep = (first: number): void => {
    for (let row: number | undefined = first; row !== undefined;) {
      say(row, phrase('{0} "{1}" already exists', table.kind.name, present(wanted.get(row))));
      wanted.delete(row);
      const own = table.key(row);
      const other = owners.get(own);
      owners.set(own, row);
      row = other;
    }
  };
  return {
    set: (row, value) => wanted.set(row, value),
    end: () => {
      for (let row = 0; row < table.size; row++) if (!wanted.has(row)) owners.set(table.key(row), row);
      const given = wanted.size;
      for (const [row, value] of [...wanted]) {
        if (owners.has(value)) keep(row);
        else owners.set(value, row);
      }
      table.renameAll(wanted);
      return given - wanted.size;
    },
  };
}

function referenceSetter(
  catalogue: Catalogue,
  table: Table,
  { field, name, entry }: FieldName,
  { codec, list, path, by }: NonNullable<DeriveRule["reference"]>,
  origin: { readonly sheet: number; readonly line: number },
  say: (row: number, problem: Text) => void,
): (row: number, value: string) => void {
  const { pool } = catalogue;
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
  const entries = entry && catalogue.table(`${table.name}.${entry.entries}`);
  const column = (entries ?? table).referenceColumn(name);
  const intern = (one: CellValue): number =>
    path
      ? (one as readonly string[]).reduce((within, node) => pool.intern(number, within, node, origin), noReference)
      : pool.intern(number, noReference, one as string, origin);
  return (row, value) => {
    const parsed = codec.parse(value);
    if (isProblem(parsed)) {
      say(row, `"${parsed.text}" is not ${parsed.wanted}`);
      return;
    }
    const numbers = (list ? (parsed as readonly CellValue[]) : [parsed]).map(intern);
    if (!entries || !entry) {
      column.set(row, numbers);
      table.setFieldOrigin(name, row, origin);
      return;
    }
    // Of entries each has one.
    for (const number of numbers) {
      const made = entries.append(origin.sheet, origin.line, row);
      if (entry.constant !== undefined) entries.setText(firstOf(entryKeyOf(entry.embedded)), made, entry.constant);
      column.set(made, [number]);
    }
  };
}

/** How a field of a record is read; undefined where it is absent. */
export function fieldReader(
  catalogue: Catalogue,
  { kind, field, name, entry }: FieldName,
): (row: number) => string | undefined {
  const table = catalogue.table(kind.name);
  if (field.reference && !entry) {
    const column = table.referenceColumn(name);
    return (row) => (column.isSet(row) ? "set" : undefined);
  }
  if (field === keyField) return (row) => table.key(row);
  if (!entry) return (row) => table.text(name, row) ?? undefined;
  const entries = catalogue.table(`${kind.name}.${entry.entries}`);
  const { constant } = entry;
  const fits = entryLookup(entries, constant === undefined ? {} : { [firstOf(entryKeyOf(entry.embedded))]: constant }, [
    name,
  ]).has;
  const before = entries.childrenNow();
  if (field.reference) return (row) => (before.find(row, fits) < 0 ? undefined : "set");
  return (row) => {
    const found = before.find(row, fits);
    return found < 0 ? undefined : (entries.text(name, found) ?? undefined);
  };
}
