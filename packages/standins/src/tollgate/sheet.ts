/** A Tollgate workbook, from bytes to rows of its one sheet (description, sections 1 and 3). */

import readExcelFile from "read-excel-file/node";
import { columns } from "./columns.js";
import { Refusal } from "../common/refusal.js";

export const maxFileBytes = 8_000_000;

export interface RangeRow {
  readonly line: number;
  /** The text of a cell, "" where it is blank. */
  readonly cell: (column: string) => string;
}

/** @throws Refusal when the file as a whole is refused. */
export async function readSheet(bytes: Uint8Array): Promise<RangeRow[]> {
  if (bytes.length > maxFileBytes) throw new Refusal("too-large");
  if (unpackedSize(bytes) > 32_000_000) throw new Refusal("too-large");
  let rows: unknown[][];
  try {
    const sheets = await readExcelFile(Buffer.from(bytes), { trim: false });
    rows = (sheets[0] as { readonly data: unknown[][] } | undefined)?.data ?? [];
  } catch {
    throw new Refusal("not-xlsx");
  }
  const [header, ...rest] = rows;
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

/** What the archive says that it unpacks to; 0 for what is not an archive. */
function unpackedSize(bytes: Uint8Array): number {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let total = 0;
  for (let at = 0; at + 46 <= bytes.length; at++)
    if (view.getUint32(at, true) === 0x02014b50) total += view.getUint32(at + 24, true);
  return total;
}
