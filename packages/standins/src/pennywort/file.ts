/**
 * A Pennywort file, from bytes to groups of rows (description, sections 1 and 2).
 *
 * Reads with a parser of its own choice; knows nothing of what is stored.
 */

import { readDelimited } from "../common/delimited.js";
import { Refusal } from "../common/refusal.js";

export const maxFileBytes = 4_000_000;
const maxItems = 120;
const maxRows = 200_000;
const maxGroupRows = 10_000;

/** Each in each language of the shop. */
const inLanguages = (words: readonly string[], languages: readonly string[]): string[] =>
  languages.flatMap((lang) => words.map((word) => `${word} ${lang}`));
const itemColumnsIn = (languages: readonly string[]): string[] => [
  ...inLanguages(["Title", "Text", "Place", "Differs by"], languages),
  ...["Brand", "Pictures", "Goes with", "Spares", "Shown"],
];
const codeColumnsIn = (languages: readonly string[]): string[] => [
  ...inLanguages(["This one"], languages),
  ...["Price", "Was", "Stock", "Weight kg", "Barcode", "Code picture"],
];
const tierColumns = ["From", "Club", "Tier price"];

/** `Title` is `Title en`. */
export type InLanguage = (word: string) => string;

export interface ItemRow {
  readonly line: number;
  readonly item: string;
  readonly code: string;
  /** The cell's text; `""` when blank, undefined when the file has no such column. */
  readonly cell: (column: string) => string | undefined;
  readonly continuation: boolean;
}

export interface Group {
  readonly item: string;
  readonly rows: readonly ItemRow[];
  /** Reasons that the shape of the group itself gives. */
  readonly reasons: readonly string[];
}

export interface ImportFile {
  /** The column of a word in the shop's first language, and in its other one, if it has one. */
  readonly main: InLanguage;
  readonly other: InLanguage;
  readonly columns: ReadonlySet<string>;
  readonly groups: readonly Group[];
}

/** @throws Refusal when the file as a whole is refused. */
export async function readFile(bytes: Uint8Array, languages: readonly string[]): Promise<ImportFile> {
  const itemColumns = itemColumnsIn(languages);
  const codeColumns = codeColumnsIn(languages);
  const known = new Set(["Item", "Code", ...itemColumns, ...codeColumns, ...tierColumns]);
  if (bytes.length > maxFileBytes) throw new Refusal("too-large");
  const lines = await records(decode(bytes));
  const header = lines.shift();
  if (!header || header.cells.every((cell) => cell === "")) throw new Refusal("empty");
  const columns = new Set(header.cells);
  if (header.cells.some((column) => !known.has(column))) throw new Refusal("unknown-column");
  if (columns.size < header.cells.length) throw new Refusal("repeated-column");
  if (!columns.has("Item")) throw new Refusal("no-item-column");
  if ((columns.has("From") || columns.has("Club")) && !columns.has("Tier price"))
    throw new Refusal("tiers-without-price-column");
  if (lines.some((line) => line.cells.length > header.cells.length)) throw new Refusal("ragged-row");

  if (lines.length > maxRows) throw new Refusal("too-many-rows");
  const places = new Map(header.cells.map((column, at) => [column, at]));
  const rows = lines.filter((line) => line.cells.some((cell) => cell !== "")).map((line) => toRow(places, line));
  if (new Set(rows.map((row) => row.item).filter((item) => item !== "")).size > maxItems)
    throw new Refusal("too-many-items");
  const [main, other] = languages;
  return {
    columns,
    groups: toGroups(rows, { itemColumns, codeColumns }),
    main: (word) => `${word} ${main}`,
    other: (word) => `${word} ${other}`,
  };
}

function decode(bytes: Uint8Array): string {
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    throw new Refusal("not-utf-8");
  }
}

interface Line {
  readonly cells: readonly string[];
  readonly line: number;
}

async function records(text: string): Promise<Line[]> {
  let end = 0;
  try {
    const parsed = await readDelimited(text, { delimiter: ";", record_delimiter: ["\r\n", "\n"] });
    return parsed.map(({ cells, lines }) => {
      // The parser says at which line a record ends; it begins where the one before it ended.
      const line = end + 1;
      end = Math.max(lines, line);
      return { cells, line };
    });
  } catch {
    throw new Refusal("not-csv");
  }
}

function toRow(places: ReadonlyMap<string, number>, { cells, line }: Line): ItemRow {
  const cell = (column: string): string | undefined => {
    const place = places.get(column);
    return place === undefined ? undefined : (cells[place] ?? "");
  };
  const item = cell("Item")!;
  return { line, item, code: cell("Code") ?? "", cell, continuation: item === "" };
}

interface Levels {
  readonly itemColumns: readonly string[];
  readonly codeColumns: readonly string[];
}

function toGroups(rows: readonly ItemRow[], levels: Levels): Group[] {
  const groups: { item: string; rows: ItemRow[] }[] = [];
  for (const row of rows) {
    const above = groups[groups.length - 1];
    const belongs = above !== undefined && (row.continuation ? above.item !== "" : row.item === above.item);
    if (belongs) above.rows.push(row);
    else groups.push({ item: row.item, rows: [row] });
  }
  return groups.map(({ item, rows: own }) => ({ item, rows: own, reasons: shapeReasons(own, levels) }));
}

function shapeReasons(rows: readonly ItemRow[], { itemColumns, codeColumns }: Levels): string[] {
  if (rows.length > maxGroupRows) return ["group-too-long"];
  const reasons: string[] = [];
  let codeAbove = false;
  rows.forEach((row, place) => {
    const filled = (columns: readonly string[]) => columns.some((column) => (row.cell(column) ?? "") !== "");
    if (row.continuation) {
      if (row.code !== "" || place === 0) reasons.push("row-without-item");
      if (filled([...itemColumns, ...codeColumns])) reasons.push("continuation-fills-more");
      if (!codeAbove) reasons.push("continuation-without-code");
      return;
    }
    if (place > 0 && filled(itemColumns)) reasons.push("item-cell-on-further-row");
    if (place > 0 && row.code === "") reasons.push("code-missing");
    if (row.code === "" && filled([...codeColumns, ...tierColumns])) reasons.push("cells-without-code");
    codeAbove = row.code !== "";
  });
  return reasons;
}
