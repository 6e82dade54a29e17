import { existsSync } from "node:fs";
import { basename, dirname, join, resolve } from "node:path";
import {
  calibrateDraft,
  draft as draftFor,
  draftTarget,
  type Calibration,
  type Draft,
  type ReadonlyFindings,
} from "zest-tier";
import { nodeFiles, writeWholeFile } from "zest-tier/node";
import { type CommandLine, textOption, UsageError, type Run } from "../command.js";
import { coloursOf, type Io } from "../io.js";
import { plainCalibration, renderCalibration, renderDraft } from "../render/layouts.js";
import { refuseUnknown, repliesOf } from "../replies.js";
import { exitCode, failureCode, sayReport } from "../report.js";

export const run: Run = async (given, io) => {
  const path = resolve(io.cwd, given.argument!);
  const files = nodeFiles(dirname(path));
  const drafted = await draftFor(files, basename(path), textOption(given, "sheet"));
  if (!drafted.ok) {
    sayReport({ text: "", data: { command: "draft", ok: false } }, drafted.findings, given, io);
    return failureCode(drafted.findings);
  }
  const drafts = drafted.value;
  const findings = drafted.findings.copy();
  const out = textOption(given, "out");
  const targetName = textOption(given, "for");
  if ((out !== undefined || targetName !== undefined) && drafts.length > 1)
    throw new UsageError("the workbook has several sheets", `Name one of them: --sheet "${drafts[0]!.sample.sheet}"`);
  if (drafts.length === 0)
    io.err("No header and no repeated element was found.\n→ Give the file unchanged, with its header.\n");
  if (targetName === undefined && given.options["reply"] !== undefined)
    throw new UsageError("only the questions about a target take a reply", "Add --for and a name for the target.");
  const calibrations: Calibration[] = [];
  if (given.options["calibrate"] === true)
    for (const one of drafts) {
      const calibration = await calibrateDraft(files, basename(path), one);
      findings.addAll(calibration.findings);
      if (calibration.ok) calibrations.push(calibration.value);
    }
  const calibrated = calibrations.map((one) => `\n${renderCalibration(one, coloursOf(io))}`).join("");
  if (targetName !== undefined && drafts[0])
    return target(targetName, drafts[0], { out, calibrated, calibrations, findings }, given, io);
  if (out !== undefined && drafts[0]) await writeLayout(resolve(io.cwd, out), drafts[0].yaml);
  let text = drafts.map((one) => renderDraft(one, out === undefined, coloursOf(io))).join("\n") + calibrated;
  if (drafts.length > 0) text += nextSteps(drafts, out, given.argument!, io);
  const data = {
    command: "draft",
    ok: drafts.length > 0 && exitCode(findings) === 0,
    layouts: drafts.map(({ lines, rows, why, yaml }) => ({ rows, why, columns: lines, yaml })),
    calibrations: calibrations.map(plainCalibration),
  };
  sayReport({ text, data }, findings, given, io);
  return drafts.length === 0 ? 1 : exitCode(findings);
};

interface Drafting {
  readonly out: string | undefined;
  readonly calibrations: readonly Calibration[];
  /** The calibrations as they are shown. */
  readonly calibrated: string;
  readonly findings: ReadonlyFindings;
}

/** A target of a platform's own sample, and the questions that are open. */
async function target(
  name: string,
  { yaml }: Draft,
  { out, calibrated, calibrations, findings }: Drafting,
  given: CommandLine,
  io: Io,
): Promise<number> {
  const replies = repliesOf(given, "blank=clear");
  const drafted = draftTarget(name, yaml, replies);
  refuseUnknown(replies, drafted.questions);
  if (out !== undefined) await writeLayout(resolve(io.cwd, out), drafted.yaml);
  const colours = coloursOf(io);
  const open = drafted.questions.filter((one) => one.answer === undefined);
  const asked = open.map(
    ({ name: question, asks, choices, preset }) =>
      `  ${colours.bold(question)}  ${asks}${choices ? ` ${choices.join(" | ")}.` : ""} ${colours.dim(`assumed: ${preset}`)}\n`,
  );
  const text = `${out === undefined ? drafted.yaml : `written: ${out}\n`}\n${open.length === 0 ? "Every question has a reply.\n" : `${colours.bold("What the sample cannot show")}: give your reply with --reply QUESTION=REPLY\n${asked.join("")}`}${calibrated}`;
  const data = { command: "draft", target: drafted, calibrations: calibrations.map(plainCalibration) };
  sayReport({ text, data }, findings, given, io);
  return exitCode(findings);
}

async function writeLayout(path: string, yaml: string): Promise<void> {
  if (existsSync(path)) throw new UsageError(`${path} already exists`, "Give another name. Nothing is overwritten.");
  if (!existsSync(dirname(path))) throw new UsageError(`there is no folder ${dirname(path)}`, "Create it first.");
  await writeWholeFile(path, yaml);
}

function nextSteps(drafts: readonly Draft[], out: string | undefined, file: string, io: Io): string {
  const colours = coloursOf(io);
  const left = drafts.flatMap(({ lines }) => lines.filter((line) => line.binding === undefined)).length;
  const layout = out ?? join("layouts", "NAME.yaml");
  const steps = [
    out === undefined
      ? `write the layout: zest-tier draft ${file} --out ${layout}`
      : "check each line, those marked likely first",
    left > 0
      ? `bind the ${left} unmapped ${left === 1 ? "column" : "columns"}, or list ${left === 1 ? "it" : "them"} under "ignore"`
      : "",
    `test it: zest-tier calibrate ${file} --layout ${layout}`,
  ].filter((step) => step !== "");
  return `\n${colours.bold("Next")}\n${steps.map((step, at) => `  ${at + 1}  ${step}`).join("\n")}\n`;
}
