/** Which columns of a target's files carry which field of a record, and which have to be written together. */

import type { Header } from "../nominal.js";
import { firstOf, fitting, entryOf } from "../checked.js";
import { splitAddition } from "../field-name.js";
import type { Kinds } from "../kinds.js";
import { recordColumns } from "../rehearse/record-columns.js";
import { isOfRecords } from "../target/of-records.js";
import type { IdentifiedBy } from "../target/importing.js";
import type { Target, TargetFile } from "../target/target.js";
import { fieldName } from "../layout/bindings/feed-kinds.js";
import { madeTogether } from "../layout/cells.js";
import { kindOfScope, type Column, type Feed, type Layout, byLanguage } from "../layout/layout.js";

export interface CarryingColumn {
  readonly header: Header;
  /** The kind of record, and its field as comparisons call it. */
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
    const isEnough = mustTell(file, layout) && layout.shape.child === undefined;
    const columns = layout.columns.filter(
      (column) => file.mustHave.includes(column.header) || (!isEnough && tellsRecord(file, layout, column)),
    );
    const language = layout.languages?.column;
    return [...new Set([...(language === undefined ? [] : [language]), ...columns.map(({ header }) => header)])];
  }
  return [grouped.parent];
}

/** Whether a column that the file must have tells which record a row is about. */
const mustTell = (file: TargetFile, layout: Layout): boolean =>
  layout.columns.some((column) => file.mustHave.includes(column.header) && tellsRecord(file, layout, column));

/** Whether a column tells which record a row is about. */
function tellsRecord(file: TargetFile, layout: Layout, column: Column): boolean {
  const { header, scope, bindings } = column;
  if (layout.link) return layout.link.column === header;
  if (identifying(file, layout, scope).has(header)) return true;
  return bindings.some(
    ({ feed }) =>
      feed.is === "key" ||
      feed.is === "container" ||
      feed.is === "shape" ||
      (feed.is === "text" && (feed.field === "id" || (feed.field === "code" && scope.is === "child"))),
  );
}

function wayOf({ bindings }: Column): IdentifiedBy | undefined {
  const { feed } = firstOf(bindings);
  if (feed.is === "key") return "key";
  if (feed.is !== "text") return undefined;
  if (feed.field === "id" || feed.field === "code") return feed.field;
  return feed.field.startsWith("name@") ? "name" : undefined;
}

/** The headers by which the importer finds the records of a level: as it says, or else by the first of the usual ways that there is. */
function identifying({ importing }: TargetFile, layout: Layout, scope: Column["scope"]): ReadonlySet<string> {
  if (scope.is === "lane") return new Set();
  const own = layout.columns.filter((column) => column.scope.is === scope.is);
  const usual = (["id", "key", "code", "name"] as const).find((way) => own.some((column) => wayOf(column) === way));
  const ways = importing["identified by"]?.[kindOfScope(layout, scope).name] ?? (usual ? [usual] : []);
  return new Set(
    ways.flatMap((way) =>
      own
        .filter((column) => wayOf(column) === way)
        .slice(0, 1)
        .map(({ header }) => header),
    ),
  );
}

function isIdentity(file: TargetFile, layout: Layout, column: Column): boolean {
  const { header } = column;
  if (file.mustHave.includes(header) || layout.link?.column === header) return true;
  const isContainer = column.bindings.some(({ feed }) => feed.is === "container");
  if (!mustTell(file, layout) && !file.grouped && !isContainer && tellsRecord(file, layout, column)) return true;
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

/** Columns, and those that have to be beside them: what a list is made of is written as a whole. */
export function withPartners(file: TargetFile, asked: readonly Header[]): ReadonlySet<Header> {
  const headers = new Set(asked);
  // A set takes what is added while it is gone through.
  for (const header of headers)
    for (const layout of file.layouts)
      for (const column of layout.columns)
        if (column.header === header) for (const partner of partnersOf(file, layout, column)) headers.add(partner);
  return headers;
}

function* partnersOf(file: TargetFile, { columns, cells }: Layout, column: Column): Generator<Header> {
  yield* madeTogether(cells, column.header);
  for (const other of columns) if (isOfOneList(column, other)) yield other.header;
  for (const { feed } of column.bindings) {
    if (feed.is === "naming") yield columns[feed.beside]!.header;
    // Axes and values stand in several columns, which are read together.
    const isOfAxes = feed.is === "axis" || feed.is === "axes" || feed.is === "named-axis";
    for (const { header, bindings } of isOfAxes ? columns : [])
      if (bindings.some((other) => isReadTogether(feed, other.feed))) yield header;
  }
  const rule = file.rules.get(column.header);
  for (const partner of [rule?.["together with"], rule?.["as many as"]]) if (partner !== undefined) yield partner;
}

const isReadTogether = (one: Feed, other: Feed): boolean =>
  one.is === "named-axis"
    ? other.is === "named-axis"
    : (one.is === "axis" || one.is === "axes") && other.is === one.is && other.holds === one.holds;
