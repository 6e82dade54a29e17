/** From a cell to the references it names: one, a list, paths; with parts, what it states for the records besides. */

import type { Header } from "../../nominal.js";
import { noReference, type ReferenceSpec } from "../../catalogue/reference-pool.js";
import { isProblem, type CellValue, type Problem } from "../../codecs/codec.js";
import type { FillContext } from "./context.js";
import { phrase } from "../../phrases/phrase.js";
import { shorten } from "../../shorten.js";
import type { Binding, PartsPlan, Feed } from "../layout.js";
import { greatest } from "../../lists.js";

const cachedCells = 20_000;

/** @param record the row of the record that the references are of, or whose entry they are of. */
export type ReadReferences = (cell: string, line: number, record: number) => readonly number[] | Problem;

/** The references that a cell names. The same cell is taken apart once, but for names that count within the record. */
export function referencesReader(
  context: FillContext,
  { shape, spec, parts }: Pick<Extract<Feed, { is: "reference" }>, "shape" | "spec" | "parts">,
  { codec }: Binding,
  header: Header,
): ReadReferences {
  const { pool } = context.catalogue;
  const { sheet } = context;
  const number = pool.specNumber(spec);
  const isPath = shape === "path" || shape === "paths";
  const isList = shape === "list" || shape === "paths";
  const cache = new Map<string, readonly number[]>();
  const outerOf = outerReference(context, spec);
  return (cell, line, record) => {
    const known = cache.get(cell);
    if (known) return known;
    const value = codec.parse(cell);
    if (isProblem(value)) return value;
    if (isPath && !parts && longest(value, isList) > context.caps.depth) {
      const wanted = phrase('{0} records in a path, the cap "depth"', context.caps.depth);
      return { problem: "too-many-parts", text: shorten(cell), wanted };
    }
    const met = { sheet, line };
    const outer = outerOf(record, line);
    const one = (entry: CellValue): number => {
      if (parts) {
        const own = entry as readonly CellValue[];
        const contained: number[] = [];
        const reference = internParts(context, number, outer, parts, own, line, contained);
        if (parts.some(({ is }) => is === "children"))
          context.catalogue.describe({ reference, contained, content: contentOf(parts, own), met, column: header });
        return reference;
      }
      return isPath
        ? (entry as readonly string[]).reduce((within, name) => pool.intern(number, within, name, met), noReference)
        : pool.intern(number, outer, entry as string, met);
    };
    const all = isList ? [...new Set((value as readonly CellValue[]).map(one))] : [one(value)];
    const numbers = all.filter((number) => number !== noReference);
    if (outer !== noReference) return numbers;
    if (cache.size >= cachedCells) cache.clear();
    cache.set(cell, numbers);
    return numbers;
  };
}

/** What a record's references lie within: the record itself, where names count within it. */
export function outerReference(
  { catalogue, sheet }: FillContext,
  { within }: ReferenceSpec,
): (record: number, line: number) => number {
  if (within === undefined) return () => noReference;
  return (record, line) => catalogue.pool.toRow(within, record, { sheet, line });
}

/** How many records a path has; of several the longest. */
const longest = (value: CellValue, isList: boolean): number =>
  isList ? greatest((value as readonly CellValue[]).map((one) => one.length)) : value.length;

/** What a cell tells of a record in parts, and of what is contained in it; the order of what is contained is not a matter. */
function contentOf(parts: PartsPlan, values: readonly CellValue[]): string {
  const told = parts.map((part, at) => {
    const value = values[at]!;
    if (part.is !== "children") return value;
    const own = (part.list ? value : [value]) as readonly CellValue[];
    return own
      .map((one) => (part.parts ? contentOf(part.parts, one as readonly CellValue[]) : JSON.stringify(one)))
      .sort();
  });
  return JSON.stringify(told);
}

/** One record in parts: its name makes the reference, the other parts are reported of it, or contained in it. */
function internParts(
  context: FillContext,
  spec: number,
  within: number,
  parts: PartsPlan,
  values: readonly CellValue[],
  line: number,
  contained: number[] = [],
): number {
  const { catalogue, sheet } = context;
  const { pool } = catalogue;
  const met = { sheet, line };
  const name = values[parts.findIndex((part) => part.is === "name")] as string;
  const reference = pool.intern(spec, within, name, met);
  parts.forEach((part, at) => {
    const value = values[at]!;
    if (value.length === 0) return;
    if (part.is === "text") catalogue.state({ reference, field: part.field, value: value as string, met });
    if (part.is !== "children") return;
    const child = pool.specNumber(part.spec);
    for (const one of part.list ? (value as readonly CellValue[]) : [value])
      contained.push(
        part.parts
          ? internParts(context, child, reference, part.parts, one as readonly CellValue[], line)
          : pool.intern(child, reference, one as string, met),
      );
  });
  return reference;
}

export const isNumbers = (value: readonly number[] | Problem): value is readonly number[] => Array.isArray(value);
