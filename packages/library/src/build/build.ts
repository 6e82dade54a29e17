/**
 * Building: a plan into an upload folder. Files are handed on as they are made; the folder counts only once it is `finish`ed.
 *
 * In: the resolved catalogue, a target, what is wrong so far. Out: the upload, or findings and nothing.
 */

import type { ResolvedCatalogue } from "../catalogue/catalogue.js";
import { Findings, type Finding } from "../finding.js";
import { writeZip } from "../formats/zip-write.js";
import { writeRows, type WrittenRow } from "../layout/write.js";
import { reportCycles } from "../plan/cycles.js";
import { planImport, type Plan, type UploadStep } from "../plan/plan.js";
import type { Sha256 } from "../ports.js";
import { reportUncarried } from "../target/carries.js";
import { rowChecker } from "../target/cell-rules.js";
import type { Target, TargetFile } from "../target/target.js";
import { dataPackage, type PackedFile } from "./data-package.js";
import { canBeHeldBack, holdBack, isHeldBack, nothingHeldBack, type HeldBack } from "./hold-back.js";
import { runSheet } from "./run-sheet.js";
import { encodeRows, fileRows, lineWriter, type RowSelection } from "./write-file.js";

/** Takes the files of an upload. Nothing of them may be seen before `finish`; after `discard` nothing is left. */
export interface UploadSink {
  readonly write: (name: string, chunks: Iterable<Uint8Array>) => Promise<void>;
  readonly finish: () => Promise<void>;
  readonly discard: () => Promise<void>;
}

export interface BuildInput {
  readonly catalogue: ResolvedCatalogue;
  readonly target: Target;
  readonly project: string;
  /** The pictures to take along, by file name. */
  readonly pictures: ReadonlyMap<string, Uint8Array>;
  readonly holdBack: boolean;
  /** Errors of these codes do not stop the build. */
  readonly despite: ReadonlySet<string>;
  readonly sha256: Sha256;
}

export interface Prepared {
  readonly plan: Plan;
  readonly heldBack: HeldBack;
}

export interface Upload extends Prepared {
  readonly files: readonly PackedFile[];
}

/** The findings that stop a build. */
export function stoppingErrors(findings: Findings, despite: ReadonlySet<string>): readonly Finding[] {
  return findings.list().filter((one) => one.severity === "error" && !despite.has(one.code));
}

/**
 * All that comes before the files: what the target asks of each cell, what is held back, the plan.
 *
 * @returns undefined when there is no plan; the findings say why.
 */
export function prepareBuild(
  input: Pick<BuildInput, "catalogue" | "target" | "holdBack" | "despite"> & {
    readonly pictureNames: readonly string[];
  },
  findings: Findings,
): Prepared | undefined {
  const { catalogue, target } = input;
  reportUncarried(catalogue, target, findings);
  reportCycles(catalogue, findings);
  const bytes = checkCells(catalogue, target, findings);
  let heldBack = nothingHeldBack;
  if (input.holdBack) {
    const causes = findings
      .list()
      .filter((one) => (one.severity === "error" && !input.despite.has(one.code)) || one.code === "resolve/held");
    heldBack = holdBack(catalogue, causes, findings);
  }
  const plan = planImport(
    catalogue,
    target,
    {
      isLeftOut: isHeldBack(heldBack),
      bytesOf: (file, product) => bytes.get(file.name)?.[product] ?? 0,
      headerBytes: (file) =>
        new TextEncoder().encode(lineWriter(file.layout)(file.layout.columns.map((column) => column.header))).length,
      pictures: input.pictureNames,
    },
    findings,
  );
  return plan && { plan, heldBack };
}

/** Checks every cell that creates something, and measures each product's rows where a file's bytes are limited. */
function checkCells(catalogue: ResolvedCatalogue, target: Target, findings: Findings): Map<string, Float64Array> {
  const bytes = new Map<string, Float64Array>();
  const products = catalogue.table("product");
  for (const slot of target.slots) {
    if (slot.mode !== "create") continue;
    const file = target.files.get(slot.file)!;
    const check = rowChecks(catalogue, target, file, undefined, findings);
    const measured = file.limits.bytes === undefined ? undefined : new Float64Array(products.size);
    const toLine = lineWriter(file.layout);
    const records = { [Symbol.iterator]: () => Array(products.size).keys() };
    for (const row of writeRows(catalogue, file.layout, { records }, findings)) {
      check(row);
      if (measured) measured[row.parent]! += utf8Length(toLine(row.cells));
    }
    if (measured) bytes.set(file.name, measured);
  }
  return bytes;
}

function rowChecks(
  catalogue: ResolvedCatalogue,
  target: Target,
  file: TargetFile,
  columns: ReadonlySet<string> | undefined,
  findings: Findings,
): (row: WrittenRow) => void {
  const headers = file.layout.columns.map((column) => column.header).filter((header) => columns?.has(header) ?? true);
  const check = rowChecker(catalogue, target, file, headers, findings);
  let parent = -1;
  return (row) => {
    check(row, row.parent !== parent);
    parent = row.parent;
  };
}

function utf8Length(text: string): number {
  let length = text.length;
  for (let at = 0; at < text.length; at++) {
    const unit = text.charCodeAt(at);
    // A surrogate pair is four bytes, two for each of its units.
    if (unit > 0x7f) length += unit > 0x7ff && (unit < 0xd800 || unit > 0xdfff) ? 2 : 1;
  }
  return length;
}

/**
 * Builds the upload folder into a sink.
 *
 * @returns undefined when errors stand against it: then the sink has been discarded.
 */
export async function buildUpload(
  input: BuildInput,
  sink: UploadSink,
  findings: Findings,
): Promise<Upload | undefined> {
  const { catalogue, target, pictures, despite } = input;
  const prepared = prepareBuild({ ...input, pictureNames: [...pictures.keys()] }, findings);
  const errors = stoppingErrors(findings, despite);
  if (!prepared || errors.some((error) => !input.holdBack || !canBeHeldBack(error))) {
    await sink.discard();
    return undefined;
  }
  const { plan, heldBack } = prepared;
  const files: PackedFile[] = [];
  const own = new Recorder(sink, input.sha256, files);
  for (const step of plan.steps) {
    if (step.is === "pictures") await own.write(step.name, [writeZip(pictures)], { zip: true, rows: pictures.size });
    if (step.is === "upload") await writeStep(input, step, heldBack, own);
  }
  await own.write("run-sheet.md", [encode(runSheet(input.project, target, plan, files, catalogue, heldBack))]);
  await own.write("datapackage.json", [encode(dataPackage(input.project, target, plan, files))]);
  await sink.finish();
  return { plan, heldBack, files };
}

async function writeStep(input: BuildInput, step: UploadStep, heldBack: HeldBack, out: Recorder): Promise<void> {
  const { catalogue, target } = input;
  const { layout } = target.files.get(step.slot.file)!;
  for (const { name, records } of step.files) {
    const selection: RowSelection = { records, step, isLeftOut: isHeldBack(heldBack) };
    let rows = 0;
    // Everything a cell may be wrong in was said when the cells were checked; said twice, it would be noise.
    const quiet = new Findings(0);
    const chunks = encodeRows(fileRows(catalogue, layout, selection, quiet), layout.csv.mark, () => rows++);
    await out.write(name, chunks, { slot: step.slot, count: () => rows });
  }
}

const encode = (text: string): Uint8Array => new TextEncoder().encode(text);

/** Notes size, rows and hash of each file on its way to the sink. */
class Recorder {
  constructor(
    readonly sink: UploadSink,
    readonly sha256: Sha256,
    readonly files: PackedFile[],
  ) {}

  async write(
    name: string,
    chunks: Iterable<Uint8Array>,
    about: { slot?: PackedFile["slot"]; zip?: boolean; rows?: number; count?: () => number } = {},
  ): Promise<void> {
    const hasher = this.sha256();
    let bytes = 0;
    function* seen(): Generator<Uint8Array> {
      for (const chunk of chunks) {
        bytes += chunk.length;
        hasher.update(chunk);
        yield chunk;
      }
    }
    await this.sink.write(name, seen());
    this.files.push({
      name,
      bytes,
      sha256: hasher.digest(),
      rows: about.count?.() ?? about.rows ?? 0,
      slot: about.slot,
    });
  }
}
