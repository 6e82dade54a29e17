/** A Tollgate workbook, from bytes to rows of its one sheet (description, sections 1 and 3). */

import { TooLarge, unzip } from "../common/archive.js";
import { Refusal } from "../common/refusal.js";
import { columns } from "./columns.js";
import type { ThreadedReader } from "./threaded-reader.js";

export const maxFileBytes = 8_000_000;
const lastRow = 200_001;

export interface RangeRow {
  readonly line: number;
  /** The text of a cell, "" where it is blank. */
  readonly cell: (column: string) => string;
}

/** @throws Refusal when the file as a whole is refused. */
export async function readSheet(bytes: Uint8Array, reader: ThreadedReader): Promise<RangeRow[]> {
  if (bytes.length > maxFileBytes) throw new Refusal("too-large");
  await checkPlaces(bytes);
  const [header, ...rest] = await reader.cells(bytes);
  if (!header || header.length !== columns.length || columns.some((name, at) => header[at] !== name))
    throw new Refusal("header");
  return rest.flatMap((cells, at): RangeRow[] => {
    if (cells.some((cell) => cell !== null && cell !== undefined && typeof cell !== "string"))
      throw new Refusal("not-text");
    const texts = columns.map((_, index) => (cells[index] as string | null | undefined) ?? "");
    if (texts.every((text) => text === "")) return [];
    return [{ line: at + 2, cell: (column) => texts[columns.indexOf(column)]! }];
  });
}

const places = /<(?:\w+:)?(?:row|c)\b[^<>]*?\br\s*=\s*["']([A-Za-z]*)(\d*)["']/g;
const cellTags = /<(?:\w+:)?c\b/g;

/** Looks at the places of cells before the package makes room up to the last of them. @throws Refusal */
async function checkPlaces(bytes: Uint8Array): Promise<void> {
  let files: ReadonlyMap<string, Uint8Array>;
  try {
    files = await unzip(bytes);
  } catch (error) {
    throw new Refusal(error instanceof TooLarge ? "too-large" : "not-xlsx");
  }
  for (const [name, content] of files) {
    if (!/\.xml$/i.test(name)) continue;
    const xml = new TextDecoder().decode(content);
    let cells = 0;
    while (cellTags.test(xml)) cells += 1;
    if (cells > columns.length * lastRow) throw new Refusal("too-large");
    for (const [, letters = "", digits = ""] of xml.matchAll(places)) {
      if (digits.length > 6 || Number(digits) > lastRow) throw new Refusal("too-large");
      if (letters.length > 3 || columnOf(letters) > columns.length) throw new Refusal("header");
    }
  }
}

/** From 1; 0 for none. */
const columnOf = (letters: string): number =>
  [...letters.toUpperCase()].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0);
