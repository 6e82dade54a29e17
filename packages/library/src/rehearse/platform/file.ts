/** The bytes of an uploaded file as a platform takes them apart: rows of cells by header, or the elements of a document. */

import { present } from "../../checked.js";
import { usualCaps } from "../../caps.js";
import { Findings } from "../../findings/finding.js";
import { ByteReader } from "../../formats/byte-reader.js";
import type { DocumentAccess } from "../../formats/document.js";
import type { Opened } from "../../formats/drivers/driver.js";
import { driverOf } from "../../formats/drivers/drivers.js";
import { columnLetters } from "../../formats/letters.js";
import { cellAdder, madeHeaders, sheetHeaders, type CellStep } from "../../layout/cells.js";
import type { Column, Layout } from "../../layout/layout.js";
import type { Header } from "../../nominal.js";
import type { TargetFile } from "../../target/target.js";
import { pushAll } from "../../lists.js";

/** A row of a file; without cells where it has another number of them than the header. */
export interface ContentRow {
  readonly line: number;
  readonly cells: RowCells | undefined;
}

/** The cells of a row by header. */
export interface RowCells {
  readonly get: (header: Header) => string | undefined;
  readonly has: (header: Header) => boolean;
}

/** Cells as they stand in a row: where each header stands is the same in all rows of a file. */
class CellsInRow implements RowCells {
  constructor(
    readonly places: ReadonlyMap<Header, number>,
    readonly cells: readonly string[],
  ) {}

  get(header: Header): string | undefined {
    const at = this.places.get(header);
    return at === undefined ? undefined : (this.cells[at] ?? "");
  }
  has(header: Header): boolean {
    return this.places.has(header);
  }
}

/** What a row of a document is of. */
export type ElementOf = "parent" | "child" | "lane";

/** An element of a document with those within it, each as a row. */
export interface FileElement {
  readonly rows: readonly (ContentRow & { readonly of: ElementOf })[];
}

/** A file, taken apart. */
export type FileContents =
  | {
      readonly is: "rows";
      /** As it stands in the file. */
      readonly inFile: readonly Header[];
      /** The columns that cells are bound to. */
      readonly header: readonly Header[];
      /** Some at a time, and once: a long file is never there as a whole. */
      readonly rows: AsyncIterable<readonly ContentRow[]>;
      /** Why the platform refuses the file as a whole, by the rows that were taken so far. */
      readonly refused: () => string | undefined;
    }
  | { readonly is: "elements"; readonly header: readonly Header[]; readonly elements: readonly FileElement[] };

/** @returns the reason in words where the platform would refuse the file as a whole, before its rows are looked at. */
export async function contentsOf(
  name: string,
  file: TargetFile,
  chunks: readonly Uint8Array[],
): Promise<FileContents | string> {
  const { layout, limits } = file;
  const size = chunks.reduce((sum, { length }) => sum + length, 0);
  if (limits.bytes !== undefined && size > limits.bytes) return `more than ${limits.bytes} bytes`;
  const findings = new Findings(10);
  const isBroken = () => findings.hasErrors;
  const element = layout.shape.is === "nested" ? layout.shape.element : undefined;
  const headerLine = layout.headerLine ?? undefined;
  const source = { bytes: new ByteReader(each(chunks)), file: name, findings, headerLine, element };
  const opened = await driverOf(layout.format).open(layout.format, { ...source, caps: usualCaps, books: new Map() });
  const contents =
    opened && (await (opened.is === "rows" ? rowsIn(opened, layout, isBroken) : elementsIn(opened, layout)));
  return contents === undefined || isBroken() ? unreadable : contents;
}

const unreadable = "it cannot be read";

async function* each<T>(all: AsyncIterable<T> | Iterable<T>): AsyncGenerator<T> {
  for await (const one of all) yield one;
}

interface CellsOfLine {
  readonly cells: readonly string[];
  readonly line: number;
}

/** @param isBroken whether something was wrong with the file itself so far. */
async function rowsIn(
  { batches }: Extract<Opened, { is: "rows" }>,
  { headerLine, columns, cells: steps }: Layout,
  isBroken: () => boolean,
): Promise<FileContents | string> {
  const source = each(batches);
  let isText = true;
  const next = async (): Promise<readonly CellsOfLine[] | undefined> => {
    const read = await source.next();
    if (read.done) return undefined;
    const { rows, lines, evidence } = read.value;
    isText &&= !evidence || evidence.size === 0;
    return rows.map((cells, at) => ({ cells, line: lines[at] ?? 0 }));
  };
  const first: CellsOfLine[] = [];
  let inFile: readonly Header[] | undefined =
    headerLine === undefined ? columns.map((_, at) => columnLetters(at)) : undefined;
  while (!inFile) {
    const read = await next();
    if (!isText) return "a cell is not text";
    if (!read) return "it is empty";
    pushAll(first, read);
    inFile = first.find(({ line }) => line >= (headerLine ?? 0))?.cells;
  }
  const { length } = inFile;
  const cut = cellsCut(steps, inFile);
  let isLonger = false;
  const refused = (): string | undefined => {
    if (isBroken()) return unreadable;
    if (!isText) return "a cell is not text";
    if (isLonger) return "a row is longer than the header";
    return cut.failed() ? "a cell cannot be cut" : undefined;
  };
  const isContent = ({ cells, line }: CellsOfLine): boolean =>
    line > (headerLine ?? 0) && cells.some((cell) => cell !== "");
  const contentRow = ({ cells, line }: CellsOfLine): ContentRow => {
    isLonger ||= cells.length > length && cells.slice(length).some((cell) => cell !== "");
    // Where no header says how many there are, blank cells at the end may be missing.
    const isWhole = headerLine === undefined || cells.length === length;
    return { line, cells: isWhole ? cut.of(cells, line) : undefined };
  };
  async function* rows(): AsyncGenerator<readonly ContentRow[]> {
    for (let read: readonly CellsOfLine[] | undefined = first; read; read = await next()) {
      const made = read.filter(isContent).map(contentRow);
      // Where the file is refused, what is left of it may hold a reason that comes before this one.
      if (refused() === undefined) yield made;
    }
  }
  return { is: "rows", inFile, header: cut.header, rows: rows(), refused };
}

/** The cells that columns are bound to, of those that stand in the file. */
function cellsCut(steps: readonly CellStep[], inFile: readonly Header[]) {
  // What a file leaves out is not made of nothing.
  const own = steps.filter((step) => sheetHeaders(step).some((header) => inFile.includes(header)));
  const taken = new Set(own.flatMap(sheetHeaders));
  const positions = new Map(inFile.map((header, at) => [header, at]));
  const findings = new Findings(1);
  const add =
    own.length > 0
      ? cellAdder(own, positions, inFile.length, "", findings, () => undefined)
      : (cells: readonly string[]) => cells;
  const header = [...inFile.filter((one) => !taken.has(one)), ...own.flatMap(madeHeaders)];
  const places = new Map(header.map((one) => [one, present(positions.get(one))]));
  return {
    header,
    of: (cells: readonly string[], line: number): RowCells => new CellsInRow(places, add(cells, line)),
    failed: () => findings.hasErrors,
  };
}

/** Documents have no header: what some element has is a column, and blank in the elements that do not have it. */
function elementsIn(opened: Extract<Opened, { is: "elements" }>, layout: Layout): Promise<FileContents> {
  return opened.with(async ({ access, batches }): Promise<FileContents> => {
    const take = elementTaker(layout, access);
    const elements: FileElement[] = [];
    for await (const batch of batches) for (const { node, line } of batch) elements.push(take(node, line));
    const all = elements.flatMap(({ rows }) => rows.map(({ cells }) => cells));
    const isThere = ({ header }: Column) => all.some((cells) => (cells?.get(header) ?? "") !== "");
    const missing = layout.columns.filter((column) => !isThere(column));
    for (const cells of all)
      for (const { header } of missing) (cells as Map<Header, string> | undefined)?.delete(header);
    return { is: "elements", header: layout.columns.map(({ header }) => header), elements };
  });
}

/** An element that a path leads to from the block's, with those that it lies in. */
interface Chain<N> {
  readonly levels: readonly { readonly path: string; readonly node: N }[];
}

function elementTaker<N>(layout: Layout, access: DocumentAccess<N>): (node: N, line: number) => FileElement {
  const { shape, lanes, columns } = layout;
  const inScope = (is: string, lane?: string): readonly Header[] =>
    columns
      .filter(({ scope }) => scope.is === is && (scope.is !== "lane" || scope.lane === lane))
      .map(({ header }) => header);
  const rowOf = (root: N, line: number, { levels }: Chain<N>, headers: readonly Header[], of: ElementOf) => {
    const cells = new Map(columns.map(({ header }) => [header, ""]));
    for (const header of headers) cells.set(header, textFrom(access, root, levels, header));
    const own = levels[levels.length - 1]?.node ?? root;
    return { line: access.lineOf?.(own) ?? line, cells, of };
  };
  return (root, line) => {
    const rows = [rowOf(root, line, { levels: [] }, inScope("parent"), "parent")];
    const addLanes = (of: "parent" | "child", from: Chain<N>): void => {
      for (const lane of lanes)
        if (lane.of === of && lane.element !== undefined)
          for (const chain of chainsTo(access, root, from, lane.element))
            rows.push(rowOf(root, line, chain, inScope("lane", lane.name), "lane"));
    };
    addLanes("parent", { levels: [] });
    if (shape.is === "nested" && shape.childElement !== undefined)
      for (const chain of chainsTo(access, root, { levels: [] }, shape.childElement)) {
        rows.push(rowOf(root, line, chain, inScope("child"), "child"));
        addLanes("child", chain);
      }
    return { rows };
  };
}

/** The elements that a path leads to below another element: each level may be repeated. */
function chainsTo<N>(access: DocumentAccess<N>, root: N, from: Chain<N>, path: string): Chain<N>[] {
  const above = from.levels[from.levels.length - 1]?.path;
  const isBelow = above === undefined || access.within(access.normal(path), above) !== undefined;
  // A lane's element may be said as seen from its owner's.
  const steps = access
    .levels(access.normal(path))
    .filter((level) => !isBelow || above === undefined || access.within(above, level) === undefined);
  let chains: Chain<N>[] = [from];
  let before: string | undefined = isBelow ? above : undefined;
  for (const level of steps) {
    const step = before === undefined ? level : (access.within(level, before) ?? level);
    const find = access.elements(step);
    chains = chains.flatMap(({ levels }) =>
      [...find(levels[levels.length - 1]?.node ?? root)].map((node) => ({
        levels: [...levels, { path: isBelow ? level : `${above}/${level}`, node }],
      })),
    );
    before = level;
  }
  return chains;
}

/** What a column's path leads to from the deepest element that it passes through. */
function textFrom<N>(access: DocumentAccess<N>, root: N, levels: Chain<N>["levels"], header: Header): string {
  const path = access.normal(header);
  for (const { path: level, node } of [...levels].reverse()) {
    const inside = access.within(path, level);
    if (inside !== undefined) return access.text(inside)(node) ?? "";
  }
  return access.text(path)(root) ?? "";
}
