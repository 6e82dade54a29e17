/**
 * Writing one cell: for each column a function from a record to text.
 *
 * What a child does not say itself is its parent's, and is written out; its identifiers are its own. A value that a codec cannot
 * write is a finding, and the cell is blank.
 */

import type { Lang } from "../nominal.js";
import { fieldOfColumn } from "../field-name.js";
import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { noReference } from "../catalogue/reference-pool.js";
import type { ReadonlyTable } from "../catalogue/table.js";
import { finding } from "../findings/finding.js";
import { fieldOf } from "../kind.js";
import { fieldName, withoutLineEnds, type Binding, type Column, type Feed } from "./layout.js";
import type { CellContext, ToCell, ToValue } from "./write-context.js";
import { entriesValue, entryValue } from "./write-entries.js";
import { containerOf, pathOf, referencesOf, referredValue } from "./write-references.js";

/** @returns undefined when records of this table have nothing that the column shows. */
export function cellWriter(context: CellContext, column: Column, table: ReadonlyTable): ToCell | undefined {
  for (const binding of column.bindings) {
    const toValue = valueOf(context, binding.feed, table);
    if (toValue) return toText(context, column, binding, table, toValue);
  }
  return undefined;
}

function toText(
  { catalogue, findings }: CellContext,
  column: Column,
  binding: Binding,
  table: ReadonlyTable,
  toValue: ToValue,
): ToCell {
  const { codec } = binding;
  return (record, parent) => {
    const value = toValue(record, parent);
    if (value === undefined || value.length === 0) return "";
    const text = codec.format(value);
    if (typeof text === "string") return withoutLineEnds(text, binding.lineEnds);
    const field = fieldName(binding.feed);
    findings.add(
      finding(
        "write/cannot-be-written",
        { column: column.header, text: text.text, wanted: text.wanted },
        catalogue.location(table, record, field),
      ),
    );
    return "";
  };
}

function valueOf(context: CellContext, target: Feed, table: ReadonlyTable): ToValue | undefined {
  const { catalogue } = context;
  switch (target.is) {
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
    case "container":
      return table.kind.of === target.spec.to ? containerOf(catalogue, table, target.spec) : undefined;
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

function textOf(catalogue: ResolvedCatalogue, table: ReadonlyTable, field: string): ToValue | undefined {
  const spec = fieldOf(table.kind, fieldOfColumn(field));
  if (!spec) return undefined;
  const own = table.textsOf(field);
  const above = table.kind.of === undefined ? undefined : catalogue.table(table.kind.of);
  const isOwn = spec.own || !above || !fieldOf(above.kind, spec.name);
  if (isOwn) return (record) => own.get(record) ?? undefined;
  return (record, parent) => {
    const cell = own.get(record);
    return (cell === undefined ? above.text(field, parent) : cell) ?? undefined;
  };
}

function axisName({ axes }: CellContext, table: ReadonlyTable, number: number, lang: Lang): ToValue | undefined {
  if (!fieldOf(table.kind, "axes")) return undefined;
  const name = axes.names("axis", lang);
  return (record) => name(axes.axesOf(record)[number - 1]);
}

function axisValue({ axes }: CellContext, table: ReadonlyTable, number: number, lang: Lang): ToValue | undefined {
  if (!fieldOf(table.kind, "values")) return undefined;
  const name = axes.names("value", lang);
  return (record, parent) => name(axes.valuesOf(record, parent)[number - 1]);
}

function namedAxisValue({ axes }: CellContext, table: ReadonlyTable, named: string, lang: Lang): ToValue | undefined {
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
  table: ReadonlyTable,
  number: number | ((product: number) => number),
  lang: Lang,
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

function namedAxisValues(context: CellContext, table: ReadonlyTable, named: string, lang: Lang): ToValue | undefined {
  const axisName = context.axes.names("axis", lang);
  const position = (product: number) => context.axes.axesOf(product).findIndex((axis) => axisName(axis) === named);
  return listedValues(context, table, position, lang);
}

/** The paths of another column in another language; nothing where one of the nodes has no name in it. */
function translatedPaths(
  { catalogue, columns }: CellContext,
  target: Extract<Feed, { is: "naming" }>,
  table: ReadonlyTable,
): ToValue | undefined {
  const beside = columns[target.beside]?.bindings[0]?.feed;
  if (beside?.is !== "reference" || !fieldOf(table.kind, beside.field)) return undefined;
  const to = catalogue.table(beside.spec.to);
  const column = table.referencesOf(beside.field);
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
