/** Rows as a sheet of a workbook. Cells are written as texts. */

import { phrase } from "../../phrases/phrase.js";
import { writeWorkbook } from "../workbook-write.js";
import type { FormatDriver, FormatOf } from "./driver.js";

type Workbook = FormatOf<"workbook">;

const mediaTypes: Readonly<Record<Workbook["kind"], string>> = {
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
  xls: "application/vnd.ms-excel",
  ods: "application/vnd.oasis.opendocument.spreadsheet",
};

/** The package loses blanks beside line ends, and takes such words for the characters that they stand for in other workbooks. */
const lostInOds = /[ \t]\n|\n[ \t]|^\n|\n$|_x[0-9A-Fa-f]{4}_/;

export const workbookDriver: FormatDriver<Workbook> = {
  ending: ({ kind }) => kind,
  resource: ({ kind }) => ({ format: kind, mediatype: mediaTypes[kind] }),
  unwritten: () => undefined,
  rows: {
    linesOf: () => 1,
    bytesOf: undefined,
    limits: ({ kind }) => {
      if (kind !== "ods") return undefined;
      return (cell) =>
        lostInOds.test(cell) ? phrase("text without blanks beside line ends, or words like _x0041_") : undefined;
    },
    isOpenToFormulas: false,
    write: async ({ kind }, { sheet, rows }) => [await writeWorkbook([{ name: sheet, rows: [...rows] }], kind)],
  },
};
