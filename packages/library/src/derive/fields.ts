/** Reading and setting the field that a rule makes: of a record, of one of its entries, or a reference. */

import { firstOf, present } from "../checked.js";
import { splitLanguage } from "../field-name.js";
import { entryKeyOf, referenceOf } from "../kind.js";
import type { Catalogue } from "../catalogue/catalogue.js";
import { noReference, type ReferenceSpec } from "../catalogue/reference-pool.js";
import type { Table } from "../catalogue/table.js";
import { isProblem, type CellValue } from "../codecs/codec.js";
import { entryLookup } from "../catalogue/entry-lookup.js";
import type { FieldName, DeriveRule } from "./compile.js";
import type { Text } from "../phrases/phrase.js";

/** How the field of a rule is set. @param sheet of the project file, from which its values come. @param say reports what a value is not. */
export function fieldSetter(
  catalogue: Catalogue,
  { field: target, reference, at }: DeriveRule,
  sheet: number,
  say: (row: number, problem: Text) => void,
): (row: number, value: string) => void {
  const table = catalogue.table(target.kind.name);
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
    let entry = before(row).find((one) => fits(one));
    if (entry === undefined) {
      entry = entries.append(sheet, origin.line, row);
      entries.setText(firstOf(entryKeyOf(embedded)), entry, constant);
    } else entries.setFieldOrigin(target.name, entry, origin);
    entries.setText(target.name, entry, value);
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
  if (!entry) return (row) => table.text(name, row) ?? undefined;
  const entries = catalogue.table(`${kind.name}.${entry.entries}`);
  const { constant } = entry;
  const fits = entryLookup(entries, constant === undefined ? {} : { [firstOf(entryKeyOf(entry.embedded))]: constant }, [
    name,
  ]).has;
  const before = entries.childrenNow();
  if (field.reference) return (row) => (before(row).some((one) => fits(one)) ? "set" : undefined);
  return (row) => {
    const found = before(row).find((one) => fits(one));
    return found === undefined ? undefined : (entries.text(name, found) ?? undefined);
  };
}
