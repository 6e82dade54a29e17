/** The files of the upload, row by row, and where each cell comes from. */

import {
  cellsAt,
  cellsFrom,
  rowsOf,
  type Location,
  type PlannedFile,
  type Prepared,
  type UploadStep,
  type OpenedTarget,
} from "zest-tier";
import { PackedRows } from "../sheets/packed.js";
import type { FindingIndex } from "./finding-index.js";
import type { TraceView, UploadFileView, UploadWindow } from "./views.js";

/** So many places that a source's cell went to are shown. */
const mostTraced = 500;

interface OpenFile {
  readonly name: string;
  readonly headers: readonly string[];
  readonly rows: PackedRows;
}

export class UploadShelf {
  #open: OpenFile | undefined;

  constructor(
    readonly reading: OpenedTarget,
    readonly prepared: Prepared,
    readonly found: FindingIndex,
  ) {}

  #find(name: string): { readonly step: UploadStep; readonly file: PlannedFile } | undefined {
    for (const step of this.prepared.plan.steps)
      if (step.is === "upload") for (const file of step.files) if (file.name === name) return { step, file };
    return undefined;
  }

  files(sizes: ReadonlyMap<string, number>): UploadFileView[] {
    const { steps } = this.prepared.plan;
    const stop = steps.find((step) => step.is === "collect")?.number ?? Infinity;
    return steps.flatMap((step): UploadFileView[] => {
      if (step.is !== "upload") return [];
      return step.files.map(({ name }) => ({
        name,
        step: step.number,
        rows: this.#read(name).rows.size,
        bytes: sizes.get(name),
        isNow: step.number < stop,
      }));
    });
  }

  /** Rows from a number on. */
  window(name: string, from: number, count: number): UploadWindow {
    const { headers, rows } = this.#read(name);
    return { headers, rows: rows.rows(from, count), total: rows.size };
  }

  /** The number of the row that a line belongs to. */
  rowOf(name: string, line: number): number {
    return this.#read(name).rows.rowOf(line);
  }

  #read(name: string): OpenFile {
    if (this.#open?.name === name) return this.#open;
    const rows = new PackedRows();
    const found = this.#find(name);
    if (!found) return { name, headers: [], rows };
    // What was open before makes room.
    this.#open = undefined;
    const written = rowsOf(this.reading, this.prepared, found.step, found.file);
    for (const { line, row } of written.rows) rows.push(row.cells, line);
    return (this.#open = { name, headers: written.headers, rows });
  }

  /** Where one cell of a file comes from. */
  trace(file: string, line: number, header: string): TraceView | undefined {
    for (const cell of cellsAt(this.reading, this.prepared, { file, line, column: header })) return this.#view(cell);
    return undefined;
  }

  /** The cells that a source's line, or one cell of it, went into. */
  traceFrom(source: number, line: number, column: string | undefined): TraceView[] {
    const location = this.#placeIn(source, line, column);
    if (!location) return [];
    const cells: TraceView[] = [];
    for (const cell of cellsFrom(this.reading, this.prepared, location)) {
      cells.push(this.#view(cell));
      if (cells.length === mostTraced) break;
    }
    return cells;
  }

  /** A line of a source as places say it: in documents by pointer. */
  #placeIn(source: number, line: number, column: string | undefined): Location | undefined {
    const sheet = this.reading.catalogue.sheets.find(
      (one) =>
        this.found.sourceOf({ file: one.file, ...(one.sheet === undefined ? {} : { sheet: one.sheet }) }) === source,
    );
    if (!sheet) return undefined;
    return {
      file: sheet.file,
      ...(sheet.sheet === undefined ? {} : { sheet: sheet.sheet }),
      ...(sheet.pointer === undefined ? { line } : { pointer: `${sheet.pointer}/${line}` }),
      ...(column === undefined ? {} : { column }),
    };
  }

  #view(
    cell: Omit<TraceView, "origins"> & {
      readonly origins: readonly { readonly field: string; readonly location: Location }[];
    },
  ): TraceView {
    return {
      ...cell,
      origins: cell.origins.map(({ field, location }) => ({ field, location, source: this.found.sourceOf(location) })),
    };
  }
}
