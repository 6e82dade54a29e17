/** What the cells of entries show: a field of the entry with the column's constants, lists of them, whole entries in parts. */

import { present } from "../../checked.js";
import { referenceFields } from "../../catalogue/catalogue.js";
import { entryLookup } from "../../catalogue/entry-lookup.js";
import type { ReferenceSpec } from "../../catalogue/reference-pool.js";
import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import { isUnwritable, unwritable, type CellValue, type Unwritable } from "../../codecs/codec.js";
import { phrase } from "../../phrases/phrase.js";
import { fieldNamed, referenceOf, fieldOf, type KindSpec } from "../../kind.js";
import type { EntryField, Feed } from "../layout.js";
import { namedIn } from "../named-constants.js";
import type { CellContext, ToValue } from "./context.js";
import { misledNames } from "./belonging.js";
import { namer, staying } from "./references.js";

/** Of entries that fit those that are written: not what leads to what is left out, as a price for a customer group that is held back. */
export function entriesWritten(
  { catalogue, isLeftOut }: CellContext,
  entries: ReadonlyTable,
  fits: (row: number) => boolean,
): (row: number) => boolean {
  if (!isLeftOut) return fits;
  const { target } = catalogue.pool;
  const references = referenceFields(entries.kind).flatMap(({ name, to }) => {
    const column = entries.references.get(name);
    return column ? [{ column, to }] : [];
  });
  if (references.length === 0) return fits;
  return (row) =>
    fits(row) &&
    references.every(({ column, to }) => column.get(row).every((number) => !isLeftOut(to, target.get(number))));
}

export function entryValue(
  context: CellContext,
  table: ReadonlyTable,
  { entries: name, constants, named, field, parallel }: Extract<Feed, { is: "entry" }>,
): ToValue {
  const { catalogue } = context;
  const isNamed = namedIn(catalogue, constants, named);
  const of = (kind: KindSpec | undefined) => {
    if (!kind?.entries?.[name]) return undefined;
    const entries = catalogue.table(`${kind.name}.${name}`);
    const { has } = entryLookup(entries, constants, [field.name, ...parallel], isNamed);
    const fits = entriesWritten(context, entries, has);
    return { entries, fits, read: entryField(context, field, entries) };
  };
  const own = present(of(table.kind));
  const above = table.kind.of === undefined ? undefined : of(catalogue.kinds.get(table.kind.of));
  // A list that runs beside others keeps its places, also where an entry lacks this field.
  const isBeside = parallel.length > 1;
  const valueIn = ({ entries, fits, read }: typeof own, owner: number): CellValue | Unwritable | undefined => {
    if (field.list) {
      const list = wholeList(entries.childrenWhere(owner, fits).map((row) => read(row) ?? ""));
      if (isUnwritable(list)) return list;
      if (!isBeside) return list.filter((value) => value !== "");
      return list.every((value) => value === "") ? undefined : list;
    }
    // What is taken over from the parent may be one of several.
    if (entries !== own.entries) {
      const row = entries.findChild(owner, fits);
      return row < 0 ? undefined : read(row);
    }
    const rows = entries.childrenWhere(owner, fits);
    if (rows.length === 0) return undefined;
    return rows.length === 1 ? read(rows[0]!) : severalEntries(rows.map(read));
  };
  return (record, parent) => {
    const value = valueIn(own, record);
    const isNothing = value === undefined || (!isUnwritable(value) && value.length === 0);
    return above && isNothing ? valueIn(above, parent) : value;
  };
}

/** Whole entries, each in parts. */
export function entriesValue(
  context: CellContext,
  table: ReadonlyTable,
  { entries: name, constants, named, list, parts }: Extract<Feed, { is: "entries" }>,
): ToValue {
  const entries = context.catalogue.table(`${table.kind.name}.${name}`);
  const fields = parts.flatMap((part): EntryField[] => {
    if (part.is === "text") return [{ is: "text", name: part.field, list: false }];
    return part.is === "reference" ? [{ is: "reference", name: part.field, list: false, spec: part.spec }] : [];
  });
  const readers = fields.map((field) => entryField(context, field, entries));
  const names = fields.map((field) => field.name);
  const isNamed = namedIn(context.catalogue, constants, named);
  const isPossible = entryLookup(entries, constants, names, isNamed).has;
  // Entries that have no more to their key than the constants may have columns of their own.
  const isPlain = entryLookup(entries, constants, [], isNamed).has;
  const hasOwnColumn = context.columns.some(({ bindings }) =>
    bindings.some(
      ({ feed: target }) =>
        target.is === "entry" &&
        target.entries === name &&
        JSON.stringify(target.constants) === JSON.stringify(constants),
    ),
  );
  const isOwn = hasOwnColumn ? (row: number) => isPossible(row) && !isPlain(row) : isPossible;
  const fits = entriesWritten(context, entries, isOwn);
  return (record) => {
    const all = wholeList(
      entries.childrenWhere(record, fits).map((row) => wholeList(readers.map((read) => read(row) ?? ""))),
    );
    if (isUnwritable(all)) return all;
    return !list && all.length > 1 ? severalEntries(all.map((parts) => parts.join(" "))) : list ? all : all[0];
  };
}

/** A list none of whose values is unwritable; else the first that is. */
function wholeList<T extends CellValue>(values: readonly (T | Unwritable)[]): readonly T[] | Unwritable {
  const problem = values.find((value) => isUnwritable(value));
  return problem ?? (values as readonly T[]);
}

const severalEntries = (values: readonly (string | Unwritable | undefined)[]): Unwritable =>
  unwritable(
    values.flatMap((one) => (one === undefined ? [] : isUnwritable(one) ? one.text : one)).join(", "),
    phrase("one entry, not several"),
  );

/** What an entry's field holds. */
export function entryField(
  context: CellContext,
  field: EntryField,
  entries: ReadonlyTable,
): (row: number) => string | Unwritable | undefined {
  if (field.is === "text") {
    const column = entries.textsOf(field.name);
    return (row) => column.get(row) ?? undefined;
  }
  const own = referenceReader(context, entries, field.name, field.spec);
  // What the field could not take is in the field for that: a component may be a product.
  const otherwise = fieldOf(entries.kind, field.name)?.reference?.otherwise;
  if (otherwise === undefined) return own;
  const { to } = referenceOf(fieldNamed(entries.kind, otherwise));
  const other = referenceReader(context, entries, otherwise, { ...field.spec, to });
  return (row) => own(row) ?? other(row);
}

function referenceReader(
  context: CellContext,
  entries: ReadonlyTable,
  field: string,
  spec: ReferenceSpec,
): (row: number) => string | Unwritable | undefined {
  const name = namer(context.catalogue, spec, "one");
  const misled = misledNames(context, spec);
  const stays = staying(context, spec);
  const column = entries.referencesOf(field);
  return (row) => {
    const first = column.first(row);
    if (first < 0 || !stays(first)) return undefined;
    return misled?.(first, entries.parent(row)) ?? (name(first) as string);
  };
}
