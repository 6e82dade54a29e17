import {
  finding,
  isOfRecords,
  Registers,
  rehearse as rehearseUpload,
  rehearseThrough,
  stepsNow,
  type FilesPort,
  type Finding,
  type Prepared,
  type Verdict,
} from "zest-tier";
import { nodeFiles } from "zest-tier/node";
import {
  allOption,
  type Command,
  exportOption,
  wholeRangeOption,
  trialOption,
  outputOptions,
  leniencyOptions,
  projectArgument,
  targetOption,
  uploadOption,
} from "../command.js";
import { coloursOf } from "../io.js";
import { renderVerdict, scopeOf, verdictToJson } from "../render/verdict.js";
import { failureCode, sayAfterCheck, sayReport } from "../report.js";
import { planChanges, prepare, withLockedSession, type Session } from "../session.js";

export const rehearse: Command = {
  name: "rehearse",
  summary: "run the upload folder against a simulated platform and compare the result with what is intended",
  argument: projectArgument,
  options: [
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
    { line: "zest-tier rehearse", does: "rehearses the folder that build wrote (give it the same options as build)" },
  ],
  run: (given, io) =>
    withLockedSession(given, io, async (opened) => {
      const prepared = opened.ok ? await prepare(opened.session) : undefined;
      if (!opened.ok || !prepared) {
        const findings = opened.ok ? opened.session.findings : opened.findings;
        sayReport({ text: "", data: { command: "rehearse", verdict: null } }, findings, given, io);
        return failureCode(findings);
      }
      const { uploadFolder, findings } = opened.session;
      const rehearsed = await rehearsePrepared(opened.session, prepared, nodeFiles(uploadFolder));
      const failed = rehearsed.ok ? [] : [ofUploadFolder(rehearsed.finding)];
      failed.forEach((one) => findings.add(one));
      const text = rehearsed.ok
        ? renderVerdict(rehearsed.verdict, coloursOf(io), scopeOf(opened.session, prepared.heldBack))
        : "";
      const data = { command: "rehearse", verdict: rehearsed.ok ? verdictToJson(rehearsed.verdict) : null };
      sayAfterCheck({ text, data }, findings, given, io, failed);
      if (rehearsed.ok) return rehearsed.verdict.rebuilt ? 0 : 1;
      return failureCode(findings);
    }),
};

/** A file that is missing in the upload folder was not built; it is not a source. */
const ofUploadFolder = (found: Finding): Finding =>
  found.code === "read/missing-file" ? finding("build/not-built", {}, found.at) : found;

type Rehearsed = Awaited<ReturnType<typeof rehearseUpload>>;

/** Plays what was built; where ids have to be collected in between, all the way through, as the platform would give them. */
export async function rehearsePrepared(session: Session, prepared: Prepared, files: FilesPort): Promise<Rehearsed> {
  const { catalogue, target, pictureNames, ledger, compared } = session;
  const isInRounds = prepared.plan.steps.some((step) => step.is === "collect") || !ledger.ledger.isEmpty;
  const expected = compared?.changes.settled.after;
  if (!isOfRecords(target) || !isInRounds) {
    const shop = compared ? { shop: compared.changes.start() } : {};
    return rehearseUpload({ catalogue, target, ...prepared, files, ...shop, expected });
  }
  // All rounds are played, the first as it was built: where nothing was, there is nothing to play.
  const [first] = stepsNow(prepared.plan).flatMap((step) => (step.is === "upload" ? step.files : []));
  const opened = first && (await files.read(first.name));
  if (opened && !opened.ok) return opened;
  const { heldBack } = prepared;
  const started = compared?.changes.start();
  const verdict: Verdict = await rehearseThrough({
    catalogue,
    target,
    heldBack,
    pictureNames,
    ledger: ledger.ledger,
    ...(started instanceof Registers && { registers: started }),
    planWith: compared && ((known, withKnown) => planChanges(session, known, withKnown)),
    expected,
  });
  return { ok: true, verdict };
}
