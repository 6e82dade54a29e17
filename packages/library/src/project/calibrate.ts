/**
 * Calibrating: a file is read with a layout, written back with it, and compared: cell by cell, over the cells that the layout binds, and
 * record by record, whatever rows they stand on.
 *
 * Equal, equal but for a form that is named, or different and shown. What is different the layout does not say rightly yet.
 */

import type { Header } from "../nominal.js";
import { resultOf, success } from "../findings/result.js";
import { Findings, finding, type Result } from "../findings/finding.js";
import { Catalogue, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import { isProblem, type Codec } from "../codecs/codec.js";
import type { Kinds } from "../kinds.js";
import type { RowLink, Layout } from "../layout/layout.js";
import { writeLayout } from "../layout/write/layout-file.js";
import { writtenKind, type WriteOptions } from "../layout/write/rows.js";
import { sheetHeaders } from "../layout/cells.js";
import { driverOf, sheetName } from "../formats/drivers/drivers.js";
import type { Format } from "../formats/format.js";
import { columnAt } from "../formats/letters.js";
import type { FilesPort } from "../ports.js";
import { resolveReferences } from "../resolve/resolve.js";
import { compareRecords, type RecordsCalibration } from "./compare-records.js";
import { readSource } from "./sources.js";

export type Form =
  | "another form of the same value"
  | "spaces around it"
  | "written out on every row"
  | "not repeated below the first row";

/** How the cells of one column came back. */
export interface ColumnCalibration {
  readonly header: Header;
  cells: number;
  equal: number;
  readonly forms: Map<Form, number>;
  readonly different: { readonly line: number; readonly was: string; readonly is: string }[];
  differentCount: number;
}

/** How a file came back that was read with a layout and written again. */
export interface Calibration {
  readonly columns: readonly ColumnCalibration[];
  readonly rows: number;
  readonly writtenRows: number;
  readonly ignored: readonly string[];
  /** The records that were read, and those that what was written gives. */
  readonly records: RecordsCalibration;
}

const maxShown = 5;

interface Seen {
  readonly rows: (readonly (string | undefined)[])[];
  readonly lines: number[];
}

/** Reads a file with a layout and writes it again; fails where it cannot be read. What cannot be written is a finding. */
export async function calibrateLayout(
  file: string,
  layout: Layout,
  kinds: Kinds,
  files: FilesPort,
): Promise<Result<Calibration>> {
  const findings = new Findings();
  const catalogue = new Catalogue(kinds);
  const seen: Seen = { rows: [], lines: [] };
  const see = (into: Seen) => (cells: readonly (string | undefined)[], line: number) => {
    into.rows.push(cells);
    into.lines.push(line);
  };
  if (layout.link) await makeNamed(file, layout, layout.link, catalogue, files);
  await readSource({ file, layout, seen: see(seen) }, catalogue, files, findings);
  if (seen.rows.length === 0) return { ok: false, findings };
  const { catalogue: resolved } = resolveReferences(catalogue, findings);
  const records = Array.from({ length: resolved.table(writtenKind(layout, resolved)).size }, (_, row) => row);
  const again: Seen = { rows: [], lines: [] };
  const written = { ...layout, format: writtenFormat(layout, findings) };
  const port = await portOf(resolved, written, { records }, findings);
  const second = new Catalogue(kinds);
  if (layout.link) await makeNamed(file, written, layout.link, second, port);
  await readSource({ file, layout: written, seen: see(again) }, second, port, new Findings());
  const compared = compareRecords(resolved, resolveReferences(second, new Findings()).catalogue);
  const withRecords = (cells: Omit<Calibration, "records">): Calibration => ({ ...cells, records: compared });
  const headers = layout.columns.map((column) => column.header);
  // Documents are seen as rows of the layout's columns, sheets below their header, where they have one.
  if (layout.shape.is === "nested") {
    const rows = again.rows.map((row) => headers.map((_, at) => row[at] ?? ""));
    return resultOf(withRecords(compare(layout, headers, seen, headers, rows, findings)), findings);
  }
  const [header, body] = belowHeader(layout, seen);
  const [back, belowBack] = belowHeader(layout, again);
  const rows = belowBack.rows.map((row) => row.map((cell) => cell ?? ""));
  return resultOf(withRecords(compare(layout, header, body, back, rows, findings)), findings);
}

/** The form of the file that is written: what is read alone, an encoding or the number of a sheet, is left out. */
function writtenFormat({ file, format }: Layout, findings: Findings): Format {
  const why = driverOf(format).unwritten(format);
  if (why !== undefined) findings.add(finding("calibrate/form-not-written", { why }, { file }));
  if (format.is === "workbook") return { ...format, sheet: sheetName(format) };
  if (why === undefined) return format;
  if (format.is === "csv") return { ...format, encoding: undefined, mark: false };
  return format.is === "xml" ? { ...format, encoding: undefined } : format;
}

/** The written file, as the sources of a project are read. */
async function portOf(
  catalogue: ResolvedCatalogue,
  layout: Layout,
  options: WriteOptions,
  findings: Findings,
): Promise<FilesPort> {
  // The file is read twice where rows are linked.
  const chunks = [...(await writeLayout(catalogue, layout, options, findings))];
  async function* read(): AsyncGenerator<Uint8Array> {
    await Promise.resolve();
    yield* chunks;
  }
  return { read: () => Promise.resolve(success(read())), list: () => Promise.resolve([]) };
}

function belowHeader({ headerLine }: Layout, { rows, lines }: Seen): readonly [readonly string[], Seen] {
  if (headerLine === undefined) return [[], { rows, lines }];
  return [(rows[0] ?? []) as readonly string[], { rows: rows.slice(1), lines: lines.slice(1) }];
}

/** The records that linked rows are about, made of nothing but what they are named by: other sources give them. */
async function makeNamed(
  file: string,
  layout: Layout,
  { column, names, sheet }: RowLink,
  catalogue: Catalogue,
  files: FilesPort,
): Promise<void> {
  const { shape } = layout;
  const { parent } = shape;
  const seen: Seen = { rows: [], lines: [] };
  const isDocument = shape.is === "nested";
  const see = (cells: readonly (string | undefined)[], line: number) => {
    seen.rows.push(cells);
    seen.lines.push(line);
  };
  // Rows are only looked at: that they are of no record yet does not matter.
  await readSource({ file, layout, seen: see }, new Catalogue(catalogue.kinds), files, new Findings());
  const headers = layout.columns.map(({ header }) => header);
  const [header, { rows }] = isDocument ? [headers, seen] : belowHeader(layout, seen);
  const at = header.length === 0 ? columnAt(column) : header.indexOf(column);
  const above = parent.of === undefined || shape.child ? undefined : catalogue.kinds.get(parent.of);
  const table = catalogue.table(above?.single ? above.name : parent.name);
  // Lines are those of another file: its records are where it says.
  const from =
    names === "line" ? catalogue.sheets.push({ file: sheet ?? "", headers: new Map(), precedence: 0 }) - 1 : -1;
  for (const word of new Set(rows.map((row) => row[at] ?? ""))) {
    if (word === "") continue;
    const row = table.append(from, names === "line" ? Number(word) : 0);
    table.nameRecord(row, word);
    if (names !== "key" && names !== "line") table.setText(names, row, word);
  }
}

function compare(
  layout: Layout,
  headers: readonly Header[],
  { rows, lines }: Seen,
  writtenHeaders: readonly string[],
  written: readonly (readonly string[])[],
  findings: Findings,
): Omit<Calibration, "records"> {
  if (rows.length !== written.length)
    findings.add(
      finding("calibrate/rows-differ", { read: rows.length, written: written.length }, { file: layout.file }),
    );
  // Rows that do not stand side by side cannot be compared.
  if (rows.length !== written.length)
    return { columns: [], rows: rows.length, writtenRows: written.length, ignored: [] };
  const made = new Set(layout.cells.flatMap(sheetHeaders));
  const columns = writtenHeaders.map((header, at): ColumnCalibration => {
    const column: ColumnCalibration = {
      header,
      cells: 0,
      equal: 0,
      forms: new Map(),
      different: [],
      differentCount: 0,
    };
    const source = headers.length === 0 ? at : headers.indexOf(header);
    if (source < 0) return column;
    const bound = layout.columns.find((one) => one.header === header);
    const codec = made.has(header) ? undefined : bound?.bindings[0]?.codec;
    for (let row = 0; row < rows.length; row++) {
      const was = rows[row]![source] ?? "";
      const is = written[row]![at] ?? "";
      column.cells++;
      if (was === is) {
        column.equal++;
        continue;
      }
      const form = formOf(was, is, codec, rows, written, row, source, at);
      if (form) column.forms.set(form, (column.forms.get(form) ?? 0) + 1);
      else if (column.differentCount++ < maxShown) column.different.push({ line: lines[row]!, was, is });
    }
    return column;
  });
  return { columns, rows: rows.length, writtenRows: written.length, ignored: layout.ignored };
}

function formOf(
  was: string,
  is: string,
  codec: Codec | undefined,
  rows: Seen["rows"],
  written: readonly (readonly string[])[],
  row: number,
  source: number,
  at: number,
): Form | undefined {
  if (was.trim() === is.trim()) return "spaces around it";
  if (was !== "" && is !== "" && codec) {
    const [one, other] = [codec.parse(was), codec.parse(is)];
    if (!isProblem(one) && !isProblem(other) && JSON.stringify(one) === JSON.stringify(other))
      return "another form of the same value";
  }
  const above = (list: readonly (readonly (string | undefined)[])[], column: number) => {
    for (let up = row - 1; up >= 0; up--) if ((list[up]![column] ?? "") !== "") return list[up]![column];
    return undefined;
  };
  if (was === "" && above(rows, source) === is) return "written out on every row";
  if (is === "" && above(written, at) === was) return "not repeated below the first row";
  return undefined;
}
