/** Imports that write some columns of a file: which they name, and what they cannot leave out. */

import { firstOf } from "../checked.js";
import { madeHeaders } from "../layout/cells.js";
import { levelOf, type Column, type Feed, type Layout } from "../layout/layout.js";
import { tellingColumns } from "../layout/shapes/layers.js";
import { phrase, type Text } from "../phrases/phrase.js";
import type { NamingFile } from "./names.js";
import type { GivenImport } from "./schema.js";
import { added } from "../lists.js";

/** `Trait 2 en` is one of `Trait {n} en`; `Stock Barn` one of `Stock {place}`. */
export function isNumbered(column: string, known: readonly string[]): boolean {
  return known.some((one) => {
    const [start = "", end] = one.split(/\{[^}]*\}/);
    return end !== undefined && column.startsWith(start) && column.endsWith(end);
  });
}

/** The headers that an import names: `Trait {n} en` stands for `Trait 1 en`, `Trait 2 en` and so on. */
export function expanded(columns: readonly string[], { layouts }: NamingFile): string[] {
  const headers = [...new Set(layouts.flatMap((layout) => layout.columns.map(({ header }) => header)))];
  return columns.flatMap((column) =>
    headers.includes(column) ? [column] : headers.filter((header) => isNumbered(header, [column])),
  );
}

/** What an import cannot leave out: what tells rows, records and entries apart, and what new records need. */
export function* wronglyLeftOut(
  file: string,
  { layouts, rules }: NamingFile,
  written: readonly string[],
  mode: GivenImport["mode"],
): Generator<Text> {
  const isWritten = (header: string): boolean => written.includes(header);
  for (const layout of layouts) {
    if (layout.headerLine === undefined && layout.columns.some(({ header }) => !isWritten(header)))
      yield phrase('{0}: "{1}" cannot leave columns out where there is no header', file, "columns");
    const telling = [
      ...tellingColumns(layout).map(({ header }) => header),
      ...(layout.link ? [] : unidentified(layout, isWritten)),
    ];
    for (const header of telling)
      if (!isWritten(header))
        yield phrase('{0}: the column "{1}" tells what a row is, and cannot be left out', file, header);
    for (const group of [...groupsOf(layout), ...layout.cells.map(madeHeaders)]) {
      const [inside, outside] = [group.find(isWritten), group.find((header) => !isWritten(header))];
      if (inside !== undefined && outside !== undefined)
        yield phrase('{0}: "{1}" and "{2}" belong together. An import takes both', file, inside, outside);
    }
  }
  for (const [header, { required }] of mode === "update" || mode === "delete" ? [] : rules)
    if (required && !isWritten(header))
      yield phrase('{0}: the column "{1}" is required, and cannot be left out', file, header);
}

/** Where what records contain and a file does not name is deleted: why an import cannot do without the columns that name it. */
export function* deletedUnnamed(file: string, { layouts }: NamingFile, written: readonly string[]): Generator<Text> {
  for (const { shape, link, columns } of layouts) {
    const names = columns.filter(
      ({ scope, bindings }) => scope.is === "child" && bindings.some(({ feed }) => identifies(feed)),
    );
    if (link || !shape.child || names.some(({ header }) => written.includes(header))) continue;
    yield phrase(
      '{0}: without "{1}" an import would delete what it does not name: "{2}"',
      ...[file, names[0]?.header ?? shape.child.name, "children not named: deleted"],
    );
  }
}

/** The columns by which records are known of which an import writes something, where it writes none of them. */
function unidentified(layout: Layout, isWritten: (header: string) => boolean): string[] {
  return (["parent", "child"] as const).flatMap((level) => {
    const own = layout.columns.filter(({ scope }) => levelOf(layout, scope) === level);
    const words = own.filter(
      ({ scope, bindings }) => scope.is === level && bindings.some(({ feed }) => identifies(feed)),
    );
    const isSome = (columns: readonly Column[]) => columns.some(({ header }) => isWritten(header));
    return words.length === 0 || !isSome(own) || isSome(words) ? [] : [firstOf(words).header];
  });
}

/** Whether a cell tells which record a row is about. */
export const identifies = (feed: Feed): boolean =>
  feed.is === "key" || (feed.is === "text" && (/^(id|code)$/.test(feed.field) || feed.field.startsWith("name@")));

/** The columns that mean nothing apart: of a lane, of the same list of entries, of what a reference leads to. */
function groupsOf({ columns }: Layout): string[][] {
  const groups = new Map<string, string[]>();
  for (const { header, scope, bindings } of columns)
    for (const { feed } of bindings) {
      const name = groupOf(feed, columns);
      if (name === undefined) continue;
      // Axes stand with the product, their values with its variants.
      const group = scope.is === "lane" ? scope.lane : name === "axes" ? name : `${scope.is} ${name}`;
      groups.set(group, added(groups.get(group), header));
    }
  return [...groups.values()];
}

function groupOf(feed: Feed, columns: readonly Column[]): string | undefined {
  // A list is uploaded as a whole: which of its entries are there already is not kept.
  if (feed.is === "entry" || feed.is === "entries") return feed.entries;
  if (feed.is === "reference") return feed.field;
  if (feed.is === "axis" || feed.is === "axes" || feed.is === "named-axis") return feed.leads ? "axes" : undefined;
  if (feed.is === "referred") return feed.via;
  const beside = feed.is === "naming" ? columns[feed.beside]?.bindings[0]?.feed : undefined;
  return beside?.is === "reference" ? beside.field : undefined;
}
