import { planUpload } from "zest-tier";
import type { Run } from "../command.js";
import { coloursOf } from "../io.js";
import { countRecords, renderSources } from "../render/catalogue.js";
import { exitCode, failureCode, sayReport } from "../report.js";
import { openSession } from "../session.js";

export const run: Run = async (given, io) => {
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
};
