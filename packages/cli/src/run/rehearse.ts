import { rehearse as rehearseUpload, rehearseBulkChange, rehearseRollback } from "zest-tier";
import { nodeFiles } from "zest-tier/node";
import type { CommandLine, Run } from "../command.js";
import { coloursOf, type Io } from "../io.js";
import { renderRollback, renderVerdict, scopeOf, verdictToJson } from "../render/verdict.js";
import { failureCode, sayAfterCheck, sayReport } from "../report.js";
import { planOf } from "../planned.js";
import { bulkChangeOf, withLockedSession, type Session } from "../session.js";

export const run: Run = (given, io) =>
  withLockedSession(given, io, async (opening) => {
    const bulkChange = opening.ok ? bulkChangeOf(opening.session, given) : undefined;
    if (opening.ok && bulkChange !== undefined) return rehearseBulk(opening.session, bulkChange, given, io);
    const planned = await planOf(opening);
    if (!planned.ok) {
      sayReport({ text: "", data: { command: "rehearse", verdict: null } }, planned.findings, given, io);
      return failureCode(planned.findings);
    }
    const { session, prepared, findings: known } = planned;
    const { opened, uploadFolder, choices } = session;
    const withKnown = { ...opened, findings: known };
    const isBack = given.options["rollback"] === true;
    const play = isBack ? rehearseRollback : rehearseUpload;
    const rehearsed = await play(withKnown, prepared, { ...choices, files: nodeFiles(uploadFolder) });
    const { findings } = rehearsed;
    const verdict = rehearsed.ok ? rehearsed.value : undefined;
    const scope = scopeOf(opened, findings, prepared.heldBack);
    const show = isBack ? renderRollback : renderVerdict;
    const text = verdict ? show(verdict, coloursOf(io), scope) : "";
    const data = { command: "rehearse", verdict: verdict ? verdictToJson(verdict) : null };
    const failed = findings.list().filter(({ code }) => code === "build/not-built");
    sayAfterCheck({ text, data }, findings, given, io, failed);
    if (verdict) return verdict.rebuilt ? 0 : 1;
    return failureCode(findings);
  });

async function rehearseBulk(
  { opened, uploadFolder }: Session,
  name: string,
  given: CommandLine,
  io: Io,
): Promise<number> {
  const rehearsed = await rehearseBulkChange(opened, name, { files: nodeFiles(uploadFolder) });
  const { findings } = rehearsed;
  const verdict = rehearsed.ok ? rehearsed.value : undefined;
  const text = verdict ? renderVerdict(verdict, coloursOf(io), scopeOf(opened, findings)) : "";
  const data = { command: "rehearse", verdict: verdict ? verdictToJson(verdict) : null };
  const failed = findings.list().filter(({ code }) => code === "build/not-built");
  sayAfterCheck({ text, data }, findings, given, io, failed);
  if (verdict) return verdict.rebuilt ? 0 : 1;
  return failureCode(findings);
}
