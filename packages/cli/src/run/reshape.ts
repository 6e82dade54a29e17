import { say, type AppliedOperation, type Language } from "zest-tier";
import { languageOf, type Run } from "../command.js";
import { coloursOf, type Io } from "../io.js";
import { columns, counted } from "../render/text.js";
import { exitCode, failureCode, sayAfterCheck, sayReport } from "../report.js";
import { openSession } from "../session.js";

export const run: Run = async (given, io) => {
  const opened = await openSession(given, io);
  if (!opened.ok) {
    sayReport({ text: "", data: { command: "reshape", operations: [] } }, opened.findings, given, io);
    return failureCode(opened.findings);
  }
  const { read, project, findings } = opened.session.opened;
  const total = project.operations.length;
  const text = `${read.reshaped.map((one, at) => renderOperation(one, at + 1, io, languageOf(given))).join("\n")}${summary(read.reshaped.length, total, io)}`;
  const operations = read.reshaped.map(({ operation, balance, steps, became }) => ({
    operation,
    balance,
    steps,
    became: Object.fromEntries(became),
  }));
  sayAfterCheck(
    { text, data: { command: "reshape", operations, refused: total - read.reshaped.length } },
    findings,
    given,
    io,
    findings.list().filter(({ code }) => code.startsWith("reshape/")),
  );
  return exitCode(findings, opened.session.choices.despite);
};

function summary(done: number, total: number, io: Io): string {
  const colours = coloursOf(io);
  if (total === 0) return "The project has no operations.\n";
  if (done < total)
    return `\n${colours.red(`${counted(done, "operation")} of ${total} carried out. The next one is not possible.`)}\n`;
  return `\n${colours.green(`${counted(done, "operation")} carried out. Every field balances.`)}\n`;
}

function renderOperation(
  { operation, balance, steps, became }: AppliedOperation,
  number: number,
  io: Io,
  language: Language,
): string {
  const colours = coloursOf(io);
  const [[word, value] = ["", ""]] = Object.entries(operation);
  const about = typeof value === "string" ? value : Array.isArray(value) ? value.join(", ") : JSON.stringify(value);
  const rows = balance.map(({ what, before, after, because }) => [
    what,
    String(before),
    String(after),
    colours.dim(because === undefined ? "" : say(because, language)),
  ]);
  const others = [...became].map(([from, to]) => `  ${from} → ${to.join(", ")}\n`).join("");
  const todo = (["before", "after"] as const).flatMap((when) => {
    const own = steps.filter((step) => step.when === when);
    const lines = own.map(
      ({ title, why }) => `  ${colours.bold(say(title, language))}  ${colours.dim(say(why, language))}\n`,
    );
    return lines.length === 0 ? [] : [`  On the platform, ${when} the upload, unless a file does it:\n`, ...lines];
  });
  return `${colours.bold(`${number}. ${word}`)} ${about}\n${others}${columns([["of what it touches", "before", "after", ""], ...rows], [1, 2])}${todo.join("")}`;
}
