/** Which columns of a target's files carry which field of a snapshot, and which have to be written together. */

import type { Header } from "../nominal.js";
import { firstOf, fitting, entryOf } from "../checked.js";
import { splitAddition } from "../field-name.js";
import type { Kinds } from "../kinds.js";
import { recordColumns } from "../rehearse/record-columns.js";
import { isOfRecords } from "../rehearse/intended-by-target.js";
import type { Target, TargetFile } from "../target/target.js";
import { fieldName } from "../layout/bindings/feed-kinds.js";
import { kindOfScope, type Column, type Layout, byLanguage } from "../layout/layout.js";

export interface CarryingColumn {
  readonly header: Header;
  /** The kind of record, as snapshots have it, and its field. */
  readonly kind: string;
  readonly field: string;
  readonly column: Column;
  /** What names other records by the platform's ids. */
  readonly namesById: string | undefined;
}

/** The columns of a layout that carry fields; not those that only say which record is intended, nor lanes. */
export function carryingColumns(target: Target, file: TargetFile, layout: Layout, kinds: Kinds): CarryingColumn[] {
  const isRecords = isOfRecords(target);
  return byLanguage(layout).flatMap(([, own]) => {
    const records = isRecords ? recordColumns(file, own, kinds) : undefined;
    return own.columns.flatMap((column): CarryingColumn[] => {
      const { feed: feeds } = firstOf(column.bindings);
      if (column.scope.is === "lane" || feeds.is === "shape" || isIdentity(file, own, column)) return [];
      const kind = kindOfScope(own, column.scope).name;
      const namesById =
        feeds.is === "reference" && feeds.spec.by === "id" && !feeds.spec.or ? feeds.spec.to : undefined;
      const of = { header: column.header, column, namesById };
      if (records) {
        const record = fitting(entryOf(records, column.header), ({ level }) => level === column.scope.is);
        return record.role === "field" || record.role === "container" ? [{ ...of, kind, field: record.field }] : [];
      }
      if (feeds.is === "axis" || feeds.is === "axes")
        return [{ ...of, kind, field: feeds.holds.startsWith("name") ? "axes" : "values" }];
      if (feeds.is === "naming") return [{ ...of, kind: "category", field: `name@${feeds.lang}` }];
      return [{ ...of, kind, field: fieldName(feeds) }];
    });
  });
}

/** The headers that every row needs to be known by. */
export function identityHeaders(file: TargetFile): string[] {
  const { grouped, layout } = file;
  // Where no header names them, columns are known by their places.
  if (file.importing.header === "as it is" || layout.headerLine === undefined)
    return layout.columns.map(({ header }) => header);
  if (!grouped) {
    // Rows of several kinds say what they are, and of which record, besides what the file must have.
    const isEnough = file.mustHave.length > 0 && layout.shape.child === undefined;
    const columns = layout.columns.filter(
      (column) => file.mustHave.includes(column.header) || (!isEnough && tellsRecord(layout, column)),
    );
    const language = layout.languages?.column;
    return [...new Set([...(language === undefined ? [] : [language]), ...columns.map(({ header }) => header)])];
  }
  return [grouped.parent];
}

/** Whether a column tells which record a row is about. */
function tellsRecord({ link }: Layout, { header, scope, bindings }: Column): boolean {
  if (link) return link.column === header;
  return bindings.some(
    ({ feed }) =>
      feed.is === "key" ||
      feed.is === "container" ||
      feed.is === "shape" ||
      (feed.is === "text" && (feed.field === "id" || (feed.field === "code" && scope.is === "child"))),
  );
}

function isIdentity(file: TargetFile, layout: Layout, column: Column): boolean {
  const { header } = column;
  if (file.mustHave.includes(header) || layout.link?.column === header) return true;
  const isContainer = column.bindings.some(({ feed }) => feed.is === "container");
  if (file.mustHave.length === 0 && !file.grouped && !isContainer && tellsRecord(layout, column)) return true;
  return header === file.grouped?.parent || header === file.grouped?.child;
}

/** Whether an update, as slots name it, brings a field: `product.prices`, `product@de`. */
export function isOf(update: string, field: string): boolean {
  const { kind, lang, part: own = kind } = splitAddition(update);
  if (lang !== undefined) return field.endsWith(`@${lang}`);
  return field === own || field.startsWith(`${own}@`);
}

/** Whether two columns hold fields of the same entries: of a lane, or of lists that run side by side. */
function isOfOneList(one: Column, other: Column): boolean {
  if (one.scope.is === "lane") return other.scope.is === "lane" && other.scope.lane === one.scope.lane;
  return one.bindings.some(({ feed }) =>
    other.bindings.some(
      ({ feed: second }) =>
        feed.is === "entry" &&
        second.is === "entry" &&
        feed.field.list &&
        second.field.list &&
        feed.entries === second.entries &&
        JSON.stringify(feed.constants) === JSON.stringify(second.constants),
    ),
  );
}

/** A column, and those that have to be beside it: what a list is made of is written as a whole. */
export function withPartners(file: TargetFile, { columns }: Layout, header: Header): string[] {
  const headers = new Set([header]);
  const column = fitting(columns, (one) => one.header === header);
  for (const other of columns) if (isOfOneList(column, other)) headers.add(other.header);
  for (const { feed: target } of column.bindings) {
    if (target.is === "naming") headers.add(columns[target.beside]!.header);
    // Axes and values stand in several columns, which are read together.
    if (target.is === "axis" || target.is === "axes")
      for (const other of columns)
        if (other.bindings.some(({ feed }) => feed.is === target.is && feed.holds === target.holds))
          headers.add(other.header);
    if (target.is === "named-axis")
      for (const other of columns)
        if (other.bindings.some(({ feed }) => feed.is === "named-axis")) headers.add(other.header);
  }
  const rule = file.rules.get(header);
  for (const partner of [rule?.["together with"], rule?.["as many as"]])
    if (partner !== undefined) headers.add(partner);
  return [...headers];
}
