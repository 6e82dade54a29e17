/**
 * Rows to workbooks. Every cell is written as text, so that no spreadsheet takes a code for a number or a size for a date.
 *
 * Drop-downs are put into the sheet's XML afterwards, by ECMA-376 part 1, 18.3.1.33: the package does not write them.
 */

import { columnLetters } from "./letters.js";
import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from "fflate";

/** A sheet of a workbook that is to be written. */
export interface SheetToWrite {
  readonly name: string;
  readonly rows: readonly (readonly string[])[];
  /** Widths of the columns, in characters. */
  readonly widths?: readonly number[];
  /** Rows at the top that stay in sight. */
  readonly frozenRows?: number;
  /** By column, from 0: the words to choose from, from the row below the frozen ones on. */
  readonly choices?: ReadonlyMap<number, readonly string[]>;
}

export type WorkbookKind = "xlsx" | "xls" | "ods";

// Zip counts from 1980, in local time without a zone: noon stays the same day everywhere and nothing depends on the clock.
const fixedTime = new Date(1980, 0, 2, 12);
/** How hard archives are packed. One more takes twice as long, and makes them 0.3 to 3.5 % shorter. */
const packing = 5;
const lastRow = 10_000;
/** A list of words stands in the rule itself up to this length; that is what the format allows. */
const maxListChars = 255;

/** A workbook as bytes. All cells are texts, so that no program makes dates or numbers of them. */
export async function writeWorkbook(sheets: readonly SheetToWrite[], kind: WorkbookKind = "xlsx"): Promise<Uint8Array> {
  const xlsx = await import("@e965/xlsx");
  const book = xlsx.utils.book_new();
  for (const { name, rows, widths } of sheets) {
    const sheet = xlsx.utils.aoa_to_sheet(
      rows.map((row) =>
        row.map((cell) => (cell === "" ? null : { t: "s", v: kind === "xlsx" ? escaped(cell) : cell, z: "@" })),
      ),
      { dense: true },
    );
    if (widths) sheet["!cols"] = widths.map((wch) => ({ wch }));
    xlsx.utils.book_append_sheet(book, sheet, name);
  }
  // Packed below, and only there. As an "array" the package would make a text of each byte first.
  const bytes = new Uint8Array(
    xlsx.write(book, { type: "buffer", bookType: kind, compression: false, bookSST: true }) as Uint8Array,
  );
  if (kind === "xls") return bytes;
  return kind === "ods" ? packedAgain(bytes) : finished(bytes, sheets);
}

/** Fixed times in the archive. Its first file says what it is, and is not packed: OpenDocument 1.3 part 2, 3.3. */
function packedAgain(bytes: Uint8Array): Uint8Array {
  const files = Object.entries(unzipSync(bytes)).sort(
    ([a], [b]) => Number(b === "mimetype") - Number(a === "mimetype"),
  );
  const entries = files.map(([name, content]): [string, Zippable[string]] => [
    name,
    [content, { level: name === "mimetype" ? 0 : packing, mtime: fixedTime }],
  ]);
  return zipSync(Object.fromEntries(entries));
}

/** Fixed times in the archive, and what the package does not write. */
function finished(bytes: Uint8Array, sheets: readonly SheetToWrite[]): Uint8Array {
  const entries: Zippable = {};
  for (const [name, content] of Object.entries(unzipSync(bytes))) {
    const number = /^xl\/worksheets\/sheet(\d+)\.xml$/.exec(name)?.[1];
    const sheet = number === undefined ? undefined : sheets[Number(number) - 1];
    const whole =
      sheet && (sheet.choices || sheet.frozenRows) ? strToU8(withRules(strFromU8(content), sheet)) : content;
    entries[name] = [whole, { level: packing, mtime: fixedTime }];
  }
  return zipSync(entries);
}

function withRules(xml: string, { choices, frozenRows = 0 }: SheetToWrite): string {
  const rules = [...(choices ?? [])].flatMap(([column, allowed]) => {
    const list = allowed.join(",");
    if (allowed.length === 0 || list.length > maxListChars || allowed.some((word) => /[,"]/.test(word))) return [];
    const letters = columnLetters(column);
    const range = `${letters}${frozenRows + 1}:${letters}${lastRow}`;
    return [
      `<dataValidation type="list" allowBlank="1" showErrorMessage="1" sqref="${range}"><formula1>"${escapeXml(list)}"</formula1></dataValidation>`,
    ];
  });
  let result = xml;
  if (rules.length > 0)
    result = result.replace(
      "</sheetData>",
      `</sheetData><dataValidations count="${rules.length}">${rules.join("")}</dataValidations>`,
    );
  if (frozenRows > 0)
    result = result.replace(
      /<sheetView workbookViewId="0"\s*\/>/,
      `<sheetView workbookViewId="0"><pane ySplit="${frozenRows}" topLeftCell="A${frozenRows + 1}" activePane="bottomLeft" state="frozen"/></sheetView>`,
    );
  return result;
}

/**
 * Texts that would come back otherwise: `_x0041_` stands for A in these files, and a carriage return is taken for part of a line end
 * (ECMA-376 part 1, 22.9.2.19, ST_Xstring).
 */
const escaped = (text: string): string => text.replace(/_(?=x[0-9A-Fa-f]{4}_)/g, "_x005F_").replaceAll("\r", "_x000D_");

const escapeXml = (text: string): string =>
  text.replace(/[&<>"]/g, (char) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[char]!);
