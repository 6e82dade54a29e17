import { rehearse as rehearseUpload } from "zest-tier";
import { nodeFiles } from "zest-tier/node";
import {
  allOption,
  type Command,
  formatOption,
  leniencyOptions,
  projectArgument,
  targetOption,
  uploadOption,
} from "../command.js";
import { coloursOf } from "../io.js";
import { renderVerdict, verdictToJson } from "../render/verdict.js";
import { sayReport } from "../report.js";
import { openSession, prepare } from "../session.js";

export const rehearse: Command = {
  name: "rehearse",
  summary: "play the upload folder through a simulated platform and compare with what is meant",
  argument: projectArgument,
  options: [targetOption, uploadOption, ...leniencyOptions, allOption, formatOption],
  examples: [
    { line: "zest-tier rehearse", does: "rehearses what build has written; with the options that build was given" },
  ],
  async run(given, io) {
    const opened = await openSession(given, io);
    const prepared = opened.ok ? prepare(opened.session) : undefined;
    if (!opened.ok || !prepared) {
      const findings = opened.ok ? opened.session.findings : opened.findings;
      sayReport({ text: "", data: { command: "rehearse", verdict: null } }, findings, given, io);
      return 1;
    }
    const { read, target, uploadFolder, findings } = opened.session;
    const rehearsed = await rehearseUpload({
      catalogue: read.catalogue,
      target,
      ...prepared,
      files: nodeFiles(uploadFolder),
    });
    if (!rehearsed.ok) findings.add(rehearsed.finding);
    const text = rehearsed.ok
      ? renderVerdict(rehearsed.verdict, coloursOf(io))
      : "The upload folder is not as this project would build it now: build first.\n";
    sayReport(
      { text, data: { command: "rehearse", verdict: rehearsed.ok ? verdictToJson(rehearsed.verdict) : null } },
      findings,
      given,
      io,
    );
    return rehearsed.ok && rehearsed.verdict.rebuilt ? 0 : 1;
  },
};
