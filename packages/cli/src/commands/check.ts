import { planUpload } from "zest-tier";
import { allOption, type Command, outputOptions, projectArgument, targetOption } from "../command.js";
import { coloursOf } from "../io.js";
import { countRecords, renderSources } from "../render/catalogue.js";
import { exitCode, failureCode, sayReport } from "../report.js";
import { openSession } from "../session.js";

export const check: Command = {
  name: "check",
  summary: "read the sources and report every error with file, row and column",
  argument: projectArgument,
  options: [
    targetOption,
    allOption,
    ...outputOptions,
    { flags: "--despite <code>", means: "errors with this code do not count for the exit code", many: true },
  ],
  examples: [
    { line: "zest-tier check", does: "checks the project in this folder" },
    {
      line: "zest-tier check --format sarif > findings.sarif",
      does: "writes the findings for an editor or a build server",
    },
    { line: "zest-tier check shop/project.yaml --format json", does: "the same as JSON, for a program" },
  ],
  async run(given, io) {
    const opened = await openSession(given, io);
    if (!opened.ok) {
      sayReport({ text: "", data: { command: "check", ok: false } }, opened.findings, given, io);
      return failureCode(opened.findings);
    }
    const { session } = opened;
    const { project, target, read } = session.opened;
    const { findings } = await planUpload(session.opened, session.choices);
    const colours = coloursOf(io);
    const code = exitCode(findings, session.choices.despite);
    const text = `${colours.bold(project.name)} for ${colours.bold(target.name)}\n\n${renderSources(project, read, colours)}${findings.list().length === 0 ? `  ${colours.green("no findings")}\n` : ""}`;
    const sources = project.sources.map(({ file, layout }, at) => ({ file, layout: layout.name, ...read.counts[at] }));
    sayReport(
      {
        text,
        data: {
          command: "check",
          ok: code === 0,
          project: project.name,
          target: target.name,
          sources,
          records: Object.fromEntries(countRecords(read)),
          created: read.created,
        },
      },
      findings,
      given,
      io,
    );
    return code;
  },
};
