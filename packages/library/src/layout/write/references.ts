/** What the cells of references show: names, paths, codes; in parts, further fields; fields of what is referred to. */

import { present } from "../../checked.js";
import type { Lang } from "../../nominal.js";
import { inLanguage } from "../../field-name.js";
import { targetsOf, type ResolvedCatalogue } from "../../catalogue/catalogue.js";
import { pathOf } from "../../catalogue/path.js";
import { formsOf, noReference, type ReferenceSpec } from "../../catalogue/reference-pool.js";
import type { ReadonlyTable } from "../../catalogue/readonly-table.js";
import { unwritable, type CellValue, type Unwritable } from "../../codecs/codec.js";
import { phrase } from "../../phrases/phrase.js";
import { fieldNamed, referenceOf, fieldOf } from "../../kind.js";
import { entryLookup } from "../../catalogue/entry-lookup.js";
import { namedIn } from "../named-constants.js";
import type { PartsPlan, ReferenceShape, Feed } from "../layout.js";
import { misledNames, type Misled } from "./belonging.js";
import type { CellContext, ToValue } from "./context.js";

/** How a reference is written: the text, or for paths the texts, that name its target. */
export function namer(
  catalogue: ResolvedCatalogue,
  spec: ReferenceSpec,
  shape: ReferenceShape,
): (reference: number) => CellValue {
  const { pool } = catalogue;
  const to = catalogue.table(spec.to);
  const children = catalogue.kinds.childOf(spec.to);
  const cache = new Map<number, CellValue>();
  const ofRow = (row: number): CellValue => {
    if (spec.or) return firstForm(to, spec, row);
    if (shape === "path" || shape === "paths") return pathOf(catalogue, to, row, present(spec.lang));
    if (spec.by === "name") return to.text(inLanguage("name", spec.lang), row) ?? "";
    if (spec.by === "id") return to.text("id", row) ?? "";
    if (spec.by !== "code") return to.key(row);
    const own = to.text("code", row);
    return typeof own === "string" || !children ? (own ?? "") : to.key(row);
  };
  /** A product with variants that its source named by the code of one of them is named so again. */
  const codeGiven = (reference: number, row: number): string | undefined => {
    if (spec.by !== "code" || spec.or || !children || typeof to.text("code", row) === "string") return undefined;
    const text = pool.text(reference);
    const table = catalogue.table(children.name);
    const isCode = [...table.childrenOf(row)].some((child) => table.text("code", child) === text);
    return isCode && formsOf(pool.spec(reference)).includes("code") ? text : undefined;
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
        : (codeGiven(reference, row) ?? ofRow(row));
    cache.set(reference, value);
    return value;
  };
}

/** The first form that the record has: how a cell names it. */
export function firstForm(to: ReadonlyTable, spec: ReferenceSpec, row: number): string {
  for (const form of formsOf(spec)) {
    const text = form === "key" ? to.key(row) : to.text(form === "name" ? inLanguage(form, spec.lang) : form, row);
    if (typeof text === "string" && text !== "") return text;
  }
  return "";
}

export function referencesOf(
  context: CellContext,
  table: ReadonlyTable,
  { field, shape, spec, parts }: Extract<Feed, { is: "reference" }>,
): ToValue {
  const column = table.referencesOf(field);
  const named = namer(context.catalogue, spec, shape);
  const inParts = parts && recordInParts(context, spec, parts);
  const { target } = context.catalogue.pool;
  const name = (reference: number): CellValue =>
    inParts && target.get(reference) !== noReference ? inParts(target.get(reference)) : named(reference);
  const stays = staying(context, spec);
  const misled = misledNames(context, spec);
  if (shape === "one" || shape === "path") {
    const otherwise = fieldOf(table.kind, field)?.reference?.otherwise;
    const other = otherwise === undefined ? undefined : otherwiseOf(context, table, otherwise, spec);
    return (record, parent) => {
      const first = column.first(record);
      if (first < 0 && other) return other(record, parent);
      const [one, ...more] = column.get(record).filter(stays);
      // What hangs on nothing stands below the root of the tree.
      if (one === undefined) return shape === "path" && spec.to === table.kind.name ? [] : undefined;
      if (more.length > 0)
        return unwritable([one, ...more].map(name).flat().join(", "), phrase("one record, not several"));
      return misled?.(one, record) ?? orUnnamed(context, spec, one, name(one));
    };
  }
  return (record) => {
    const all = column.get(record).filter(stays);
    return firstMisled(misled, all, record) ?? all.map(name);
  };
}

function firstMisled(misled: Misled | undefined, all: readonly number[], record: number): Unwritable | undefined {
  for (const one of misled ? all : []) {
    const problem = misled?.(one, record);
    if (problem) return problem;
  }
  return undefined;
}

/** What a record cannot be named by, it is not named by: that is reported, but for rows that only translate. */
export function orUnnamed(
  { catalogue, translates }: CellContext,
  { to, by, lang }: ReferenceSpec,
  reference: number,
  name: CellValue,
): CellValue | Unwritable {
  if (name !== "" || translates) return name;
  const row = catalogue.pool.target.get(reference);
  return unwritable(catalogue.table(to).key(row), phrase("a record that has a {0}", inLanguage(by, lang)));
}

/** What a field could not take is in the field for that, and is named in the same way. */
function otherwiseOf(context: CellContext, table: ReadonlyTable, field: string, spec: ReferenceSpec): ToValue {
  const { to } = referenceOf(fieldNamed(table.kind, field));
  return referencesOf(context, table, {
    is: "reference",
    field,
    shape: "one",
    spec: { ...spec, to },
    parts: undefined,
  });
}

/** How a record names what contains it. */
export function containerOf(catalogue: ResolvedCatalogue, table: ReadonlyTable, spec: ReferenceSpec): ToValue {
  const above = catalogue.table(spec.to);
  return (record) => {
    const row = table.parent(record);
    return row < 0 ? undefined : ownName(above, spec, row) || undefined;
  };
}

/** A record as the parts of a cell: its name, other fields, and what it contains. */
function recordInParts(context: CellContext, spec: ReferenceSpec, parts: PartsPlan): (row: number) => CellValue {
  const { catalogue, isLeftOut } = context;
  const to = catalogue.table(spec.to);
  const readers = parts.map((part): ((row: number) => CellValue) => {
    if (part.is === "name") return (row) => ownName(to, spec, row);
    if (part.is === "text") return (row) => to.text(part.field, row) ?? "";
    if (part.is === "reference") throw new Error("a reference is not a part of a referenced record");
    const children = catalogue.table(part.spec.to);
    const one = part.parts
      ? recordInParts(context, part.spec, part.parts)
      : (row: number) => ownName(children, part.spec, row);
    return (row) => {
      const all = [...children.childrenOf(row)].filter((child) => !isLeftOut?.(part.spec.to, child)).map(one);
      return part.list ? all : (all[0] ?? "");
    };
  });
  return (row) => readers.map((read) => read(row));
}

function ownName(table: ReadonlyTable, { by, lang }: ReferenceSpec, row: number): string {
  if (by === "name") return table.text(inLanguage("name", lang), row) ?? "";
  return by === "code" || by === "id" ? (table.text(by, row) ?? "") : table.key(row);
}

/** A field of what the record refers to: of the record, or of one node on the path to it. */
export function referredValue(
  context: CellContext,
  table: ReadonlyTable,
  target: Extract<Feed, { is: "referred" }>,
): ToValue | undefined {
  const { catalogue } = context;
  const to = referenceOf(fieldNamed(table.kind, target.via)).to;
  const referred = catalogue.table(to);
  const textAt = fieldAt(context, to, target);
  const valueOf = (row: number): string => {
    if (target.node === undefined) return textAt(row);
    const chain: number[] = [];
    for (let at: number | undefined = row; at !== undefined && !chain.includes(at);)
      at = (chain.unshift(at), targetsOf(catalogue, referred, "parent", at)[0]);
    const node = chain[target.node - 1];
    return node === undefined ? "" : textAt(node);
  };
  return (record) => {
    const values = targetsOf(catalogue, table, target.via, record).map(valueOf);
    if (!target.list) return values[0];
    return values.every((value) => value === "") ? undefined : values;
  };
}

/** Of a record, or of an entry of it. */
function fieldAt(
  { catalogue }: CellContext,
  to: string,
  { field, entry }: Extract<Feed, { is: "referred" }>,
): (row: number) => string {
  const table = catalogue.table(to);
  if (!entry) return (row) => table.text(field, row) ?? "";
  const entries = catalogue.table(`${to}.${entry.entries}`);
  const { constants, named, parallel } = entry;
  const lookup = entryLookup(entries, constants, parallel, namedIn(catalogue, constants, named));
  return (row) => {
    const found = lookup.first(row);
    return found < 0 ? "" : (entries.text(field, found) ?? "");
  };
}

/** The references of a list one by one, for lanes: what there is, and how each is written. */
export function listedReferences(
  context: CellContext,
  table: ReadonlyTable,
  { field, shape, spec }: Extract<Feed, { is: "reference" }>,
): {
  readonly elementsOf: (record: number) => number[];
  readonly nameOf: (reference: number, record: number) => CellValue | Unwritable;
} {
  const column = table.referencesOf(field);
  const stays = staying(context, spec);
  const named = namer(context.catalogue, spec, shape);
  const misled = misledNames(context, spec);
  return {
    elementsOf: (record) => column.get(record).filter(stays),
    nameOf: (reference, record) => misled?.(reference, record) ?? named(reference),
  };
}

/** References that are written: not to what is left out, and by id only to what has one. */
export function staying({ catalogue, isLeftOut }: CellContext, spec: ReferenceSpec): (reference: number) => boolean {
  const { target } = catalogue.pool;
  const stays = (reference: number) => !isLeftOut?.(spec.to, target.get(reference));
  if (spec.by !== "id" || spec.or) return isLeftOut ? stays : () => true;
  const to = catalogue.table(spec.to);
  const hasId = (reference: number) => {
    const row = target.get(reference);
    return row !== noReference && typeof to.text("id", row) === "string";
  };
  return (reference) => stays(reference) && hasId(reference);
}

/** The names on the path to what a reference names, in a language; undefined where none of them has a name in it. */
export function pathIn(
  catalogue: ResolvedCatalogue,
  to: string,
  lang: Lang,
): (reference: number) => readonly string[] | undefined {
  const table = catalogue.table(to);
  const cache = new Map<number, readonly string[] | undefined>();
  const pathTo = (reference: number): readonly string[] | undefined => {
    const row = catalogue.pool.target.get(reference);
    const path = row === noReference ? [] : pathOf(catalogue, table, row, lang);
    return path.every((name) => name === "") ? undefined : path;
  };
  return (reference) => {
    if (!cache.has(reference)) cache.set(reference, pathTo(reference));
    return cache.get(reference);
  };
}
