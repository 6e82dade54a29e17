/**
 * Building: a plan into an upload folder. Files are handed on as they are made; the folder counts only once it is `finish`ed.
 *
 * In: the resolved catalogue, a target, what is wrong so far. Out: the upload, or findings and nothing.
 */

import { stepsNow, type Plan, type UploadStep } from "../plan/plan.js";
import { Findings, type Finding, type ReadonlyFindings, type Result } from "../findings/finding.js";
import { entryOf } from "../checked.js";
import { writeZip } from "../formats/zip-write.js";
import type { LineElsewhere } from "../layout/write/context.js";
import type { FilesPort, Sha256 } from "../ports.js";
import { dataPackage, type PackedFile } from "./data-package.js";
import { canBeHeldBack, isHeldBack } from "./hold-back.js";
import {
  addUnwritten,
  checkCells,
  lostFindings,
  prepareBuild,
  rowChecks,
  stoppingErrors,
  type Prepared,
  type PrepareInput,
} from "./prepare.js";
import { runSheet } from "./run-sheet.js";
import type { PlayedUpload } from "./run-sheet-expected.js";
import { sheetAsHtml } from "./run-sheet-html.js";
import { sheetAsMarkdown } from "./run-sheet-markdown.js";
import { linesIn } from "./lines-elsewhere.js";
import { markText, uploadMark } from "./upload-mark.js";
import { allBlocks, encodeFile, fileRows, type RowSelection } from "./write-file.js";
import type { Language } from "../phrases/phrase.js";

/** Takes the files of an upload. Nothing of them may be seen before `finish`; after `discard` nothing is left. */
export interface UploadSink {
  readonly write: (name: string, chunks: Iterable<Uint8Array>) => Promise<void>;
  /** A file that has been written so far; fails where there is none. */
  readonly read: FilesPort["read"];
  readonly finish: () => Promise<void>;
  readonly discard: () => Promise<void>;
}

/** What an upload folder is built from. */
export interface BuildInput extends Omit<PrepareInput, "pictureNames"> {
  /** Of the run sheet; English if left out. */
  readonly language?: Language | undefined;
  readonly project: string;
  /** The pictures to take along, by file name. */
  readonly pictures: ReadonlyMap<string, Uint8Array>;
  readonly sha256: Sha256;
  /** What becomes of the plan before it is written: only what changes, where is on the platform something already. */
  readonly replan?: ((prepared: Prepared) => Promise<Prepared>) | undefined;
  /** Plays what has been written, before it counts; what it finds is added. It is not played, if left out. */
  readonly rehearse?:
    ((prepared: Prepared, files: FilesPort, found: ReadonlyFindings) => Promise<RehearsedUpload>) | undefined;
  /** Called now and then while files are written: which, and how many products it holds by now. */
  readonly progress?: (file: string, products: number) => void;
}

/** What came of playing an upload. */
export interface RehearsedUpload {
  readonly findings: readonly Finding[];
  readonly files: readonly PlayedUpload[];
}

/** What was written into an upload folder. */
export interface Upload extends Prepared {
  readonly files: readonly PackedFile[];
  /** The step before which the folder ends, as ids have to be collected first; undefined when it is complete. */
  readonly stopsAt: number | undefined;
}

/**
 * Builds the upload folder into a sink. Fails where errors block the upload: then the sink has been discarded. The findings of the
 * result are those found before, and what is found now.
 */
export async function buildUpload(input: BuildInput, sink: UploadSink): Promise<Result<Upload>> {
  const { catalogue, target, pictures, despite } = input;
  const later = checkedLater(input);
  const preparing = prepareBuild({ ...input, pictureNames: [...pictures.keys()] }, (file) => !later.has(file));
  const first = preparing.ok ? preparing.value : undefined;
  const findings = preparing.findings.copy();
  // What is not listed cannot be held back.
  const isStopped = (): boolean =>
    (input.holdBack && findings.hasUnlistedErrors) ||
    stoppingErrors(findings, despite).some((error) => !input.holdBack || !canBeHeldBack(error));
  const isUnanswered = first !== undefined && first.heldBack.unanswered.length > 0;
  const prepared = first && !isUnanswered && !isStopped() ? ((await input.replan?.(first)) ?? first) : undefined;
  if (!prepared) {
    checkCells(catalogue, target, findings, (file) => later.has(file));
    await sink.discard();
    return { ok: false, findings };
  }
  findings.addAll(lostFindings(prepared));
  const whenWritten = stepsOfWhole(input, prepared.plan, later);
  checkCells(catalogue, target, findings, (file) => later.has(file) && !whenWritten.has(file));
  if (isStopped()) {
    checkCells(catalogue, target, findings, (file) => whenWritten.has(file));
    await sink.discard();
    return { ok: false, findings };
  }
  // What the platform has already is not sent again: then there is no folder to write.
  if (prepared.plan.steps.length === 0 && input.there?.isBegun) {
    await sink.discard();
    return { ok: true, value: { ...prepared, files: [], stopsAt: undefined }, findings };
  }
  try {
    const files = await writeUpload(input, prepared, sink, findings, whenWritten);
    const isPlayed = input.rehearse !== undefined && !isStopped();
    const played = isPlayed ? await input.rehearse(prepared, filesOf(sink), findings) : undefined;
    findings.addAll(played?.findings ?? []);
    if (isStopped() || stoppingErrors(findings, despite).some((error) => played?.findings.includes(error))) {
      await sink.discard();
      return { ok: false, findings };
    }
    await writeSheets(input, prepared, sink, files, played?.files);
    await sink.finish();
    const stop = prepared.plan.steps.find((step) => step.is === "collect");
    return { ok: true, value: { ...prepared, files, stopsAt: stop?.number }, findings };
  } catch (error) {
    await sink.discard();
    throw error;
  }
}

/**
 * The files whose cells may be checked as they are written: rows are made once then, not twice. Not where the plan hangs on the cells, nor
 * where every import writes some columns alone: rules that compare columns see all of them only before.
 */
function checkedLater({ holdBack, target }: BuildInput): ReadonlySet<string> {
  const isWhole = (name: string) => target.slots.some(({ file, columns }) => file === name && columns === undefined);
  const files = [...target.files.values()].filter(({ name, limits }) => limits.bytes === undefined && isWhole(name));
  return new Set(holdBack ? [] : files.map(({ name }) => name));
}

/**
 * By the name of such a file the step that writes it now, with every record and every cell. Others are checked, too, though nothing
 * writes them whole.
 */
function stepsOfWhole(
  { catalogue, target }: BuildInput,
  plan: Plan,
  names: ReadonlySet<string>,
): ReadonlyMap<string, UploadStep> {
  const steps = stepsNow(plan).filter((step) => step.is === "upload");
  const isWhole = (step: UploadStep): boolean => {
    const { slot, columns, from, waiting, files } = step;
    if (slot.mode !== "create" || columns || from || waiting.size > 0 || !names.has(slot.file)) return false;
    const blocks = files.flatMap((file) => file.blocks);
    return allBlocks(catalogue, target, entryOf(target.files, slot.file)).every(({ layout, records }) => {
      const own = blocks.filter((block) => block.layout === layout);
      return own.every(({ rows }) => !rows) && own.reduce((sum, one) => sum + one.records.length, 0) === records.length;
    });
  };
  return new Map(steps.filter(isWhole).map((step) => [step.slot.file, step]));
}

const filesOf = ({ read }: UploadSink): FilesPort => ({ read, list: () => Promise.resolve([]) });

/** @param whenWritten by the name of a file the step whose cells are still to be checked. */
async function writeUpload(
  input: BuildInput,
  prepared: Prepared,
  sink: UploadSink,
  findings: Findings,
  whenWritten: ReadonlyMap<string, UploadStep>,
): Promise<PackedFile[]> {
  const { catalogue, target, pictures } = input;
  const { plan, heldBack } = prepared;
  const files: PackedFile[] = [];
  const isLeftOut = isHeldBack(heldBack);
  const lineElsewhere = linesIn(catalogue, target, plan.steps, isLeftOut);
  const recorder = new Recorder(sink, input.sha256, files);
  for (const step of stepsNow(plan)) {
    if (step.is === "pictures")
      await recorder.write(step.name, [writeZip(only(pictures, step.files))], () => step.files.length);
    if (step.is !== "upload") continue;
    // What is wrong with cells that were checked before has been said; said twice, it would be noise.
    const found = whenWritten.get(step.slot.file) === step ? findings : undefined;
    await writeStep(input, step, isLeftOut, lineElsewhere, recorder, found);
  }
  // Beside them, what sets it all back: not part of the steps.
  for (const step of prepared.rollback ?? [])
    if (step.is === "upload") await writeStep(input, step, isLeftOut, lineElsewhere, recorder, undefined);
  return files;
}

/** What goes with the files: the run sheet, and what describes them. */
async function writeSheets(
  { catalogue, target, project, language, sha256 }: BuildInput,
  { plan, heldBack, lost, rollback = [] }: Prepared,
  sink: UploadSink,
  files: PackedFile[],
  rehearsed: readonly PlayedUpload[] | undefined,
): Promise<void> {
  const recorder = new Recorder(sink, sha256, files);
  const beforeRollback = rollback.flatMap((step) => (step.is === "detach" ? [step] : []));
  const told = { plan, files, heldBack, lost, beforeRollback, rehearsed };
  const sheet = runSheet({ project, target, catalogue, language, ...told });
  await recorder.write("run-sheet.md", [encode(sheetAsMarkdown(sheet))]);
  await recorder.write("run-sheet.html", [encode(sheetAsHtml(sheet))]);
  await recorder.write("datapackage.json", [encode(dataPackage(project, target, plan, files))]);
  await sink.write(uploadMark, [encode(markText({ project, files: files.map(({ name }) => name) }))]);
}

function only(pictures: ReadonlyMap<string, Uint8Array>, names: readonly string[]): ReadonlyMap<string, Uint8Array> {
  return new Map(names.flatMap((name) => (pictures.has(name) ? [[name, entryOf(pictures, name)] as const] : [])));
}

const tellEvery = 1_000;

async function writeStep(
  { catalogue, target, progress }: BuildInput,
  step: UploadStep,
  isLeftOut: RowSelection["isLeftOut"],
  lineElsewhere: LineElsewhere,
  recorder: Recorder,
  findings: Findings | undefined,
): Promise<void> {
  const file = entryOf(target.files, step.slot.file);
  const check = findings
    ? rowChecks(step.from?.catalogue ?? catalogue, target, file, step.columns, findings)
    : () => undefined;
  const unwritten = new Findings(findings?.mostPerCode ?? 0);
  for (const { name, blocks } of step.files) {
    const selection: RowSelection = { blocks, step, isLeftOut, lineElsewhere };
    let count = 0;
    const written = fileRows(catalogue, file, selection, unwritten);
    let products = 0;
    let product = -1;
    const chunks = await encodeFile(step.from?.catalogue ?? catalogue, file, written, unwritten, (row) => {
      count++;
      check(row);
      if (row.parent === product) return;
      product = row.parent;
      if (++products % tellEvery === 0) progress?.(name, products);
    });
    await recorder.write(name, chunks, () => count, step);
  }
  if (findings) addUnwritten(unwritten, findings);
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
    rows: () => number = () => 0,
    step?: UploadStep,
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
    const { slot, columns, purpose } = step ?? {};
    this.files.push({ name, bytes, sha256: hasher.digest(), rows: rows(), slot, columns, purpose });
  }
}
