/**
 * Collecting: what a platform reports of the files it got, and what its exports show, into the ledger.
 *
 * In: the catalogue, the plan that the files were built by, reports and exports as they came. Out: lines of the ledger, and a finding
 * for each thing that is otherwise than expected. All or nothing: where a report or an export is missing, or an id cannot be told, the
 * ledger stays as it was. Rows that were refused are no such failure: what they are about is not confirmed.
 */

import type { AcceptedRows } from "./taken.js";
import { rowsOf } from "../formats/drivers/drivers.js";
import type { Lang } from "../nominal.js";
import type { Result } from "../findings/finding.js";
import { firstOf, entryOf, present } from "../checked.js";
import {
  type ReadonlyCatalogue,
  type ResolvedCatalogue,
  type TargetView,
  Catalogue,
  targetsOf,
} from "../catalogue/catalogue.js";
import type { ReadonlyTable } from "../catalogue/table.js";
import { stepsNow } from "../plan/plan.js";
import { type HeldBack, isHeldBack } from "../build/hold-back.js";
import { fileRows, type FileRow } from "../build/write-file.js";
import { finding, Findings } from "../findings/finding.js";
import type { Kinds } from "../kind.js";
import type { Layout } from "../layout/layout.js";
import { partsOf, type Ledger } from "../ledger/ledger.js";
import { withIds } from "../ledger/there.js";
import type { Location } from "../location.js";
import type { Plan, UploadStep } from "../plan/plan.js";
import type { Target, TargetFile } from "../target/target.js";
import { resolveReferences } from "../resolve/resolve.js";
import { RowsOfStep, takenBy } from "./taken.js";

/** What a platform said of a file. */
export interface ImportReport {
  readonly refused: string | null;
  readonly rows: readonly {
    readonly line: number;
    readonly outcome: string;
    readonly reasons?: readonly string[] | undefined;
    readonly id?: string | null | undefined;
  }[];
}

/** Reads an export into a catalogue of its own. @returns whether there is one. */
export type ReadExport = (file: TargetFile, layout: Layout, into: Catalogue, findings: Findings) => Promise<boolean>;

export interface CollectInput {
  readonly catalogue: TargetView;
  readonly kinds: Kinds;
  readonly target: Target;
  readonly plan: Plan;
  readonly heldBack: HeldBack;
  readonly ledger: Ledger;
  /** By the name of the uploaded file. */
  readonly reports: ReadonlyMap<string, ImportReport>;
  readonly readExport: ReadExport;
  readonly run: string;
}

/** What reports and exports told. */
export interface Collected {
  /** With the ids that are known now. */
  readonly catalogue: TargetView;
  /** With what was collected; its new lines are not on the disk yet. */
  readonly ledger: Ledger;
  readonly ids: number;
  readonly confirmed: number;
  readonly refused: number;
  /** What was in the uploaded files and was taken. */
  readonly taken: ReadonlyMap<UploadStep, AcceptedRows>;
}

/**
 * What the reports and exports of a plan's first uploads tell, in a copy of the ledger. Fails where anything is missing or cannot be
 * told.
 */
export async function collectIds(given: CollectInput): Promise<Result<Collected>> {
  const findings = new Findings();
  // Neither rows that were refused nor what cannot be read of an export make the collecting fail.
  const others = new Findings();
  const ledger = given.ledger.copy();
  const input: Collecting = { ...given, ledger, findings, others };
  const counts = { ids: 0, confirmed: 0, refused: 0 };
  const taken = new Map<UploadStep, AcceptedRows>();
  const exported = new Map<TargetFile, UploadStep[]>();
  for (const step of stepsNow(input.plan)) {
    // A file of rows comes after the pictures that it names: where it was answered, they are there.
    if (step.is === "pictures" && input.reports.size > 0)
      for (const key of step.files) ledger.add({ kind: "picture", key, state: "confirmed", run: input.run });
    if (step.is !== "upload") continue;
    const file = entryOf(input.target.files, step.slot.file);
    taken.set(step, collectStep(input, step, file, counts));
    if (file.ids?.in === "export" && step.slot.mode === "create")
      exported.set(file, [...(exported.get(file) ?? []), step]);
  }
  for (const [file, steps] of exported) await collectExport(input, file, steps, taken, counts);
  const hasFailed = findings.hasErrors;
  findings.took({ ok: false, findings: others });
  if (hasFailed) return { ok: false, findings };
  return { ok: true, value: { ...counts, taken, ledger, catalogue: withIds(given.catalogue, ledger) }, findings };
}

interface Collecting extends CollectInput {
  readonly findings: Findings;
  /** What does not make it fail. */
  readonly others: Findings;
}

type Counts = { ids: number; confirmed: number; refused: number };

/** The record that a row is about: a child's row its child. */
function recordOf(file: TargetFile, blocks: ReadonlyMap<number, string>, row: FileRow) {
  const { shape } = file.layouts[row.layout]!;
  const parentKind = entryOf(blocks, row.layout);
  if (row.child < 0) return { kind: parentKind, row: row.parent };
  const childKind = shape.parent.name === parentKind ? present(shape.child).name : shape.parent.name;
  return { kind: childKind, row: row.child };
}

/** Line by line what a report tells: what was taken, what was refused, ids. */
function collectStep(input: Collecting, step: UploadStep, file: TargetFile, counts: Counts): AcceptedRows {
  const { catalogue, findings, reports, heldBack } = input;
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
    let line = 2;
    for (const row of fileRows(catalogue, file, selection, new Findings(0)).rows) {
      if (row.parent < 0) {
        line++;
        continue;
      }
      const own = recordOf(file, kinds, row);
      const told = byLine.get(line);
      const at: Location = {
        file: name,
        line,
        record: { kind: own.kind, key: catalogue.table(own.kind).key(own.row) },
      };
      line += rowsOf(file.layout.format).linesOf(row.cells);
      const isTaken = report.refused === null && told !== undefined && told.outcome !== "refused";
      rows.see(own.kind, own.row, isTaken);
      // A row shows the record above its own too, where that has no row of its own.
      if (row.child >= 0) rows.seeAbove(entryOf(kinds, row.layout), row.parent, isTaken);
      if (!isTaken) {
        const reasons =
          report.refused === null ? (told?.reasons ?? ["the report does not tell of it"]) : [report.refused];
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

function confirm(
  { catalogue, ledger, run, findings }: Collecting,
  step: UploadStep,
  file: TargetFile,
  taken: AcceptedRows,
  counts: Counts,
): void {
  for (const { kind, update, records } of step.places) {
    // What the platform gives an id to is there when the id is known.
    if (update === undefined && file.ids && file.layouts.some(({ shape }) => shape.parent.name === kind)) continue;
    const table = catalogue.table(kind);
    for (const row of records) {
      if (!taken.get(kind)?.has(row)) continue;
      const problem = ledger.add({ kind, key: table.key(row), ...partsOf(update), state: "confirmed", run });
      if (problem) findings.add(problem);
      else counts.confirmed++;
    }
  }
}

function learn(
  input: Collecting,
  kind: string,
  row: number,
  id: string,
  at: Location | undefined,
  counts: Counts,
): void {
  const { catalogue, ledger, run, findings } = input;
  const table = catalogue.table(kind);
  if (ledger.id(kind, table.key(row)) === id && ledger.has(kind, table.key(row))) return;
  const problem = ledger.add({ kind, key: table.key(row), id, state: "confirmed", run }, at);
  if (problem) findings.add(problem);
  else counts.ids++;
}

/** Ids that only an export tells: its records matched with those that were uploaded. */
async function collectExport(
  input: Collecting,
  file: TargetFile,
  steps: readonly UploadStep[],
  taken: ReadonlyMap<UploadStep, AcceptedRows>,
  counts: Counts,
): Promise<void> {
  const { catalogue, findings, others, ledger, kinds, readExport } = input;
  const { layout, matchedBy } = present(file.ids);
  const kind = present(layout).shape.parent.name;
  const wanted = [
    ...new Set(
      steps
        .flatMap((step) => step.places.map((location) => ({ ...location, taken: taken.get(step)?.get(kind) })))
        .flatMap((location) =>
          location.kind === kind && !location.update ? location.records.filter((row) => location.taken?.has(row)) : [],
        ),
    ),
  ].filter((row) => !ledger.has(kind, catalogue.table(kind).key(row)));
  if (wanted.length === 0) return;
  const unresolved = new Catalogue(kinds);
  seedContainers(unresolved, catalogue, kind);
  if (!(await readExport(file, present(layout), unresolved, others))) {
    findings.add(finding("collect/no-export", { kind }, { file: present(file.ids).endpoint ?? file.name }));
    return;
  }
  // A parent is looked up among the export's own records; what is wrong with others of its references does not matter here.
  const exportedCatalogue = resolveReferences(unresolved, new Findings(0)).catalogue;
  const exported = exportedCatalogue.table(kind);
  const known = new Set<string>();
  const table = catalogue.table(kind);
  for (let row = 0; row < table.size; row++) {
    const id = ledger.id(kind, table.key(row));
    if (id !== undefined) known.add(id);
  }
  let open = wanted;
  for (const by of matchedBy) {
    const names = new Map<string, number[]>();
    const wordOf = namesBy(by, present(layout).language);
    for (let row = 0; row < exported.size; row++) {
      const id = exported.text("id", row);
      const word = typeof id === "string" && !known.has(id) ? wordOf(exportedCatalogue, exported, row) : undefined;
      if (word !== undefined) names.set(word, [...(names.get(word) ?? []), row]);
    }
    const own = new Map<string, number[]>();
    for (const row of open) {
      const word = wordOf(catalogue, table, row);
      if (word !== undefined) own.set(word, [...(own.get(word) ?? []), row]);
    }
    const left: number[] = [];
    for (const row of open) {
      const word = wordOf(catalogue, table, row);
      const found = word === undefined ? [] : (names.get(word) ?? []);
      const isOne = found.length === 1 && entryOf(own, present(word)).length === 1;
      if (isOne)
        learn(
          input,
          kind,
          row,
          present(exported.text("id", firstOf(found))),
          exportedCatalogue.location(exported, firstOf(found)),
          counts,
        );
      else if (found.length > 0) {
        const ids = found.map((one) => exported.text("id", one) ?? "");
        findings.add(
          finding("collect/ambiguous", { kind, by, word: present(word), ids }, catalogue.location(table, row)),
        );
      } else left.push(row);
    }
    open = left;
  }
  for (const row of open)
    findings.add(finding("collect/not-there", { kind, ways: matchedBy }, catalogue.location(table, row)));
}

/** What contains the records of an export is named in it by ids, which are known by now. */
function seedContainers(into: Catalogue, from: ReadonlyCatalogue, kind: string): void {
  const of = from.kinds.get(kind).of;
  if (of === undefined) return;
  const [table, copy] = [from.table(of), into.table(of)];
  into.sheets.push({ file: "", headers: new Map(), precedence: 0 });
  for (let row = 0; row < table.size; row++) {
    copy.append(0, 0);
    copy.nameRecord(row, table.key(row));
    copy.setText("id", row, table.text("id", row));
  }
}

type WordOf = (catalogue: ResolvedCatalogue, table: ReadonlyTable, row: number) => string | undefined;

function namesBy(by: "key" | "code" | "name" | "path", lang: Lang): WordOf {
  if (by === "key") return (_, table, row) => table.key(row);
  if (by === "code") return (_, table, row) => table.text("code", row) ?? undefined;
  const named: WordOf = (catalogue, table, row) => {
    const name = table.text(`name@${lang}`, row);
    if (typeof name !== "string") return undefined;
    const { of } = table.kind;
    const above = of === undefined || table.parent(row) < 0 ? "" : catalogue.table(of).key(table.parent(row));
    return JSON.stringify([above, name]);
  };
  if (by === "name") return named;
  return (catalogue, table, row) => {
    const names: string[] = [];
    for (
      let at: number | undefined = row;
      at !== undefined && names.length < 100;
      at = targetsOf(catalogue, table, "parent", at)[0]
    )
      names.unshift(table.text(`name@${lang}`, at) ?? "");
    return JSON.stringify(names);
  };
}
