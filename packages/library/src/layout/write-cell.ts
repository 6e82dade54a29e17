/**
 * Writing one cell: for each column a function from a record to text.
 *
 * What a child does not say itself is its parent's, and is written out; its identifiers are its own. A value that a codec cannot
 * write is a finding, and the cell is blank.
 */

import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { noReference } from "../catalogue/reference-pool.js";
import { inLanguage, type Table } from "../catalogue/table.js";
import type { CellValue } from "../codecs/codec.js";
import { finding, type Findings } from "../finding.js";
import { fieldOf, type KindSpec } from "../kind.js";
import {
  fieldName,
  type Binding,
  type Column,
  type Constants,
  type EntryField,
  type PartsPlan,
  type ReferenceShape,
  type Target,
} from "./layout.js";
import type { ReferenceSpec } from "../catalogue/reference-pool.js";
import type { AxisReader } from "./write-axes.js";

/** @param parent the row that contains the record; the record itself where it is not contained. */
export type ToCell = (record: number, parent: number) => string;
type ToValue = (record: number, parent: number) => CellValue | undefined;

export interface CellContext {
  readonly catalogue: ResolvedCatalogue;
  readonly columns: readonly Column[];
  readonly findings: Findings;
  readonly axes: AxisReader;
  /** Records that are not written, and to which nothing is to refer. */
  readonly isLeftOut?: ((kind: string, row: number) => boolean) | undefined;
}

/** @returns undefined when records of this table have nothing that the column shows. */
export function cellWriter(context: CellContext, column: Column, table: Table): ToCell | undefined {
  for (const binding of column.bindings) {
    const toValue = valueOf(context, binding.target, table);
    if (toValue) return toText(context, column, binding, table, toValue);
  }
  return undefined;
}

function toText(
  { catalogue, findings }: CellContext,
  column: Column,
  binding: Binding,
  table: Table,
  toValue: ToValue,
): ToCell {
  const { codec } = binding;
  return (record, parent) => {
    const value = toValue(record, parent);
    if (value === undefined || value.length === 0) return "";
    const text = codec.format(value);
    if (typeof text === "string") return text;
    const field = fieldName(binding.target);
    findings.add(
      finding(
        "write/cannot-be-written",
        { column: column.header, text: text.text, wanted: text.wanted },
        catalogue.place(table, record, field),
      ),
    );
    return "";
  };
}

function valueOf(context: CellContext, target: Target, table: Table): ToValue | undefined {
  const { catalogue } = context;
  switch (target.feeds) {
    case "key":
      return (record) => table.key(record);
    case "shape": {
      const { constant } = target;
      return constant === undefined ? undefined : () => constant;
    }
    case "text":
      return textOf(catalogue, table, target.field);
    case "reference": {
      if (!fieldOf(table.kind, target.field)) return undefined;
      return referencesOf(context, table, target);
    }
    case "referred":
      return fieldOf(table.kind, target.via) && referredValue(context, table, target);
    case "entry":
      return table.kind.entries?.[target.entries] ? entryValue(context, table, target) : undefined;
    case "entries":
      return table.kind.entries?.[target.entries] ? entriesValue(context, table, target) : undefined;
    case "axis":
      if (target.holds === "values") return listedValues(context, table, target.number, target.lang);
      return target.holds === "name"
        ? axisName(context, table, target.number, target.lang)
        : axisValue(context, table, target.number, target.lang);
    case "named-axis":
      return target.holds === "values"
        ? namedAxisValues(context, table, target.axis, target.lang)
        : namedAxisValue(context, table, target.axis, target.lang);
    case "naming":
      return translatedPaths(context, target, table);
  }
}

function textOf(catalogue: ResolvedCatalogue, table: Table, field: string): ToValue | undefined {
  const spec = fieldOf(table.kind, field.split("@")[0]!);
  if (!spec) return undefined;
  const own = table.textColumn(field);
  const above = table.kind.of === undefined ? undefined : catalogue.table(table.kind.of);
  const isOwn = spec.type === "code" || spec.type === "barcode" || !above || !fieldOf(above.kind, spec.name);
  if (isOwn) return (record) => own.get(record) ?? undefined;
  return (record, parent) => {
    const cell = own.get(record);
    return (cell === undefined ? above.text(field, parent) : cell) ?? undefined;
  };
}

/** How a reference is written: the text, or for paths the texts, that name its target. */
function namer(
  catalogue: ResolvedCatalogue,
  spec: ReferenceSpec,
  shape: ReferenceShape,
): (reference: number) => CellValue {
  const { pool } = catalogue;
  const to = catalogue.table(spec.to);
  const children = catalogue.kinds.childOf(spec.to);
  const cache = new Map<number, CellValue>();
  const ofRow = (row: number): CellValue => {
    if (shape === "path" || shape === "paths") return pathOf(catalogue, to, row, spec.lang!);
    if (spec.by === "name") return to.text(inLanguage("name", spec.lang), row) ?? "";
    if (spec.by !== "code") return to.key(row);
    const own = to.text("code", row);
    if (typeof own === "string" || !children) return own ?? "";
    const first = catalogue.table(children.name).childrenOf(row)[0];
    return first === undefined ? "" : (catalogue.table(children.name).text("code", first) ?? "");
  };
  return (reference) => {
    const known = cache.get(reference);
    if (known !== undefined) return known;
    const row = pool.target.get(reference);
    // What names nothing is written as it was given: the rehearsal shows what a platform makes of it.
    const value =
      row === noReference
        ? shape === "path" || shape === "paths"
          ? pool.texts(reference)
          : pool.text(reference)
        : ofRow(row);
    cache.set(reference, value);
    return value;
  };
}

/** The names from the root of the tree down to a record; a cycle is cut where it closes. */
export function pathOf(catalogue: ResolvedCatalogue, table: Table, row: number, lang: string): string[] {
  const names: string[] = [];
  const seen = new Set<number>();
  for (
    let at: number | undefined = row;
    at !== undefined && !seen.has(at);
    at = targetsOf(catalogue, table, "parent", at)[0]
  ) {
    seen.add(at);
    names.push(table.text(inLanguage("name", lang), at) ?? "");
  }
  return names.reverse();
}

function referencesOf(
  context: CellContext,
  table: Table,
  { field, shape, spec, parts }: Extract<Target, { feeds: "reference" }>,
): ToValue {
  const column = table.referenceColumn(field);
  const named = namer(context.catalogue, spec, shape);
  const inParts = parts && recordInParts(context.catalogue, spec, parts);
  const { target } = context.catalogue.pool;
  const name = (reference: number): CellValue =>
    inParts && target.get(reference) !== noReference ? inParts(target.get(reference)) : named(reference);
  const stays = staying(context, spec);
  if (shape === "one" || shape === "path") {
    return (record) => {
      const first = column.first(record);
      return first < 0 || !stays(first) ? undefined : name(first);
    };
  }
  return (record) => column.get(record).filter(stays).map(name);
}

/** A record as the parts of a cell: its name, other fields, and what it contains. */
function recordInParts(
  catalogue: ResolvedCatalogue,
  spec: ReferenceSpec,
  parts: PartsPlan,
): (row: number) => CellValue {
  const to = catalogue.table(spec.to);
  const readers = parts.map((part): ((row: number) => CellValue) => {
    if (part.is === "name") return (row) => ownName(to, spec, row);
    if (part.is === "text") return (row) => to.text(part.field, row) ?? "";
    if (part.is === "reference") throw new Error("a reference is no part of a referenced record");
    const children = catalogue.table(part.spec.to);
    const one = part.parts
      ? recordInParts(catalogue, part.spec, part.parts)
      : (row: number) => ownName(children, part.spec, row);
    return (row) => {
      const all = [...children.childrenOf(row)].map(one);
      return part.list ? all : (all[0] ?? "");
    };
  });
  return (row) => readers.map((read) => read(row));
}

function ownName(table: Table, { by, lang }: ReferenceSpec, row: number): string {
  if (by === "name") return table.text(inLanguage("name", lang), row) ?? "";
  return by === "code" ? (table.text("code", row) ?? "") : table.key(row);
}

/** A field of what the record refers to: of the record, or of one node on the path to it. */
function referredValue(
  context: CellContext,
  table: Table,
  target: Extract<Target, { feeds: "referred" }>,
): ToValue | undefined {
  const { catalogue } = context;
  const to = fieldOf(table.kind, target.via)!.reference!.to;
  const referred = catalogue.table(to);
  const valueOf = (row: number): string => {
    if (target.node === undefined) return referred.text(target.field, row) ?? "";
    const chain: number[] = [];
    for (let at: number | undefined = row; at !== undefined && !chain.includes(at);)
      at = (chain.unshift(at), targetsOf(catalogue, referred, "parent", at)[0]);
    const node = chain[target.node - 1];
    return node === undefined ? "" : (referred.text(target.field, node) ?? "");
  };
  return (record) => {
    const values = targetsOf(catalogue, table, target.via, record).map(valueOf);
    if (!target.list) return values[0];
    return values.every((value) => value === "") ? undefined : values;
  };
}

/** The references of a list one by one, for lanes: what there is, and how each is written. */
export function listedReferences(
  context: CellContext,
  table: Table,
  { field, shape, spec }: Extract<Target, { feeds: "reference" }>,
): { readonly elementsOf: (record: number) => number[]; readonly nameOf: (reference: number) => CellValue } {
  const column = table.referenceColumn(field);
  const stays = staying(context, spec);
  return { elementsOf: (record) => column.get(record).filter(stays), nameOf: namer(context.catalogue, spec, shape) };
}

function staying({ catalogue, isLeftOut }: CellContext, spec: ReferenceSpec): (reference: number) => boolean {
  return isLeftOut ? (reference) => !isLeftOut(spec.to, catalogue.pool.target.get(reference)) : () => true;
}

/** Tells the entries that a column with constants stands for: those whose key has no more to it than the constants. */
export function plainEntries(
  entries: Table,
  constants: Constants,
  but: readonly string[] = [],
): (row: number) => boolean {
  const wanted = Object.entries(constants).map(([field, value]) => ({ column: entries.textColumn(field), value }));
  const others = entries.kind.entryKey!.filter((field) => !but.includes(field) && !Object.hasOwn(constants, field));
  const isReference = (name: string) => fieldOf(entries.kind, name)?.reference !== undefined;
  const texts = others.filter((name) => !isReference(name)).map((name) => entries.textColumn(name));
  const references = others.filter(isReference).map((name) => entries.referenceColumn(name));
  return (row) => {
    for (const { column, value } of wanted) if (column.get(row) !== value) return false;
    for (const column of texts) if (column.get(row) !== undefined) return false;
    for (const column of references) if (column.first(row) >= 0) return false;
    return true;
  };
}

function entryValue(
  context: CellContext,
  table: Table,
  { entries: name, constants, field, parallel }: Extract<Target, { feeds: "entry" }>,
): ToValue {
  const { catalogue } = context;
  const of = (kind: KindSpec | undefined) => {
    if (!kind?.entries?.[name]) return undefined;
    const entries = catalogue.table(`${kind.name}.${name}`);
    const fits = plainEntries(entries, constants, [field.name, ...parallel]);
    return { entries, fits, read: entryField(context, field, entries) };
  };
  const own = of(table.kind)!;
  const above = table.kind.of === undefined ? undefined : of(catalogue.kinds.get(table.kind.of));
  // A list that runs beside others keeps its places, also where an entry lacks this field.
  const isBeside = parallel.length > 1;
  const valueIn = ({ entries, fits, read }: typeof own, owner: number): CellValue | undefined => {
    if (field.list) {
      const list = entries.childrenWhere(owner, fits).map((row) => read(row) ?? "");
      if (!isBeside) return list.filter((value) => value !== "");
      return list.every((value) => value === "") ? undefined : list;
    }
    const row = entries.findChild(owner, fits);
    return row < 0 ? undefined : read(row);
  };
  return (record, parent) => {
    const value = valueIn(own, record);
    return above && (value === undefined || value.length === 0) ? valueIn(above, parent) : value;
  };
}

/** Whole entries, each in parts. */
function entriesValue(
  context: CellContext,
  table: Table,
  { entries: name, constants, list, parts }: Extract<Target, { feeds: "entries" }>,
): ToValue {
  const entries = context.catalogue.table(`${table.kind.name}.${name}`);
  const fields = parts.flatMap((part): EntryField[] => {
    if (part.is === "text") return [{ is: "text", name: part.field, list: false }];
    return part.is === "reference" ? [{ is: "reference", name: part.field, list: false, spec: part.spec }] : [];
  });
  const readers = fields.map((field) => entryField(context, field, entries));
  const names = fields.map((field) => field.name);
  const isPossible = plainEntries(entries, constants, names);
  // Entries that have no more to their key than the constants may have columns of their own.
  const isPlain = plainEntries(entries, constants);
  const hasOwnColumn = context.columns.some(({ bindings }) =>
    bindings.some(
      ({ target }) =>
        target.feeds === "entry" &&
        target.entries === name &&
        JSON.stringify(target.constants) === JSON.stringify(constants),
    ),
  );
  const fits = hasOwnColumn ? (row: number) => isPossible(row) && !isPlain(row) : isPossible;
  return (record) => {
    const all = entries.childrenWhere(record, fits).map((row) => readers.map((read) => read(row) ?? ""));
    return list ? all : all[0];
  };
}

/** What an entry's field holds. */
export function entryField(
  context: CellContext,
  field: EntryField,
  entries: Table,
): (row: number) => string | undefined {
  if (field.is === "text") {
    const column = entries.textColumn(field.name);
    return (row) => column.get(row) ?? undefined;
  }
  const name = namer(context.catalogue, field.spec, "one");
  const stays = staying(context, field.spec);
  const column = entries.referenceColumn(field.name);
  return (row) => {
    const first = column.first(row);
    return first < 0 || !stays(first) ? undefined : (name(first) as string);
  };
}

function axisName({ axes }: CellContext, table: Table, number: number, lang: string): ToValue | undefined {
  if (!fieldOf(table.kind, "axes")) return undefined;
  const name = axes.names("axis", lang);
  return (record) => name(axes.axesOf(record)[number - 1]);
}

function axisValue({ axes }: CellContext, table: Table, number: number, lang: string): ToValue | undefined {
  if (!fieldOf(table.kind, "values")) return undefined;
  const name = axes.names("value", lang);
  return (record, parent) => name(axes.valuesOf(record, parent)[number - 1]);
}

function namedAxisValue({ axes }: CellContext, table: Table, named: string, lang: string): ToValue | undefined {
  if (!fieldOf(table.kind, "values")) return undefined;
  const axisName = axes.names("axis", lang);
  const valueName = axes.names("value", lang);
  return (record, parent) => {
    const position = axes.axesOf(parent).findIndex((axis) => axisName(axis) === named);
    return valueName(axes.valuesOf(record, parent)[position]);
  };
}

/** The values that a product's variants have on one of its axes, in the order in which they come. */
function listedValues(
  { catalogue, axes }: CellContext,
  table: Table,
  number: number | ((product: number) => number),
  lang: string,
): ToValue | undefined {
  if (!fieldOf(table.kind, "axes")) return undefined;
  const name = axes.names("value", lang);
  const variants = catalogue.table("variant");
  return (product) => {
    const position = typeof number === "number" ? number - 1 : number(product);
    const used = new Set<number>();
    for (const variant of variants.childrenOf(product)) {
      const value = axes.valuesOf(variant, product)[position];
      if (value !== undefined) used.add(value);
    }
    const names = [...used].map((value) => name(value) ?? "");
    return names.some((one) => one === "") ? undefined : names;
  };
}

function namedAxisValues(context: CellContext, table: Table, named: string, lang: string): ToValue | undefined {
  const axisName = context.axes.names("axis", lang);
  const position = (product: number) => context.axes.axesOf(product).findIndex((axis) => axisName(axis) === named);
  return listedValues(context, table, position, lang);
}

/** The paths of another column in another language; nothing where one of the nodes has no name in it. */
function translatedPaths(
  { catalogue, columns }: CellContext,
  target: Extract<Target, { feeds: "naming" }>,
  table: Table,
): ToValue | undefined {
  const beside = columns[target.beside]?.bindings[0]?.target;
  if (beside?.feeds !== "reference" || !fieldOf(table.kind, beside.field)) return undefined;
  const to = catalogue.table(beside.spec.to);
  const column = table.referenceColumn(beside.field);
  const cache = new Map<number, readonly string[]>();
  const inOther = (reference: number): readonly string[] => {
    let path = cache.get(reference);
    if (path) return path;
    const row = catalogue.pool.target.get(reference);
    path = row === noReference ? [] : pathOf(catalogue, to, row, target.lang);
    cache.set(reference, path);
    return path;
  };
  return (record) => {
    const paths = column.get(record).map(inOther);
    if (paths.some((path) => path.length === 0 || path.includes(""))) return undefined;
    return target.list ? paths : paths[0];
  };
}
