/** Rows as a sheet of a workbook. Cells are written as texts. */

import { z } from "zod";
import { finding } from "../../findings/finding.js";
import { phrase } from "../../phrases/phrase.js";
import { strFromU8 } from "fflate";
import { isZip } from "../zip-read.js";
import { chooseSheet, isOldWorkbook, openWorkbook, readSheet, type Workbook as Book } from "../workbook-read.js";
import { writeWorkbook } from "../workbook-write.js";
import type { FormatDriver, FormatOf, SourceFile } from "./driver.js";

type Workbook = FormatOf<"workbook">;

const mediaTypes: Readonly<Record<Workbook["kind"], string>> = {
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
  xls: "application/vnd.ms-excel",
  ods: "application/vnd.oasis.opendocument.spreadsheet",
};

/** The package loses blanks beside line ends, and takes such words for the characters that they stand for in other workbooks. */
const lostInOds = /[ \t]\n|\n[ \t]|^\n|\n$|_x[0-9A-Fa-f]{4}_/;

/** What the parts of such a workbook are called: ECMA-376 part 2. */
const partsOfXlsx = /^(\[Content_Types\]\.xml|_rels\/|xl\/|docProps\/|customXml\/)/;

const schema = z.strictObject({
  sheet: z.union([z.string(), z.int().min(1)]).optional(),
  kind: z.enum(["xlsx", "xls", "ods"]).optional(),
  "hidden rows": z.enum(["read", "left out"]).optional(),
  "merged cells": z.enum(["first only", "repeated"]).optional(),
});

export const workbookDriver: FormatDriver<Workbook, typeof schema> = {
  schema,
  of: ({ sheet, kind = "xlsx", "hidden rows": hidden, "merged cells": merged }) => ({
    is: "workbook",
    sheet,
    kind,
    skipsHidden: hidden === "left out",
    repeatsMerged: merged === "repeated",
  }),
  detect(head) {
    if (isOldWorkbook(head)) return workbookDriver.of({ kind: "xls" });
    if (!isZip(head)) return undefined;
    // The name of an archive's first file stands behind 30 bytes: PKWARE APPNOTE 4.3.7.
    const first = strFromU8(head.subarray(30, 60), true);
    if (first.startsWith("mimetype")) return workbookDriver.of({ kind: "ods" });
    return partsOfXlsx.test(first) ? workbookDriver.of({ kind: "xlsx" }) : undefined;
  },
  isArchive: true,
  async open(format, source) {
    const { file, findings, headerLine } = source;
    const book = await bookOf(source);
    const sheet = book && chooseSheet(book, format.sheet, file, findings);
    if (!book || sheet === undefined) return undefined;
    const batches = readSheet(book, sheet, { ...format, headerLine }, { file, sheet }, findings);
    return { is: "rows", sheet, batches, encoding: () => undefined, form: () => `workbook, sheet ${sheet}` };
  },
  ending: ({ kind }) => kind,
  resource: ({ kind }) => ({ format: kind, mediatype: mediaTypes[kind] }),
  unwritten: () => undefined,
  elements: undefined,
  rows: {
    linesOf: () => 1,
    bytesOf: undefined,
    limits: ({ kind }) => {
      if (kind !== "ods") return {};
      const wanted = phrase("text without blanks beside line ends, or words like _x0041_");
      return { each: (cell) => (lostInOds.test(cell) ? wanted : undefined) };
    },
    // Cells are written as text.
    isOpenToFormulas: () => false,
    write: async ({ kind }, sheets) => [
      await writeWorkbook(
        sheets.map(({ sheet, rows }) => ({ name: sheet, rows: [...rows] })),
        kind,
      ),
    ],
  },
};

async function bookOf({ bytes, file, findings, books, caps }: SourceFile): Promise<Book | undefined> {
  if (books.has(file)) return books.get(file);
  const most = caps["workbook bytes"];
  const all = await bytes.all(most);
  if (!all) findings.add(finding("read/over-cap", { cap: "workbook bytes", most }, { file }));
  const book = all && findings.took(await openWorkbook(all, file, caps));
  books.set(file, book);
  return book;
}
