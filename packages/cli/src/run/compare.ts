import { existsSync } from "node:fs";
import { join, resolve } from "node:path";
import { comparisonAsHtml, pairsFileText, pairsFileName, pairsToAnswer, type ComparedExport } from "zest-tier";
import { listOption, textOption, UsageError, type Run } from "../command.js";
import { coloursOf } from "../io.js";
import { comparisonToJson, renderComparison } from "../render/comparison.js";
import { exitCode, failureCode, sayAfterCheck, sayReport } from "../report.js";
import { withLockedSession, type Session } from "../session.js";
import { writeWholeFile } from "zest-tier/node";

export const run: Run = (given, io) => {
  if (listOption(given, "export").length === 0)
    throw new UsageError(
      "compare needs an export of the platform",
      "Save an export of the platform and give it with --export FILE.",
    );
  return withLockedSession(given, io, async (opening) => {
    const compared = opening.ok ? opening.session.opened.compared : undefined;
    if (!opening.ok || !compared) {
      const findings = opening.ok ? opening.session.opened.findings : opening.findings;
      sayReport({ text: "", data: { command: "compare", comparison: null } }, findings, given, io);
      return failureCode(findings);
    }
    const { session } = opening;
    const { project, target, trial, findings } = session.opened;
    const path = textOption(given, "report");
    const title = `${project.name}, and what is on ${target.name}`;
    const { currency } = project;
    if (path !== undefined)
      await writeWholeFile(resolve(io.cwd, path), comparisonAsHtml(compared.comparison, title, currency));
    const asked = await writePairs(session, compared);
    const colours = coloursOf(io);
    const isSame = compared.comparison.records.every(({ state }) => state === "only on the platform");
    const verdict = !trial
      ? ""
      : isSame
        ? colours.green("The trial is on the platform as intended. You can upload the whole range.\n")
        : colours.red("The trial is not on the platform as intended. Fix that before you upload the whole range.\n");
    const text = `${renderComparison(compared.comparison, colours, given.options["all"] === true, asked, currency)}${verdict}`;
    const data = { command: "compare", ...comparisonToJson(compared.comparison) };
    sayAfterCheck({ text, data }, findings, given, io);
    return exitCode(findings, session.choices.despite);
  });
};

/** Puts what is not decided yet into the pairs file, behind what is. @returns the file's name where there is something to answer. */
async function writePairs(
  { folder, opened }: Session,
  { comparison, pairs }: ComparedExport,
): Promise<string | undefined> {
  const { all, added } = pairsToAnswer(comparison, pairs);
  const name = pairsFileName(opened.target.name);
  if (added > 0 || (all.length > 0 && !existsSync(join(folder, name)))) {
    await writeWholeFile(join(folder, name), pairsFileText(all));
  }
  return all.some(({ reply }) => reply === undefined) ? name : undefined;
}
