/** What the cells of axes and their values show. */

import type { ReadonlyTable } from "../catalogue/readonly-table.js";
import { fieldOf } from "../kind.js";
import type { Lang } from "../nominal.js";
import type { CellContext, ToValue } from "./write/context.js";

export function axisName({ axes }: CellContext, table: ReadonlyTable, number: number, lang: Lang): ToValue | undefined {
  if (!fieldOf(table.kind, "axes")) return undefined;
  const name = axes.names("axis", lang);
  return (record) => name(axes.axesOf(record)[number - 1]);
}

export function axisValue(
  { axes }: CellContext,
  table: ReadonlyTable,
  number: number,
  lang: Lang,
): ToValue | undefined {
  if (!fieldOf(table.kind, "values")) return undefined;
  const name = axes.names("value", lang);
  return (record, parent) => name(axes.valuesOf(record, parent)[number - 1]);
}

/** The names of all axes of a product; blank for those that have none in the language. */
export function listedAxes({ axes }: CellContext, table: ReadonlyTable, lang: Lang): ToValue | undefined {
  if (!fieldOf(table.kind, "axes")) return undefined;
  const name = axes.names("axis", lang);
  return (record) => namesUnlessBlank(axes.axesOf(record), name);
}

/** The values of a variant, in the order of its product's axes; blank for those that it has none on. */
export function listedOwnValues({ axes }: CellContext, table: ReadonlyTable, lang: Lang): ToValue | undefined {
  if (!fieldOf(table.kind, "values")) return undefined;
  const name = axes.names("value", lang);
  return (record, parent) => namesUnlessBlank(axes.valuesOf(record, parent), name);
}

function namesUnlessBlank(
  rows: readonly (number | undefined)[],
  nameOf: (row: number | undefined) => string | undefined,
): readonly string[] | undefined {
  const names = new Array<string>(rows.length);
  let isBlank = true;
  for (let at = 0; at < rows.length; at++) {
    const name = nameOf(rows[at]) ?? "";
    isBlank &&= name === "";
    names[at] = name;
  }
  return isBlank ? undefined : names;
}

/** The position of an axis among those of a product, by its name; -1 where it has none of that name. */
export function positionOfAxis({ axes }: CellContext, named: string, lang: Lang): (product: number) => number {
  const name = axes.names("axis", lang);
  return (product) => axes.axesOf(product).findIndex((axis) => name(axis) === named);
}

export function namedAxisValue(
  context: CellContext,
  table: ReadonlyTable,
  position: (product: number) => number,
  lang: Lang,
): ToValue | undefined {
  if (!fieldOf(table.kind, "values")) return undefined;
  const { axes } = context;
  const name = axes.names("value", lang);
  return (record, parent) => name(axes.valuesOf(record, parent)[position(parent)]);
}

/** The values that a product's variants have on one of its axes, in the order in which they come. */
export function listedValues(
  { catalogue, axes }: CellContext,
  table: ReadonlyTable,
  positionOf: (product: number) => number,
  lang: Lang,
): ToValue | undefined {
  if (!fieldOf(table.kind, "axes")) return undefined;
  const name = axes.names("value", lang);
  const variants = catalogue.table("variant");
  return (product) => {
    const position = positionOf(product);
    const used = new Set<number>();
    for (const variant of variants.childrenOf(product)) {
      const value = axes.valuesOf(variant, product)[position];
      if (value !== undefined) used.add(value);
    }
    const names = [...used].map((value) => name(value) ?? "");
    return names.some((one) => one === "") ? undefined : names;
  };
}
