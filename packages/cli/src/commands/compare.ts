import { existsSync } from "node:fs";
import { join, resolve } from "node:path";
import { comparisonAsHtml, csvLine, pairRows, type RepliedPair } from "zest-tier";
import {
  allOption,
  type Command,
  exportOption,
  trialOption,
  formatOption,
  projectArgument,
  targetOption,
  textOption,
  UsageError,
} from "../command.js";
import { pairsFile, type Compared } from "../export.js";
import { coloursOf } from "../io.js";
import { comparisonToJson, renderComparison } from "../render/comparison.js";
import { exitCode, failureCode, sayReport } from "../report.js";
import { withLockedSession, type Session } from "../session.js";
import { writeWholeFile } from "zest-tier/node";

export const compare: Command = {
  name: "compare",
  summary: "what is meant, what the platform holds, what was last delivered: who has changed what",
  argument: projectArgument,
  options: [
    targetOption,
    exportOption,
    trialOption,
    { flags: "--report <file>", means: "write it as an HTML page too, for someone without a command line" },
    { flags: "--despite <code>", means: "errors of this code do not count for the exit code", many: true },
    allOption,
    formatOption,
  ],
  examples: [
    {
      line: "zest-tier compare --for pennywort --export shop.json",
      does: "reads the platform's export and lists what differs, the most dangerous first",
    },
    {
      line: "zest-tier compare --export shop.json --report differences.html",
      does: "writes the same as a page to send to someone",
    },
  ],
  run(given, io) {
    if (textOption(given, "export") === undefined)
      throw new UsageError(
        "compare needs the platform's export",
        "Save it from the platform, and name it: --export FILE",
      );
    return withLockedSession(given, io, async (opened) => {
      const compared = opened.ok ? opened.session.compared : undefined;
      if (!opened.ok || !compared) {
        const findings = opened.ok ? opened.session.findings : opened.findings;
        sayReport({ text: "", data: { command: "compare", comparison: null } }, findings, given, io);
        return failureCode(findings);
      }
      const { session } = opened;
      const path = textOption(given, "report");
      const title = `${session.project.name} and what ${session.target.name} holds`;
      if (path !== undefined) await writeWholeFile(resolve(io.cwd, path), comparisonAsHtml(compared.comparison, title));
      const asked = await writePairs(session, compared);
      const colours = coloursOf(io);
      const isSame = compared.comparison.records.every(({ standing }) => standing === "theirs");
      const verdict = !session.trial
        ? ""
        : isSame
          ? colours.green("The trial is there as it was meant: the whole may go.\n")
          : colours.red("The trial is not there as it was meant: see to that before the whole goes.\n");
      const text = `${renderComparison(compared.comparison, colours, given.options["all"] === true, asked)}${verdict}`;
      sayReport(
        { text, data: { command: "compare", ...comparisonToJson(compared.comparison) } },
        session.findings,
        given,
        io,
        true,
      );
      return exitCode(session.findings, session.despite);
    });
  },
};

/** Puts what is not decided yet into the pairs file, behind what is. @returns the file's name where there is something to answer. */
async function writePairs({ folder, target }: Session, { comparison, pairs }: Compared): Promise<string | undefined> {
  const known = new Set(pairs.map(({ kind, ours, theirs }) => JSON.stringify([kind, ours, theirs])));
  const open = [...comparison.collisions, ...comparison.suggestions].filter(
    ({ kind, ours, theirs }) => !known.has(JSON.stringify([kind, ours, theirs])),
  );
  const all: RepliedPair[] = [...pairs, ...open.map((pair) => ({ ...pair, reply: undefined }))];
  const name = pairsFile(target.name);
  if (open.length > 0 || (all.length > 0 && !existsSync(join(folder, name)))) {
    const toLine = csvLine({ delimiter: ";", lineEnd: "\r\n" });
    await writeWholeFile(join(folder, name), pairRows(all).map(toLine).join(""));
  }
  return all.some(({ reply }) => reply === undefined) ? name : undefined;
}
