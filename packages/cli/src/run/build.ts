import {
  build as buildInto,
  canBeHeldBack,
  describeFinding,
  heldBackText,
  stoppingErrors,
  type BuildChoices,
  type BuiltUpload,
  type Finding,
  type Language,
  type ReadonlyFindings,
  type Result,
  type Upload,
} from "zest-tier";
import { folderSink } from "zest-tier/node";
import { languageOf, type Run } from "../command.js";
import { coloursOf, type Io } from "../io.js";
import { startMeter } from "../progress.js";
import { planToJson } from "../render/plan.js";
import { columns, counted } from "../render/text.js";
import { failureCode, sayAfterCheck, sayReport } from "../report.js";
import { bulkChangeOf, type Session, shortPath, withLockedSession } from "../session.js";

export const run: Run = (given, io) =>
  withLockedSession(given, io, async (opening) => {
    if (!opening.ok) {
      sayReport({ text: "", data: { command: "build", built: false } }, opening.findings, given, io);
      return failureCode(opening.findings);
    }
    const { session } = opening;
    const language = languageOf(given);
    const isUnrehearsed = given.options["rehearsal"] === false;
    const built = await buildFolder(session, io, { bulkChange: bulkChangeOf(session, given), language, isUnrehearsed });
    const { findings } = built;
    const upload = built.ok ? built.value : undefined;
    const stopping = blocking(session, findings);
    const text = upload ? renderBuilt(upload, session, io) : renderStopped(stopping, session, language, io);
    const report = { text, data: buildToJson(upload, session, language) };
    // Of what is on the platform a check knows nothing: what blocks a change is shown, whether a check would show it or not.
    const isShown = !upload && (session.choices.holdBack || session.opened.compared !== undefined);
    sayAfterCheck(report, findings, given, io, isShown ? stopping : []);
    return upload ? 0 : failureCode(findings);
  });

/** Products. */
const worthShowing = 20_000;

/** Builds into the session's upload folder. Fails when errors block the upload; then nothing is written. */
export async function buildFolder(
  { opened, uploadFolder, choices }: Session,
  io: Io,
  wishes: Pick<BuildChoices, "bulkChange" | "language" | "isUnrehearsed"> = {},
): Promise<Result<BuiltUpload>> {
  const folder = await folderSink(uploadFolder, opened.project.name);
  if (!folder.ok) {
    const findings = opened.findings.copy();
    findings.addAll(folder.findings);
    return { ok: false, findings };
  }
  const meter = startMeter("writing", opened.catalogue.table("product").size, worthShowing, io);
  try {
    return await buildInto(opened, { ...choices, ...wishes, sink: folder.value, tell: meter.tell });
  } finally {
    meter.stop();
  }
}

/** The errors that stop a build: with --hold-back, those that no record can be left out for. */
function blocking({ choices }: Session, findings: ReadonlyFindings): readonly Finding[] {
  const errors = stoppingErrors(findings, choices.despite);
  const others = errors.filter((one) => !canBeHeldBack(one));
  return choices.holdBack && others.length > 0 ? others : errors;
}

function renderStopped(stopping: readonly Finding[], { choices }: Session, language: Language, io: Io): string {
  const colours = coloursOf(io);
  const all = stopping.find((one) => one.code === "build/nothing-left");
  if (all) return `${colours.red(colours.bold("Nothing was written"))}: ${describeFinding(all, language).message}.\n`;
  const errors = stopping.length;
  return `${colours.red(colours.bold("Nothing was written"))}: ${counted(errors, "error")} ${errors === 1 ? "blocks" : "block"} the upload${choices.holdBack ? ", because no record can be left out for them" : ". --hold-back leaves out faulty records"}.\n`;
}

function renderBuilt(upload: Upload, { opened, uploadFolder }: Session, io: Io): string {
  const colours = coloursOf(io);
  if (upload.files.length === 0) {
    const held = heldBackText(upload.heldBack).toString();
    const rest = held === "" ? "everything" : `everything except what is held back (${held})`;
    const known = opened.compared ? "export" : "ledger";
    return `${colours.green(colours.bold("Nothing to upload"))}: according to the ${known}, ${rest} is on ${opened.target.name}.\n`;
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
  return `${colours.green(colours.bold("Built"))} ${shortPath(uploadFolder, io)}\n\n${columns(rows, [2])}\n  Next: open ${colours.bold("run-sheet.html")} (or run-sheet.md) in this folder and follow its steps.\n${stop}`;
}

function buildToJson(upload: Upload | undefined, { uploadFolder }: Session, language: Language): object {
  if (!upload) return { command: "build", built: false };
  const files = upload.files.map(({ name, bytes, sha256, rows }) => ({ name, bytes, sha256, rows }));
  const { stopsAt = null, plan } = upload;
  return { command: "build", built: true, folder: uploadFolder, files, stopsAt, plan: planToJson(plan, language) };
}
