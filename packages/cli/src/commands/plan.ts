import { resolve } from "node:path";
import { drawPlan, leftOut, reasonsFor } from "zest-tier";
import { writeWholeFile } from "zest-tier/node";
import {
  allOption,
  type Command,
  exportOption,
  wholeRangeOption,
  trialOption,
  outputOptions,
  type CommandLine,
  isJson,
  languageOf,
  leniencyOptions,
  projectArgument,
  targetOption,
  textOption,
  UsageError,
} from "../command.js";
import { coloursOf, type Io } from "../io.js";
import { planToJson, renderLeftOut, renderPlan, renderWhy } from "../render/plan.js";
import { exitCode, failureCode, sayAfterCheck, sayReport } from "../report.js";
import { openPlanned, type SessionPlan } from "../planned.js";

export const plan: Command = {
  name: "plan",
  summary: "show what to upload, in which order, and why",
  argument: projectArgument,
  options: [
    targetOption,
    exportOption,
    wholeRangeOption,
    trialOption,
    {
      flags: "--why <key>",
      means: "only the record with this key or code: its file, and what has to exist before it",
    },
    { flags: "--svg <file>", means: "write the plan as a diagram" },
    { flags: "--left-out", means: "only what the target cannot store: one row for each field of each record" },
    allOption,
    ...outputOptions,
    ...leniencyOptions,
  ],
  examples: [
    { line: "zest-tier plan --for pennywort", does: "shows the steps for one target of the project" },
    {
      line: "zest-tier plan --for saltmarsh --why 0010-1",
      does: "explains why this variant is in its file",
    },
    {
      line: "zest-tier plan --for tollgate --left-out",
      does: "lists what Tollgate has no place for, record by record",
    },
    { line: "zest-tier plan --for saltmarsh --svg plan.svg", does: "writes the plan as a diagram" },
  ],
  async run(given, io) {
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
  },
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
  if (isJson(given)) io.out(`${JSON.stringify({ command: "plan", leftOut: lost }, null, 2)}\n`);
  else io.out(renderLeftOut(lost, session.opened.target.name));
  return 0;
}

function explain({ session, prepared }: SessionPlan, word: string, given: CommandLine, io: Io): number {
  const reasons = reasonsFor(session.opened, prepared, word);
  if (reasons.length === 0)
    throw new UsageError(`no record has the key or code "${word}"`, "Write the key or code as the sources have it.");
  if (isJson(given)) io.out(`${JSON.stringify({ command: "plan", why: reasons }, null, 2)}\n`);
  else io.out(renderWhy(reasons, coloursOf(io)));
  return 0;
}
