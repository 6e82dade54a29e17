/** What is written, against what a person wrote by hand: cell by cell. */

import assert from "node:assert/strict";
import { readdirSync, readFileSync } from "node:fs";
import { extname, join } from "node:path";
import { dsvFormat } from "d3-dsv";
import { read as readOldWorkbook, utils as oldSheets } from "@e965/xlsx";
import readWorkbook from "read-excel-file/node";

/** Written beside the files of an import. */
const isForPeople = (name: string): boolean => /^(run-sheet|datapackage|\.)|\.zip$/.test(name);
/** By the sign that comes first of those that cells stand between. */
const rowsIn = (text: string): readonly (readonly string[])[] =>
  dsvFormat(/[\t;|,]/.exec(text.split("\n", 3).at(-1)!)?.[0] ?? ",").parseRows(text.trimEnd());
const rowsOfWorkbook = async (path: string): Promise<readonly (readonly string[])[]> =>
  (await readWorkbook(path))[0]!.data.map((row) => row.map((cell) => String(cell ?? "")));
/** Of a workbook in the old format. */
function rowsOfOldWorkbook(path: string): readonly (readonly string[])[] {
  const { Sheets, SheetNames } = readOldWorkbook(readFileSync(path), { type: "buffer" });
  const rows = oldSheets.sheet_to_json<readonly unknown[]>(Sheets[SheetNames[0]!]!, { header: 1, defval: "" });
  return rows.map((row) => row.map(String));
}

/** The cells of a file, or what a document holds. @param written whether the platform gets it; by hand a workbook is a CSV file. */
async function contentOf(path: string, written: boolean): Promise<unknown> {
  const text = (): string => readFileSync(path, "utf8").replace(/^\uFEFF/, "");
  const kind = extname(path);
  if (kind === ".json") return JSON.parse(text());
  if (kind === ".jsonl")
    return text()
      .trimEnd()
      .split("\n")
      .map((line) => JSON.parse(line) as unknown);
  if (written && kind === ".xlsx") return rowsOfWorkbook(path);
  if (written && kind === ".xls") return rowsOfOldWorkbook(path);
  return rowsIn(text());
}

/** @param expected the folder of the files made by hand. @param upload the folder that was written. */
export async function matches(expected: string, upload: string): Promise<void> {
  const wanted = readdirSync(expected).sort();
  const written = readdirSync(upload).filter((name) => !isForPeople(name));
  assert.deepEqual(written.map((name) => name.replace(/\.xlsx?$/, "$&.csv")).sort(), wanted);
  for (const name of wanted) {
    const made = join(upload, name.replace(/(\.xlsx?)\.csv$/, "$1"));
    assert.deepEqual(await contentOf(made, true), await contentOf(join(expected, name), false), name);
  }
}
