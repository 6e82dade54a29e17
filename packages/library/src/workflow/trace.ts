/** Where a cell of the upload comes from, where a cell of a source goes, why a record is where it is, what has no place. */

import { linesIn } from "../build/lines-elsewhere.js";
import type { Header, Key } from "../nominal.js";
import { isHeldBack } from "../build/hold-back.js";
import type { Prepared } from "../build/prepare.js";
import type { Location } from "../location.js";
import type { PlannedFile, UploadStep } from "../plan/plan.js";
import { recordsNamed, whyThere, type Reason } from "../plan/why.js";
import { findUncarried, type Uncarried } from "../target/carries.js";
import { traceCells, traceSource, uploadRows, type TracedCell, type UploadRow } from "../trace/trace.js";
import type { OpenedTarget } from "./open.js";

/** A cell, or with no column a row: of a file of the upload, or of a source. */
export type Traced = Pick<Location, "file" | "line" | "column" | "sheet" | "pointer">;

/** The filled cells of the upload at a location, each with its origins. */
export const cellsAt = (
  { catalogue, target }: OpenedTarget,
  { plan, heldBack }: Prepared,
  { file, line, column }: Traced,
): Iterable<TracedCell> =>
  traceCells(
    catalogue,
    target,
    plan,
    isHeldBack(heldBack),
    (name, at, header) => name === file && at === line && (column === undefined || header === column),
  );

/** The cells of the upload that a location of a source feeds. @param source a text is a location as findings print it. */
export const cellsFrom = (
  { catalogue, target }: OpenedTarget,
  { plan, heldBack }: Prepared,
  source: Traced | string,
): Iterable<TracedCell> => traceSource(catalogue, target, plan, isHeldBack(heldBack), source);

/** One record, and what has to be there before it. */
export interface RecordReasons {
  readonly kind: string;
  readonly key: Key;
  readonly reasons: readonly Reason[];
}

/** Why the records with a key or code are uploaded where they are; none where no record has it. */
export const reasonsFor = (
  { catalogue, target }: OpenedTarget,
  { plan }: Prepared,
  word: string,
): readonly RecordReasons[] =>
  recordsNamed(catalogue, word).map((record) => ({
    kind: record.kind,
    key: catalogue.table(record.kind).key(record.row),
    reasons: whyThere(catalogue, target, plan, record),
  }));

/** Fields, entries and kinds of the sources that the target has no place for. */
export const leftOut = ({ catalogue, target }: OpenedTarget): readonly Uncarried[] => findUncarried(catalogue, target);

/** The rows of one file of the plan, as they are or will be written, by what is known now. */
export const rowsOf = (
  { catalogue, target }: OpenedTarget,
  { heldBack, plan }: Prepared,
  step: UploadStep,
  file: PlannedFile,
): { readonly headers: readonly Header[]; readonly rows: Iterable<UploadRow> } => {
  const isLeftOut = isHeldBack(heldBack);
  const lineElsewhere = linesIn(catalogue, target, plan.steps, isLeftOut);
  return uploadRows(catalogue, target, step, file, { isLeftOut, lineElsewhere });
};
