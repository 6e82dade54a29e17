import { join, resolve } from "node:path";
import {
  collect as collectAnswers,
  type CollectedReports,
  type ExportFile,
  type PlannedUpload,
  type Result,
} from "zest-tier";
import { nodeFiles } from "zest-tier/node";
import { listOption, textOption, type Run } from "../command.js";
import { coloursOf, type Io } from "../io.js";
import { counted } from "../render/text.js";
import { failureCode, sayAfterCheck, sayReport } from "../report.js";
import { planOf } from "../planned.js";
import { exportFiles, withLockedSession, type Session } from "../session.js";

export const run: Run = (given, io) =>
  withLockedSession(given, io, async (opening) => {
    const planned = await planOf(opening);
    if (!planned.ok) {
      sayReport({ text: "", data: { command: "collect", collected: null } }, planned.findings, given, io);
      return failureCode(planned.findings);
    }
    const { session, prepared, findings: known } = planned;
    const reportsFolder = resolve(
      io.cwd,
      textOption(given, "reports") ?? join(session.folder, `reports-${session.opened.target.name}`),
    );
    const withKnown = { ...session, opened: { ...session.opened, findings: known } };
    const paths = listOption(given, "after");
    const after = paths.length > 0 ? exportFiles(paths, io) : undefined;
    const result = await collectReports(withKnown, prepared, reportsFolder, after);
    const collected = result.ok ? result.value : undefined;
    const text = renderCollected(collected, io);
    const { ids, confirmed, refused } = collected ?? {};
    const data = { command: "collect", collected: collected ? { ids, confirmed, refused } : null };
    sayAfterCheck({ text, data }, result.findings, given, io);
    return collected && collected.refused === 0 ? 0 : failureCode(result.findings);
  });

function renderCollected(collected: CollectedReports | undefined, io: Io): string {
  const colours = coloursOf(io);
  if (!collected)
    return `${colours.red(colours.bold("Nothing was collected"))}: the ledger is unchanged. Fix what is listed, then collect again.\n`;
  const { ids, confirmed, refused } = collected;
  const next =
    refused > 0
      ? "Refused rows are not in the ledger. Correct their sources; the next build includes them again."
      : `Next: ${colours.bold("zest-tier build")}`;
  return `${colours.bold("Collected")} ${counted(ids, "id")}. ${counted(confirmed, "other record")} confirmed, ${counted(refused, "row")} refused.\n  ${next}\n`;
}

/** Collects, and saves what is new in the ledger. */
export async function collectReports(
  { opened, uploadFolder, save }: Session,
  prepared: PlannedUpload,
  reportsFolder: string,
  after?: readonly ExportFile[],
): Promise<Result<CollectedReports>> {
  const result = await collectAnswers(opened, prepared, {
    upload: nodeFiles(uploadFolder),
    uploadName: uploadFolder,
    reports: nodeFiles(reportsFolder),
    after,
  });
  if (result.ok) await save(result.value.ledger);
  return result;
}
