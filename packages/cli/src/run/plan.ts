import { resolve } from "node:path";
import { drawPlan, leftOut, reasonsFor, safeJson } from "zest-tier";
import { writeWholeFile } from "zest-tier/node";
import { type CommandLine, isJson, languageOf, textOption, UsageError, type Run } from "../command.js";
import { coloursOf, type Io } from "../io.js";
import { planToJson, renderLeftOut, renderPlan, renderWhy } from "../render/plan.js";
import { exitCode, failureCode, sayAfterCheck, sayReport } from "../report.js";
import { openPlanned, type SessionPlan } from "../planned.js";

export const run: Run = async (given, io) => {
  const planned = await openPlanned(given, io);
  const { findings } = planned;
  if (!planned.ok) {
    sayReport({ text: "", data: { command: "plan", plan: null } }, findings, given, io);
    return failureCode(findings);
  }
  const { session, prepared } = planned;
  if (given.options["leftOut"] === true) return listLeftOut(planned, given, io);
  await draw(planned, given, io);
  const word = textOption(given, "why");
  if (word !== undefined) return explain(planned, word, given, io);
  const text = renderPlan(prepared.plan, coloursOf(io), io.width, languageOf(given));
  sayAfterCheck(
    { text, data: { command: "plan", plan: planToJson(prepared.plan, languageOf(given)) } },
    findings,
    given,
    io,
  );
  return exitCode(findings, session.choices.despite);
};

async function draw({ session, prepared }: SessionPlan, given: CommandLine, io: Io): Promise<void> {
  const path = textOption(given, "svg");
  if (path === undefined) return;
  const { project, target } = session.opened;
  await writeWholeFile(
    resolve(io.cwd, path),
    drawPlan(prepared.plan, `${project.name} to ${target.name}`, languageOf(given)),
  );
}

function listLeftOut({ session }: SessionPlan, given: CommandLine, io: Io): number {
  const lost = leftOut(session.opened);
  if (isJson(given)) io.out(`${safeJson({ command: "plan", leftOut: lost }, 2)}\n`);
  else io.out(renderLeftOut(lost, session.opened.target.name));
  return 0;
}

function explain({ session, prepared }: SessionPlan, word: string, given: CommandLine, io: Io): number {
  const reasons = reasonsFor(session.opened, prepared, word);
  if (reasons.length === 0)
    throw new UsageError(`no record has the key or code "${word}"`, "Write the key or code as the sources have it.");
  if (isJson(given)) io.out(`${safeJson({ command: "plan", why: reasons }, 2)}\n`);
  else io.out(renderWhy(reasons, coloursOf(io)));
  return 0;
}
