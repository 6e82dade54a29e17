/** A tab-separated file, from bytes to rows (description, section 1). */

import { readDelimited } from "../common/delimited.js";
import { Refusal } from "../common/refusal.js";

export const maxFileBytes = 8_000_000;

export interface TableRow {
  readonly line: number;
  /** By column; undefined for a row with another number of cells than the header. */
  readonly cells: ReadonlyMap<string, string> | undefined;
}

/** @throws Refusal when the file as a whole is refused. */
export async function readSheet(
  bytes: Uint8Array,
  known: readonly string[],
  needed: readonly string[],
): Promise<TableRow[]> {
  if (bytes.length > maxFileBytes) throw new Refusal("too-large");
  let text: string;
  try {
    text = new TextDecoder("utf-8", { fatal: true, ignoreBOM: true }).decode(bytes);
  } catch {
    throw new Refusal("not-utf-8");
  }
  const lines = await readDelimited(text, { delimiter: "\t", quote: false, record_delimiter: "\n" });
  const header = lines.shift()?.cells;
  if (!header || header.every((cell) => cell === "")) throw new Refusal("empty");
  if (header.some((column) => !known.includes(column))) throw new Refusal("unknown-column");
  if (new Set(header).size < header.length) throw new Refusal("repeated-column");
  if (needed.some((column) => !header.includes(column))) throw new Refusal("missing-column");
  return lines.flatMap(({ cells }, at): TableRow[] => {
    if (cells.every((cell) => cell === "")) return [];
    const fits = cells.length === header.length;
    return [
      { line: at + 2, cells: fits ? new Map(header.map((column, index) => [column, cells[index]!])) : undefined },
    ];
  });
}
