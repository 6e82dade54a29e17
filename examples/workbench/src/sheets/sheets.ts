/**
 * The sheets as they stand in the files, for looking at: in a worker of its own, so that looking is never held up by what the desk
 * works out. Rows are there as soon as they have been read; more come while one looks.
 */

import { layoutOfText, rawRows, type Layout, type RowBatch } from "zest-tier";
import { blobFiles } from "zest-tier/web";
import { PackedRows, type SheetRow } from "./packed.js";

export interface SheetView {
  readonly headers: readonly string[];
  /** The line that they stand on; 0 where they stand on none. */
  readonly headerLine: number;
  readonly rows: number;
  /** Whether the file has been read to its end. */
  readonly isDone: boolean;
  readonly encoding: string;
}

export interface SheetAsked {
  /** Another sheet of the same file, or the same after an edit, has another. */
  readonly id: string;
  readonly blob: Blob;
  readonly name: string;
  /** Of a workbook; its first, if left out. */
  readonly sheet: string | undefined;
  /** In an archive. */
  readonly within: string | undefined;
  /** What it is read by. Documents have no sheet without one. */
  readonly layout: string | undefined;
}

/** How long reading goes on before others are let in, in milliseconds. */
const sliceMs = 12;
const mostColumns = 500;
const headerLooked = 50;

class OpenSheet {
  readonly rows = new PackedRows();
  headers: readonly string[] = [];
  headerLine = 0;
  isDone = false;
  isStopped = false;
  encoding = "";
}

export class Sheets {
  readonly #open = new Map<string, OpenSheet>();
  #reading: Promise<void> = Promise.resolve();

  /** Begins to read a sheet; `tell` receives now and then how far it is, the first time as soon as anything is there. */
  open(asked: SheetAsked, tell: (info: SheetView) => void): void {
    const known = this.#open.get(asked.id);
    if (known?.isDone) return tell(infoOf(known));
    if (known) known.isStopped = true;
    // One sheet is looked at at a time: what was open before makes room.
    for (const [id, sheet] of this.#open) {
      sheet.isStopped = true;
      this.#open.delete(id);
    }
    const sheet = new OpenSheet();
    this.#open.set(asked.id, sheet);
    this.#reading = this.#read(asked, sheet, tell).catch(() => {
      sheet.isDone = true;
      tell(infoOf(sheet));
    });
  }

  /** Answers when no sheet is being read. */
  async quiet(): Promise<void> {
    let last: Promise<void> | undefined;
    while (last !== this.#reading) {
      last = this.#reading;
      await last;
    }
  }

  rows(id: string, from: number, count: number): SheetRow[] {
    return this.#open.get(id)?.rows.rows(from, count) ?? [];
  }

  rowOf(id: string, line: number): number {
    return this.#open.get(id)?.rows.rowOf(line) ?? 0;
  }

  async #read(asked: SheetAsked, sheet: OpenSheet, tell: (info: SheetView) => void): Promise<void> {
    const given = asked.layout === undefined ? undefined : layoutOfText(asked.layout, "layout");
    const layout = given?.ok ? given.value : undefined;
    let told = 0;
    for await (const batch of batchesOf(asked, layout, sheet)) {
      take(sheet, batch, layout);
      if (sheet.isStopped) return;
      if (told === 0 || performance.now() - told > 250) {
        told = performance.now();
        tell(infoOf(sheet));
      }
    }
    sheet.isDone = true;
    tell(infoOf(sheet));
  }
}

const infoOf = ({ headers, headerLine, rows, isDone, encoding }: OpenSheet): SheetView => ({
  headers,
  headerLine,
  rows: rows.size,
  isDone,
  encoding,
});

async function* batchesOf(asked: SheetAsked, layout: Layout | undefined, sheet: OpenSheet): AsyncGenerator<RowBatch> {
  const { blob, name, within } = asked;
  const files = blobFiles(new Map([[name, blob]]));
  const given = { file: name, sheet: asked.sheet, within, layout };
  let since = performance.now();
  for await (const batch of rawRows(files, given, (encoding) => (sheet.encoding = encoding))) {
    yield batch;
    if (performance.now() - since < sliceMs) continue;
    await pause();
    since = performance.now();
  }
}

function take(sheet: OpenSheet, { rows, lines }: RowBatch, layout: Layout | undefined): void {
  const isDocument = layout?.format.is === "xml" || layout?.format.is === "json";
  if (isDocument && sheet.headers.length === 0) sheet.headers = layout.columns.map(({ header }) => header);
  rows.forEach((cells, at) => {
    const line = lines[at]!;
    if (sheet.headers.length === 0 && !isDocument && isHeader(layout, line, cells)) {
      sheet.headers = named(cells.slice(0, mostColumns));
      sheet.headerLine = line;
      return;
    }
    sheet.rows.push(cells.slice(0, mostColumns), line);
  });
}

/** Where no layout says which line it is, the first that has something in at least two cells. */
function isHeader(layout: Layout | undefined, line: number, cells: readonly string[]): boolean {
  if (layout?.headerLine !== undefined) return line >= layout.headerLine;
  return line > headerLooked || cells.filter((cell) => cell !== "").length > 1;
}

/** A header that comes twice is called `Name#2` the second time, as layouts call it. */
function named(headers: readonly string[]): string[] {
  const counts = new Map<string, number>();
  return headers.map((header) => {
    const count = (counts.get(header) ?? 0) + 1;
    counts.set(header, count);
    return count === 1 ? header : `${header}#${count}`;
  });
}

const pause = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));
