/** What the reports of uploaded files tell: what was taken, what was refused, ids. */

import { entryOf, present } from "../checked.js";
import { isHeldBack } from "../build/hold-back.js";
import { fileRows, numberedRows, type FileRow } from "../build/write-file.js";
import { finding, Findings } from "../findings/finding.js";
import { partsOf, type Ledger } from "../ledger/ledger.js";
import type { Location } from "../location.js";
import type { UploadStep } from "../plan/plan.js";
import { areIdsNeeded } from "../target/ids-needed.js";
import type { TargetFile } from "../target/target.js";
import { Catalogue, type ResolvedCatalogue } from "../catalogue/catalogue.js";
import type { Layout } from "../layout/layout.js";
import { resolveReferences } from "../resolve/resolve.js";
import { learn, type Collecting, type Counts } from "./collecting.js";
import { matchTold } from "./match-told.js";
import { RowsOfStep, takenBy, type AcceptedRows } from "./taken.js";

/** The record that a row is about: a child's row its child. */
function recordOf(file: TargetFile, blocks: ReadonlyMap<number, string>, row: FileRow) {
  const { shape } = file.layouts[row.layout]!;
  const parentKind = entryOf(blocks, row.layout);
  if (row.child < 0 || row.isSingles) return { kind: parentKind, row: row.parent };
  const childKind = shape.parent.name === parentKind ? present(shape.child).name : shape.parent.name;
  return { kind: childKind, row: row.child };
}

/** What the reports of a step tell: what was taken, what was refused, ids. */
export async function collectStep(
  input: Collecting,
  step: UploadStep,
  file: TargetFile,
  counts: Counts,
): Promise<AcceptedRows> {
  const { ids } = file;
  if (ids?.in === "report" && ids.layout) return collectTold(input, step, file, ids.layout, counts);
  return collectLines(input, step, file, counts);
}

/** Where a target reads its reports by a layout: those that it tells an id of were taken, all others were not. */
async function collectTold(
  input: Collecting,
  step: UploadStep,
  file: TargetFile,
  layout: Layout,
  counts: Counts,
): Promise<AcceptedRows> {
  const { findings, others, kinds, heldBack } = input;
  const { catalogue = input.catalogue } = step.from ?? {};
  const kind = layout.shape.parent.name;
  const rows = new RowsOfStep();
  let isAnswered = true;
  for (const { name, blocks } of step.files) {
    const unresolved = new Catalogue(kinds);
    if (!(await input.readReport?.(name, layout, unresolved, others))) {
      findings.add(finding("collect/no-report", {}, { file: name }));
      isAnswered = false;
      continue;
    }
    const told = resolveReferences(unresolved, new Findings(0)).catalogue;
    const blockKinds = new Map(blocks.map((block) => [block.layout, block.kind]));
    const selection = { blocks, step, isLeftOut: isHeldBack(heldBack) };
    const written = [...numberedRows(file, fileRows(catalogue, file, selection, new Findings(0)).rows)]
      .filter(({ row }) => row.parent >= 0)
      .map(({ row, line }) => ({ row, line, own: recordOf(file, blockKinds, row) }));
    const wanted = [...new Set(written.flatMap(({ own }) => (own.kind === kind ? [own.row] : [])))];
    const ways = present(file.ids).matchedBy;
    const { found } = matchTold({
      catalogue,
      told,
      kind,
      lang: layout.language,
      ways,
      wanted,
      isOpen: () => true,
      findings,
    });
    for (const [row, { id, at }] of found) learn(input, kind, row, id, at, counts);
    for (const { row, line, own } of written) {
      const isTaken = found.has(own.kind === kind ? own.row : row.parent);
      rows.see(own.kind, own.row, isTaken);
      if (row.child >= 0) rows.seeAbove(entryOf(blockKinds, row.layout), row.parent, isTaken);
      if (isTaken) continue;
      const record = { kind: own.kind, key: catalogue.table(own.kind).key(own.row) };
      others.add(finding("collect/refused", { reasons: [notTold] }, { file: name, line, record }));
      counts.refused++;
    }
  }
  if (!isAnswered) return new Map();
  const taken = takenBy(catalogue, step, rows);
  confirm(input, step, file, taken, counts);
  return taken;
}

export const notTold = "the report does not tell of it";

function collectLines(input: Collecting, step: UploadStep, file: TargetFile, counts: Counts): AcceptedRows {
  const { findings, reports, heldBack } = input;
  const { catalogue = input.catalogue } = step.from ?? {};
  const rows = new RowsOfStep();
  let isAnswered = true;
  for (const { name, blocks } of step.files) {
    const report = reports.get(name);
    if (!report) {
      findings.add(finding("collect/no-report", {}, { file: name }));
      isAnswered = false;
      continue;
    }
    const kinds = new Map(blocks.map((block) => [block.layout, block.kind]));
    const selection = { blocks, step, isLeftOut: isHeldBack(heldBack) };
    const byLine = new Map(report.rows.map((row) => [row.line, row]));
    for (const { row, line } of numberedRows(file, fileRows(catalogue, file, selection, new Findings(0)).rows)) {
      if (row.parent < 0) continue;
      const own = recordOf(file, kinds, row);
      const told = byLine.get(line);
      const at: Location = {
        file: name,
        line,
        record: { kind: own.kind, key: catalogue.table(own.kind).key(own.row) },
      };
      const isTaken = report.refused === null && told !== undefined && told.outcome !== "refused";
      rows.see(own.kind, own.row, isTaken);
      // A row shows the record above its own too, where that has no row of its own.
      if (row.child >= 0) rows.seeAbove(entryOf(kinds, row.layout), row.parent, isTaken);
      if (!isTaken) {
        const reasons = report.refused === null ? (told?.reasons ?? [notTold]) : [report.refused];
        input.others.add(finding("collect/refused", { reasons }, at));
        counts.refused++;
        continue;
      }
      if (step.slot.mode === "create" && told.outcome !== "created" && input.ledger.isEmpty)
        findings.add(finding("collect/other-outcome", { expected: "created", was: told.outcome }, at));
      if (file.ids?.in === "report" && told.id) learn(input, own.kind, own.row, told.id, at, counts);
    }
  }
  if (!isAnswered) return new Map();
  const taken = takenBy(catalogue, step, rows);
  confirm(input, step, file, taken, counts);
  return taken;
}

/** Nothing is known any more of a record that was deleted, nor of what it contained. */
function forget(ledger: Ledger, catalogue: ResolvedCatalogue, kind: string, row: number, run: string): void {
  const table = catalogue.table(kind);
  const [code, id] = [table.text("code", row), table.text("id", row)];
  const owner = id ? ledger.keyOf(kind, id) : undefined;
  for (const key of new Set([table.key(row), owner, code])) if (key) ledger.unconfirm(kind, key, run);
  const child = catalogue.kinds.childOf(kind)?.name;
  if (child !== undefined)
    for (const one of catalogue.table(child).childrenOf(row)) forget(ledger, catalogue, child, one, run);
}

function confirm(
  { catalogue, target, ledger, run, findings }: Collecting,
  step: UploadStep,
  file: TargetFile,
  taken: AcceptedRows,
  counts: Counts,
): void {
  if (step.slot.mode === "delete")
    for (const [kind, rows] of taken)
      for (const row of rows) forget(ledger, step.from?.catalogue ?? catalogue, kind, row, run);
  for (const { kind, update, records } of step.places) {
    // What the platform gives an id to is there when the id is known.
    const isOfFile = file.ids !== undefined && file.layouts.some(({ shape }) => shape.parent.name === kind);
    if (update === undefined && isOfFile && (file.ids.in === "export" || areIdsNeeded(target, kind))) continue;
    const table = catalogue.table(kind);
    for (const row of records) {
      if (!taken.get(kind)?.has(row)) continue;
      const problem = ledger.add({ kind, key: table.key(row), ...partsOf(update), state: "confirmed", run });
      if (problem) findings.add(problem);
      else counts.confirmed++;
    }
  }
}
