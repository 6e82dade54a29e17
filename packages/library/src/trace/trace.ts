/**
 * Tracing: for a cell of an upload, the source cells and rules that it came from; for a source cell, where it went.
 *
 * In: the catalogue, the plan. Nothing is kept for it while building: the rows are made again, and looked at.
 */

import type { Header } from "../nominal.js";
import { firstOf, entryOf } from "../checked.js";
import { fieldOfColumn, splitTable } from "../field-name.js";
import { targetsOf, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/table.js";
import { fileRows, type FileRow } from "../build/write-file.js";
import { Findings } from "../findings/finding.js";
import { entryKeyOf, fieldOf } from "../kind.js";
import { byLanguage, type Column, type Layout, type Feed } from "../layout/layout.js";
import { entryLookup } from "../catalogue/entry-lookup.js";
import { writtenKind } from "../layout/write.js";
import { formatLocation, type Location, type RecordName } from "../location.js";
import type { Plan, PlannedFile, UploadStep } from "../plan/plan.js";
import type { Target } from "../target/target.js";

/** Where a cell has its value from: a cell of a source, or a rule of the project. */
export interface CellOrigin {
  /** `product.name@en`. */
  readonly field: string;
  readonly location: Location;
}

/** A filled cell of the upload, with where it comes from. */
export interface TracedCell {
  readonly file: string;
  /** The line of the file, or the row of the sheet. */
  readonly line: number;
  readonly header: Header;
  readonly text: string;
  readonly record: RecordName;
  readonly origins: readonly CellOrigin[];
}

type LeftOut = (kind: string, row: number) => boolean;

/** Every cell of the upload that a test wants, with its origins. Files that wait for ids are made as they would be by now. */
export function* traceCells(
  catalogue: ResolvedCatalogue,
  target: Target,
  plan: Plan,
  isLeftOut: LeftOut,
  wants: (file: string, line: number, header: Header) => boolean,
): Generator<TracedCell> {
  for (const step of plan.steps) {
    if (step.is !== "upload") continue;
    for (const planned of step.files) yield* traceFile(catalogue, target, step, planned, isLeftOut, wants);
  }
}

/** A row of the upload, with where it stands in its file. */
export interface UploadRow {
  /** The line of the file, or the row of the sheet. */
  readonly line: number;
  readonly row: FileRow;
  /** Which of the rows of the same record it is: which of its entries. */
  readonly nth: number;
}

/** The rows of one file of the plan, as they are or will be written, by what is known now. */
export function uploadRows(
  catalogue: ResolvedCatalogue,
  target: Target,
  step: UploadStep,
  { blocks }: PlannedFile,
  isLeftOut: LeftOut,
): { readonly headers: readonly Header[]; readonly rows: Iterable<UploadRow> } {
  const file = entryOf(target.files, step.slot.file);
  const { headers, rows } = fileRows(catalogue, file, { blocks, step, isLeftOut }, new Findings(0));
  function* numbered(): Generator<UploadRow> {
    let line = 2;
    let above: FileRow | undefined;
    let nth = 0;
    for (const row of rows) {
      nth = above?.parent === row.parent && above.child === row.child && above.layout === row.layout ? nth + 1 : 0;
      above = row;
      yield { line, row, nth };
      line += file.layout.format.is === "csv" ? 1 + row.cells.join("").split("\n").length - 1 : 1;
    }
  }
  return { headers, rows: numbered() };
}

function* traceFile(
  catalogue: ResolvedCatalogue,
  target: Target,
  step: UploadStep,
  planned: PlannedFile,
  isLeftOut: LeftOut,
  wants: (file: string, line: number, header: Header) => boolean,
): Generator<TracedCell> {
  const { layouts } = entryOf(target.files, step.slot.file);
  const { headers, rows } = uploadRows(catalogue, target, step, planned, isLeftOut);
  for (const { line, row, nth } of rows) {
    if (row.parent < 0) continue;
    for (const [at, header] of headers.entries()) {
      if (row.cells[at] === "" || !wants(planned.name, line, header)) continue;
      yield {
        file: planned.name,
        line,
        header,
        text: row.cells[at]!,
        ...originsOf(catalogue, layouts[row.layout]!, row, header, nth),
      };
    }
  }
}

/** @param nth which of the rows of the same record it is: which of its entries. */
function originsOf(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  row: FileRow,
  header: Header,
  nth: number,
): Pick<TracedCell, "record" | "origins"> {
  const { shape } = layout;
  const language = layout.languages;
  const word = language && row.cells[[...layout.columns.map((one) => one.header)].indexOf(language.column)];
  const own = byLanguage(layout).find(([one]) => one === word)?.[1] ?? layout;
  const kind = writtenKind(own, catalogue);
  const parents = catalogue.table(kind);
  const below = shape.child ?? (shape.parent.name === kind ? undefined : shape.parent);
  const children = below && catalogue.table(below.name);
  const isChild = row.child >= 0 && children !== undefined;
  const seen: CellOrigin[] = [];
  for (const column of own.columns) {
    if (column.header !== header) continue;
    const isParents = column.scope.is === "parent" && shape.is !== "linked";
    const [table, at] = isChild && !isParents ? [children, row.child] : [parents, row.parent];
    seen.push(...ofColumn(catalogue, own, column, table, at, nth));
  }
  const [table, at] = isChild ? [children, row.child] : [parents, row.parent];
  return { record: { kind: table.name, key: table.key(at) }, origins: distinct(seen) };
}

const distinct = (origins: readonly CellOrigin[]): CellOrigin[] => [
  ...new Map(origins.map((one) => [`${one.field} ${formatLocation(one.location)}`, one])).values(),
];

function ofColumn(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  column: Column,
  table: ReadonlyTable,
  row: number,
  nth: number,
): CellOrigin[] {
  const { feed: feeds } = firstOf(column.bindings);
  const at = (from: ReadonlyTable, one: number, field: string): CellOrigin => ({
    field: `${from.name}.${field}`,
    location: catalogue.location(from, one, field),
  });
  switch (feeds.is) {
    case "key":
      return [at(table, row, "key")];
    case "text":
      return ofText(catalogue, table, row, feeds.field, at);
    case "container": {
      const above = catalogue.table(feeds.spec.to);
      return table.parent(row) < 0 ? [] : [at(above, table.parent(row), "key")];
    }
    case "reference":
      return ofReference(catalogue, table, row, feeds, at);
    case "axis":
    case "named-axis":
      return ofAxis(catalogue, table, row, feeds, at);
    case "entry":
    case "entries":
      return ofEntries(catalogue, column, feeds, table, row, nth);
    case "naming": {
      const beside = firstOf(layout.columns[feeds.beside]!.bindings).feed;
      return beside.is === "reference"
        ? ofReference(catalogue, table, row, { ...beside, spec: { ...beside.spec, lang: feeds.lang } }, at)
        : [];
    }
    default:
      return [];
  }
}

type At = (table: ReadonlyTable, row: number, field: string) => CellOrigin;

/** A variant's own field, or its product's. */
function ofText(catalogue: ResolvedCatalogue, table: ReadonlyTable, row: number, field: string, at: At): CellOrigin[] {
  if (table.text(field, row) !== undefined) return [at(table, row, field)];
  const { of } = table.kind;
  if (of === undefined || table.parent(row) < 0) return [];
  const above = catalogue.table(of);
  return above.text(field, table.parent(row)) === undefined ? [] : [at(above, table.parent(row), field)];
}

/** The cell that refers, and what the record that it leads to is called. */
function ofReference(
  catalogue: ResolvedCatalogue,
  table: ReadonlyTable,
  row: number,
  { field, spec }: Extract<Feed, { is: "reference" }>,
  at: At,
): CellOrigin[] {
  const rows = targetsOf(catalogue, table, field, row);
  if (rows.length === 0) return [];
  const to = catalogue.table(spec.to);
  const named = rows.flatMap((one): CellOrigin[] => {
    const names: CellOrigin[] = [];
    const seen = new Set<number>();
    for (let node: number | undefined = one; node !== undefined && !seen.has(node);) {
      seen.add(node);
      const name = `name@${spec.lang}`;
      if (spec.by === "name" && to.text(name, node) !== undefined) names.push(at(to, node, name));
      node = spec.inTree ? targetsOf(catalogue, to, "parent", node)[0] : undefined;
    }
    return names;
  });
  return [at(table, row, field), ...named];
}

function ofAxis(
  catalogue: ResolvedCatalogue,
  table: ReadonlyTable,
  row: number,
  feeds: Extract<Feed, { is: "axis" | "named-axis" }>,
  at: At,
): CellOrigin[] {
  const products = catalogue.table("product");
  const product = table.name === "product" ? row : table.parent(row);
  const axes = targetsOf(catalogue, products, "axes", product);
  const axis =
    feeds.is === "axis"
      ? axes[feeds.number - 1]
      : axes.find((one) => catalogue.table("axis").text(`name@${feeds.lang}`, one) === feeds.axis);
  if (axis === undefined) return [];
  const name = `name@${feeds.lang}`;
  if (feeds.holds === "name") return [at(products, product, "axes"), at(catalogue.table("axis"), axis, name)];
  const values = catalogue.table("value");
  const own = targetsOf(catalogue, table, "values", row).find((one) => values.parent(one) === axis);
  return own === undefined ? [] : [at(table, row, "values"), at(values, own, name)];
}

function ofEntries(
  catalogue: ResolvedCatalogue,
  column: Column,
  feeds: Extract<Feed, { is: "entry" | "entries" }>,
  table: ReadonlyTable,
  row: number,
  nth: number,
): CellOrigin[] {
  const of = (owners: ReadonlyTable, owner: number): CellOrigin[] => {
    if (owners.kind.entries?.[feeds.entries] === undefined) return [];
    const entries = catalogue.table(`${owners.name}.${feeds.entries}`);
    const fields =
      feeds.is === "entry" ? [feeds.field.name] : feeds.parts.flatMap((part) => ("field" in part ? [part.field] : []));
    const free = feeds.is === "entry" ? [feeds.field.name, ...feeds.parallel] : fields;
    const isLane = column.scope.is === "lane";
    const all = [...entries.childrenOf(owner)];
    const fitting = isLane ? all.slice(nth, nth + 1) : all.filter(entryLookup(entries, feeds.constants, free).has);
    return fitting.flatMap((entry) =>
      fields.flatMap((field) => (isSaid(entries, entry, field) ? [entryOrigin(catalogue, entries, entry, field)] : [])),
    );
  };
  const own = of(table, row);
  if (own.length > 0) return own;
  const above = table.kind.of;
  return above === undefined || table.parent(row) < 0 ? [] : of(catalogue.table(above), table.parent(row));
}

/** Where a field of an entry comes from. Columns of entries are known by what tells the entry apart: `variant.prices(price).amount`. */
function entryOrigin(catalogue: ResolvedCatalogue, entries: ReadonlyTable, entry: number, field: string): CellOrigin {
  const { kind: root, collection = "" } = splitTable(entries.name);
  const location = catalogue.location(entries, entry, field);
  const origin = entries.fieldOrigin(field, entry);
  const headers = catalogue.sheets[origin?.sheet ?? entries.sheet(entry)]?.headers ?? new Map<string, string>();
  const word = entries.text(firstOf(entryKeyOf(entries.kind)), entry) ?? "";
  const fits = [...headers].filter(([name]) => {
    const own = [root, "variant"].some((kind) => name.startsWith(`${kind}.${collection}`));
    const apart = /\(([^,)]*)/.exec(name)?.[1];
    const isField = name.endsWith(`.${field}`) || !name.includes(".", name.indexOf(collection));
    return own && isField && (apart === undefined || apart === word);
  });
  const column = location.column ?? fits[0]?.[1];
  const name = `${entries.name}${word === "" ? "" : `(${word})`}.${field}`;
  return { field: name, location: { ...location, ...(column === undefined ? {} : { column }) } };
}

function isSaid(entries: ReadonlyTable, entry: number, field: string): boolean {
  if (fieldOf(entries.kind, fieldOfColumn(field))?.reference)
    return (entries.references.get(field)?.first(entry) ?? -1) >= 0;
  return entries.text(field, entry) !== undefined;
}

/** The cells of the upload that a source's line, or one cell of it, went into. Of documents, the element by its pointer. */
export function* traceSource(
  catalogue: ResolvedCatalogue,
  target: Target,
  plan: Plan,
  isLeftOut: LeftOut,
  source: Pick<Location, "file" | "sheet" | "pointer" | "line" | "column">,
): Generator<TracedCell> {
  const isFrom = ({ location }: CellOrigin) =>
    location.file === source.file &&
    location.line === source.line &&
    location.pointer === source.pointer &&
    (source.sheet === undefined || location.sheet === source.sheet) &&
    (source.column === undefined || location.column === source.column);
  for (const cell of traceCells(catalogue, target, plan, isLeftOut, () => true))
    if (cell.origins.some(isFrom)) yield cell;
}
