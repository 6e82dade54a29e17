/**
 * Columns that say in lists what a product's versions differ in: names of axes on the product's first row, or on each, and on each row as
 * many values. Found by the cells alone, whatever the headers mean.
 */

import type { Looked } from "./looked.js";

/** A column of names with its column of values, and what stands between the entries of both. */
export interface ListedAxes {
  readonly names: Looked;
  readonly values: Looked;
  readonly separator: string;
}

/** Longer ones first: what is around a sign belongs to it. */
const separators = [" + ", " / ", " | ", " · ", "; ", ", ", "+", "/", "|", ";", ","];

/** @param groups by row: the product that it is of; blank for rows that are about no version. */
export function listedAxes(columns: readonly Looked[], groups: readonly string[]): ListedAxes[] {
  const taken = new Set<Looked>();
  const found: ListedAxes[] = [];
  for (const names of columns)
    for (const values of columns) {
      if (names === values || taken.has(names) || taken.has(values)) continue;
      const separator = separators.find((one) => isPair(names.column.cells, values.column.cells, groups, one));
      if (separator === undefined) continue;
      taken.add(names).add(values);
      found.push({ names, values, separator });
    }
  return found;
}

const partsOf = (cell: string, separator: string): readonly string[] => (cell === "" ? [] : cell.split(separator));

/** Whether each product says once what its rows differ in, and its rows have as many values, no two rows the same. */
function isPair(
  names: readonly string[],
  values: readonly string[],
  groups: readonly string[],
  separator: string,
): boolean {
  const products = new Map<string, { readonly name: string; readonly values: Set<string> }>();
  let several = 0;
  for (const [row, group] of groups.entries()) {
    if (group === "") continue;
    const [name = "", value = ""] = [names[row], values[row]];
    const known = products.get(group);
    if (known && name !== "" && name !== known.name) return false;
    const product = known ?? { name, values: new Set<string>() };
    products.set(group, product);
    const parts = partsOf(value, separator);
    const axes = partsOf(product.name, separator);
    if (parts.length !== axes.length || [...parts, ...axes].some((part) => part.trim() === "")) return false;
    if (value !== "" && product.values.has(value)) return false;
    if (value !== "") product.values.add(value);
    if (axes.length > 1 && product.values.size > 1) several++;
  }
  return several > 1;
}
