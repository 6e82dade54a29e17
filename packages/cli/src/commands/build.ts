import { join } from "node:path";
import {
  buildUpload,
  canBeHeldBack,
  describeFinding,
  heldBackText,
  planBulkChange,
  stoppingErrors,
  type BuildInput,
  type Finding,
  type Language,
  type Prepared,
  type NamedBulkChange,
  type Upload,
} from "zest-tier";
import { folderSink, loadPictures, nodeSha256 } from "zest-tier/node";
import {
  allOption,
  type Command,
  exportOption,
  wholeRangeOption,
  trialOption,
  outputOptions,
  type CommandLine,
  languageOf,
  leniencyOptions,
  projectArgument,
  targetOption,
  textOption,
  UsageError,
  uploadOption,
} from "../command.js";
import { coloursOf, type Io } from "../io.js";
import { startMeter } from "../progress.js";
import { planToJson } from "../render/plan.js";
import { columns, counted } from "../render/text.js";
import { failureCode, sayAfterCheck, sayReport } from "../report.js";
import { type Session, shortPath, wanted, withLockedSession } from "../session.js";

export const build: Command = {
  name: "build",
  summary: "write the upload folder: numbered import files, pictures, data package, run sheet",
  argument: projectArgument,
  options: [
    {
      flags: "--bulk-change <name>",
      means: "write only this bulk change of the project: a file with the keys of the records and one column",
    },
    targetOption,
    exportOption,
    wholeRangeOption,
    trialOption,
    uploadOption,
    ...leniencyOptions,
    allOption,
    ...outputOptions,
  ],
  examples: [
    { line: "zest-tier build", does: "writes upload-TARGET beside the project; writes nothing if there are errors" },
    { line: "zest-tier build --hold-back", does: "leaves out faulty records and lists them" },
    { line: "zest-tier build --despite check/barcode", does: "builds with invalid barcodes, to rehearse what they do" },
  ],
  run: (given, io) =>
    withLockedSession(given, io, async (opened) => {
      if (!opened.ok) {
        sayReport({ text: "", data: { command: "build", built: false } }, opened.findings, given, io);
        return failureCode(opened.findings);
      }
      const { session } = opened;
      const upload = await buildFolder(session, io, {
        bulkChange: bulkChangeOf(session, given),
        language: languageOf(given),
      });
      const text = renderBuild(upload, session, given, io);
      const report = { text, data: buildToJson(upload, session, languageOf(given)) };
      sayAfterCheck(report, session.findings, given, io, upload || !session.holdBack ? [] : blocking(session));
      return upload ? 0 : failureCode(session.findings);
    }),
};

interface BuildWishes {
  /** Only this bulk change of the project. */
  readonly bulkChange?: NamedBulkChange | undefined;
  /** Of the run sheet. */
  readonly language?: Language | undefined;
}

/** Products. */
const worthShowing = 20_000;

/** Builds into the session's upload folder. Undefined when errors block the upload; then nothing is written. */
export async function buildFolder(
  session: Session,
  io: Io,
  { bulkChange, language }: BuildWishes = {},
): Promise<Upload | undefined> {
  const { catalogue, target, project, findings, uploadFolder, holdBack, despite } = session;
  const opened = await folderSink(uploadFolder, project.name);
  if (!opened.ok) {
    findings.add(opened.finding);
    return undefined;
  }
  const pictures = await loadPictures(join(session.folder, project.pictures ?? "."), session.pictureNames);
  const meter = startMeter("writing", catalogue.table("product").size, worthShowing, io);
  const choices = {
    project: project.name,
    pictures,
    holdBack,
    despite,
    sha256: nodeSha256,
    progress: meter.tell,
    language,
  };
  const changes = session.compared?.changes;
  const usual = { ...wanted(session), replan: changes && ((prepared: Prepared) => changes.plan(prepared)) };
  const wishes = bulkChange ? onlyBulkChange(session, bulkChange) : { catalogue, ...usual };
  try {
    return await buildUpload({ target, ...choices, ...wishes }, opened.sink, findings);
  } finally {
    meter.stop();
  }
}

function bulkChangeOf({ project, target }: Session, given: CommandLine): NamedBulkChange | undefined {
  const name = textOption(given, "bulkChange");
  if (name === undefined) return undefined;
  const { bulkChanges } = project.wishes.get(target.name)!;
  const bulkChange = Object.hasOwn(bulkChanges, name) ? bulkChanges[name] : undefined;
  if (!bulkChange)
    throw new UsageError(
      `${target.name} has no bulk change "${name}" in the project`,
      `It has ${Object.keys(bulkChanges).join(", ") || "none"}.`,
    );
  return { name, ...bulkChange };
}

/** A plan of nothing but the bulk change. */
function onlyBulkChange(
  { catalogue, target, findings }: Session,
  bulkChange: NamedBulkChange,
): Pick<BuildInput, "catalogue" | "there" | "replan"> {
  const planned = planBulkChange(catalogue, target, bulkChange, findings);
  const steps = planned ? [planned.step] : [];
  return {
    catalogue: planned?.catalogue ?? catalogue,
    there: { isThere: () => true, isAdded: () => true, hasPicture: () => true, isBegun: true },
    replan: (prepared) => Promise.resolve({ ...prepared, plan: { ...prepared.plan, steps } }),
  };
}

/** The errors that stop a build: with --hold-back, those that no record can be left out for. */
function blocking({ findings, despite, holdBack }: Session): readonly Finding[] {
  const errors = stoppingErrors(findings, despite);
  const others = errors.filter((one) => !canBeHeldBack(one));
  return holdBack && others.length > 0 ? others : errors;
}

function renderBuild(upload: Upload | undefined, session: Session, given: CommandLine, io: Io): string {
  const colours = coloursOf(io);
  if (!upload) {
    const stopping = blocking(session);
    const all = stopping.find((one) => one.code === "build/nothing-left");
    if (all)
      return `${colours.red(colours.bold("Nothing was written"))}: ${describeFinding(all, languageOf(given)).message}.\n`;
    const errors = stopping.length;
    return `${colours.red(colours.bold("Nothing was written"))}: ${counted(errors, "error")} ${errors === 1 ? "blocks" : "block"} the upload${session.holdBack ? ", because no record can be left out for them" : ". --hold-back leaves out faulty records"}.\n`;
  }
  if (upload.files.length === 0) {
    const held = heldBackText(upload.heldBack).toString();
    const rest = held === "" ? "everything" : `everything except what is held back (${held})`;
    return `${colours.green(colours.bold("Nothing to upload"))}: according to the ledger, ${rest} is on ${session.target.name}.\n`;
  }
  const rows = upload.files.map((file) => [
    file.name,
    file.rows > 0 ? counted(file.rows, file.slot ? "row" : "picture") : "",
    counted(file.bytes, "byte"),
  ]);
  const stop =
    upload.stopsAt === undefined
      ? ""
      : `  The folder ends before step ${upload.stopsAt}, where ids have to be collected: upload it, run ${colours.bold("zest-tier collect")}, then build again.\n`;
  return `${colours.green(colours.bold("Built"))} ${shortPath(session.uploadFolder, io)}\n\n${columns(rows, [2])}\n  Next: open ${colours.bold("run-sheet.html")} (or run-sheet.md) in this folder and follow its steps.\n${stop}`;
}

function buildToJson(upload: Upload | undefined, { uploadFolder }: Session, language: Language): object {
  if (!upload) return { command: "build", built: false };
  const files = upload.files.map(({ name, bytes, sha256, rows }) => ({ name, bytes, sha256, rows }));
  const { stopsAt = null, plan } = upload;
  return { command: "build", built: true, folder: uploadFolder, files, stopsAt, plan: planToJson(plan, language) };
}
