/** Files with cells that should never be sent: what a rule refuses has to be there for the rule to show. */

import { dsvFormat } from "d3-dsv";
import readWorkbook from "read-excel-file/node";
import { writeWorkbook, type TargetFile } from "zest-tier";

export const harms = [
  " begins with a space",
  "-5",
  "0",
  "0.12345",
  "0,12345",
  "12345678901234",
  "¤",
  "x".repeat(90),
  "x".repeat(260),
  "y".repeat(5_000),
  "no such record",
  "a\\|b\\;c\\+d\\,e\\:f\\/g\\&h",
  "a|b;c+d,e:f/g&h",
  "=1+2",
  "",
  "repeated",
  "halved",
  "halved",
  "as above",
  "as above",
];

/** @param turn which cells are harmed, and how. */
export const harmed = (file: TargetFile, bytes: Uint8Array, turn: number): Promise<Uint8Array> =>
  changed(file, bytes, (rows) => harmedRows(rows, turn));

/** Puts one harm into a cell of the columns that are chosen: the last one that is filled, or that of the first row. */
export const aimed = (
  file: TargetFile,
  bytes: Uint8Array,
  isChosen: (header: string) => boolean,
  harm: string,
): Promise<Uint8Array> =>
  changed(file, bytes, (rows) => {
    const places = (rows[0] ?? []).flatMap((header, at) => (isChosen(header) ? [at] : []));
    return places.reduce((made, at) => withHarm(made, at, harm), rows);
  });

function withHarm(rows: readonly (readonly string[])[], at: number, harm: string): readonly (readonly string[])[] {
  const line = Math.max(
    1,
    rows.findLastIndex((row, nth) => nth > 0 && (row[at] ?? "") !== ""),
  );
  return rows.map((row, nth) => (nth === line ? row.with(at, madeOf(harm, row[at] ?? "", rows[nth - 1]?.[at])) : row));
}

async function changed(
  { layout: { format } }: TargetFile,
  bytes: Uint8Array,
  change: (rows: readonly (readonly string[])[]) => readonly (readonly string[])[],
): Promise<Uint8Array> {
  if (format.is === "workbook") {
    const [sheet] = await readWorkbook(Buffer.from(bytes));
    const rows = sheet!.data.map((row) => row.map((cell) => String(cell ?? "")));
    return writeWorkbook([{ name: sheet!.sheet, rows: change(rows).map((row) => [...row]) }]);
  }
  const delimiter = format.is === "csv" ? (format.delimiter ?? ",") : ",";
  const dsv = dsvFormat(delimiter);
  const rows = dsv.parseRows(new TextDecoder().decode(bytes));
  return new TextEncoder().encode(`${dsv.formatRows(change(rows).map((row) => [...row]))}\n`);
}

/** A cell in 23, each time others, with every harm in its turn. */
function harmedRows(rows: readonly (readonly string[])[], turn: number): string[][] {
  // Columns in another order, and one that is not there.
  if (turn % 11 === 5) return rows.map(([first = "", second = "", ...others]) => [second, first, ...others]);
  if (turn % 11 === 7) return rows.map((row) => row.filter((_, at) => at !== turn % row.length));
  return rows.map((row, line) =>
    line === 0
      ? [...row]
      : row.map((cell, column) => {
          const number = line * 7 + column * 3 + turn;
          if (number % 23 !== 0) return cell;
          const harm = harms[(line + column * 5 + turn * 7) % harms.length]!;
          return madeOf(harm, cell, rows[line - 1]![column]);
        }),
  );
}

function madeOf(harm: string, cell: string, above = ""): string {
  if (harm === "halved") return cell.slice(0, Math.ceil(cell.length / 2));
  if (harm === "as above") return above;
  if (harm !== "repeated" || cell === "") return harm;
  return Array.from({ length: 30 }, () => cell).join(/[+;&|,/]/.exec(cell)?.[0] ?? "+");
}
