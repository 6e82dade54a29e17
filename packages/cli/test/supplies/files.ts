/** From columns to the bytes of a file, with the small damage that files come with. */

import { dsvFormat } from "d3-dsv";
import { utils, write } from "@e965/xlsx";

/** A column, and what it truly holds. */
export interface TrueColumn {
  readonly header: string;
  /** Each of which is right; undefined where no field takes it. */
  readonly truth: readonly string[] | undefined;
  readonly cells: readonly string[];
  /** In a document it stands with the versions, not with their product. */
  readonly isOfSold?: boolean;
}

export interface SupplyFile {
  readonly name: string;
  /** What it is about: `main`, `prices`. */
  readonly part: string;
  /** How the rows of the main file lie. */
  readonly kind: string;
  readonly bytes: Uint8Array;
  readonly columns: readonly TrueColumn[];
}

export interface FileOptions {
  readonly isWorkbook: boolean;
  readonly delimiter: string;
  readonly note: string | undefined;
  readonly hasMark: boolean;
  /** A row whose first cell has spaces around it. */
  readonly strayAt: number | undefined;
}

export function columnsAsFile(
  part: string,
  kind: string,
  given: readonly TrueColumn[],
  options: FileOptions,
): SupplyFile {
  const columns = withOneName(given);
  const count = columns[0]?.cells.length ?? 0;
  const rows = Array.from({ length: count }, (_, row) =>
    columns.map(({ cells }, at) =>
      row === options.strayAt && at === columns.length - 1 && cells[row] !== "" ? `${cells[row]!} ` : cells[row]!,
    ),
  );
  const above = options.note === undefined ? [] : [[options.note], []];
  const all = [...above, columns.map(({ header }) => header), ...rows];
  const name = `${part}.${options.isWorkbook ? "xlsx" : "csv"}`;
  const text = all.map((row) => dsvFormat(options.delimiter).formatRow(row)).join("\n");
  const bytes = options.isWorkbook
    ? workbookOf(all)
    : new TextEncoder().encode(`${options.hasMark ? "\ufeff" : ""}${text}\n`);
  return { name, part, kind, bytes, columns };
}

/** A document of elements named like the columns; versions lie in their product. @param begins by row: whether a product begins with it. */
export function columnsAsDocument(
  part: string,
  kind: string,
  given: readonly TrueColumn[],
  begins: readonly boolean[],
): SupplyFile {
  const named = withOneName(given.map((column) => ({ ...column, header: elementName(column.header) })));
  const columns = kind === "flat" ? named.map((column) => ({ ...column, isOfSold: false })) : named;
  const own = columns.filter(({ isOfSold }) => !isOfSold);
  const sold = columns.filter(({ isOfSold }) => isOfSold);
  const cellsOf = (list: readonly TrueColumn[], row: number) =>
    list.map(({ header, cells }) => `<${header}>${escaped(cells[row]!)}</${header}>`).join("");
  const rows = begins.flatMap((one, row) => (one ? [row] : []));
  const items = rows.map((row, at) => {
    const inside = Array.from({ length: (rows[at + 1] ?? begins.length) - row }, (_, more) => row + more);
    const versions = inside.map((one) => `<version>${cellsOf(sold, one)}</version>`).join("");
    return `<item>${cellsOf(own, row)}${sold.length > 0 ? `<versions>${versions}</versions>` : ""}</item>`;
  });
  const text = `<?xml version="1.0" encoding="UTF-8"?>\n<feed>\n${items.join("\n")}\n</feed>\n`;
  const paths = columns.map((column) =>
    column.isOfSold ? { ...column, header: `versions/version/${column.header}` } : column,
  );
  return { name: `${part}.xml`, part, kind: `${kind} xml`, bytes: new TextEncoder().encode(text), columns: paths };
}

const elementName = (header: string): string =>
  header
    .replace(/[^\p{L}\p{N}]+/gu, "_")
    .replace(/^_|_$/g, "")
    .replace(/^(?=\p{N})/u, "n");
const escaped = (cell: string): string => cell.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");

/** Headers that come twice get a number, as a person would give them one. */
function withOneName(columns: readonly TrueColumn[]): TrueColumn[] {
  const met = new Map<string, number>();
  return columns.map((column) => {
    const count = (met.get(column.header) ?? 0) + 1;
    met.set(column.header, count);
    return count === 1 ? column : { ...column, header: `${column.header}_${count}` };
  });
}

/** What looks like a number is one, as spreadsheet programs keep it. */
function workbookOf(rows: readonly (readonly string[])[]): Uint8Array {
  const cells = rows.map((row) =>
    row.map((cell) =>
      /^(0|[1-9]\d*)([.,]\d+)?$/.test(cell) ? Number(cell.replace(",", ".")) : cell === "" ? null : cell,
    ),
  );
  const book = utils.book_new();
  utils.book_append_sheet(book, utils.aoa_to_sheet(cells), "Export");
  return new Uint8Array(write(book, { type: "array", bookType: "xlsx" }) as ArrayBuffer);
}
